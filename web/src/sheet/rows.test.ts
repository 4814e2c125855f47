// Typing a check of rows: paths, the order of the keys, one more, once more, and what is sent.
import { describe, expect, it } from "vitest";
import type { Kind } from "../api/client";
import { type CheckDocument, toSend } from "./draft";
import { type Way, asLeftRows, beginRows, countTyped, fittingWay, nextSpot, oneMore, onceMore, removeRow, rowsFinished, rowsFromFile, rowsOf, spotId, spotsOf, textAt, unitOf, withAt } from "./rows";

const field = (name: string, more: object = {}) => ({ name, label: name, unit: "mm", kind: "number" as const, options: [], given: false, optional: false, anew: false, ...more });
const group = (path: string, fields: ReturnType<typeof field>[], more: object = {}) => ({ path, title: path, fields, rows: false, rounds: false, row_titles: [], note: "", most: 1, more: "", ...more });
const rows = { rows: true, most: 5, more: "One more" };
const way = (name: string, observations: object, groups: ReturnType<typeof group>[]): Way => ({ name, title: name, good_for: "", observations: observations as Record<string, unknown>, groups, steps: [], caution: [], unit: "" });
const MARKS = group("observations.sets[0].marks", [field("heading_deg", { given: true }), field("x_mm"), field("y_mm")], rows);
const HEIGHT = group("observations.sets[0]", [field("height_m")]);
const TURN = way("half-turn", { method: "turn", sets: [{ marks: [{ heading_deg: "0" }, { heading_deg: "180" }] }] }, [HEIGHT, MARKS]);
const BOB = way("bob", { method: "bob", sets: [{ marks: [{}] }] }, [HEIGHT, group("observations.sets[0].marks", [field("x_mm"), field("y_mm")], rows)]);
const KIND = { kind: "plummet", ways: [TURN, BOB], carries: ["offset_mm", "sigma_offset_mm"] } as unknown as Kind;
const fresh = (which: Way = TURN): CheckDocument => beginRows({ kind: KIND, way: which, instrument: "TD-01", owner: "tam", unit: "m" }).document;
const grown = (document: CheckDocument) => {
  const more = oneMore(document, MARKS);
  if (!more) throw new Error("no more rows");
  return more;
};
const marks = (document: CheckDocument) => rowsOf(document, MARKS);

describe("paths", () => {
  it("reads and writes through lists and objects, and leaves what is not touched", () => {
    const before = fresh();
    const after = withAt(before, "observations.sets[0].marks[1].x_mm", "3.4");
    expect(textAt(after, "observations.sets[0].marks[1].x_mm")).toBe("3.4");
    expect(textAt(after, "observations.sets[0].marks[1].heading_deg")).toBe("180");
    expect(textAt(before, "observations.sets[0].marks[1].x_mm")).toBe("");
    expect((after.observations as unknown as { sets: { marks: unknown[] }[] }).sets[0]?.marks[0]).toBe((before.observations as unknown as { sets: { marks: unknown[] }[] }).sets[0]?.marks[0]);
  });
  it("makes what is not there yet, and names wells for the page", () => {
    const after = withAt({ kind: "x", observations: {} }, "observations.positions.left[2]", "1.5");
    expect((after.observations as unknown as { positions: { left: string[] } }).positions.left).toEqual(["", "", "1.5"]);
    expect(spotId("observations.positions.left[2]")).toBe("row-observations-positions-left-2");
  });
});

describe("the order of the keys", () => {
  it("goes as it is read and passes over what the way has filled in", () => {
    const walked: string[] = [];
    let at = "observations.sets[0].height_m";
    for (let next = nextSpot(fresh(), TURN, at, 1); next; next = nextSpot(fresh(), TURN, at, 1)) walked.push((at = next.path));
    expect(walked.map((one) => one.replace("observations.sets[0].marks", ""))).toEqual(["[0].x_mm", "[0].y_mm", "[1].x_mm", "[1].y_mm"]);
    expect(nextSpot(fresh(), TURN, "observations.sets[0].marks[0].x_mm", -1)?.path).toBe("observations.sets[0].height_m");
    expect(spotsOf(fresh(), TURN)).toHaveLength(7);
  });
  it("leads to a heading that was not filled in", () => {
    const more = grown(fresh());
    expect(more.path).toBe("observations.sets[0].marks[2].heading_deg");
    expect(nextSpot(more.document, TURN, "observations.sets[0].marks[1].y_mm", 1)?.path).toBe(more.path);
  });
});

describe("rows", () => {
  it("opens one more, never two empty ones, and no more than there may be", () => {
    const one = grown(fresh());
    expect(marks(one.document)).toHaveLength(3);
    expect(marks(grown(one.document).document)).toHaveLength(3);
    let document = one.document;
    for (let i = 2; i < 5; i++) document = withAt(grown(document).document, `observations.sets[0].marks[${i}].x_mm`, "1");
    expect(oneMore(document, MARKS)).toBeNull();
    expect(marks(removeRow(document, MARKS, 0))).toHaveLength(4);
  });
  it("takes the whole once more behind what is there", () => {
    const typed = withAt(fresh(), "observations.sets[0].marks[0].x_mm", "4.9");
    const twice = onceMore(typed, TURN);
    expect(marks(twice)).toEqual([{ heading_deg: "0", x_mm: "4.9" }, { heading_deg: "180" }, { heading_deg: "0" }, { heading_deg: "180" }]);
  });
  it("says in which round a row is taken where something is set afresh between rounds", () => {
    const apart = { ...TURN, groups: [HEIGHT, { ...MARKS, rounds: true }] };
    const typed = withAt(fresh(), "observations.sets[0].marks[0].x_mm", "4.9");
    const twice = onceMore(typed, apart);
    expect(marks(twice)).toEqual([{ heading_deg: "0", x_mm: "4.9" }, { heading_deg: "180" }, { heading_deg: "0", round: 2 }, { heading_deg: "180", round: 2 }]);
    const last = withAt(twice, "observations.sets[0].marks[3].x_mm", "1.1");
    const more = oneMore(last, { ...MARKS, rounds: true });
    expect(marks(more?.document as CheckDocument)[4]).toEqual({ round: 2 });
    expect(oneMore(more?.document as CheckDocument, { ...MARKS, rounds: true })).toBeNull();
    expect(countTyped(last.observations), "a round is no reading").toBe(2);
    expect(toSend(more?.document as CheckDocument), "a row of nothing but its round is not sent").toEqual(toSend(last));
    expect(rowsFromFile(last), "and it stays a number when a record is opened again").toMatchObject({ observations: { sets: [{ marks: [{}, {}, { round: 2 }, { round: 2 }] }] } });
    const third = onceMore({ ...last, observations: withAt(last, "observations.sets[0].marks", marks(last).slice(0, 3)).observations }, apart);
    expect(marks(third).map((row) => (row as { round?: number }).round)).toEqual([undefined, undefined, 2, 3, 3]);
  });
  it("counts what was read, not what describes it", () => {
    expect(countTyped(fresh().observations)).toBe(0);
    expect(countTyped(withAt(fresh(), "observations.sets[0].marks[0].x_mm", "4.9").observations)).toBe(1);
  });
});

describe("what is sent", () => {
  it("leaves out empty wells and rows at the end, and keeps the rest to the letter and in its place", () => {
    let document = grown(fresh()).document;
    document = withAt(document, "observations.sets[0].marks[1].x_mm", " 3,40");
    document = withAt(document, "observations.sets[0].height_m", "");
    expect(toSend(document).observations).toEqual({ method: "turn", sets: [{ marks: [{ heading_deg: "0" }, { heading_deg: "180", x_mm: " 3,40" }] }] });
  });
  it("knows when every well that must be filled is filled", () => {
    const filled = ["height_m", "marks[0].x_mm", "marks[0].y_mm", "marks[1].x_mm", "marks[1].y_mm"].reduce((document, path) => withAt(document, `observations.sets[0].${path}`, "1"), fresh());
    expect(rowsFinished(fresh(), TURN)).toBe(false);
    expect(rowsFinished(filled, TURN)).toBe(true);
    expect(rowsFinished(grown(filled).document, TURN)).toBe(true);
  });
});

describe("units beside a field", () => {
  it("are the sheet's own for lengths and angles, the field's for the rest", () => {
    const document: CheckDocument = { kind: "x", units: { length: "ft", angle: "gon" }, observations: {} };
    expect(unitOf(field("distance", { kind: "length" }), document)).toBe("ft");
    expect(unitOf(field("hz", { kind: "angle" }), document)).toBe("gon");
    expect(unitOf(field("x_mm"), document)).toBe("mm");
    expect(unitOf(field("hz", { kind: "angle" }), { kind: "x", observations: {} })).toBe("ddd.mmss");
  });
  it("are kept with the sheet when angles are typed otherwise", () => {
    const draft = beginRows({ kind: KIND, way: TURN, instrument: "TS-01", owner: "tam", unit: "m", angle: "gon" });
    expect(draft.document.units).toEqual({ length: "m", angle: "gon" });
    expect(rowsFromFile({ ...draft.document, observations: { targets: [{ left: [{ hz: "100.0000", v: 100.25 }] }] } } as unknown as CheckDocument).observations).toEqual({ targets: [{ left: [{ hz: "100.0000", v: "100.25" }] }] });
  });
});

describe("a document opened again", () => {
  it("finds the way it was taken in", () => {
    expect(fittingWay(KIND, fresh(BOB))?.name).toBe("bob");
    expect(fittingWay(KIND, fresh(TURN))?.name).toBe("half-turn");
    expect(fittingWay(KIND, fresh(TURN), "bob")?.name).toBe("bob");
  });
  it("writes plain numbers as somebody would type them, metres in their unit where the sheet has another", () => {
    const stored = { kind: "plummet", units: { length: "ft" as const }, limits: {}, conditions: { temperature_c: 9 }, observations: { distance: 40, sets: [{ height_m: 1.62, marks: [{ heading_deg: 0, vial: 2, x_mm: "4.9" }] }] } };
    const opened = rowsFromFile(stored as unknown as CheckDocument);
    expect(opened).toEqual({ kind: "plummet", units: { length: "ft" }, conditions: { temperature_c: "9" }, observations: { distance: "40 m", sets: [{ height_m: "1.62", marks: [{ heading_deg: "0", vial: 2, x_mm: "4.9" }] }] } });
  });
  it("begins the as-left with the stand told and every reading still to come", () => {
    const found = withAt(withAt(fresh(), "observations.sets[0].height_m", "1.62"), "observations.sets[0].marks[0].x_mm", "4.9");
    const left = asLeftRows({ id: "f1", kind: "plummet", instrument: "TD-01" }, found, KIND, "tam");
    expect([left.stage, left.pair, left.way]).toEqual(["as-left", "f1", "half-turn"]);
    expect(left.document.observations).toEqual({ method: "turn", sets: [{ height_m: "1.62", marks: [{ heading_deg: "0" }, { heading_deg: "180" }] }] });
  });
  it("takes along what was found, for the second round to be held against", () => {
    const record = { id: "f1", kind: "plummet", instrument: "TD-01", result: { result: { offset_mm: 1.25, sigma_offset_mm: 0.2, axis_x_mm: 3, tilt: null } } };
    const left = asLeftRows(record, fresh(), KIND, "tam");
    expect((left.document.observations as unknown as { found: object }).found).toEqual({ offset_mm: 1.25, sigma_offset_mm: 0.2 });
    expect(countTyped(left.document.observations)).toBe(0);
  });
  it("asks anew for what was stored before", () => {
    const stored = way("half-turn", TURN.observations as object, [group("observations.sets[0]", [field("height_m"), field("before_mm", { anew: true })]), MARKS]);
    const found = withAt(withAt(fresh(), "observations.sets[0].height_m", "1.62"), "observations.sets[0].before_mm", "3");
    const left = asLeftRows({ id: "f1", kind: "plummet", instrument: "TD-01" }, found, { ...KIND, ways: [stored] } as Kind, "tam");
    expect((left.document.observations as unknown as { sets: object[] }).sets[0]).toEqual({ height_m: "1.62", marks: [{ heading_deg: "0" }, { heading_deg: "180" }] });
  });
});
