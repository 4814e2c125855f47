// The form over a document: every method of every kind shows everything that was typed, in the order in which it is read.
import { describe, expect, it } from "vitest";
import { begunBy, cases, kindNamed } from "./cases";
import { type CheckDocument, toSend } from "./draft";
import {
  type Group,
  blocksOf,
  countTyped,
  finished,
  formOf,
  nextSpot,
  place,
  spotsOf,
  takenAgain,
  unitOf,
} from "./form";
import { spotId, textAt, withAt } from "./paths";

const TYPED = ["number", "length", "angle", "text"];

/** The document with every empty input filled, each with a value of its own. */
function fill(document: CheckDocument, groups: Group[]): CheckDocument {
  const empty = spotsOf(document, place(document, groups)).filter(
    ({ field, path }) => TYPED.includes(field.kind) && !textAt(document, path),
  );
  return empty.reduce((grown, { path }, i) => withAt(grown, path, `1.${String(1000 + i)}`), document);
}

const leaves = (value: unknown): string[] =>
  typeof value === "object" && value !== null
    ? Object.values(value).flatMap(leaves)
    : typeof value === "string" && /^1\.1\d{3}$/.test(value)
      ? [value]
      : [];

describe("a document and its form", () => {
  it.each(
    cases.map(
      (case_) => [`${case_.kind}, ${case_.method}, taken ${case_.times === 1 ? "once" : "twice"}`, case_] as const,
    ),
  )("%s", (_, { kind: name, method: called, document }) => {
    const kind = kindNamed(name);
    const method = kind.methods.find((method) => method.name === called);
    const filled = JSON.parse(JSON.stringify(toSend(fill(document, method?.groups ?? [])))) as CheckDocument;
    const form = formOf(kind, filled);
    expect(form.map((group) => group.own)).toEqual(place(filled, method?.groups ?? []).map((group) => group.own));
    expect(leaves(filled.observations).length).toBeGreaterThan(0);
    expect(
      spotsOf(filled, form)
        .map(({ path }) => textAt(filled, path))
        .filter((text) => /^1\.1\d{3}$/.test(text))
        .sort(),
    ).toEqual(leaves(filled.observations).sort());
    expect(finished(filled, form)).toBe(true);
    expect(finished(document, form)).toBe(false);
  });

  it("shows the kind's whole form where a document names no method, or holds more than its method asks for", () => {
    const plummet = kindNamed("plummet");
    const unnamed = { kind: "plummet", observations: begunBy("plummet", "half-turn").observations };
    expect(formOf(plummet, unnamed).map((each) => each.own)).toContain("observations.sets[0].marks");
    const more = withAt(begunBy("plummet", "half-turn"), "observations.sets[1].marks[0].x_mm", "2.1");
    expect(formOf(plummet, more).map((each) => each.own)).toContain("observations.sets[1].marks");
  });

  it("lays set-ups in blocks of two staffs, side by side", () => {
    const document = begunBy("two-peg", "middle-then-near");
    const blocks = blocksOf(formOf(kindNamed("two-peg"), document)).filter((each) => each.entry);
    expect(blocks.map((block) => block.columns.map((column) => column.map((group) => group.title)))).toEqual([
      [
        ["To A", "Staff on A"],
        ["To B", "Staff on B"],
      ],
      [
        ["To A", "Staff on A"],
        ["To B", "Staff on B"],
      ],
    ]);
  });
});

describe("both faces of a target", () => {
  const laid = (kind: string, method: string) =>
    blocksOf(formOf(kindNamed(kind), begunBy(kind, method))).filter((block) => block.columns.length > 1);

  it("stand side by side, left left, in whatever order they are read", () => {
    const blocks = laid("two-face", "full");
    expect(blocks.map((block) => [block.head[0]?.title, ...block.columns.map((column) => column[0]?.own)])).toEqual([
      ["First target, level", "observations.targets[0].left", "observations.targets[0].right"],
      ["Second target, steep", "observations.targets[1].left", "observations.targets[1].right"],
    ]);
  });

  it("of a tracker stand by eye and by tracker, a list a column", () => {
    const [prism] = laid("tracker", kindNamed("tracker").methods[0]?.name ?? "");
    expect(
      prism?.columns.map((column) => column.map((group) => group.own.replace("observations.targets[0].", ""))),
    ).toEqual([["manual.left"], ["manual.right"], ["auto.left"], ["auto.right"]]);
  });
});

describe("the order of the keys", () => {
  const walk = (kind: string, document: CheckDocument, from: string) => {
    const form = formOf(kindNamed(kind), document);
    const walked: string[] = [];
    for (let next = nextSpot(document, form, from, 1); next; next = nextSpot(document, form, next.path, 1))
      walked.push(next.path.replace("observations.", ""));
    return { walked, form };
  };

  it("goes as it is read and passes over what the method has filled in", () => {
    const { walked, form } = walk("plummet", begunBy("plummet", "half-turn"), "observations.sets[0].height_m");
    expect(walked).toEqual([
      "sets[0].marks[0].x_mm",
      "sets[0].marks[0].y_mm",
      "sets[0].marks[1].x_mm",
      "sets[0].marks[1].y_mm",
    ]);
    expect(nextSpot(begunBy("plummet", "half-turn"), form, "observations.sets[0].marks[0].x_mm", -1)?.path).toBe(
      "observations.sets[0].height_m",
    );
  });

  it("comes to distances nobody filled in", () => {
    const begun = begunBy("two-peg", "middle-then-near");
    expect(walk("two-peg", begun, "observations.setups[0].a.distance").walked).toEqual([
      "setups[0].a.readings[0]",
      "setups[0].b.readings[0]",
      "setups[1].a.readings[0]",
      "setups[1].b.readings[0]",
    ]);
    const own = withAt(begun, "observations.setups[1].a.distance", "");
    expect(walk("two-peg", own, "observations.setups[0].b.readings[0]").walked).toEqual([
      "setups[1].a.distance",
      "setups[1].a.readings[0]",
      "setups[1].b.readings[0]",
    ]);
  });
});

describe("what was typed", () => {
  it("is counted in rows: what the method filled in is no reading, nor is the repeat", () => {
    const kind = kindNamed("plummet");
    const twice = begunBy("plummet", "half-turn", 2);
    expect(countTyped(twice, formOf(kind, twice))).toBe(0);
    const read = withAt(twice, "observations.sets[0].marks[2].x_mm", "4.9");
    expect(countTyped(read, formOf(kind, read))).toBe(1);
  });

  it("says whether it was taken again", () => {
    for (const [kind, method] of [
      ["two-peg", "middle-then-near"],
      ["plummet", "half-turn"],
    ] as const) {
      const [once, twice] = [begunBy(kind, method), begunBy(kind, method, 2)];
      expect([
        takenAgain(once, formOf(kindNamed(kind), once)),
        takenAgain(twice, formOf(kindNamed(kind), twice)),
      ]).toEqual([false, true]);
    }
  });

  it("is sent to the letter, empty inputs and rows at the end left out", () => {
    let document = withAt(begunBy("plummet", "half-turn", 2), "observations.sets[0].marks[1].x_mm", " 3,40");
    document = withAt(document, "observations.sets[0].height_m", "");
    expect(toSend(document).observations).toEqual({
      method: "turn",
      sets: [
        {
          marks: [
            { heading_deg: "0" },
            { heading_deg: "180", x_mm: " 3,40" },
            { heading_deg: "0", repeat: 2 },
            { heading_deg: "180", repeat: 2 },
          ],
        },
      ],
    });
    const opened = {
      kind: "two-peg",
      observations: {
        setups: [
          {
            a: { readings: ["1.4", "", " "], struck: ["1.9"], wires: [] },
            b: { wires: [{ upper: "1.6", middle: "" }, {}] },
          },
          { a: { wires: [{}] }, b: {} },
        ],
      },
    };
    expect(toSend(opened).observations).toEqual({
      setups: [{ a: { readings: ["1.4"], struck: ["1.9"], wires: [] }, b: { wires: [{ upper: "1.6" }] } }],
    });
  });
});

it("names inputs for the page, and the sheet's own units beside lengths and angles", () => {
  expect(spotId("observations.positions.left[2]")).toBe("row-observations-positions-left-2");
  const document: CheckDocument = { kind: "x", units: { length: "ft", angle: "gon" }, observations: {} };
  const field = (kind: string) =>
    ({
      name: "x",
      label: "",
      unit: "mm",
      kind,
      options: [],
      prefilled: false,
      optional: false,
      ask_again: false,
      quantity: "",
    }) as never;
  expect(["length", "angle", "number"].map((kind) => unitOf(field(kind), document))).toEqual(["ft", "gon", "mm"]);
  expect(unitOf(field("angle"), { kind: "x", observations: {} })).toBe("ddd.mmss");
});
