// An orientation as far as it goes: control points, sights as read, and the draft that holds them.
import type { Schemas } from "../api/client";
import { type Draft, type Length, begin } from "./draft";

export type Point = Omit<Schemas["PointOut"], "shown">;
export type Known = { name: string; e: string; n: string; h?: string };
export type Shot = {
  point?: string;
  hz?: string;
  v?: string;
  slope_distance?: string;
  horizontal_distance?: string;
  target_height?: string;
  face?: "left" | "right";
  left_out?: boolean;
};
export type Closing = { point?: string; hz?: string };
export type Angle = "dms" | "deg" | "gon";
export type Counts = "clockwise" | "anticlockwise";
export const COUNTS: { value: Counts; label: string }[] = [
  { value: "clockwise", label: "Clockwise" },
  { value: "anticlockwise", label: "Anticlockwise" },
];
export type OrientationKind = "free-station" | "backsight";

export type OrientationDocument = {
  kind: OrientationKind;
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
export type OrientationDraft = Draft<OrientationDocument>;
/** Changes the draft in hand. */
export type Write = (next: (draft: OrientationDraft) => OrientationDraft) => void;
type Observed = OrientationDocument["observations"];

const MAX_POINTS = 60;
export const ORIENTATION_KINDS: string[] = ["free-station", "backsight"];

/** A control point of the server as it stands in a document: metres, whatever the sheet's unit. */
export function asControlPoint(point: Point): Known {
  return {
    name: point.name,
    e: `${point.e_m} m`,
    n: `${point.n_m} m`,
    ...(point.h_m === null ? {} : { h: `${point.h_m} m` }),
  };
}

export function beginOrientation(
  instrument: string,
  owner: string,
  kind: OrientationKind,
  units: OrientationDocument["units"],
  observed: Partial<Observed>,
): OrientationDraft {
  const document: OrientationDocument = { kind, units, observations: { control: [], shots: [{}], ...observed } };
  return { ...begin({ kind, instrument, owner }), document };
}

/** Sights from a file as a draft's document: points named in a table get their coordinates from the firm's list. */
export function withControl(typed: OrientationDocument, points: Point[], station: Known | null): OrientationDocument {
  const read = typed.observations as Partial<Observed>;
  const shots = (read.shots ?? []).map(tidy);
  const named = new Set(shots.map((shot) => shot.point));
  const control = read.control?.length
    ? read.control
    : points.filter((point) => named.has(point.name)).map(asControlPoint);
  const over = read.station ?? (typed.kind === "backsight" ? station : null);
  return { ...typed, observations: { ...read, control, shots, ...(over ? { station: over } : {}) } };
}

/** One local store holds drafts of every kind: these two say which one is meant. */
export function asOrientation(draft: Draft): OrientationDraft | null {
  return ORIENTATION_KINDS.includes(draft.kind) ? (draft as unknown as OrientationDraft) : null;
}
export function asDraft(draft: OrientationDraft): Draft {
  return draft as unknown as Draft;
}

export function observing(draft: OrientationDraft, change: Partial<Observed>): OrientationDraft {
  return { ...draft, document: { ...draft.document, observations: { ...draft.document.observations, ...change } } };
}

/** A sight changed; an emptied input is as if it had never been filled. */
export function withShot(draft: OrientationDraft, index: number, change: Shot): OrientationDraft {
  const shots = draft.document.observations.shots.map((shot, i) => (i === index ? tidy({ ...shot, ...change }) : shot));
  return observing(draft, { shots });
}

/** The point of a sight, put among the control points it is calculated with. */
export function withPoint(draft: OrientationDraft, index: number, point: Known): OrientationDraft {
  const { control } = draft.document.observations;
  const known = control.some((each) => each.name === point.name) ? control : [...control, point].slice(-MAX_POINTS);
  return withShot(observing(draft, { control: known }), index, { point: point.name });
}

function tidy(shot: Shot): Shot {
  return Object.fromEntries(
    Object.entries(shot).filter(([, each]) => each !== "" && each !== undefined && each !== false),
  ) as Shot;
}

/** As it is asked about and sent: a last sight that nothing was typed into is no sight. */
export function orientationToSend(document: OrientationDocument): OrientationDocument {
  const { shots, closing, ...rest } = document.observations;
  const answer = shots.filter(
    (shot, i) =>
      i < shots.length - 1 || Object.keys(shot).some((name) => name !== "face" && name !== "point") || shot.point,
  );
  return {
    ...document,
    observations: { ...rest, shots: answer, ...(closing && (closing.point || closing.hz) ? { closing } : {}) },
  };
}
