// What the keys do to a document: one more, the same again, the other sign, struck and put back, three wires.
import { describe, expect, it } from "vitest";
import { begunBy, kindNamed } from "./cases";
import { type CheckDocument, toSend } from "./draft";
import { type Placed, type Spot, finished, formOf, rowsOf, spotsOf } from "./form";
import { textAt, valueAt, withAt } from "./paths";
import {
  addEntry,
  another,
  otherSign,
  putBack,
  removeEntry,
  removeRow,
  sameAgain,
  strike,
  toggleInstead,
} from "./typing";

const peg = (): CheckDocument => begunBy("two-peg", "middle-then-near");
const formOfPeg = (document: CheckDocument) => formOf(kindNamed("two-peg"), document);
const groupAt = (form: Placed[], own: string): Placed => form.find((each) => each.own === own) as Placed;
const ON_A = "observations.setups[0].a.readings";
const onA = (document: CheckDocument) => groupAt(formOfPeg(document), ON_A);
const spot = (document: CheckDocument, path: string): Spot =>
  spotsOf(document, formOfPeg(document)).find((each) => each.path === path) as Spot;
const plummet = (document: CheckDocument) =>
  groupAt(formOf(kindNamed("plummet"), document), "observations.sets[0].marks");

describe("paths", () => {
  it("are read and written through lists and objects; what is not touched stays the same", () => {
    const before = begunBy("plummet", "half-turn");
    const after = withAt(before, "observations.sets[0].marks[1].x_mm", "3.4");
    expect([
      textAt(after, "observations.sets[0].marks[1].x_mm"),
      textAt(after, "observations.sets[0].marks[1].heading_deg"),
    ]).toEqual(["3.4", "180"]);
    expect(textAt(before, "observations.sets[0].marks[1].x_mm")).toBe("");
    expect(valueAt(after, "observations.sets[0].marks[0]")).toBe(valueAt(before, "observations.sets[0].marks[0]"));
    expect(withAt({ observations: {} }, "observations.positions.left[2]", "1.5")).toEqual({
      observations: { positions: { left: ["", "", "1.5"] } },
    });
  });
});

describe("rows", () => {
  it("one more is opened, never two empty ones, and no more than there may be", () => {
    let document = begunBy("plummet", "half-turn");
    for (let i = 2; i < 24; i++) {
      const grown = another(document, plummet(document)) as { document: CheckDocument; path: string };
      expect(grown.path).toBe(`observations.sets[0].marks[${i}].heading_deg`);
      expect(
        rowsOf(another(grown.document, plummet(grown.document))?.document as CheckDocument, plummet(grown.document)),
      ).toHaveLength(i + 1);
      document = withAt(grown.document, grown.path, "90");
    }
    expect(another(document, plummet(document))).toBeNull();
    expect(rowsOf(removeRow(document, plummet(document), 0), plummet(document))).toHaveLength(23);
  });

  it("a row opened in a repeat belongs to it", () => {
    const twice = withAt(begunBy("plummet", "half-turn", 2), "observations.sets[0].marks[3].x_mm", "1.1");
    const more = another(twice, plummet(twice))?.document as CheckDocument;
    expect(rowsOf(more, plummet(more))[4]).toEqual({ repeat: 2 });
    expect(toSend(more)).toEqual(toSend(twice));
  });

  it("the same again repeats a full reading to the letter, and fills an empty input with what stands above", () => {
    const read = withAt(peg(), `${ON_A}[0]`, " 1,4680");
    const twice = sameAgain(read, spot(read, `${ON_A}[0]`));
    expect(valueAt(twice.document, ON_A)).toEqual([" 1,4680", " 1,4680"]);
    expect(twice.path).toBe(`${ON_A}[1]`);
    const marks = withAt(begunBy("plummet", "half-turn"), "observations.sets[0].marks[0].x_mm", "0.4");
    const form = formOf(kindNamed("plummet"), marks);
    const below = spotsOf(marks, form).find((each) => each.path === "observations.sets[0].marks[1].x_mm") as Spot;
    expect(textAt(sameAgain(marks, below).document, below.path)).toBe("0.4");
    expect(sameAgain(peg(), spot(peg(), `${ON_A}[0]`)).document).toEqual(peg());
  });

  it("a reading is struck visibly and put back", () => {
    let document = withAt(withAt(peg(), `${ON_A}[0]`, "1.1"), `${ON_A}[1]`, "1.2");
    document = strike(document, onA(document), 0);
    expect(valueAt(document, "observations.setups[0].a")).toEqual({
      distance: "30",
      readings: ["1.2"],
      struck: ["1.1"],
    });
    document = putBack(document, onA(document), 0);
    expect(valueAt(document, "observations.setups[0].a")).toEqual({
      distance: "30",
      readings: ["1.2", "1.1"],
      struck: [],
    });
    const bare = strike(withAt(peg(), `${ON_A}[0]`, "1.1"), onA(peg()), 0);
    expect(valueAt(bare, ON_A)).toEqual([""]);
  });
});

it("changes the sign as a decimal keypad cannot", () => {
  expect([otherSign("0.05"), otherSign("-0.05"), otherSign("−0.05"), otherSign("+1"), otherSign("")]).toEqual([
    "-0.05",
    "0.05",
    "0.05",
    "-1",
    "-",
  ]);
});

describe("three wires", () => {
  const wired = (document: CheckDocument) =>
    toggleInstead(document, formOfPeg(document), onA(document), peg().observations);

  it("take along what is not yet read, keep what is, and let the wires show the distance", () => {
    const read = withAt(peg(), "observations.setups[0].b.readings[0]", "1.4020");
    const document = wired(read);
    expect(valueAt(document, "observations.setups[0].a")).toEqual({ distance: "", wires: [{}] });
    expect(valueAt(document, "observations.setups[0].b")).toEqual({ distance: "30", readings: ["1.4020"] });
    expect(valueAt(document, "observations.setups[1].b")).toEqual({ distance: "", wires: [{}] });
    expect(finished(document, formOfPeg(document))).toBe(false);
    expect(valueAt(toSend(document), "observations.setups[0].a")).toEqual({ wires: [{}] });
  });

  it("leave a distance somebody measured, and go down the three before the next staff", () => {
    const measured = withAt(peg(), "observations.setups[0].a.distance", "29.4");
    const document = wired(measured);
    expect(textAt(document, "observations.setups[0].a.distance")).toBe("29.4");
    const order = spotsOf(document, formOfPeg(document))
      .map((each) => each.path)
      .filter((path) => path.includes("setups[0].a.wires"));
    expect(order.map((path) => path.split(".").pop())).toEqual(["upper", "middle", "lower"]);
  });

  it("keep a single reading as the middle wire, and give it back", () => {
    const there = wired(withAt(peg(), `${ON_A}[0]`, "1.50"));
    expect(valueAt(there, "observations.setups[0].a.wires")).toEqual([{ middle: "1.50" }]);
    expect(valueAt(wired(there), ON_A)).toEqual(["1.50"]);
    expect(valueAt(wired(there), "observations.setups[0].a.wires")).toBeUndefined();
  });

  it("are repeated together once all three are read", () => {
    let document = wired(peg());
    const at = (wire: string) => `observations.setups[0].a.wires[0].${wire}`;
    document = withAt(document, at("upper"), "1.65");
    expect(sameAgain(document, spot(document, at("upper"))).document).toEqual(document);
    document = withAt(withAt(document, at("middle"), "1.50"), at("lower"), "1.35");
    const twice = sameAgain(document, spot(document, at("upper")));
    expect(valueAt(twice.document, "observations.setups[0].a.wires")).toEqual(
      [0, 1].map(() => ({ upper: "1.65", middle: "1.50", lower: "1.35" })),
    );
  });
});

it("one more set-up is read as the last one is, and goes again", () => {
  const grown = addEntry(peg(), { list: "observations.setups" });
  expect(valueAt(grown, "observations.setups[2]")).toEqual({
    a: { distance: "", readings: [""] },
    b: { distance: "", readings: [""] },
  });
  const entry = groupAt(formOfPeg(grown), "observations.setups[2].a").entry;
  expect(entry && removeEntry(grown, entry)).toEqual(peg());
});
