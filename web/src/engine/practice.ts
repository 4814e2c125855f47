// Practice runs in the browser's own core alone: many times a second, with or without signal.
import type { Schemas } from "../api/client";
import { ask } from "./own";

export type Lesson = Schemas["LessonOut"];
export type Seen = Schemas["StandSeen"];
export type Gesture = Schemas["Gesture"];
export type Judged = Schemas["Judged"];
export type Step = { state: Record<string, unknown>; seen: Seen; refused: string };
export type Move = { do: string; leg?: string; mm?: number; right_mm?: number; away_mm?: number; turn_deg?: number; turns?: Record<string, number>; share?: number };
export type Situation = { lesson: string; seed: number };

/** Every lesson, in the order in which people learn. */
export const practiceLessons = (): Promise<Lesson[]> => ask({ verb: "practice-lessons" });

/** The stand after some moves and some seconds; without a state the lesson begins. */
export const practiceStep = (of: Situation, state: Record<string, unknown> | null, moves: Move[], seconds: number): Promise<Step> => ask({ verb: "practice-step", ...of, state, moves, seconds });

/** The next move, by the advisors of a real set-up. */
export const practiceAdvice = (of: Situation, state: Record<string, unknown>): Promise<Schemas["PracticeAdvice"]> => ask({ verb: "practice-advice", ...of, state });

/** How it went. */
export const practiceJudge = (of: Situation, gestures: Gesture[], seconds: number): Promise<Judged> => ask({ verb: "practice-judge", ...of, gestures, seconds });
