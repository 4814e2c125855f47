// Words and moments as every place writes them.

/** Where it is: with whom, or on which local store. */
export function whereabouts(row: { crew: string | null; place: string }): string {
  return row.crew ? `${row.crew} crew` : row.place || "Yard";
}

/** A sentence with its full stop. */
export function closed(text: string): string {
  return /[.!?]$/.test(text) ? text : `${text}.`;
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
export const ROLE_NAMES: Record<string, string> = {
  manager: "Equipment manager",
  crew: "Crew chief",
  trainee: "Trainee",
};

export const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);

const ORDINALS = ["first", "second", "third", "fourth", "fifth", "sixth", "seventh", "eighth"];
export const ordinal = (index: number): string => ORDINALS[index] ?? `${index + 1}th`;

const WEEKDAYS = ["Sunday", "Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday"];
const MONTHS = [
  "January",
  "February",
  "March",
  "April",
  "May",
  "June",
  "July",
  "August",
  "September",
  "October",
  "November",
  "December",
];
const DAY_ONLY = /^\d{4}-\d{2}-\d{2}$/;
const two = (count: number): string => String(count).padStart(2, "0");

/** From which minute on (UTC, since 1970) a zone is how many minutes ahead. The server gives them: a browser loads its own
 * tables of zones when it writes its first date, which takes longer than drawing a page. */
type Offsets = readonly (readonly number[])[];
let firm: { zone: string; offsets: Offsets } = { zone: "UTC", offsets: [] };
export function setZone(zone: string, offsets: Offsets): void {
  firm = { zone, offsets };
}

/** A moment whose UTC parts are those of the firm's clock. A day without a time is that day in every zone. */
function local(text: string, zone: string): Date {
  const at = new Date(text);
  if (DAY_ONLY.test(text) || zone !== firm.zone) return at;
  const minute = Number(at) / 60_000;
  const ahead = firm.offsets.findLast((each) => (each[0] ?? 0) <= minute) ?? firm.offsets[0];
  return new Date(Number(at) + (ahead?.[1] ?? 0) * 60_000);
}

const dated = (at: Date): string => `${at.getUTCDate()} ${monthOf(at)}`;

/** A month at an axis: "Mar 2027". */
export const monthOf = (at: Date): string => `${MONTHS[at.getUTCMonth()]?.slice(0, 3)} ${at.getUTCFullYear()}`;

/** A day: "2 Mar 2027". */
export const day = (text: string, zone: string): string => dated(local(text, zone));

/** A day as it is compared: "2027-03-02", in the zone given. */
export const isoDay = (at: Date, zone: string): string => local(at.toISOString(), zone).toISOString().slice(0, 10);

/** A moment in a list or a sentence: "2 Mar 2027, 06:40". */
export const moment = (text: string, zone: string): string => `${day(text, zone)}, ${clock(text, zone)}`;

/** A day that a person plans by, in full: "Tuesday 2 March 2027". */
export function plannedDay(text: string, zone: string): string {
  const at = local(text, zone);
  return `${WEEKDAYS[at.getUTCDay()]} ${at.getUTCDate()} ${MONTHS[at.getUTCMonth()]} ${at.getUTCFullYear()}`;
}

export function clock(text: string, zone: string): string {
  const at = local(text, zone);
  return `${two(at.getUTCHours())}:${two(at.getUTCMinutes())}`;
}

/** A title within a sentence: "Two-peg test" as "two-peg test". */
export const lowered = (title: string): string => title.charAt(0).toLowerCase() + title.slice(1);

/** The day a check comes due again, while it stands; one that failed or is due already has to be done now. */
export const dueOn = (each: { state: string; due_on?: string | null }): string | null =>
  each.state.startsWith("ready") ? (each.due_on ?? null) : null;

/** What the state of one check is called; one that never comes due is taken when it is wanted. */
export const checkState = (each: { state: string; reasons: { code: string }[] }): string =>
  each.state === "ready" && each.reasons[0]?.code === "when-wanted" ? "When needed" : (CHECK_STATES[each.state] ?? "");
const CHECK_STATES: Record<string, string> = {
  ready: "Current",
  "ready-if": "With a condition",
  "check-first": "Due",
  hold: "Failed",
};
