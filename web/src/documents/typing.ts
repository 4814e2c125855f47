// What the keys and touches of a sheet do to its document. Pure functions; nothing here reads a number.
import { isEmpty } from "./clean";
import type { CheckDocument } from "./draft";
import { type Entry, type Placed, type Spot, countOf, pathOf, repeatOf, rowsOf } from "./form";
import { type Row, listAt, textAt, valueAt, withAt, withoutAt } from "./paths";

const inRepeat = (row: Row, repeat: number): Row => (repeat > 1 ? { ...row, repeat } : row);

/** One more row of a list; no second empty one is opened. Gives the path of its first input. */
export function another(document: CheckDocument, group: Placed): { document: CheckDocument; path: string } | null {
  const rows = rowsOf(document, group);
  const first = group.fields[0];
  const last = rows.length - 1;
  const empty = last >= 0 && isEmpty(rows[last]);
  if (!group.rows || !first || (!empty && rows.length >= group.most)) return null;
  const row = empty ? last : rows.length;
  const repeat = group.repeats ? repeatOf(rows[last]) : 1;
  const grown = empty ? document : withAt(document, `${group.path}[${row}]`, first.name ? inRepeat({}, repeat) : "");
  return { document: grown, path: pathOf(group, first, row) };
}

/** The same again: into an empty input what stands above it, behind a full row the same once more. */
export function sameAgain(document: CheckDocument, spot: Spot): { document: CheckDocument; path: string } {
  const { group, row, path } = spot;
  const here = { document, path };
  if (row === null) return here;
  const typed = textAt(document, path).trim();
  const rows = rowsOf(document, group);
  const full = group.fields.every((field) => field.optional || textAt(document, pathOf(group, field, row)).trim());
  if (typed && full && !group.fields.some((field) => field.prefilled)) {
    const more = another(document, group);
    if (!more) return here;
    const at = rows.length && isEmpty(rows[rows.length - 1]) ? rows.length - 1 : rows.length;
    const same = rows[row];
    return {
      document: withAt(more.document, `${group.path}[${at}]`, typeof same === "object" ? { ...same } : same),
      path: more.path,
    };
  }
  const above = Array.from({ length: row }, (_, i) => textAt(document, pathOf(group, spot.field, i)).trim())
    .filter(Boolean)
    .pop();
  return above ? { document: withAt(document, path, above), path } : here;
}

export function removeRow(document: CheckDocument, group: Placed, row: number): CheckDocument {
  return withAt(
    document,
    group.path,
    rowsOf(document, group).filter((_, i) => i !== row),
  );
}

/** A sign set or taken away: decimal keypads have none. */
export function otherSign(value: string): string {
  const bare = value.trimStart();
  return /^[-−]/.test(bare) ? bare.slice(1) : `-${bare.replace(/^\+/, "")}`;
}

/** Strike a reading: it stays on the sheet and in the record, and is not used. */
export function strike(document: CheckDocument, group: Placed, row: number): CheckDocument {
  const value = String(rowsOf(document, group)[row] ?? "").trim();
  if (!value || !group.struck) return document;
  const stored = rowsOf(document, group).filter((_, i) => i !== row);
  const struck = withAt(document, group.struck, [...listAt(document, group.struck), value]);
  return withAt(struck, group.path, stored.length ? stored : [""]);
}

export function putBack(document: CheckDocument, group: Placed, index: number): CheckDocument {
  const struck = listAt(document, group.struck);
  if (struck[index] === undefined) return document;
  const readings = [...rowsOf(document, group).filter((each) => !isEmpty(each)), struck[index]];
  return withAt(
    withAt(document, group.path, readings),
    group.struck,
    struck.filter((_, i) => i !== index),
  );
}

/**
 * What may be filled instead here (three wires for single readings), or its own again; every such group not yet read goes
 * along. What was typed stays, as the middle one. What the method had filled in beside it gives way: `begun` is the
 * document's observations as they were begun.
 */
export function toggleInstead(document: CheckDocument, form: Placed[], at: Placed, begun: unknown): CheckDocument {
  const to = !at.byInstead;
  const along = form.filter(
    (each) =>
      each.instead &&
      each.byInstead !== to &&
      (each.own === at.own || rowsOf(document, each).every((row) => isEmpty(row))),
  );
  return along.reduce((grown, each) => (to ? asInstead(grown, form, each, begun) : asOwn(grown, each)), document);
}

function asInstead(document: CheckDocument, form: Placed[], group: Placed, begun: unknown): CheckDocument {
  const { instead } = group;
  if (!instead) return document;
  const middle = instead.fields[Math.floor(instead.fields.length / 2)]?.name ?? "";
  const rows = Array.from({ length: countOf(document, group) }, (_, i) => rowsOf(document, group)[i]).map((each) =>
    isEmpty(each) ? {} : { [middle]: each },
  );
  const filled = withAt(withoutAt(document, group.own), instead.path, rows.length ? rows : [{}]);
  const beside = form
    .filter((other) => !other.rows && group.own.startsWith(`${other.path}.`))
    .flatMap((other) => other.fields.filter((field) => field.prefilled).map((field) => pathOf(other, field, null)));
  return beside.reduce(
    (grown, path) =>
      valueAt({ observations: begun }, path) === valueAt(grown, path) ? withAt(grown, path, "") : grown,
    filled,
  );
}

function asOwn(document: CheckDocument, group: Placed): CheckDocument {
  const middle = group.fields[Math.floor(group.fields.length / 2)]?.name ?? "";
  const stored = rowsOf(document, group).map((each) => String((each as Row | null)?.[middle] ?? ""));
  return withAt(
    group.instead ? withoutAt(document, group.instead.path) : document,
    group.own,
    stored.length ? stored : [""],
  );
}

/** One more entry of a list, to be read as the last one is. */
export function addEntry(document: CheckDocument, { list }: Pick<Entry, "list">): CheckDocument {
  const entries = listAt(document, list);
  return withAt(document, `${list}[${entries.length}]`, blankLike(entries[entries.length - 1] ?? {}));
}

function blankLike(value: unknown): unknown {
  if (Array.isArray(value)) return value.length ? [blankLike(value[0])] : [];
  if (typeof value !== "object" || value === null) return "";
  return Object.fromEntries(
    Object.entries(value)
      .filter(([name]) => name !== "repeat" && name !== "struck")
      .map(([name, each]) => [name, blankLike(each)]),
  );
}

export function removeEntry(document: CheckDocument, { list, index }: Entry): CheckDocument {
  return withAt(
    document,
    list,
    listAt(document, list).filter((_, i) => i !== index),
  );
}
