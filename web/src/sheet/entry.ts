// Typing a field sheet: where the reading being typed belongs, what comes next, and what the keys do to the document.
// Pure functions over the document as typed; nothing here reads a number.
import type { Fault, Kind } from "../api/client";
import { type CheckDocument, type Length, type SetUp, type Sight, emptySetUp } from "./draft";

export type Staff = "a" | "b";
export type Wire = "upper" | "middle" | "lower";
export const WIRES: Wire[] = ["upper", "middle", "lower"];
/** A well: a distance, or one reading (of one wire) of a sight. `index` counts the sight's readings as typed. */
export type Spot = { setup: number; staff: Staff; what: "distance" | "reading" | Wire; index: number };
type Layout = Kind["layouts"][number];

export const setupsOf = (document: CheckDocument): SetUp[] => document.observations.setups ?? [];
export const sightOf = (document: CheckDocument, at: Pick<Spot, "setup" | "staff">): Sight => setupsOf(document)[at.setup]?.[at.staff] ?? {};
export const threeWire = (sight: Sight): boolean => sight.wires !== undefined;
export const countOf = (sight: Sight): number => Math.max(1, threeWire(sight) ? (sight.wires?.length ?? 0) : (sight.readings?.length ?? 0));

/** A well's name: one a sight and wire, whichever of its readings it holds just now. */
export const wellId = (at: Omit<Spot, "index">): string => `well-${at.setup}-${at.staff}-${at.what}`;
export const distancePath = (setup: number, staff: Staff): string => `observations.setups[${setup}].${staff}.distance`;

export function valueAt(document: CheckDocument, at: Spot): string {
  const sight = sightOf(document, at);
  if (at.what === "distance") return sight.distance ?? "";
  if (at.what === "reading") return sight.readings?.[at.index] ?? "";
  return sight.wires?.[at.index]?.[at.what] ?? "";
}

function withSetups(document: CheckDocument, setups: SetUp[]): CheckDocument {
  return { ...document, observations: { ...document.observations, setups } };
}

export function withSight(document: CheckDocument, at: Pick<Spot, "setup" | "staff">, change: (sight: Sight) => Sight): CheckDocument {
  return withSetups(
    document,
    setupsOf(document).map((setup, i) => (i === at.setup ? { ...setup, [at.staff]: change(setup[at.staff]) } : setup)),
  );
}

function replaced<T>(list: T[] | undefined, index: number, value: T, empty: T): T[] {
  const next = [...(list ?? [])];
  while (next.length <= index) next.push(empty);
  next[index] = value;
  return next;
}

export function withValue(document: CheckDocument, at: Spot, value: string): CheckDocument {
  return withSight(document, at, (sight) => {
    const { what, index } = at;
    if (what === "distance") return { ...sight, distance: value };
    if (what === "reading") return { ...sight, readings: replaced(sight.readings, index, value, "") };
    return { ...sight, wires: replaced(sight.wires, index, { ...sight.wires?.[index], [what]: value }, {}) };
  });
}

/** Wells in the order in which readings are taken. Distances taken from the layout, or seen by the wires, are passed over. */
export function readingOrder(document: CheckDocument, filled: string[]): Omit<Spot, "index">[] {
  return setupsOf(document).flatMap((setup, i) =>
    (["a", "b"] as const).flatMap((staff): Omit<Spot, "index">[] => {
      const at = { setup: i, staff };
      if (threeWire(setup[staff])) return WIRES.map((what) => ({ ...at, what }));
      const reading = { ...at, what: "reading" as const };
      return filled.includes(distancePath(i, staff)) ? [reading] : [{ ...at, what: "distance" as const }, reading];
    }),
  );
}

/** The well after (or before) this one, or null at the end. A well that is passed over leads to its own sight's reading. */
export function neighbour(document: CheckDocument, filled: string[], at: Omit<Spot, "index">, step: 1 | -1): Omit<Spot, "index"> | null {
  const order = readingOrder(document, filled);
  const here = order.findIndex((one) => wellId(one) === wellId(at));
  if (here >= 0) return order[here + step] ?? null;
  const own = order.findIndex((one) => one.setup === at.setup && one.staff === at.staff);
  return order[step === 1 ? own : own - 1] ?? null;
}

/** One more reading of this sight: a new empty well; the others stand beside it. No second empty one is opened. */
export function oneMore(document: CheckDocument, at: Spot): { document: CheckDocument; index: number } {
  const sight = sightOf(document, at);
  const last = countOf(sight) - 1;
  const lastEmpty = threeWire(sight) ? !Object.values(sight.wires?.[last] ?? {}).some((one) => one?.trim()) : !sight.readings?.[last]?.trim();
  if (lastEmpty) return { document, index: last };
  const grown = withSight(document, at, (one) => (threeWire(one) ? { ...one, wires: [...(one.wires ?? []), {}] } : { ...one, readings: [...(one.readings ?? []), ""] }));
  return { document: grown, index: last + 1 };
}

/** The same reading again: the last full one of this sight, to the letter, into the empty well or a new one. */
export function sameAgain(document: CheckDocument, at: Spot): { document: CheckDocument; index: number } {
  const sight = sightOf(document, at);
  if (threeWire(sight)) {
    const full = (sight.wires ?? []).filter((one) => WIRES.every((w) => one[w]?.trim()));
    const last = full[full.length - 1];
    if (!last) return { document, index: at.index };
    const more = oneMore(document, at);
    return { document: withSight(more.document, at, (one) => ({ ...one, wires: replaced(one.wires, more.index, { ...last }, {}) })), index: more.index };
  }
  const full = (sight.readings ?? []).filter((one) => one.trim());
  const last = full[full.length - 1];
  if (last === undefined) return { document, index: at.index };
  const more = oneMore(document, at);
  return { document: withValue(more.document, { ...at, what: "reading", index: more.index }, last), index: more.index };
}

function asWires(sight: Sight): Sight {
  const { readings = [], ...rest } = sight;
  return { ...rest, wires: readings.map((one) => (one.trim() ? { middle: one } : {})) };
}

function asReadings(sight: Sight): Sight {
  const { wires = [], ...rest } = sight;
  const kept = wires.map((one) => one.middle ?? "");
  return { ...rest, readings: kept.length ? kept : [""] };
}

const untouched = (sight: Sight): boolean => !sight.readings?.some((one) => one.trim()) && !sight.wires?.some((one) => Object.values(one).some((w) => w?.trim()));

/**
 * Three wires here, or one again; every sight not yet read goes along. What was typed stays as the middle wire.
 * Distances from the layout give way to what the wires show.
 */
export function toggleWires(document: CheckDocument, at: Pick<Spot, "setup" | "staff">, filled: string[]): { document: CheckDocument; filled: string[] } {
  const three = !threeWire(sightOf(document, at));
  let left = filled;
  const setups = setupsOf(document).map((setup, i) => {
    const change = (staff: Staff): Sight => {
      const sight = setup[staff];
      const here = i === at.setup && staff === at.staff;
      if (threeWire(sight) === three || !(here || untouched(sight))) return sight;
      if (!three) return asReadings(sight);
      const path = distancePath(i, staff);
      const wires = asWires(sight);
      if (!left.includes(path)) return wires;
      left = left.filter((one) => one !== path);
      return { ...wires, distance: "" };
    };
    return { a: change("a"), b: change("b") };
  });
  return { document: withSetups(document, setups), filled: left };
}

/** A sign set or taken away: decimal keypads have none. */
export function otherSign(value: string): string {
  const bare = value.trimStart();
  return /^[-−]/.test(bare) ? bare.slice(1) : `-${bare.replace(/^\+/, "")}`;
}

/** Strike a reading: it stays on the sheet and in the record, and is not reckoned with. */
export function strike(document: CheckDocument, at: Spot): CheckDocument {
  return withSight(document, at, (sight) => {
    const value = sight.readings?.[at.index]?.trim();
    if (!value) return sight;
    const readings = sight.readings?.filter((_, i) => i !== at.index) ?? [];
    return { ...sight, readings: readings.length ? readings : [""], struck: [...(sight.struck ?? []), value] };
  });
}

export function putBack(document: CheckDocument, at: Pick<Spot, "setup" | "staff">, index: number): CheckDocument {
  return withSight(document, at, (sight) => {
    const value = sight.struck?.[index];
    if (value === undefined) return sight;
    const struck = sight.struck?.filter((_, i) => i !== index) ?? [];
    return { ...sight, readings: [...(sight.readings ?? []).filter((one) => one.trim()), value], struck };
  });
}

/** Distances of a layout, written as typed in the document's unit, or none. */
function layoutDistances(layout: Layout | undefined, unit: Length): string[][] {
  if (!layout) return [];
  if (unit === "ft" || unit === "usft") return layout.distances_ft.map((pair) => pair.map(String));
  return layout.distances_m.map((pair) => pair.map((metres) => (unit === "m" ? String(metres) : `${metres} m`)));
}

/** Take a layout's distances wherever the person has not typed their own. */
export function takeLayout(document: CheckDocument, filled: string[], layout: Layout, unit: Length): { document: CheckDocument; filled: string[] } {
  const distances = layoutDistances(layout, unit);
  const given: string[] = [];
  const setups = [...setupsOf(document)];
  while (setups.length < Math.max(2, distances.length)) setups.push(emptySetUp());
  const placed = setups.map((setup, i) => {
    const change = (staff: Staff, column: number): Sight => {
      const path = distancePath(i, staff);
      const sight = setup[staff];
      if (threeWire(sight) || (sight.distance?.trim() && !filled.includes(path))) return sight;
      const value = distances[i]?.[column];
      if (value === undefined) return { ...sight, distance: "" };
      given.push(path);
      return { ...sight, distance: value };
    };
    return { a: change("a", 0), b: change("b", 1) };
  });
  const next = withSetups({ ...document, units: { ...document.units, length: unit } }, placed);
  return { document: { ...next, observations: { ...next.observations, layout: layout.name } }, filled: given };
}

/** Another set-up, in the same way of reading as the last. */
export function addSetUp(document: CheckDocument): CheckDocument {
  const setups = setupsOf(document);
  const last = setups[setups.length - 1];
  const fresh = emptySetUp();
  return withSetups(document, [...setups, last && threeWire(last.a) ? { a: { wires: [] }, b: { wires: [] } } : fresh]);
}

/** A set-up gone; marks of distances from the layout move up with the set-ups after it. */
export function removeSetUp(document: CheckDocument, filled: string[], index: number): { document: CheckDocument; filled: string[] } {
  const kept = setupsOf(document).filter((_, i) => i !== index);
  const left = setupsOf(document).flatMap((_, i) => {
    if (i === index) return [];
    return (["a", "b"] as const).filter((staff) => filled.includes(distancePath(i, staff))).map((staff) => distancePath(i > index ? i - 1 : i, staff));
  });
  return { document: withSetups(document, kept), filled: left };
}

/** The same test again from the other end: the same distances with the pegs' parts exchanged, nothing read yet. */
export function fromOtherEnd(document: CheckDocument, filled: string[]): { document: CheckDocument; filled: string[] } {
  const setups = setupsOf(document);
  const blank = (sight: Sight): Sight => (threeWire(sight) ? { wires: [], distance: "" } : { distance: sight.distance ?? "", readings: [""] });
  const added = setups.slice(-2).map((setup) => ({ a: blank(setup.b), b: blank(setup.a) }));
  const paths = added.flatMap((setup, i) =>
    (["a", "b"] as const).filter((staff) => setup[staff].distance?.trim() && !threeWire(setup[staff])).map((staff) => distancePath(setups.length + i, staff)),
  );
  return { document: withSetups(document, [...setups, ...added]), filled: [...filled, ...paths] };
}

/** Where a typed reading stands in the document that is sent, which leaves empty wells out; null for an empty one. */
export function sentIndex(sight: Sight, index: number): number | null {
  const full = (i: number): boolean => (threeWire(sight) ? Object.values(sight.wires?.[i] ?? {}).some((one) => one?.trim()) : Boolean(sight.readings?.[i]?.trim()));
  if (!full(index)) return null;
  return Array.from({ length: index }, (_, i) => i).filter(full).length;
}

/** The path a well's fault carries, in the document as sent. */
export function sentPath(document: CheckDocument, at: Spot): string | null {
  const base = `observations.setups[${at.setup}].${at.staff}`;
  if (at.what === "distance") return `${base}.distance`;
  const index = sentIndex(sightOf(document, at), at.index);
  if (index === null) return null;
  return at.what === "reading" ? `${base}.readings[${index}]` : `${base}.wires[${index}].${at.what}`;
}

/** Faults of one sight that belong to no single well of it, and those of wells that are not shown just now. */
export function faultsOfSight(faults: Fault[], at: Pick<Spot, "setup" | "staff">): Fault[] {
  const base = `observations.setups[${at.setup}].${at.staff}`;
  return faults.filter((one) => one.path === base || one.path.startsWith(`${base}.`));
}
