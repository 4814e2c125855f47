// Question of a new model, by its kind, and what is sent.
import { describe, expect, it } from "vitest";
import { KIND_NAMES, statedFields, statedOf } from "./stated";

describe("what a maker states", () => {
  it("asks a kind only for what it has", () => {
    expect(statedFields("level").map((one) => one.name)).toEqual(["levelling_accuracy_mm_per_km", "circular_vial_arcmin_per_2mm", "foot_screws"]);
    expect(statedFields("tribrach").map((one) => one.name)).toEqual(["circular_vial_arcmin_per_2mm", "plummet", "foot_screw_count", "foot_screws"]);
    expect(statedFields("total-station").map((one) => one.name)).toEqual(expect.arrayContaining(["stores", "storable_arcsec"]));
    expect(statedFields("tape")).toEqual([]);
    expect(Object.keys(KIND_NAMES)).toContain("tape");
  });
  it("sends what was filled in, to the letter, and what follows from the kind", () => {
    expect(statedOf("tribrach", { plummet: "optical", circular_vial_arcmin_per_2mm: " 8,5 ", angle_accuracy_arcsec: "3" })).toEqual({ plummet_place: "base", circular_vial_on: "base", plummet: "optical", circular_vial_arcmin_per_2mm: "8,5" });
    expect(statedOf("digital-level", { levelling_accuracy_mm_per_km: " " })).toEqual({ reading: "digital" });
    expect(statedOf("prism", {})).toEqual({});
  });
  it("asks which way display and screws go and whether it plunges, and says nothing that was not told", () => {
    expect(statedOf("theodolite", {})).toEqual({});
    const typed = { plunges: "no", "display.along_positive": "low-forward", "display.across_positive": "high-left", foot_screws: "clockwise-lowers" };
    expect(statedOf("total-station", typed)).toEqual({ plunges: false, display: { along_positive: "low-forward", across_positive: "high-left" }, foot_screws: "clockwise-lowers" });
    expect(statedOf("tribrach", { foot_screw_count: "4" })).toEqual({ plummet_place: "base", circular_vial_on: "base", foot_screw_count: 4 });
  });
});
