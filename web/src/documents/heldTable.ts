// A table of somebody's own on its way into a sheet: held while a person says which column is what.
import { type ColumnMap, isTable, lookAtTable, textOf } from "../engine";
import type { Known } from "./orientation";

export type HeldTable = {
  /** Whose file it is: the next person on this device does not see it. */
  owner: string;
  /** What it is read as, and what that is called. */
  kind: string;
  title: string;
  tag: string;
  /** The file's name and its text. */
  name: string;
  text: string;
  station: Known | null;
};

let held: (HeldTable & { number: number }) | null = null;
let count = 0;
/** Kept for this page only: a file of a client's stays out of the device's store. */
export function holdTable(table: HeldTable): void {
  count += 1;
  held = { ...table, number: count };
}
/** `number` is different for each file that was chosen. */
export const heldTable = (owner: string): (HeldTable & { number: number }) | null =>
  held?.owner === owner ? held : null;

/** A table whose headings are not ours is held until somebody has said which column is what; true where it is. */
export async function toBeMapped(wanted: Omit<HeldTable, "name" | "text">, file: File): Promise<boolean> {
  if (!isTable(file)) return false;
  const text = await textOf(file);
  if ((await lookAtTable(wanted.kind, text, null)).ours) return false;
  holdTable({ ...wanted, name: file.name, text });
  return true;
}

type Remembered = { kind: string; headings: string[]; column_map: ColumnMap; at: string };
export type KnownTable = Remembered & { name: string };
const PLACE = "naveta.tables";
const MAX_TABLES = 40;

const alike = (a: string[], b: string[]): boolean =>
  a.length === b.length && a.every((heading, i) => heading.toLowerCase() === b[i]?.toLowerCase());

/** Tables this device has read, for a time without signal. */
function onDevice(): KnownTable[] {
  try {
    return JSON.parse(localStorage.getItem(PLACE) ?? "[]") as KnownTable[];
  } catch {
    return [];
  }
}

export function rememberOnDevice(table: KnownTable): void {
  const others = onDevice().filter((each) => each.kind !== table.kind || !alike(each.headings, table.headings));
  try {
    localStorage.setItem(PLACE, JSON.stringify([table, ...others].slice(0, MAX_TABLES)));
  } catch {
    // A full device forgets how the table was read, and nothing else.
  }
}

/** How a table with these headings was understood last, by anybody of the firm or on this device; null where it is new. */
export function knownTable(kind: string, headings: string[], firm: KnownTable[]): KnownTable | null {
  const found = [...firm, ...onDevice()].filter((each) => each.kind === kind && alike(each.headings, headings));
  return found.sort((a, b) => Date.parse(b.at) - Date.parse(a.at))[0] ?? null;
}
