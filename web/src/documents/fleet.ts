// The fleet as a table: search, filters, order and the columns shown, as one view that an address can hold. Nothing here draws.
import type { Schemas } from "../api/client";
import { inOrder } from "./order";

export type FleetRow = Schemas["FleetRow"];
export const COLUMNS = [
  "tag",
  "model",
  "kind",
  "place",
  "crew",
  "state",
  "finding",
  "due",
  "last",
  "since",
  "serial",
] as const;
export type Column = (typeof COLUMNS)[number];
const SHOWN_FIRST: Column[] = ["tag", "model", "place", "crew", "state", "finding", "due", "last"];
export const FILTERS = ["kind", "state", "crew", "place"] as const;
export type Filter = (typeof FILTERS)[number];

export type View = {
  text: string;
  filters: Record<Filter, string[]>;
  /** Due within so many days; null: whenever. */
  within: number | null;
  sort: Column | "need";
  down: boolean;
  columns: Column[];
};

/** In the order in which something has to be done. */
export const STATES = ["hold", "check-first", "away", "ready-if", "ready"];
export const STATE_NAMES: Record<string, string> = {
  hold: "On hold",
  "check-first": "Check first",
  away: "Away",
  "ready-if": "Ready with a condition",
  ready: "Ready",
};
export const NOBODY = "In the yard";

/** A tag as people type it: `lv7` and `LV 07` are LV-07. */
export const tagKey = (text: string): string =>
  text
    .toLowerCase()
    .replace(/[\s-]/g, "")
    .replace(/^([a-z]+)0*(\d)/, "$1$2");

/** Whether every word stands somewhere in tag, model, kind, place, crew or serial number. */
export function matches(
  row: Pick<FleetRow, "tag" | "model" | "kind" | "place" | "crew" | "serial">,
  text: string,
): boolean {
  const sought = text.trim().toLowerCase();
  if (!sought || tagKey(sought) === tagKey(row.tag)) return true;
  const names = `${row.tag} ${row.model} ${row.kind} ${row.place} ${row.crew ?? ""} ${row.serial}`.toLowerCase();
  return sought.split(/\s+/).every((word) => names.includes(word));
}

/** What a row says under a filter. */
export const answerOf = (row: FleetRow, filter: Filter): string =>
  filter === "crew" ? (row.crew ?? NOBODY) : filter === "place" ? row.place || "Yard" : row[filter];

/** What can be chosen under a filter, as often as it occurs. */
export function choices(rows: FleetRow[], filter: Filter): [string, number][] {
  const count = new Map<string, number>();
  for (const row of rows) count.set(answerOf(row, filter), (count.get(answerOf(row, filter)) ?? 0) + 1);
  return [...count].sort(([one], [other]) =>
    filter === "state" ? STATES.indexOf(one) - STATES.indexOf(other) : inOrder(one, other),
  );
}

/** Minutes of the checks an instrument waits for. */
export const minutesOf = (row: Pick<FleetRow, "needed">): number =>
  row.needed.reduce((sum, check) => sum + check.minutes, 0);

/** The share of its limit a finding reaches; without one, below everything. */
const shareOf = (row: FleetRow): number => (row.latest ? Math.abs(row.latest.value) / row.latest.limit : -1);

const KEYS: Record<Column | "need", (row: FleetRow) => string | number> = {
  need: (row) => STATES.indexOf(row.state),
  tag: (row) => row.tag,
  model: (row) => row.model,
  kind: (row) => row.kind,
  place: (row) => row.place || "Yard",
  crew: (row) => row.crew ?? "",
  state: (row) => STATES.indexOf(row.state),
  finding: shareOf,
  due: (row) => row.due_on ?? "9",
  last: (row) => row.latest?.at ?? "",
  since: (row) => row.since,
  serial: (row) => row.serial,
};

/** What is shown of the fleet, in order; tags decide where two are alike. `today` as an ISO day. */
export function shown(rows: FleetRow[], view: View, today: string): FleetRow[] {
  const last = view.within === null ? null : dayAfter(today, view.within);
  const kept = rows.filter(
    (row) =>
      matches(row, view.text) &&
      FILTERS.every((filter) => !view.filters[filter].length || view.filters[filter].includes(answerOf(row, filter))) &&
      (last === null || row.needed.length > 0 || (row.due_on !== null && row.due_on <= last)),
  );
  const key = KEYS[view.sort];
  const keyed = kept.map((row) => ({ row, key: key(row) }));
  keyed.sort((one, other) => inOrder(one.key, other.key) * (view.down ? -1 : 1) || inOrder(one.row.tag, other.row.tag));
  return keyed.map((each) => each.row);
}

/** The ISO day so many days after another. */
export const dayAfter = (day: string, days: number): string =>
  new Date(Date.parse(`${day}T00:00:00Z`) + days * 86_400_000).toISOString().slice(0, 10);

/** A view as an address holds it. */
export function viewOf(query: URLSearchParams): View {
  const listed = (name: string) => query.getAll(name).filter(Boolean);
  const columns = (query.get("columns") ?? "")
    .split(",")
    .filter((name): name is Column => (COLUMNS as readonly string[]).includes(name));
  const sort = query.get("sort") ?? "need";
  const within = Number(query.get("within"));
  return {
    text: query.get("q") ?? "",
    filters: { kind: listed("kind"), state: listed("state"), crew: listed("crew"), place: listed("place") },
    within: query.get("within") !== null && Number.isFinite(within) && within >= 0 ? within : null,
    sort: sort in KEYS ? (sort as View["sort"]) : "need",
    down: query.get("down") === "1",
    columns: columns.length ? columns : SHOWN_FIRST,
  };
}

/** The same as an address: what is usual is left out. */
export function addressOf(view: View): URLSearchParams {
  const query = new URLSearchParams();
  if (view.text) query.set("q", view.text);
  for (const filter of FILTERS) for (const value of view.filters[filter]) query.append(filter, value);
  if (view.within !== null) query.set("within", String(view.within));
  if (view.sort !== "need") query.set("sort", view.sort);
  if (view.down) query.set("down", "1");
  if (view.columns.join() !== SHOWN_FIRST.join()) query.set("columns", view.columns.join());
  return query;
}

/** What was changed of a view that was on the page, put into the view the address has by now. */
export function changedView(now: View, shown: View, next: View): View {
  const filters = { ...now.filters };
  for (const filter of FILTERS)
    if (next.filters[filter].join() !== shown.filters[filter].join()) filters[filter] = next.filters[filter];
  const changed = Object.entries(next).filter(([name, value]) => value !== shown[name as keyof View]);
  return { ...now, ...Object.fromEntries(changed), filters };
}

/** A press on a column's name: by it upwards, downwards, then as the fleet comes. */
export function sortedBy(view: View, column: Column): View {
  if (view.sort !== column) return { ...view, sort: column, down: false };
  return view.down ? { ...view, sort: "need", down: false } : { ...view, down: true };
}

/** Rows chosen by keyboard or pointer: one on or off, or all from the last one to this. */
export function choose(chosen: ReadonlySet<string>, rows: FleetRow[], at: number, from: number | null): Set<string> {
  const next = new Set(chosen);
  if (from !== null) for (const row of rows.slice(Math.min(from, at), Math.max(from, at) + 1)) next.add(row.tag);
  else {
    const tag = rows[at]?.tag;
    if (tag && !next.delete(tag)) next.add(tag);
  }
  return next;
}
