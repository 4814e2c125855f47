// The form of a check as it lies over a document: the groups of its method, each at its place. Nothing here knows a kind.
import type { Fault, Kind } from "../api/client";
import { isEmpty } from "./clean";
import type { CheckDocument } from "./draft";
import { type Row, listAt, textAt, valueAt } from "./paths";

export type Method = Kind["methods"][number];
export type Group = Kind["groups"][number];
export type Field = Group["fields"][number];
export type Instead = NonNullable<Group["instead"]>;
/** One entry of a list that groups are repeated for. */
export type Entry = { list: string; index: number; each: NonNullable<Group["each"]> };
/** A group at its place; `fields`, `rows` and the rest are those of what stands there now, its own or what is filled instead. */
export type Placed = Omit<Group, "path" | "instead" | "each" | "struck"> & {
  path: string;
  own: string;
  struck: string;
  instead: Instead | null;
  byInstead: boolean;
  entry: Entry | null;
};
/** An input or a choice: the place in the document it fills. */
export type Spot = { path: string; field: Field; group: Placed; row: number | null };

export const methodOf = (kind: Kind, document: CheckDocument): Method | undefined =>
  kind.methods.find((each) => each.name === document.method);

/** The form of a document: its method's, or the kind's where it names none or holds more than its method asks for. */
export function formOf(kind: Kind, document: CheckDocument): Placed[] {
  const method = methodOf(kind, document);
  const general = place(document, kind.groups);
  if (!method) return general;
  const placed = place(document, method.groups);
  const shown = new Set(placed.flatMap((each) => (each.rows ? [each.path] : [])));
  const more = general.some(
    (each) => each.rows && !shown.has(each.path) && listAt(document, each.path).some((row) => holdsReading(row, each)),
  );
  return more ? general : placed;
}

const holdsReading = (row: unknown, group: Placed): boolean =>
  group.fields.some((field) => !field.prefilled && !isEmpty(field.name ? (row as Row)?.[field.name] : row));

/** Groups at their places, in the order in which they are read: those of a list entry by entry. */
export function place(document: CheckDocument, groups: Group[]): Placed[] {
  const placed: Placed[] = [];
  for (let i = 0; i < groups.length;) {
    const { each } = groups[i] as Group;
    const last = groups.findIndex((group, k) => k > i && group.each?.path !== each?.path);
    const run = each ? groups.slice(i, last < 0 ? groups.length : last) : [groups[i] as Group];
    if (!each) placed.push(...run.map((group) => placedAt(document, group, group.path, null)));
    else
      placed.push(
        ...entriesOf(document, each).flatMap((entry) =>
          run.map((group) => placedAt(document, group, under(group.path, entry), entry)),
        ),
      );
    i += run.length;
  }
  return placed;
}

function entriesOf(document: CheckDocument, each: Entry["each"]): Entry[] {
  return expanded(document, each.path).flatMap((list) => {
    const count = Math.max(listAt(document, list).length, each.fewest);
    return Array.from({ length: count }, (_, index) => ({ list, index, each }));
  });
}

/** A path with `[*]` as the paths there are. */
function expanded(document: CheckDocument, path: string): string[] {
  const [head = "", ...tail] = path.split("[*]");
  if (!tail.length) return [path];
  return Array.from(
    { length: Math.max(1, listAt(document, head).length) },
    (_, i) => `${head}[${i}]${tail.join("[*]")}`,
  ).flatMap((each) => expanded(document, each));
}

const under = (path: string, entry: Entry): string =>
  `${entry.list}[${entry.index}]${path.slice(entry.each.path.length + "[*]".length)}`;

function placedAt(document: CheckDocument, group: Group, path: string, entry: Entry | null): Placed {
  const at = (pattern: string) => (entry ? under(pattern, entry) : pattern);
  const instead = group.instead ? { ...group.instead, path: at(group.instead.path) } : null;
  const byInstead =
    instead !== null &&
    listAt(document, instead.path).length > 0 &&
    !listAt(document, path).some((each) => !isEmpty(each));
  return {
    ...group,
    ...(byInstead && instead ? instead : {}),
    title: group.title,
    path: byInstead && instead ? instead.path : path,
    own: path,
    struck: group.struck && at(group.struck),
    instead,
    byInstead,
    entry,
  };
}

/** Where a field of a group stands; of a list without names the entry itself. */
export function pathOf(group: Placed, field: Field, row: number | null): string {
  const base = row === null ? group.path : `${group.path}[${row}]`;
  return field.name ? `${base}.${field.name}` : base;
}

export const rowsOf = (document: CheckDocument, group: Placed): unknown[] => listAt(document, group.path);
/** As many rows as are shown: one to be filled where there is none yet. */
export const countOf = (document: CheckDocument, group: Placed): number =>
  Math.max(rowsOf(document, group).length, group.fewest > 0 ? 1 : 0);

/** In which repeat a row was taken; the first says nothing of it. */
export const repeatOf = (row: unknown): number => (row as { repeat?: number } | null | undefined)?.repeat ?? 1;

export function spotsOf(document: CheckDocument, form: Placed[]): Spot[] {
  return form.flatMap((group) => {
    const rows = group.rows ? Array.from({ length: countOf(document, group) }, (_, i) => i) : [null];
    return rows.flatMap((row) => group.fields.map((field) => ({ path: pathOf(group, field, row), field, group, row })));
  });
}

const TYPED = new Set(["number", "length", "angle", "text"]);

/** Whether a field beside a list is given by what is filled there instead: a distance by three wires. */
export function filledInstead(form: Placed[], group: Placed, field: Field): Placed | undefined {
  if (!field.prefilled) return undefined;
  return form.find((other) => other.byInstead && other.path.startsWith(`${group.path}.`));
}

/** The input after (or before) this one in reading order; what the method has filled in is skipped. */
export function nextSpot(document: CheckDocument, form: Placed[], path: string, step: 1 | -1): Spot | null {
  const inputs = spotsOf(
    document,
    form.filter((each) => !each.setting && !each.before),
  ).filter((each) => TYPED.has(each.field.kind));
  const here = inputs.findIndex((input) => input.path === path);
  const rest = step === 1 ? inputs.slice(here + 1) : inputs.slice(0, here).reverse();
  return (
    rest.find(
      (each) =>
        !(each.field.prefilled && textAt(document, each.path).trim()) && !filledInstead(form, each.group, each.field),
    ) ?? null
  );
}

/** Return the first empty reading, or null when all are filled. */
export function firstOpen(document: CheckDocument, form: Placed[]): Spot | null {
  const read = form.filter((each) => !each.setting && !each.before);
  return (
    spotsOf(document, read).find(
      ({ path, field, group }) =>
        TYPED.has(field.kind) &&
        !field.optional &&
        textAt(document, path).trim() === "" &&
        !filledInstead(form, group, field),
    ) ?? null
  );
}

/** Whether every input that must be filled is filled: all that can be said of a draft without the core. */
export function finished(document: CheckDocument, form: Placed[]): boolean {
  return spotsOf(document, form).every(({ field, path, row, group }) => {
    if (
      field.optional ||
      !TYPED.has(field.kind) ||
      textAt(document, path).trim() !== "" ||
      filledInstead(form, group, field)
    )
      return true;
    return row !== null && row > 0 && isEmpty(rowsOf(document, group)[row]);
  });
}

/** How many readings were typed: rows with something in them that the method did not fill in. */
export function countTyped(document: CheckDocument, form: Placed[]): number {
  return form
    .filter((each) => each.rows)
    .reduce((sum, group) => sum + rowsOf(document, group).filter((row) => holdsReading(row, group)).length, 0);
}

/** Faults that belong to one row or group of fields, by path. */
export const faultsUnder = (faults: Fault[], path: string): Fault[] =>
  faults.filter(
    (fault) => fault.path === path || fault.path.startsWith(`${path}.`) || fault.path.startsWith(`${path}[`),
  );

/** The unit a field is typed in, as it is written beside its name. */
export function unitOf(field: Field, document: CheckDocument): string {
  if (field.kind === "length") return document.units?.length ?? "m";
  if (field.kind === "angle") return ANGLES[document.units?.angle ?? "dms"] ?? "";
  return field.unit;
}
const ANGLES: Record<string, string> = { dms: "ddd.mmss", deg: "°", gon: "gon" };

/** Whether a form has a field of a kind. */
export const hasField = (groups: Pick<Group, "fields">[], kind: Field["kind"]): boolean =>
  groups.some((group) => group.fields.some((field) => field.kind === kind));

/** Whether a check was taken more than once: by its rows, or by twice as many entries as it needs. */
export function takenAgain(document: CheckDocument, form: Placed[]): boolean {
  const entries = form.flatMap((item) => (item.entry && item.entry.each.fewest > 1 ? [item.entry] : []));
  if (entries.some(({ index, each }) => index + 1 >= 2 * each.fewest)) return true;
  return form.some((group) => group.repeats && rowsOf(document, group).some((row) => repeatOf(row) > 1));
}

/**
 * Groups as they are laid out. Those of one part of a list (a set-up, a target) stand together: what is given once of it in
 * its head, parts alike (both staffs, both faces) side by side, in whatever order they are read.
 */
export type Block = { entry: Entry | null; part: string; head: Placed[]; columns: Placed[][] };

export function blocksOf(form: Placed[]): Block[] {
  const blocks: { entry: Entry | null; part: string; groups: Placed[] }[] = [];
  for (const group of form) {
    const part = partOf(group);
    const same = part ? blocks.find((block) => block.part === part) : undefined;
    if (same) same.groups.push(group);
    else blocks.push({ entry: group.entry, part, groups: [group] });
  }
  return blocks.map(({ entry, part, groups }) => ({ entry, part, ...columnsOf(part, groups) }));
}

/** The part of a list a group belongs to: "observations.targets[0]"; empty for what stands on its own. */
function partOf(group: Placed): string {
  if (group.entry) return `${group.entry.list}[${group.entry.index}]`;
  return /^.*\[\d+\](?=$|\.)/.exec(group.own)?.[0] ?? "";
}

function columnsOf(part: string, groups: Placed[]): { head: Placed[]; columns: Placed[][] } {
  const named = groups.map((group) =>
    group.own.startsWith(`${part}.`) ? (group.own.slice(part.length + 1).split(".")[0] ?? "") : "",
  );
  const head = groups.filter((group, i) => !named[i] && !group.rows);
  const names = [...new Set(named.filter(Boolean))];
  const alike =
    names.length > 1 &&
    names.every((name) =>
      sameShape(
        groups.filter((_, i) => named[i] === names[0]),
        groups.filter((_, i) => named[i] === name),
      ),
    );
  if (!part || !alike || head.length + named.filter(Boolean).length < groups.length)
    return { head: [], columns: [groups] };
  const order = FACES.every((face) => names.includes(face))
    ? [...FACES, ...names.filter((name) => !FACES.includes(name))]
    : names;
  const columns = order.map((name) => groups.filter((_, i) => named[i] === name));
  // Lists of rows only (both faces by eye, both by tracker): each is a column of its own, two beside each other.
  return {
    head,
    columns: columns.flat().every((group) => group.rows) ? columns.flat().map((group) => [group]) : columns,
  };
}

/** Face left stands left. */
const FACES = ["left", "right"];

const sameShape = (one: Placed[], other: Placed[]): boolean =>
  one.length === other.length &&
  one.every(
    (group, i) =>
      group.rows === other[i]?.rows &&
      group.fields.map((field) => field.name).join() === other[i]?.fields.map((field) => field.name).join(),
  );

/** Something filled in beside a group, or by the method: shown quietly. */
export const isPrefilled = (document: CheckDocument, field: Field, path: string): boolean =>
  field.prefilled && !isEmpty(valueAt(document, path));
