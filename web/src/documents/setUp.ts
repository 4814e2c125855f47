// A set-up as far as it goes: the document the core's guide reads, and the draft that holds it.
import { type Draft, type Length, begin } from "./draft";
import type { Work } from "./work";

export type Bubble = { bearing_deg: number; offset_mm?: number; at_wall?: boolean };
export type Spot = { bearing_deg: number; distance_mm: number };
export type Levelled = { along?: string; across?: string };
export type Ends = { left?: string; right?: string };
export type Swing = { here?: Ends; round?: Ends };
export type Aside = { right?: string; away?: string };
export type Saw = {
  spot_aside?: Aside;
  bubble_aside?: Aside;
  spot?: Spot;
  bubble?: Bubble;
  level?: Levelled;
  swing?: Swing;
};
export type LevelType = "electronic" | "plate" | "two-plates";
export type Options = {
  together?: boolean;
  level_type?: LevelType;
  legs_may?: "lower" | "either";
  stands?: "two-to-you" | "third-along";
  strict?: boolean;
};
export type Tripod = {
  foot_spacing_m?: string;
  head_height_m?: string;
  slope_deg?: string;
  shorten_mm?: Record<string, string>;
  lengthen_mm?: Record<string, string>;
};
export type Conditions = { ground?: string; wind?: string; temperature_c?: string };

export type LogEntry = { step: string; saw?: Saw; confirmed?: boolean; wrong_direction?: boolean; at?: string };

export type SetUpDocument = {
  kind: "set-up";
  units?: { length?: Length };
  conditions?: Conditions;
  work?: Work;
  remark?: string;
  checked_off?: string[];
  observations: {
    method: string;
    mark?: { name?: string; free?: boolean; kind?: string; condition?: string; lean_mm?: string };
    tripod_tag?: string;
    tribrach_tag?: string;
    tripod?: Tripod;
    tripod_material?: "wood" | "aluminium" | "composite";
    eye_height?: string;
    tribrach?: { screws?: 3 | 4; plummet?: string; clockwise_from_above?: string };
    stand_bearing_deg?: number;
    options?: Options;
    quick?: boolean;
    log?: LogEntry[];
    level?: {
      by?: "electronic" | "plate";
      first?: Levelled;
      turned?: Levelled;
      rest_div?: string;
      sensitivity_arcsec_per_div?: string;
    };
    ring_holds?: "yes" | "no" | "not-looked";
    centring_mm?: string;
    height?: { readings?: string[]; radius_mm?: string; constant_mm?: string };
    zero?: { direction?: string; target?: string; reading?: string; counts?: "clockwise" | "anticlockwise" };
    final_check_done?: boolean;
    minutes?: string;
  };
};
export type SetUpDraft = Draft<SetUpDocument>;
type Observed = SetUpDocument["observations"];

/** A new set-up of an instrument over a point. */
export function beginSetUp(
  instrument: string,
  owner: string,
  observations: Observed,
  length: Length = "m",
): SetUpDraft {
  const document: SetUpDocument = { kind: "set-up", units: { length }, observations };
  return { ...begin({ kind: "set-up", instrument, owner }), document };
}

/** One local store holds drafts of every kind: these two say which one is meant. */
export function asSetUp(draft: Draft): SetUpDraft | null {
  return draft.kind === "set-up" ? (draft as unknown as SetUpDraft) : null;
}
export function asDraft(draft: SetUpDraft): Draft {
  return draft as unknown as Draft;
}

/** The draft with its observations changed. */
export function observing(draft: SetUpDraft, change: Partial<Observed>): SetUpDraft {
  return { ...draft, document: { ...draft.document, observations: { ...draft.document.observations, ...change } } };
}

/** The draft with circumstances or work changed. */
export function around(draft: SetUpDraft, change: Pick<SetUpDocument, "conditions" | "work">): SetUpDraft {
  return { ...draft, document: { ...draft.document, ...change } };
}

/** Only what was typed: an emptied input is as if it had never been filled. */
export function filled<T extends object>(values: T): T {
  return Object.fromEntries(Object.entries(values).filter(([, each]) => each !== undefined && each !== "")) as T;
}

/** The draft with one more line in its log. */
export function logged(draft: SetUpDraft, entry: LogEntry): SetUpDraft {
  return observing(draft, { log: [...(draft.document.observations.log ?? []), entry] });
}

/** Minutes since it was begun, as a whole number; noted when it is closed. */
export function minutesSince(startedAt: string, now: Date = new Date()): string {
  return String(Math.max(1, Math.round((now.getTime() - new Date(startedAt).getTime()) / 60_000)));
}
