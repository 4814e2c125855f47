// Practice runs in the browser's own core alone: many times a second, with or without signal.
import type { Schemas } from "../api/client";
import { EngineGone, engine } from "./engine";

export type Lesson = Schemas["LessonOut"];
export type Seen = Schemas["StandSeen"];
export type Gesture = Schemas["Gesture"];
export type Judged = Schemas["Judged"];
export type Step = { state: Record<string, unknown>; seen: Seen; refused: string };
export type Move = { do: string; leg?: string; mm?: number; right_mm?: number; away_mm?: number; turn_deg?: number; turns?: Record<string, number>; share?: number };
export type Situation = { lesson: string; seed: number };

const MOST_STARTS = 3;

/** There is no server to ask instead: wait until the core stands, and when it falls over for the next one. */
async function ask<T>(question: Record<string, unknown>, starts = MOST_STARTS): Promise<T> {
  try {
    engine.start();
    if (!engine.ready) await engine.whenReady();
    return await engine.ask<T>(question);
  } catch (error) {
    if (!(error instanceof EngineGone) || starts <= 1) throw error;
    await new Promise((done) => setTimeout(done, 1500));
    return ask(question, starts - 1);
  }
}

/** Every lesson, in the order in which people learn. */
export const practiceLessons = (): Promise<Lesson[]> => ask({ verb: "practice-lessons" });

/** The stand after some moves and some seconds; without a state the lesson begins. */
export const practiceStep = (of: Situation, state: Record<string, unknown> | null, moves: Move[], seconds: number): Promise<Step> => ask({ verb: "practice-step", ...of, state, moves, seconds });

/** The next move, by the advisors of a real set-up. */
export const practiceAdvice = (of: Situation, state: Record<string, unknown>): Promise<Schemas["PracticeAdvice"]> => ask({ verb: "practice-advice", ...of, state });

/** How it went. */
export const practiceJudge = (of: Situation, gestures: Gesture[], seconds: number): Promise<Judged> => ask({ verb: "practice-judge", ...of, gestures, seconds });
