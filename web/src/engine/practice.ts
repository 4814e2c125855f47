// Practice runs in the browser's own core alone: many times a second, with or without signal.
import type { Schemas } from "../api/client";
import { ask } from "./own";

export type Lesson = Schemas["LessonOut"];
export type Seen = Schemas["StandSeen"];
export type Gesture = Schemas["Gesture"];
export type Judged = Schemas["Judged"];
export type InstrumentLesson = Schemas["InstrumentLessonOut"];
export type Looks = {
  staff: Schemas["StaffLook"];
  circles: Schemas["CirclesLook"];
  vial: Schemas["VialLook"];
  paper: Schemas["PaperLook"];
  ring: Schemas["RingLook"];
  digits: Schemas["DigitsLook"];
  scale: Schemas["ScaleLook"];
};
export type Look = Looks[keyof Looks];
export type InstrumentJudged = Schemas["InstrumentJudged"];
export type Aims = {
  staff: { place: string; staff: "a" | "b"; focus: number; since: number; again: number };
  circles: {
    face: "left" | "right";
    target: string;
    how: string;
    hz_arcsec: number | null;
    v_arcsec: number | null;
    focus: number;
    zero_arcsec: number;
    held_arcsec: number | null;
    again: number;
  };
  vial: { heading_deg: number };
  paper: { heading_deg: number; focus: number };
  ring: { heading_deg: number };
  digits: { heading_deg: number };
  scale: { place: string; again: number };
};
export type Aim = Aims[keyof Aims];
/** Where each screw was turned round, and where it is now: in turns, clockwise positive; of a stored value, the value. */
export type Turns = Record<string, number[]>;
export type InstrumentStep = {
  seconds: number;
  do: "look" | "focus" | "point" | "read" | "turn" | "again";
  label: string;
  typed: string;
  aim: Record<string, unknown>;
  turns: Turns;
};
export type InstrumentWork = Situation & {
  found: unknown;
  turns: Turns;
  left: unknown;
  blurs: number[];
  steps: InstrumentStep[];
  seconds: number;
};
export type Step = { state: Record<string, unknown>; seen: Seen; refused: string };
export type Move = {
  do: string;
  leg?: string;
  mm?: number;
  right_mm?: number;
  away_mm?: number;
  turn_deg?: number;
  turns?: Record<string, number>;
  share?: number;
};
export type Situation = { lesson: string; seed: number };

/** Every lesson, in the order in which people learn. */
export const practiceLessons = (): Promise<Lesson[]> => ask({ verb: "practice-lessons" });

/** The stand after some moves and some seconds; without a state the lesson begins. */
export const practiceStep = (
  of: Situation,
  state: Record<string, unknown> | null,
  moves: Move[],
  seconds: number,
): Promise<Step> => ask({ verb: "practice-step", ...of, state, moves, seconds });

/** The next move, by the advisors of a real set-up. */
export const practiceAdvice = (of: Situation, state: Record<string, unknown>): Promise<Schemas["PracticeAdvice"]> =>
  ask({ verb: "practice-advice", ...of, state });

/** How it went. */
export const practiceJudge = (of: Situation, gestures: Gesture[], seconds: number): Promise<Judged> =>
  ask({ verb: "practice-judge", ...of, gestures, seconds });

/** Every lesson with a simulated instrument. */
export const instrumentLessons = (): Promise<InstrumentLesson[]> => ask({ verb: "practice-instruments" });

/** What is seen at a moment. */
export const practiceLook = (of: Situation, aim: Aim, turns: Turns, seconds: number): Promise<Look> =>
  ask({ verb: "practice-look", ...of, aim, turns, seconds });

/** How it went with an instrument. */
export const judgeInstrument = (work: InstrumentWork): Promise<InstrumentJudged> =>
  ask({ verb: "practice-instrument-judge", ...work });

export type FaultLesson = Schemas["FaultLessonOut"];
export type FaultSituation = Schemas["FaultSituationOut"];
/** `checks`: the finished sheet of each check that was run, by the lesson it is practised in. */
export type FaultWork = Situation & {
  named: string;
  checks: Record<string, unknown>;
  blurs: number[];
  seconds: number;
};

/** Every lesson in which a fault is named. */
export const faultLessons = (): Promise<FaultLesson[]> => ask({ verb: "practice-faults" });

/** What was noticed, and the checks to choose from. */
export const faultSituation = (of: Situation): Promise<FaultSituation> => ask({ verb: "practice-fault", ...of });

/** How it went. */
export const judgeFault = (work: FaultWork): Promise<InstrumentJudged> =>
  ask({ verb: "practice-fault-judge", ...work });

export type MorningLesson = Schemas["MorningLessonOut"];
export type Morning = Schemas["MorningChoice"];
export type MorningJudged = Schemas["MorningJudged"];
export type MorningWork = Situation & { tag: string; checks: string[]; seconds: number };

/** Every lesson in which a morning's kit is chosen. */
export const morningLessons = (): Promise<MorningLesson[]> => ask({ verb: "practice-mornings" });

/** A job, and the instruments to choose from. */
export const morningOf = (of: Situation): Promise<Morning> => ask({ verb: "practice-morning", ...of });

/** How the choice went. */
export const judgeMorning = (work: MorningWork): Promise<MorningJudged> =>
  ask({ verb: "practice-morning-judge", ...work });
