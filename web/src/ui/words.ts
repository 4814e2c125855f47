// Words and moments as every place writes them.

/** Where it is: with whom, or on which local store. */
export function whereabouts(row: { crew: string | null; place: string }): string {
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

/** What records that are neither a check nor an event are called. */
export const RECORD_NAMES: Record<string, string> = {
  "set-up": "Set-up",
  "pre-survey": "Pre-work check",
  backsight: "Backsight",
  "free-station": "Free station",
  struck: "Struck",
};

/** What roles are called. */
export const ROLE_NAMES: Record<string, string> = { manager: "Equipment manager", crew: "Crew chief", trainee: "Trainee" };

export const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);

const ORDINALS = ["first", "second", "third", "fourth", "fifth", "sixth", "seventh", "eighth"];
export const ordinal = (index: number): string => ORDINALS[index] ?? `${index + 1}th`;

/** One writer for each form and zone: making one takes a hundred times as long as writing a date with it. */
const writers = new Map<string, Intl.DateTimeFormat>();
function writer(form: string, options: Intl.DateTimeFormatOptions, zone: string): Intl.DateTimeFormat {
  const key = `${form} ${zone}`;
  const made = writers.get(key) ?? new Intl.DateTimeFormat("en-GB", { ...options, timeZone: zone });
  writers.set(key, made);
  return made;
}

/** A day: "2 Mar 2027". */
export function day(text: string, zone: string): string {
  return writer("day", { day: "numeric", month: "short", year: "numeric" }, zone).format(new Date(text));
}

/** A day as it is compared: "2027-03-02", in the zone given. */
export function isoDay(moment: Date, zone: string): string {
  const written = writer("iso", { day: "2-digit", month: "2-digit", year: "numeric" }, zone).format(moment);
  return written.split("/").reverse().join("-");
}

/** A moment in a list or a sentence: "2 Mar 2027, 06:40". */
export const moment = (text: string, zone: string): string => `${day(text, zone)}, ${clock(text, zone)}`;

/** A day that a person plans by, in full: "Tuesday 2 March 2027". */
export function plannedDay(text: string, zone: string): string {
  return writer("planned", { weekday: "long", day: "numeric", month: "long", year: "numeric" }, zone).format(new Date(text)).replace(",", "");
}

export function clock(text: string, zone: string): string {
  return writer("clock", { hour: "2-digit", minute: "2-digit" }, zone).format(new Date(text));
}

/** A title within a sentence: "Two-peg test" as "two-peg test". */
export const lowered = (title: string): string => title.charAt(0).toLowerCase() + title.slice(1);

/** The day a check comes due again, while it stands; one that failed or is due already has to be done now. */
export const dueOn = (each: { state: string; due_on?: string | null }): string | null => (each.state.startsWith("ready") ? (each.due_on ?? null) : null);

/** What the state of one check is called; one that never comes due is taken when it is wanted. */
export const checkState = (each: { state: string; reasons: { code: string }[] }): string => (each.state === "ready" && each.reasons[0]?.code === "when-wanted" ? "When needed" : (CHECK_STATES[each.state] ?? ""));
const CHECK_STATES: Record<string, string> = { ready: "Current", "ready-if": "With a condition", "check-first": "Due", hold: "Failed" };
