// What is asked of a new model, by its kind, and what is sent.
import { describe, expect, it } from "vitest";
import { KIND_NAMES, statedFields, statedOf } from "./stated";

describe("what a maker states", () => {
  it("asks a kind only for what it has", () => {
    expect(statedFields("level").map((one) => one.name)).toEqual(["levelling_accuracy_mm_per_km", "circular_vial_arcmin_per_2mm"]);
    expect(statedFields("tribrach").map((one) => one.name)).toEqual(["circular_vial_arcmin_per_2mm", "plummet"]);
    expect(statedFields("total-station").map((one) => one.name)).toEqual(expect.arrayContaining(["stores", "storable_arcsec"]));
    expect(statedFields("tape")).toEqual([]);
    expect(Object.keys(KIND_NAMES)).toContain("tape");
  });
  it("sends what was filled in, to the letter, and what follows from the kind", () => {
    expect(statedOf("tribrach", { plummet: "optical", circular_vial_arcmin_per_2mm: " 8,5 ", angle_accuracy_arcsec: "3" })).toEqual({ plummet_place: "base", circular_vial_on: "base", plummet: "optical", circular_vial_arcmin_per_2mm: "8,5" });
    expect(statedOf("digital-level", { levelling_accuracy_mm_per_km: " " })).toEqual({ reading: "digital" });
    expect(statedOf("prism", {})).toEqual({});
  });
});
