// Sights as they are typed: what is sent, which points go along, and files opened again.
import { describe, expect, it } from "vitest";
import { begin } from "./draft";
import {
  asControlPoint,
  asOrientation,
  beginOrientation,
  orientationToSend,
  withControl,
  withPoint,
  withShot,
} from "./orientation";
import { asSetUp, beginSetUp, filled, logged, minutesSince } from "./setUp";

const point = (name: string, h: number | null = 4.5) => ({ name, e_m: 100.25, n_m: 200, h_m: h, description: "" });

describe("an orientation", () => {
  const draft = beginOrientation("TS-03", "tam", "free-station", { angle: "gon", length: "m" }, {});

  it("writes control points in metres, whatever the sheet's unit, and a missing height not at all", () => {
    expect(asControlPoint(point("PC-01"))).toEqual({ name: "PC-01", e: "100.25 m", n: "200 m", h: "4.5 m" });
    expect(asControlPoint(point("PC-01", null))).toEqual({ name: "PC-01", e: "100.25 m", n: "200 m" });
  });

  it("puts a sighted point among the known ones once", () => {
    const once = withPoint(draft, 0, asControlPoint(point("PC-01")));
    const twice = withPoint(once, 0, asControlPoint(point("PC-01")));
    expect(twice.document.observations.control).toHaveLength(1);
    expect(twice.document.observations.shots[0]).toEqual({ point: "PC-01" });
  });

  it("forgets an emptied input and keeps what was typed to the letter", () => {
    const typed = withShot(withShot(draft, 0, { hz: "102.4305", v: "90" }), 0, { v: "" });
    expect(typed.document.observations.shots[0]).toEqual({ hz: "102.4305" });
  });

  it("does not send a last sight that holds nothing, nor an empty closing sight", () => {
    const two = {
      ...draft.document,
      observations: { ...draft.document.observations, shots: [{ point: "PC-01", hz: "1" }, {}], closing: {} },
    };
    expect(orientationToSend(two).observations.shots).toHaveLength(1);
    expect(orientationToSend(two).observations.closing).toBeUndefined();
    const named = {
      ...two,
      observations: {
        ...two.observations,
        shots: [{ hz: "1" }, { point: "PC-02" }],
        closing: { point: "PC-01", hz: "2" },
      },
    };
    expect(orientationToSend(named).observations.shots).toHaveLength(2);
    expect(orientationToSend(named).observations.closing).toEqual({ point: "PC-01", hz: "2" });
  });

  it("opens sights from a table with the coordinates of the firm's points", () => {
    const table = {
      kind: "backsight",
      units: { length: "ft", angle: "dms" },
      observations: { shots: [{ point: "PC-01", hz: "10", face: "" }], control: [] },
    };
    const opened = withControl(table as never, [point("PC-01"), point("PC-02")], asControlPoint(point("PC-02")));
    expect(opened.observations.control.map((each) => each.name)).toEqual(["PC-01"]);
    expect(opened.observations.station?.name).toBe("PC-02");
    expect(opened.observations.shots).toEqual([{ point: "PC-01", hz: "10" }]);
    const file = {
      kind: "free-station",
      units: { length: "m", angle: "dms" },
      observations: { control: [{ name: "A", e: "1.5", n: "2" }], shots: [] },
    };
    const read = withControl(file as never, [point("PC-01")], asControlPoint(point("PC-02")));
    expect(read.observations.control).toEqual([{ name: "A", e: "1.5", n: "2" }]);
    expect(read.observations.station).toBeUndefined();
  });

  it("is given from drafts of other kinds", () => {
    expect(asOrientation(begin({ kind: "two-peg", instrument: "LV-07", owner: "tam" }))).toBeNull();
    expect(asSetUp(draft as never)).toBeNull();
  });
});

describe("a set-up", () => {
  it("keeps a log and counts whole minutes, never none", () => {
    const draft = logged(beginSetUp("TS-03", "tam", { method: "plummet-first" }), { step: "lay-out", confirmed: true });
    expect(draft.document.observations.log).toEqual([{ step: "lay-out", confirmed: true }]);
    const begun = "2027-03-02T06:40:00+00:00";
    expect(minutesSince(begun, new Date("2027-03-02T06:40:10Z"))).toBe("1");
    expect(minutesSince(begun, new Date("2027-03-02T06:52:40Z"))).toBe("13");
  });

  it("takes an emptied field away and leaves the others", () => {
    expect(filled({ ground: "", wind: "calm", temperature_c: undefined })).toEqual({ wind: "calm" });
  });
});
