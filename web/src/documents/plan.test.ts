import { type Due, type Job, byInstrument, mondayOf, monthAfter, monthOf, weeksOf } from "./plan";

const due = (tag: string, due_on: string, state = "fresh"): Due => ({
  tag,
  due_on,
  state,
  check: "two-peg",
  title: "Two-peg test",
  model: "Ondine Merrow",
  crew: null,
  place: "",
  minutes: 15,
  decides: true,
  can_wait: true,
  reasons: [],
});
const job = (name: string, starts_on: string, ends_on: string): Job => ({
  id: 1,
  name,
  starts_on,
  ends_on,
  crew: null,
  large: false,
  place: "",
  temperature_c: null,
  needs: {},
  version: 1,
});

describe("an instrument", () => {
  it("stands once, in the order in which its first check is due, with each reason once", () => {
    const reasons = [{ code: "knock", text: "Knocked." }];
    const all = [
      { ...due("LV-07", "2027-03-01", "due"), reasons },
      due("LV-02", "2027-03-01", "due"),
      {
        ...due("LV-07", "2027-03-01", "due"),
        check: "circular-vial",
        reasons: [...reasons, { code: "interval", text: "Every 182 days." }],
      },
    ];
    expect(byInstrument(all).map((one) => [one.tag, one.due.length, one.reasons])).toEqual([
      ["LV-07", 2, ["Knocked.", "Every 182 days."]],
      ["LV-02", 1, []],
    ]);
  });
});

describe("weeks", () => {
  it("begin on Monday, over the turn of a year too", () => {
    expect(["2027-03-01", "2027-03-02", "2027-03-07", "2027-01-02"].map(mondayOf)).toEqual([
      "2027-03-01",
      "2027-03-01",
      "2027-03-01",
      "2026-12-28",
    ]);
  });

  it("hold what comes due in them and the jobs that run; what is due now stands before them", () => {
    const shown = [
      due("LV-02", "2027-02-20", "overdue"),
      due("LV-05", "2027-03-07", "soon"),
      due("TS-01", "2027-03-08"),
    ];
    const loads = [
      { monday: "2027-03-01", minutes: 15 },
      { monday: "2027-03-08", minutes: 15 },
      { monday: "2027-03-29", minutes: 45 },
    ];
    const weeks = weeksOf(
      loads,
      shown,
      [job("flood wall line", "2027-03-13", "2027-03-16")],
      "2027-03-02",
      "2027-04-06",
    );
    expect(
      weeks.map((week) => [week.monday, week.minutes, week.due.map((each) => each.tag), week.jobs.length]),
    ).toEqual([
      ["2027-03-01", 15, ["LV-05"], 0],
      ["2027-03-08", 15, ["TS-01"], 1],
      ["2027-03-15", 0, [], 1],
      ["2027-03-29", 45, [], 0],
    ]);
  });
});

describe("a month", () => {
  it("has whole weeks, each day with what is named and counted on it", () => {
    const weeks = monthOf(
      "2027-03",
      [
        { day: "2027-03-02", count: 5, due: [due("LV-02", "2027-02-20", "overdue")] },
        { day: "2027-03-31", count: 1, due: [due("TS-01", "2027-03-31")] },
      ],
      [job("east abutment", "2027-03-30", "2027-04-02")],
    );
    expect(weeks.map((week) => week[0]?.day)).toEqual([
      "2027-03-01",
      "2027-03-08",
      "2027-03-15",
      "2027-03-22",
      "2027-03-29",
    ]);
    expect(weeks.every((week) => week.length === 7)).toBe(true);
    const cells = new Map(weeks.flat().map((cell) => [cell.day, cell]));
    expect([
      cells.get("2027-03-02")?.due.map((each) => each.tag),
      cells.get("2027-03-02")?.count,
      cells.get("2027-03-03")?.count,
    ]).toEqual([["LV-02"], 5, 0]);
    expect(cells.get("2027-03-31")?.due.map((each) => each.tag)).toEqual(["TS-01"]);
    expect(["2027-03-29", "2027-03-30", "2027-04-02", "2027-04-03"].map((day) => cells.get(day)?.jobs.length)).toEqual([
      0, 1, 1, 0,
    ]);
    expect(cells.get("2027-04-01")?.inMonth).toBe(false);
  });

  it("follows another over the year", () => {
    expect([monthAfter("2027-12", 1), monthAfter("2027-01", -1), monthAfter("2027-03", 0)]).toEqual([
      "2028-01",
      "2026-12",
      "2027-03",
    ]);
  });
});
