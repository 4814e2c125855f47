// Words and moments as every place writes them.
import type { InstrumentRow } from "../api/client";

/** Where it is: with whom, or on which shelf. */
export function whereabouts(row: Pick<InstrumentRow, "crew" | "place">): string {
  return row.crew ? `${row.crew} crew` : row.place || "Yard";
}

/** A sentence with its full stop. */
export function closed(text: string): string {
  return /[.!?]$/.test(text) ? text : `${text}.`;
}

/** Keeps a figure with its sign and unit on one line. */
export function bound(text: string): string {
  return text.replace(/± /g, "±\u00a0").replace(/(\d) (mm|m|ft|km)\b/g, "$1\u00a0$2");
}

export const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);

const ORDINALS = ["first", "second", "third", "fourth", "fifth", "sixth", "seventh", "eighth"];
export const ordinal = (index: number): string => ORDINALS[index] ?? `${index + 1}th`;

/** A moment as it is told: weekday, day and time in the firm's zone. */
export function moment(text: string, zone: string, withTime = true): string {
  const date = new Date(text);
  const day = date.toLocaleDateString("en-GB", { weekday: "long", day: "numeric", month: "long", year: "numeric", timeZone: zone });
  if (!withTime) return day;
  return `${day}, ${date.toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit", timeZone: zone })}`;
}

/** The same in little room: "Thu 18 Feb 2027, 07:45". */
export function shortMoment(text: string, zone: string): string {
  const date = new Date(text);
  const day = date.toLocaleDateString("en-GB", { weekday: "short", day: "numeric", month: "short", year: "numeric", timeZone: zone }).replace(",", "");
  return `${day}, ${clock(text, zone)}`;
}

export function clock(text: string, zone: string): string {
  return new Date(text).toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit", timeZone: zone });
}

/** A title within a sentence: "Two-peg test" as "two-peg test". */
export const lowered = (title: string): string => title.charAt(0).toLowerCase() + title.slice(1);

/** What the state of one check is called; one that never comes due is taken when it is wanted. */
export const checkState = (one: { state: string; reasons: { code: string }[] }): string => (one.state === "ready" && one.reasons[0]?.code === "when-wanted" ? "When needed" : (CHECK_STATES[one.state] ?? ""));
const CHECK_STATES: Record<string, string> = { ready: "Current", "ready-if": "With a condition", "check-first": "Due", hold: "Failed" };
