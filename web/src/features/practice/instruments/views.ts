// What every view of a simulated instrument is given, and where each begins.
import type { Dispatch, SetStateAction } from "react";
import type { Aims, Looks } from "../../../engine/practice";

export type ViewName = keyof Aims;
export type ViewProps<V extends ViewName> = { look: Looks[V]; aim: Aims[V]; onAim: Dispatch<SetStateAction<Aims[V]>>; small: boolean };

export const FIRST_AIM: Aims = {
  staff: { place: "middle", staff: "a", focus: 0.6 },
  circles: { face: "left", hz_arcsec: null, v_arcsec: null, focus: 0.1, zero_arcsec: 0, held_arcsec: null },
  vial: { heading_deg: 0 },
  paper: { heading_deg: 0, focus: 0.05 },
};
export const VIEW_TITLES: Record<ViewName, string> = { staff: "Through the telescope", circles: "Through the telescope", vial: "The level vial", paper: "Through the plummet" };
