// An orientation as far as it goes: control points, sights as read, and the draft that holds them.
import type { Schemas } from "../api/client";
import { type Draft, type Length, begin } from "./draft";

export type Point = Schemas["PointOut"];
export type Known = { name: string; e: string; n: string; h?: string };
export type Shot = { point?: string; hz?: string; v?: string; slope_distance?: string; horizontal_distance?: string; target_height?: string; face?: "left" | "right"; left_out?: boolean };
export type Closing = { point?: string; hz?: string };
export type Angle = "dms" | "deg" | "gon";
export type Counts = "clockwise" | "anticlockwise";
export const COUNTS: { value: Counts; label: string }[] = [
  { value: "clockwise", label: "Clockwise" },
  { value: "anticlockwise", label: "Anticlockwise" },
];
export type OrientKind = "free-station" | "backsight";

export type OrientDocument = {
  kind: OrientKind;
  units: { length: Length; angle: Angle };
  remark?: string;
  observations: {
    control: Known[];
    shots: Shot[];
    station?: Known;
    instrument_height?: string;
    counts?: Counts;
    closing?: Closing;
    of_set_up?: string;
  };
};
export type OrientDraft = Draft<OrientDocument>;
/** Changes the draft in hand. */
export type Write = (next: (draft: OrientDraft) => OrientDraft) => void;
type Observed = OrientDocument["observations"];

const MOST_POINTS = 60;
export const ORIENT_KINDS: string[] = ["free-station", "backsight"];

/** A control point of the house as it stands in a document: metres, whatever the sheet's unit. */
export function asKnown(point: Point): Known {
  return { name: point.name, e: `${point.e_m} m`, n: `${point.n_m} m`, ...(point.h_m === null ? {} : { h: `${point.h_m} m` }) };
}

export function beginOrientation(instrument: string, owner: string, kind: OrientKind, units: OrientDocument["units"], observed: Partial<Observed>): OrientDraft {
  const document: OrientDocument = { kind, units, observations: { control: [], shots: [{}], ...observed } };
  return { ...begin({ kind, instrument, owner }), document };
}

/** Sights from a file as a draft's document: points named in a table get their coordinates from the firm's list. */
export function withControl(typed: OrientDocument, points: Point[], station: Known | null): OrientDocument {
  const read = typed.observations as Partial<Observed>;
  const shots = (read.shots ?? []).map(tidy);
  const named = new Set(shots.map((one) => one.point));
  const control = read.control?.length ? read.control : points.filter((one) => named.has(one.name)).map(asKnown);
  const over = read.station ?? (typed.kind === "backsight" ? station : null);
  return { ...typed, observations: { ...read, control, shots, ...(over ? { station: over } : {}) } };
}

/** One shelf holds drafts of every kind: these two say which one is meant. */
export function asOrient(draft: Draft): OrientDraft | null {
  return ORIENT_KINDS.includes(draft.kind) ? (draft as unknown as OrientDraft) : null;
}
export function asDraft(draft: OrientDraft): Draft {
  return draft as unknown as Draft;
}

export function observing(draft: OrientDraft, change: Partial<Observed>): OrientDraft {
  return { ...draft, document: { ...draft.document, observations: { ...draft.document.observations, ...change } } };
}

/** A sight changed; an emptied well is as if it had never been filled. */
export function withShot(draft: OrientDraft, index: number, change: Shot): OrientDraft {
  const shots = draft.document.observations.shots.map((one, i) => (i === index ? tidy({ ...one, ...change }) : one));
  return observing(draft, { shots });
}

/** The point of a sight, put among the control points it is reckoned with. */
export function withPoint(draft: OrientDraft, index: number, point: Known): OrientDraft {
  const { control } = draft.document.observations;
  const known = control.some((one) => one.name === point.name) ? control : [...control, point].slice(-MOST_POINTS);
  return withShot(observing(draft, { control: known }), index, { point: point.name });
}

function tidy(shot: Shot): Shot {
  return Object.fromEntries(Object.entries(shot).filter(([, one]) => one !== "" && one !== undefined && one !== false)) as Shot;
}

/** As it is asked about and sent: a last sight that nothing was typed into is no sight. */
export function orientToSend(document: OrientDocument): OrientDocument {
  const { shots, closing, ...rest } = document.observations;
  const told = shots.filter((one, i) => i < shots.length - 1 || Object.keys(one).some((name) => name !== "face" && name !== "point") || one.point);
  return { ...document, observations: { ...rest, shots: told, ...(closing && (closing.point || closing.hz) ? { closing } : {}) } };
}
