// The palette: what one would type, and what it offers.
import { describe, expect, it } from "vitest";
import { type Sources, instrumentIn, offers } from "./palette";
import { FINDABLE } from "./places";

const level = {
  tag: "LV-07",
  kind: "level",
  model: "Ondine Merrow",
  place: "Yard, rack 3",
  crew: null,
  serial: "",
  since: "",
  state: "hold",
  reasons: [],
  needed: [],
  due_on: null,
  due_check: "",
  latest: null,
};
const SOURCES: Sources = {
  places: FINDABLE,
  fleet: [
    level,
    { ...level, tag: "LV-70" },
    { ...level, tag: "TS-03", kind: "total-station", model: "Marrick Tessaly", crew: "Bramble" },
  ],
  kinds: [
    { kind: "two-peg", title: "Two-peg test", applies_to: ["level"], also: "line of sight peg test collimation" },
    { kind: "two-face", title: "Two-face check", applies_to: ["total-station"], also: "collimation index" },
  ],
  points: [{ name: "PC-14" }, { name: "QB-1" }],
  records: [
    {
      id: "r1",
      instrument: "LV-07",
      kind: "two-peg",
      finding: "Line of sight 24.1″ up",
      observed_at: "2027-03-02T06:00:00+00:00",
      observed_by: "Tam Brandreth",
    },
  ],
  terms: [{ term: "trunnion axis", also: ["tilting axis"], meaning: "The horizontal axis the telescope tilts about." }],
};
const names = (text: string) => offers(text, SOURCES).map((offer) => `${offer.group}: ${offer.name}`);

describe("the palette", () => {
  it("takes a tag in any form: the instrument, its checks, its records", () => {
    for (const typed of ["lv7", "LV 07", "lv-07"])
      expect(names(typed)).toEqual([
        "Instruments: LV-07",
        "Checks: Two-peg test of LV-07",
        "Records: Two-peg test of LV-07, 2027-03-02",
      ]);
    expect(offers("lv7", SOURCES)[1]?.to).toBe("/bench/new/LV-07/two-peg");
  });

  it("takes a check of an instrument in either order", () => {
    expect(names("lv7 peg")[0]).toBe("Checks: Two-peg test of LV-07");
    expect(names("collimation ts3")).toEqual(["Checks: Two-face check of TS-03"]);
    expect(instrumentIn("peg lv70", SOURCES.fleet)?.row.tag).toBe("LV-70");
    expect(instrumentIn("peg", SOURCES.fleet)).toBeNull();
  });

  it("finds places, settings, points and terms by any of their names", () => {
    expect(names("rod")).toContain("Places: Firm: words, units, marks");
    expect(names("resection")).toEqual(["Places: Station orientation"]);
    expect(names("pc-1")).toEqual(["Points: PC-14"]);
    expect(names("tilting")).toEqual(["Terms: trunnion axis"]);
    expect(names("tessaly")).toEqual(["Instruments: TS-03"]);
  });

  it("offers the places while nothing is typed", () => expect(names("")).toHaveLength(FINDABLE.length));
});
