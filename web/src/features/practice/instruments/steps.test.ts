import { describe, expect, it } from "vitest";
import type { Aim } from "../../../engine/practice";
import { changeOf, typedInto, withStep } from "./steps";

const STAFF: Aim = { place: "middle", staff: "a", focus: 0.6, since: 0, again: 0 };
const CIRCLES: Aim = {
  face: "left",
  target: "level",
  how: "manual",
  hz_arcsec: null,
  v_arcsec: null,
  focus: 0.1,
  zero_arcsec: 0,
  held_arcsec: null,
  again: 0,
};
const now = (seconds: number, aim: Aim = STAFF) => ({ seconds, aim, turns: {} });

describe("steps", () => {
  it("distinguishes a look from focusing and from pointing", () => {
    expect(changeOf(STAFF, { ...STAFF, staff: "b" })).toBe("look");
    expect(changeOf(STAFF, { ...STAFF, again: 1, since: 12 })).toBe("look");
    expect(changeOf(STAFF, { ...STAFF, focus: 0.4 })).toBe("focus");
    expect(changeOf(CIRCLES, { ...CIRCLES, hz_arcsec: 12 })).toBe("point");
    expect(changeOf(CIRCLES, { ...CIRCLES, face: "right", hz_arcsec: 12 })).toBe("look");
    expect(changeOf(STAFF, { ...STAFF })).toBeNull();
  });

  it("finds the cell that was typed into", () => {
    const before = { setups: [{ a: { readings: ["1.4", ""] } }] };
    const after = { setups: [{ a: { readings: ["1.4", "1.5"] } }] };
    expect(typedInto(before, after)).toEqual({ label: "setups.0.a.readings.1", typed: "1.5" });
    expect(typedInto(before, before)).toBeNull();
    expect(typedInto({}, { rounds: [{ free_mm: "3.1" }] })).toEqual({ label: "rounds.0.free_mm", typed: "3.1" });
  });

  it("keeps a figure or a screw that goes on as one step, with its end", () => {
    const typed = (text: string) => ({ do: "read" as const, label: "a.0", typed: text });
    let steps = withStep([], typed("1"), now(1));
    steps = withStep(steps, typed("1.4"), now(2));
    expect(steps.map((step) => [step.typed, step.seconds])).toEqual([["1.4", 2]]);
    steps = withStep(steps, { do: "look", label: "", typed: "" }, now(3));
    steps = withStep(steps, { do: "look", label: "", typed: "" }, now(4));
    expect(steps).toHaveLength(3);
    steps = withStep(steps, { do: "turn", label: "reticle", typed: "" }, now(5));
    steps = withStep(steps, { do: "turn", label: "index", typed: "" }, now(6));
    expect(steps).toHaveLength(5);
  });
});
