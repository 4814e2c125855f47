import { describe, expect, it } from "vitest";
import { answers } from "../app/palette";
import { FINDABLE } from "../app/places";
import { partsOf } from "./Terms";

describe("terms in a sentence", () => {
  const terms = ["level vial", "tribrach", "vertical axis"];

  it("underlines each once, where it first stands, in the plural too", () => {
    const parts = partsOf("Tribrachs differ: a tribrach and its level vial.", terms);
    expect(parts.filter((part) => part.term).map((part) => [part.text, part.term])).toEqual([
      ["Tribrach", "tribrach"],
      ["level vial", "level vial"],
    ]);
    expect(parts.map((part) => part.text).join("")).toBe("Tribrachs differ: a tribrach and its level vial.");
  });

  it("leaves longer words alone", () => {
    expect(partsOf("tribrachial", terms)).toEqual([{ text: "tribrachial", term: null }]);
  });
});

describe("search", () => {
  const found = (sought: string) =>
    FINDABLE.filter((place) => answers(`${place.name} ${place.also}`, sought)).map((place) => place.name);

  it("finds an action and a setting by other names", () => {
    expect(found("error budget")).toEqual(["Accuracy forecast"]);
    expect(found("comma")).toEqual(["Firm: words, units, marks"]);
    expect(found("resection")).toEqual(["Station orientation"]);
    expect(found("rod")).toEqual(["Firm: words, units, marks"]);
  });
});
