import type { Picture, RecordRow, Series } from "../api/client";
import { daysOut } from "../features/instrument/Records";
import { scales } from "./PegLine";
import { bySight } from "./Calculation";
import { pairs, partsBetween, together } from "./SeriesPlot";
import { placeOnBar } from "./icons";

it("places an error between the posts, and breaks the axis beyond one and a half times the limit", () => {
  expect(placeOnBar(0, 10)).toEqual({ at: 0.5, broken: false });
  expect(placeOnBar(10, 10).at).toBeCloseTo(5 / 6);
  expect(placeOnBar(-15, 10)).toEqual({ at: 0, broken: false });
  expect(placeOnBar(24, 10)).toEqual({ at: 1, broken: true });
});

function picture(c: number): Picture {
  const staff = (distance_m: number) => ({
    distance_m,
    distance_text: "",
    read_m: 1.5,
    error_m: c * distance_m,
    error_text: "",
  });
  return {
    draws: "pegs",
    baseline_m: 60,
    pegs: [
      { name: "A", x_m: 0, height_m: 0 },
      { name: "B", x_m: 60, height_m: 0.3 },
    ],
    setups: [
      { index: 0, label: "", x_m: 30, line_height_m: 1.6, a: staff(30), b: staff(30) },
      { index: 1, label: "", x_m: 56, line_height_m: 1.7, a: staff(56), b: staff(4) },
    ],
  };
}

describe("the peg line", () => {
  it("draws distances to one scale and every sight as many times too steep as it says", () => {
    const s = scales(picture(1e-4), 900, 206);
    expect(s.x(30) - s.x(0)).toBeCloseTo((s.x(60) - s.x(0)) / 2);
    const perMetre = (s.x(60) - s.x(0)) / 60;
    for (const distance of [4, 30, 56])
      expect(s.rise(1e-4 * distance, distance) / (distance * perMetre)).toBeCloseTo(1e-4 * s.times);
    expect(s.rise(1e-4 * 56, 56)).toBeCloseTo(34);
  });

  it("does not blow an error of nothing up into one", () => {
    const s = scales(picture(1e-9), 900, 206);
    expect(s.times).toBe(3000);
    expect(s.rise(1e-9 * 56, 56)).toBeLessThan(0.1);
    expect(scales(picture(0), 900, 206).times).toBe(0);
  });
});

const point = (at: string) => ({
  id: at,
  at,
  stage: "as-found",
  pair: null,
  temperature_c: null,
  grade: "use",
  value: 1,
  u95: 1,
  use: 10,
  watch: 20,
});

it("never draws a line through a knock", () => {
  const series: Series = {
    title: "Two-peg test",
    unit: "″",
    unit_label: "seconds",
    trend: null,
    points: [point("2026-01-01"), point("2026-02-01"), point("2026-04-01")],
    events: [
      { id: "k", event: "knock", at: "2026-03-01", note: "", cuts: true },
      { id: "l", event: "returned", at: "2026-01-15", note: "", cuts: false },
    ],
  };
  expect(partsBetween(series).map((piece) => piece.length)).toEqual([2, 1]);
});

it("draws a line from what was found to what was left, and to nothing else", () => {
  const [found, other, left] = [point("a"), point("b"), { ...point("c"), pair: "a" }];
  expect(pairs([found, other, left] as never)).toEqual([[found, left]]);
  expect(pairs([left] as never)).toEqual([]);
});

it("labels events that stand close together once", () => {
  const close = [
    { x: 100, word: "adjusted" },
    { x: 90, word: "knock" },
    { x: 95, word: "knock" },
    { x: 300, word: "drop" },
  ];
  expect(together(close)).toEqual([
    { x: 90, word: "knock, adjusted" },
    { x: 300, word: "drop" },
  ]);
  // On a phone's plot of 400 these two stood on each other: 24 letters need about 100.
  const long = [
    { x: 196, word: "adjusted" },
    { x: 262, word: "back from service" },
  ];
  expect(together(long)).toEqual([{ x: 196, word: "adjusted, back from service" }]);
  const further = [
    { x: 196, word: "adjusted" },
    { x: 320, word: "back from service" },
  ];
  expect(together(further)).toEqual(further);
});

it("says readings of one sight together", () => {
  const row = (where: string, given: string) => ({ path: given, where, given, arcsec_per_mm: 1, text: "" });
  expect(bySight([row("A", "1"), row("A", "2"), row("B", "3")]).map((each) => each.readings)).toEqual([
    ["1", "2"],
    ["3"],
  ]);
});

it("says a day out in one line, but hides nothing that was struck or noted", () => {
  const row = (kind: string, more: Partial<RecordRow> = {}) =>
    ({ id: kind + String(more.observed_at), kind, note: "", amended_by: null, observed_at: "", ...more }) as RecordRow;
  const rows = [
    row("in", { observed_at: "16" }),
    row("out", { observed_at: "08" }),
    row("in", { note: "wet" }),
    row("out"),
    row("in", { amended_by: "x" }),
    row("out"),
    row("two-peg"),
  ];
  expect(daysOut(rows).map((each) => [each.row.kind, each.until])).toEqual([
    ["out", "16"],
    ["in", null],
    ["out", null],
    ["in", null],
    ["out", null],
    ["two-peg", null],
  ]);
});
