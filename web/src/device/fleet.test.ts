// What is held of the fleet and what an answer changes of it.
import { describe, expect, it } from "vitest";
import { type Known, withAnswer } from "./fleet";

const item = (tag: string, created: number): Known => ({
  tag,
  kind: "level",
  stated: { kind: "level" },
  limits: {},
  work_limits: {},
  history: Array.from({ length: created }, () => ({})),
  due: [],
});

describe("what a device holds of the fleet", () => {
  it("takes in what changed and leaves the rest", () => {
    const held = { cursor: 7, judgedRaw: false, fleet: [item("LV-02", 1), item("LV-07", 1)] };
    const next = withAnswer(held, { cursor: 9, judged_raw: true, fleet: [item("LV-07", 2), item("TS-03", 0)] });
    expect(next.cursor).toBe(9);
    expect(next.judgedRaw).toBe(true);
    expect(next.fleet.map((x) => [x.tag, x.history.length])).toEqual([
      ["LV-02", 1],
      ["LV-07", 2],
      ["TS-03", 0],
    ]);
  });
  it("begins again with a firm that does", () => {
    const held = { cursor: 700, judgedRaw: false, fleet: [item("LV-02", 1)] };
    expect(
      withAnswer(held, { cursor: 3, judged_raw: false, fleet: [item("LV-07", 0)] }).fleet.map((x) => x.tag),
    ).toEqual(["LV-07"]);
  });
});
