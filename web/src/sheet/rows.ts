// A check of rows as it is typed: where each well belongs, what comes next, and what the keys do to the document.
// The kind's way says which groups and fields there are; nothing here knows a kind or reads a number.
import type { Fault, Kind } from "../api/client";
import { isEmpty } from "./clean";
import { type CheckDocument, type Draft, type Length, begin } from "./draft";

export type Way = Kind["ways"][number];
export type Group = Way["groups"][number];
export type Field = Group["fields"][number];
/** A well or a choice: the place in the document it fills. */
export type Spot = { path: string; field: Field; group: Group; row: number | null };
type Row = Record<string, unknown>;

const STEP = /[^.[\]]+/g;
const stepsOf = (path: string): (string | number)[] => (path.match(STEP) ?? []).map((one) => (/^\d+$/.test(one) ? Number(one) : one));
export const spotId = (path: string): string => `row-${path.replace(/[^\w]+/g, "-").replace(/-$/, "")}`;

export function valueAt(document: CheckDocument, path: string): unknown {
  return stepsOf(path).reduce<unknown>((held, step) => (held as Row | undefined)?.[step as string], document);
}

export const textAt = (document: CheckDocument, path: string): string => String(valueAt(document, path) ?? "");

/** The document with another value at a path; what lies on the way comes into being. */
export function withAt(document: CheckDocument, path: string, value: unknown): CheckDocument {
  const put = (held: unknown, steps: (string | number)[]): unknown => {
    const [step, ...rest] = steps;
    if (step === undefined) return value;
    if (typeof step === "number") {
      const list = [...((held as unknown[] | undefined) ?? [])];
      while (list.length < step) list.push(rest.length ? {} : "");
      list[step] = put(list[step], rest);
      return list;
    }
    return { ...((held as Row | undefined) ?? {}), [step]: put((held as Row | undefined)?.[step], rest) };
  };
  return put(document, stepsOf(path)) as CheckDocument;
}

export const rowsOf = (document: CheckDocument, group: Group): unknown[] => (valueAt(document, group.path) as unknown[] | undefined) ?? [];

/** Where a field of a group stands; of a list without names the entry itself. */
export function pathOf(group: Group, field: Field, row: number | null): string {
  const base = row === null ? group.path : `${group.path}[${row}]`;
  return field.name ? `${base}.${field.name}` : base;
}

export function spotsOf(document: CheckDocument, way: Way): Spot[] {
  return way.groups.flatMap((group) => {
    const rows = group.rows ? rowsOf(document, group).map((_, i) => i) : [null];
    return rows.flatMap((row) => group.fields.map((field) => ({ path: pathOf(group, field, row), field, group, row })));
  });
}

/** The well after (or before) this one in reading order; what the way has filled in is passed over. */
export function nextSpot(document: CheckDocument, way: Way, path: string, step: 1 | -1): Spot | null {
  const wells = spotsOf(document, way).filter((one) => one.field.kind !== "choice");
  const here = wells.findIndex((one) => one.path === path);
  const rest = step === 1 ? wells.slice(here + 1) : wells.slice(0, here).reverse();
  return rest.find((one) => !(one.field.given && textAt(document, one.path).trim())) ?? null;
}

/** One more row of a list; no second empty one is opened. Gives the path of its first well. */
export function oneMore(document: CheckDocument, group: Group): { document: CheckDocument; path: string } | null {
  const rows = rowsOf(document, group);
  const first = group.fields[0];
  if (!group.rows || !first || rows.length >= group.most) return null;
  const last = rows.length - 1;
  const empty = last >= 0 && isEmpty(rows[last]);
  const row = empty ? last : rows.length;
  const round = group.rounds ? roundOf(rows[last]) : 1;
  const grown = empty ? document : withAt(document, `${group.path}[${row}]`, first.name ? inRound({}, round) : "");
  return { document: grown, path: pathOf(group, first, row) };
}

/** In which round a row was taken; the first says nothing of it. */
export const roundOf = (row: unknown): number => ((row as { round?: number } | undefined)?.round ?? 1);
const inRound = (row: Row, round: number): Row => (round > 1 ? { ...row, round } : row);

export function removeRow(document: CheckDocument, group: Group, row: number): CheckDocument {
  return withAt(document, group.path, rowsOf(document, group).filter((_, i) => i !== row));
}

/** Whether every well that must be filled is filled: all that can be said of a draft without the core. */
export function rowsFinished(document: CheckDocument, way: Way): boolean {
  return spotsOf(document, way).every(({ field, path, row, group }) => field.optional || field.kind === "choice" || textAt(document, path).trim() !== "" || (row !== null && row > 0 && isEmpty(rowsOf(document, group)[row])));
}

/** The way a document was taken in: the one said, else the one it looks most like. */
export function fittingWay(kind: Kind, document: CheckDocument, said?: string): Way | undefined {
  const named = kind.ways.find((one) => one.name === said);
  if (named) return named;
  const likeness = (way: Way) => alike(way.observations, document.observations as unknown);
  return [...kind.ways].sort((a, b) => likeness(b) - likeness(a))[0];
}

function alike(template: unknown, held: unknown): number {
  if (Array.isArray(template)) {
    const list = Array.isArray(held) ? held : [];
    return (list.length === template.length ? 2 : -1) + template.reduce<number>((sum, one, i) => sum + alike(one, list[i]) / 4, 0);
  }
  if (typeof template === "object" && template !== null) return Object.entries(template).reduce((sum, [name, one]) => sum + alike(one, (held as Row | undefined)?.[name]), 0);
  return template === "" ? 0 : template === held ? 3 : -3;
}

/** A fresh document of a kind, taken in a way. */
export function beginRows(from: { kind: Kind; way: Way; instrument: string; owner: string; unit: Length; angle?: string } & Omit<Partial<Draft>, "kind" | "way" | "instrument" | "owner">): Draft {
  const { kind, way, unit, angle, ...rest } = from;
  const observations = structuredClone(way.observations) as CheckDocument["observations"];
  const length = (way.unit || unit) as Length;
  return begin({ ...rest, kind: kind.kind, way: way.name, document: { kind: kind.kind, units: { length, ...(angle ? { angle } : {}) }, observations } });
}

/** The rows of the way once more behind those there are, empty, as a round of their own: both count together. */
export function onceMore(document: CheckDocument, way: Way): CheckDocument {
  const listed = way.groups.filter((group) => group.rows);
  const next = 1 + Math.max(1, ...listed.flatMap((group) => rowsOf(document, group).map(roundOf)));
  return listed.reduce((grown, group) => {
    const fresh = ((valueIn(way.observations, group.path) as unknown[] | undefined) ?? []).slice(0, Math.max(0, group.most - rowsOf(grown, group).length));
    const rows = structuredClone(fresh).map((row) => (group.rounds ? inRound(row as Row, next) : row));
    return withAt(grown, group.path, [...rowsOf(grown, group), ...rows]);
  }, document);
}

function valueIn(observations: unknown, path: string): unknown {
  return stepsOf(path)
    .slice(1)
    .reduce<unknown>((held, step) => (held as Row | undefined)?.[step as string], observations);
}

/** A stored document as somebody would type it: what the house states is left to the house, plain numbers as text. */
export function rowsFromFile(from: CheckDocument): CheckDocument {
  const unit = from.units?.length ?? "m";
  const text = (value: unknown, name: string): unknown => {
    if (Array.isArray(value)) return value.map((one) => text(one, name));
    if (typeof value === "object" && value !== null) return Object.fromEntries(Object.entries(value).map(([key, one]) => [key, text(one, key)]));
    if (typeof value !== "number" || NUMBERED.has(name)) return value;
    return unit === "m" || OWN_UNIT.test(name) ? String(value) : `${value} m`;
  };
  const document: CheckDocument = { kind: from.kind, units: { ...from.units, length: unit }, observations: text(from.observations, "") as CheckDocument["observations"] };
  if (from.conditions) document.conditions = text(from.conditions, "conditions_c") as NonNullable<CheckDocument["conditions"]>;
  if (from.remark) document.remark = from.remark;
  return document;
}
const NUMBERED = new Set(["vial", "round"]);
const OWN_UNIT = /_(mm|m|deg|div|arcsec|arcmin|c|n|mm2|2mm)$|_per_/;

/** The same check again, everything that is measured still to come. */
export function asLeftRows(record: { id: string; kind: string; instrument: string; result?: { result: Record<string, unknown> } | null }, document: CheckDocument, kind: Kind, owner: string): Draft {
  const way = fittingWay(kind, document) as Way;
  const draft = beginRows({ kind, way, instrument: record.instrument, owner, unit: document.units?.length ?? "m", stage: "as-left", pair: record.id });
  // What describes the stand and the thing itself stays; what was read, and what was stored before, does not.
  const kept = way.groups.filter((group) => !group.rows).flatMap((group) => group.fields.filter((field) => field.kind !== "choice" && !field.anew).map((field) => pathOf(group, field, null)));
  const typed = rowsFromFile(document);
  const begun = kept.reduce((grown, path) => (isEmpty(valueAt(typed, path)) ? grown : withAt(grown, path, valueAt(typed, path))), draft.document);
  const found = Object.fromEntries(kind.carries.flatMap((name) => (typeof record.result?.result[name] === "number" ? [[name, record.result.result[name]]] : [])));
  // What was found goes along, so that the second round can say what became of it.
  return { ...draft, document: Object.keys(found).length ? withAt(begun, "observations.found", found) : begun };
}

/** The unit a field is typed in, as it is written beside its name. */
export function unitOf(field: Field, document: CheckDocument): string {
  if (field.kind === "length") return document.units?.length ?? "m";
  if (field.kind === "angle") return ANGLES[document.units?.angle ?? "dms"] ?? "";
  return field.unit;
}
const ANGLES: Record<string, string> = { dms: "ddd.mmss", deg: "°", gon: "gon" };

/** How many figures were typed: in the rows of readings, headings and the like not counted. */
export function countTyped(observations: unknown): number {
  const count = (held: unknown, name: string): number => {
    if (NOT_READ.has(name) || isEmpty(held)) return 0;
    if (Array.isArray(held)) return held.reduce<number>((sum, one) => sum + count(one, name), 0);
    if (typeof held === "object") return Object.entries(held as Row).reduce((sum, [key, one]) => sum + count(one, key), 0);
    return 1;
  };
  return count(observations, "");
}
const NOT_READ = new Set(["found", "corrections_on", "heading_deg", "mark", "vial", "round", "sits_on", "method", "place", "item", "material", "returns", "foot_firm", "joints_firm", "clamps_hold", "hinges_firm", "shoes_firm"]);

/** Faults that belong to one row or group of fields, by path. */
export const faultsUnder = (faults: Fault[], path: string): Fault[] => faults.filter((one) => one.path === path || one.path.startsWith(`${path}.`) || one.path.startsWith(`${path}[`));
