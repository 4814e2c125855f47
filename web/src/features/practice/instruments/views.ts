// What every view of a simulated instrument is given, and where each begins.
import type { Dispatch, SetStateAction } from "react";
import type { Aim, Aims, InstrumentLesson, Looks } from "../../../engine/practice";

export type ViewName = keyof Aims;
export type ViewProps<V extends ViewName> = {
  lesson: InstrumentLesson;
  look: Looks[V];
  aim: Aims[V];
  onAim: Dispatch<SetStateAction<Aims[V]>>;
  small: boolean;
  seconds: number;
};

const FIRST_AIM: Aims = {
  staff: { place: "", staff: "a", focus: 0.6, since: 0, again: 0 },
  circles: {
    face: "left",
    target: "level",
    how: "manual",
    hz_arcsec: null,
    v_arcsec: null,
    focus: 0.1,
    zero_arcsec: 0,
    held_arcsec: null,
    again: 0,
  },
  vial: { heading_deg: 0 },
  paper: { heading_deg: 0, focus: 0.05 },
  ring: { heading_deg: 0 },
  digits: { heading_deg: 0 },
  scale: { place: "", again: 0 },
};
/** Where a lesson begins to look. */
export function firstAim(lesson: InstrumentLesson): Aim {
  const first = FIRST_AIM[lesson.view];
  const place = lesson.places[0]?.name ?? "";
  if ("place" in first) return { ...first, place };
  return "target" in first && place ? { ...first, target: place } : first;
}

/** The choices of where the instrument is turned to, clockwise from where it stood first. */
export const headingsOf = (lesson: InstrumentLesson) =>
  lesson.headings.map((heading) => ({ value: String(heading), label: `${heading}°` }));
export const pointingOf = (lesson: InstrumentLesson) =>
  lesson.pointing.map((each) => ({ value: each.name, label: each.label }));
export const placesOf = (lesson: InstrumentLesson) =>
  lesson.places.map((place) => ({ value: place.name, label: place.label }));
export const VIEW_TITLES: Record<ViewName, string> = {
  staff: "Through the telescope",
  circles: "Through the telescope",
  vial: "The level vial",
  paper: "Through the plummet",
  ring: "The circular level",
  digits: "The electronic level",
  scale: "The scale",
};
