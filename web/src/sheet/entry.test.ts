import type { Kind } from "../api/client";
import { type CheckDocument, begin, looksFinished, toSend } from "./draft";
import { asLeft } from "../places/record/Adjusting";
import {
  type Spot,
  addSetUp,
  faultsOfSight,
  fromOtherEnd,
  neighbour,
  oneMore,
  otherSign,
  putBack,
  readingOrder,
  removeSetUp,
  sameAgain,
  sentPath,
  setupsOf,
  strike,
  takeLayout,
  toggleWires,
  valueAt,
  wellId,
  withValue,
} from "./entry";
import { fromFile } from "./fromFile";

const LAYOUT: Kind["layouts"][number] = { name: "middle-then-near", title: "", good_for: "", distances_m: [[30, 30], [56, 4]], distances_ft: [[100, 100], [188, 12]] };
const fresh = (): CheckDocument => begin({ kind: "two-peg", instrument: "LV-03", owner: "tam" }).document;
const laid = () => takeLayout(fresh(), [], LAYOUT, "m");
const at = (setup: number, staff: "a" | "b", what: Spot["what"] = "reading", index = 0): Spot => ({ setup, staff, what, index });

describe("the order of reading", () => {
  it("passes over distances from the layout and comes back to those typed by hand", () => {
    const { document, filled } = laid();
    expect(readingOrder(document, filled).map(wellId)).toEqual(["well-0-a-reading", "well-0-b-reading", "well-1-a-reading", "well-1-b-reading"]);
    const own = filled.filter((path) => !path.includes("[1].a"));
    expect(readingOrder(document, own).map(wellId)).toEqual(["well-0-a-reading", "well-0-b-reading", "well-1-a-distance", "well-1-a-reading", "well-1-b-reading"]);
  });

  it("leads on from a distance that is passed over, and ends after the last reading", () => {
    const { document, filled } = laid();
    expect(neighbour(document, filled, at(1, "a", "distance"), 1)).toEqual({ setup: 1, staff: "a", what: "reading" });
    expect(neighbour(document, filled, at(1, "a", "distance"), -1)).toMatchObject({ setup: 0, staff: "b", what: "reading" });
    expect(neighbour(document, filled, at(1, "b"), 1)).toBeNull();
    expect(neighbour(document, filled, at(0, "a"), -1)).toBeNull();
  });

  it("goes down the three wires", () => {
    const { document, filled } = laid();
    const wired = toggleWires(document, at(0, "a"), filled);
    expect(readingOrder(wired.document, wired.filled).slice(0, 4).map((one) => `${one.staff} ${one.what}`)).toEqual(["a upper", "a middle", "a lower", "b upper"]);
  });
});

describe("one more and same again", () => {
  it("opens a second well only when the first is filled", () => {
    const document = fresh();
    expect(oneMore(document, at(0, "a"))).toEqual({ document, index: 0 });
    const read = withValue(document, at(0, "a"), "1.4680");
    const more = oneMore(read, at(0, "a"));
    expect(more.index).toBe(1);
    expect(setupsOf(more.document)[0]?.a.readings).toEqual(["1.4680", ""]);
  });

  it("repeats the last reading to the letter", () => {
    const read = withValue(fresh(), at(0, "a"), " 1,4680");
    const twice = sameAgain(read, at(0, "a"));
    expect(setupsOf(twice.document)[0]?.a.readings).toEqual([" 1,4680", " 1,4680"]);
    expect(sameAgain(fresh(), at(0, "a")).index).toBe(0);
  });

  it("repeats three wires together, and only when all three are read", () => {
    const { document } = toggleWires(fresh(), at(0, "a"), []);
    let half = withValue(document, at(0, "a", "upper"), "1.65");
    expect(sameAgain(half, at(0, "a", "upper")).document).toBe(half);
    half = withValue(withValue(half, at(0, "a", "middle"), "1.50"), at(0, "a", "lower"), "1.35");
    const twice = sameAgain(half, at(0, "a", "upper"));
    expect(twice.index).toBe(1);
    expect(setupsOf(twice.document)[0]?.a.wires).toEqual([
      { upper: "1.65", middle: "1.50", lower: "1.35" },
      { upper: "1.65", middle: "1.50", lower: "1.35" },
    ]);
  });
});

describe("three wires", () => {
  it("take along what is not yet read, keep what is, and let the wires say the distance", () => {
    const { document, filled } = laid();
    const read = withValue(document, at(0, "b"), "1.4020");
    const wired = toggleWires(read, at(0, "a"), filled);
    const [first, second] = setupsOf(wired.document);
    expect(first?.a).toEqual({ distance: "", wires: [{}] });
    expect(first?.b.readings).toEqual(["1.4020"]);
    expect(second?.b.wires).toEqual([{}]);
    expect(wired.filled).toEqual(["observations.setups[0].b.distance"]);
    expect(looksFinished(wired.document)).toBe(false);
    expect(toSend(wired.document).observations.setups?.[0]?.a).toEqual({ wires: [{}] });
  });

  it("keep a single reading as the middle wire, and give it back", () => {
    const read = withValue(fresh(), at(0, "a"), "1.50");
    const wired = toggleWires(read, at(0, "a"), []);
    expect(valueAt(wired.document, at(0, "a", "middle"))).toBe("1.50");
    expect(valueAt(toggleWires(wired.document, at(0, "a"), []).document, at(0, "a"))).toBe("1.50");
  });
});

it("changes the sign as a decimal keypad cannot", () => {
  expect([otherSign("0.05"), otherSign("-0.05"), otherSign("−0.05"), otherSign("+1"), otherSign("")]).toEqual(["-0.05", "0.05", "0.05", "-1", "-"]);
});

it("strikes a reading visibly and puts it back", () => {
  let document = withValue(withValue(fresh(), at(0, "a"), "1.1"), at(0, "a", "reading", 1), "1.2");
  document = strike(document, at(0, "a"));
  expect(setupsOf(document)[0]?.a).toMatchObject({ readings: ["1.2"], struck: ["1.1"] });
  document = putBack(document, at(0, "a"), 0);
  expect(setupsOf(document)[0]?.a).toMatchObject({ readings: ["1.2", "1.1"], struck: [] });
});

describe("layouts", () => {
  it("give their distances in the unit of the sheet, and leave alone what was measured", () => {
    const feet = takeLayout(fresh(), [], LAYOUT, "ft");
    expect(setupsOf(feet.document)[1]?.a.distance).toBe("188");
    const measured = withValue(feet.document, at(1, "a", "distance"), "187.4");
    const back = takeLayout(measured, feet.filled.filter((path) => !path.includes("[1].a")), LAYOUT, "m");
    expect(setupsOf(back.document).map((one) => [one.a.distance, one.b.distance])).toEqual([["30", "30"], ["187.4", "4"]]);
    expect(setupsOf(takeLayout(fresh(), [], LAYOUT, "in").document)[0]?.a.distance).toBe("30 m");
  });

  it("from the other end exchange the pegs' distances and read nothing", () => {
    const { document, filled } = laid();
    const again = fromOtherEnd(withValue(document, at(1, "a"), "1.5"), filled);
    const added = setupsOf(again.document).slice(2);
    expect(added.map((one) => [one.a.distance, one.b.distance])).toEqual([["30", "30"], ["4", "56"]]);
    expect(added[1]?.b.readings).toEqual([""]);
    expect(again.filled).toContain("observations.setups[3].b.distance");
  });

  it("lose a set-up without mixing up whose distance is whose", () => {
    const { document, filled } = laid();
    const three = addSetUp(document);
    const left = removeSetUp(three, [...filled, "observations.setups[2].a.distance"], 0);
    expect(setupsOf(left.document)).toHaveLength(2);
    expect(left.filled).toEqual(["observations.setups[0].a.distance", "observations.setups[0].b.distance", "observations.setups[1].a.distance"]);
  });
});

it("finds the well a fault belongs to although empty wells are not sent", () => {
  let document = withValue(withValue(fresh(), at(0, "a"), ""), at(0, "a", "reading", 1), "1.4.2");
  document = withValue(document, at(0, "a", "reading", 2), "1.5");
  expect(sentPath(document, at(0, "a", "reading", 1))).toBe("observations.setups[0].a.readings[0]");
  expect(sentPath(document, at(0, "a", "reading", 0))).toBeNull();
  const fault = { path: "observations.setups[0].a.readings[0]", where: "", given: "", wanted: "" };
  expect(faultsOfSight([fault, { ...fault, path: "observations.setups[0].b.distance" }], at(0, "a"))).toEqual([fault]);
});

describe("documents from elsewhere", () => {
  it("write plain numbers as metres and leave the house's own words out", () => {
    const loaded = fromFile({ kind: "two-peg", units: { length: "ft" }, limits: { x: 1 }, observations: { setups: [{ a: { distance: 30, readings: [1.5, "4.9"] } as never, b: {} }] } } as unknown as CheckDocument);
    expect(setupsOf(loaded)[0]?.a).toEqual({ distance: "30 m", readings: ["1.5 m", "4.9"] });
    expect(setupsOf(loaded)).toHaveLength(2);
    expect(loaded).not.toHaveProperty("limits");
  });

  it("begin the as-left test with the same distances and way of reading, and nothing read", () => {
    const { document } = laid();
    const found = withValue({ ...document, observations: { ...document.observations, curvature: false } }, at(0, "a"), "1.4");
    const draft = asLeft({ id: "f1", kind: "two-peg", instrument: "LV-07" }, found, "tam");
    expect(draft).toMatchObject({ stage: "as-left", pair: "f1", instrument: "LV-07" });
    expect(setupsOf(draft.document)[1]).toEqual({ a: { distance: "56", readings: [""] }, b: { distance: "4", readings: [""] } });
    expect(draft.document.observations).toMatchObject({ layout: "middle-then-near", curvature: false });
    expect(draft.filled).toHaveLength(4);
  });
});
