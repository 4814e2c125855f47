// Question of a new model, by its kind, and what is sent.
import { describe, expect, it } from "vitest";
import { KIND_NAMES, specFields, specOf, typedOf, unlisted } from "./instrumentSpec";

describe("what a maker states", () => {
  it("asks a kind only for what it has", () => {
    expect(specFields("level").map((specField) => specField.name)).toEqual([
      "levelling_accuracy_mm_per_km",
      "reading",
      "compensator_range_arcmin",
      "circular_vial_arcmin_per_2mm",
      "foot_screws",
    ]);
    expect(specFields("tribrach").map((specField) => specField.name)).toEqual([
      "circular_vial_arcmin_per_2mm",
      "plummet",
      "foot_screw_count",
      "foot_screws",
    ]);
    expect(specFields("total-station").map((specField) => specField.name)).toEqual(
      expect.arrayContaining(["stores", "storable_arcsec"]),
    );
    expect(specFields("tape")).toEqual([]);
    expect(Object.keys(KIND_NAMES)).toContain("tape");
  });
  it("sends what was filled in, to the letter, and what follows from the kind", () => {
    expect(
      specOf("tribrach", { plummet: "optical", circular_vial_arcmin_per_2mm: " 8,5 ", angle_accuracy_arcsec: "3" }),
    ).toEqual({
      plummet_place: "tribrach",
      circular_vial_on: "tribrach",
      plummet: "optical",
      circular_vial_arcmin_per_2mm: "8,5",
    });
    expect(specOf("digital-level", { levelling_accuracy_mm_per_km: " " })).toEqual({ reading: "digital" });
    expect(specOf("prism", {})).toEqual({});
  });
  it("comes back into the form as it was sent, and what the form does not hold stays", () => {
    const typed = {
      plunges: "no",
      plummet_tilted: "yes",
      foot_screw_count: "4",
      "display.along_positive": "low-forward",
      angle_accuracy_arcsec: "3",
    };
    const stated = specOf("total-station", typed);
    expect(stated).toMatchObject({ plunges: false, plummet_tilted: true });
    expect(typedOf("total-station", stated)).toEqual({
      plunges: "no",
      plummet_tilted: "yes",
      "display.along_positive": "low-forward",
      angle_accuracy_arcsec: "3",
    });
    expect(unlisted("level", { reading: "optical", prior: { staff_reading_mm: 0.4 } })).toEqual({
      prior: { staff_reading_mm: 0.4 },
    });
  });
  it("asks which way display and screws go and whether it plunges, and says nothing that was not given", () => {
    expect(specOf("theodolite", {})).toEqual({});
    const typed = {
      plunges: "no",
      "display.along_positive": "low-forward",
      "display.across_positive": "high-left",
      foot_screws: "clockwise-lowers",
    };
    expect(specOf("total-station", typed)).toEqual({
      plunges: false,
      display: { along_positive: "low-forward", across_positive: "high-left" },
      foot_screws: "clockwise-lowers",
    });
    expect(specOf("tribrach", { foot_screw_count: "4" })).toEqual({
      plummet_place: "tribrach",
      circular_vial_on: "tribrach",
      foot_screw_count: 4,
    });
  });
});
