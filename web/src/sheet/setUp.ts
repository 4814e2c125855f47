// A set-up as far as it goes: the document the core's guide reads, and the draft that holds it.
import { type Draft, type Length, begin } from "./draft";

export type Bubble = { bearing_deg: number; offset_mm?: number; at_wall?: boolean };
export type Spot = { bearing_deg: number; distance_mm: number };
export type Levelled = { along?: string; across?: string };
export type Saw = { spot?: Spot; bubble?: Bubble; level?: Levelled };
export type LogEntry = { act: string; saw?: Saw; confirmed?: boolean; wrong_way?: boolean; at?: string };

export type SetUpDocument = {
  kind: "set-up";
  units?: { length?: Length };
  conditions?: { wind?: string };
  work?: { sight_m?: string };
  remark?: string;
  observations: {
    way: string;
    mark?: { name?: string; free?: boolean };
    tripod_tag?: string;
    tripod?: { foot_spacing_m?: string; head_height_m?: string };
    eye_height?: string;
    base?: { screws: 3 | 4 };
    stand_bearing_deg?: number;
    options?: { together?: boolean; fine?: "plate" | "two-plates" | "electronic"; legs_may?: "lower" | "either" };
    quick?: boolean;
    log?: LogEntry[];
    level?: { by?: "electronic" | "plate"; first?: Levelled; turned?: Levelled };
    ring_holds?: "yes" | "no" | "not-looked";
    centring_mm?: string;
    height?: { readings?: string[] };
    zero?: { target?: string; reading?: string };
    looked_last?: boolean;
    minutes?: string;
  };
};
export type SetUpDraft = Draft<SetUpDocument>;
type Observed = SetUpDocument["observations"];

/** A new set-up of an instrument over a point. */
export function beginSetUp(instrument: string, owner: string, observations: Observed): SetUpDraft {
  const document: SetUpDocument = { kind: "set-up", units: { length: "m" }, observations };
  return { ...begin({ kind: "set-up", instrument, owner }), document };
}

/** One shelf holds drafts of every kind: these two say which one is meant. */
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

/** The draft with one more line in its log. */
export function logged(draft: SetUpDraft, entry: LogEntry): SetUpDraft {
  return observing(draft, { log: [...(draft.document.observations.log ?? []), entry] });
}

/** Minutes since it was begun, as a whole number; noted when it is closed. */
export function minutesSince(startedAt: string, now: Date = new Date()): string {
  return String(Math.max(1, Math.round((now.getTime() - new Date(startedAt).getTime()) / 60_000)));
}
