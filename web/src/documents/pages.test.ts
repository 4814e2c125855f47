// Long sheets by their sets: what stands on each page, how far it is, where one goes on after a break.
import { describe, expect, it } from "vitest";
import { begunBy, kindNamed } from "./cases";
import type { CheckDocument } from "./draft";
import { formOf } from "./form";
import { openPage, pageOf, pagesOf } from "./pages";
import { withAt } from "./paths";

const laid = (kind: string, document: CheckDocument) => pagesOf(document, formOf(kindNamed(kind), document));
const pages = (kind: string, method: string) => laid(kind, begunBy(kind, method));

describe("the pages of a sheet", () => {
  it("are the twelve sets of a full angle test, ten readings each; targets filled in do not count", () => {
    const all = pages("direction-accuracy", "horizontal-full");
    expect(all.map((page) => page.title)).toEqual(
      [1, 2, 3, 4].flatMap((series) => [1, 2, 3].map((set) => `Series ${series}, set ${set}`)),
    );
    expect(all.every((page) => page.wanted === 10 && page.typed === 0)).toBe(true);
  });

  it("carry what belongs to the whole test on the first and on the last one", () => {
    const all = pages("levelling-accuracy", "simplified");
    expect(all.map((page) => page.groups.map((group) => group.title))).toEqual([
      ["Test line", "From the middle, 30 m each way"],
      ["10 m from A, 50 m from B", "Permitted for the task"],
    ]);
    // What may be left out is not waited for: ten pairs of two staffs.
    expect(all.map((page) => page.wanted)).toEqual([20, 20]);
  });

  it("open at the first set that is not full, after a break too", () => {
    let document = begunBy("levelling-accuracy", "simplified");
    expect(openPage(laid("levelling-accuracy", document))).toBe(0);
    for (let i = 0; i < 10; i++)
      for (const staff of ["a", "b"]) document = withAt(document, `observations.sets[0].pairs[${i}].${staff}`, "1.402");
    const all = laid("levelling-accuracy", document);
    expect([all[0]?.typed, openPage(all)]).toEqual([20, 1]);
    expect([
      pageOf(all, "observations.sets[1].pairs[3].a"),
      pageOf(all, "observations.sets[0].pairs"),
      pageOf(all, "conditions.wind"),
    ]).toEqual([1, 0, -1]);
  });

  it("are one where a check fits a screen", () => {
    expect(pages("two-face", "full").map((page) => page.title)).toEqual([""]);
    expect(pages("two-peg", "middle-then-near")).toHaveLength(1);
  });
});
