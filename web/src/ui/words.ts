// Words and moments as every place writes them.
import type { InstrumentRow } from "../api/client";

/** Where it is: with whom, or on which local store. */
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

/** A day: "2 Mar 2027". */
export function day(text: string, zone: string): string {
  return new Date(text).toLocaleDateString("en-GB", { day: "numeric", month: "short", year: "numeric", timeZone: zone });
}

/** A moment in a list or a sentence: "2 Mar 2027, 06:40". */
export const moment = (text: string, zone: string): string => `${day(text, zone)}, ${clock(text, zone)}`;

/** A day that a person plans by, in full: "Tuesday 2 March 2027". */
export function plannedDay(text: string, zone: string): string {
  return new Date(text).toLocaleDateString("en-GB", { weekday: "long", day: "numeric", month: "long", year: "numeric", timeZone: zone }).replace(",", "");
}

export function clock(text: string, zone: string): string {
  return new Date(text).toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit", timeZone: zone });
}

/** A title within a sentence: "Two-peg test" as "two-peg test". */
export const lowered = (title: string): string => title.charAt(0).toLowerCase() + title.slice(1);

/** The day a check comes due again, while it stands; one that failed or is due already has to be done now. */
export const dueOn = (each: { state: string; due_on?: string | null }): string | null => (each.state.startsWith("ready") ? (each.due_on ?? null) : null);

/** What the state of one check is called; one that never comes due is taken when it is wanted. */
export const checkState = (each: { state: string; reasons: { code: string }[] }): string => (each.state === "ready" && each.reasons[0]?.code === "when-wanted" ? "When needed" : (CHECK_STATES[each.state] ?? ""));
const CHECK_STATES: Record<string, string> = { ready: "Current", "ready-if": "With a condition", "check-first": "Due", hold: "Failed" };
