// The fleet as a table: found as typed, filtered, ordered, chosen; a view goes through an address and comes back.
import { describe, expect, it } from "vitest";
import {
  type FleetRow,
  addressOf,
  changedView,
  choices,
  choose,
  dayAfter,
  matches,
  minutesOf,
  shown,
  sortedBy,
  tagKey,
  viewOf,
} from "./fleet";

const row = (tag: string, more: Partial<FleetRow> = {}): FleetRow => ({
  tag,
  kind: "level",
  model: "Ondine Merrow",
  place: "Yard, rack 3",
  crew: null,
  serial: "",
  since: "2024-05-01",
  state: "ready",
  reasons: [],
  needed: [],
  due_on: null,
  due_check: "",
  latest: null,
  ...more,
});
const found = (value: number, limit: number): FleetRow["latest"] => ({
  id: "x",
  check: "two-peg",
  at: "2027-02-01T08:00:00+00:00",
  grade: "use",
  stage: "as-found",
  finding: "",
  value,
  u95: 1,
  limit,
  text: "",
  unit: "arcsec",
  title: "Two-peg test",
});
const peg = { check: "two-peg", title: "Two-peg test", minutes: 15 };
const FLEET = [
  row("LV-07", { state: "hold", latest: found(-24, 10), needed: [peg] }),
  row("LV-02", { crew: "Bramble", latest: found(1, 10), due_on: "2027-03-14" }),
  row("TS-03", {
    kind: "robotic-total-station",
    model: "Marrick Tessaly",
    crew: "Bramble",
    state: "check-first",
    needed: [peg, { ...peg, minutes: 12 }],
    due_on: "2027-02-20",
  }),
  row("TB-04", { kind: "tribrach", state: "ready-if", latest: found(4, 5), due_on: "2027-05-05" }),
];
const view = (address: string) => viewOf(new URLSearchParams(address));
const tags = (address: string) => shown(FLEET, view(address), "2027-03-02").map((each) => each.tag);

describe("the fleet table", () => {
  it("finds a tag typed in any form, and words of any column", () => {
    expect(["lv7", "LV 07", "lv-07", "Lv007"].map(tagKey)).toEqual(Array(4).fill("lv7"));
    expect(tags("q=lv7")).toEqual(["LV-07"]);
    expect(tags("q=bramble tessaly")).toEqual(["TS-03"]);
    expect(matches(row("LV-07", { serial: "88123" }), "8812")).toBe(true);
    expect(matches(row("LV-07"), "lv-70")).toBe(false);
  });

  it("comes by what needs somebody first, and sorts by any column, up and down", () => {
    expect(tags("")).toEqual(["LV-07", "TS-03", "TB-04", "LV-02"]);
    expect(tags("sort=tag&down=1")).toEqual(["TS-03", "TB-04", "LV-07", "LV-02"]);
    // By the share of its limit: 24 of 10, 4 of 5, 1 of 10, none.
    expect(tags("sort=finding&down=1")).toEqual(["LV-07", "TB-04", "LV-02", "TS-03"]);
    expect(tags("sort=due")).toEqual(["TS-03", "LV-02", "TB-04", "LV-07"]);
    const once = sortedBy(view(""), "due");
    expect(
      [once, sortedBy(once, "due"), sortedBy(sortedBy(once, "due"), "due")].map((each) => [each.sort, each.down]),
    ).toEqual([
      ["due", false],
      ["due", true],
      ["need", false],
    ]);
  });

  it("filters by kind, state, who, place and when due", () => {
    expect(tags("kind=level&kind=tribrach")).toEqual(["LV-07", "TB-04", "LV-02"]);
    expect(tags("crew=In the yard&state=ready-if")).toEqual(["TB-04"]);
    // Within a fortnight: what waits now, and what falls due by 16 March.
    expect(tags("within=14")).toEqual(["LV-07", "TS-03", "LV-02"]);
    expect(dayAfter("2027-02-27", 3)).toBe("2027-03-02");
    expect(choices(FLEET, "state")).toEqual([
      ["hold", 1],
      ["check-first", 1],
      ["ready-if", 1],
      ["ready", 1],
    ]);
    expect(choices(FLEET, "crew")).toEqual([
      ["Bramble", 2],
      ["In the yard", 2],
    ]);
  });

  it("keeps a view in an address, the usual left out, the impossible ignored", () => {
    const text = "q=lv&kind=level&within=30&sort=due&down=1&columns=tag%2Cdue";
    expect(addressOf(view(text)).toString()).toBe(text);
    expect(addressOf(view("")).toString()).toBe("");
    expect(view("sort=colour&within=soon&columns=tag,colour")).toMatchObject({
      sort: "need",
      within: null,
      columns: ["tag"],
    });
  });

  it("chooses one, and from the last one to another", () => {
    const one = choose(new Set(), FLEET, 1, null);
    expect([...one]).toEqual(["LV-02"]);
    expect([...choose(one, FLEET, 3, 1)].sort()).toEqual(["LV-02", "TB-04", "TS-03"]);
    expect([...choose(one, FLEET, 1, null)]).toEqual([]);
  });

  it("adds up the minutes an instrument waits for", () => expect(FLEET.map(minutesOf)).toEqual([15, 0, 27, 0]));

  it("keeps what was chosen before the page was drawn again", () => {
    const drawn = viewOf(new URLSearchParams("state=hold&q=lv"));
    const address = viewOf(new URLSearchParams("state=hold&q=lv&crew=Thrift&sort=tag"));
    const filtered = { ...drawn, filters: { ...drawn.filters, kind: ["level"] } };
    expect(addressOf(changedView(address, drawn, filtered)).toString()).toBe(
      "q=lv&kind=level&state=hold&crew=Thrift&sort=tag",
    );
    expect(addressOf(changedView(address, drawn, { ...drawn, text: "" })).toString()).toBe(
      "state=hold&crew=Thrift&sort=tag",
    );
  });
});
