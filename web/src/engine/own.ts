// Questions for the browser's own core alone: practice and devices ask many times a second, with or without signal.
import { EngineGone, engine } from "./engine";
import { pause } from "../timers";

const MAX_STARTS = 3;

/** There is no server to ask instead: wait until the core stands, and when it falls over for the next one. */
export async function ask<T>(question: Record<string, unknown>, starts = MAX_STARTS): Promise<T> {
  try {
    engine.start();
    if (!engine.ready) await engine.whenReady();
    return await engine.ask<T>(question);
  } catch (error) {
    if (!(error instanceof EngineGone) || starts <= 1) throw error;
    await pause("askAgain");
    return ask(question, starts - 1);
  }
}

/** For what comes only once: asked until the core answers, or nobody wants it any more (null). `onGone` says that it waits. */
export async function askUntilAnswered<T>(
  query: () => Promise<T>,
  onGone: () => void,
  wanted: () => boolean,
): Promise<T | null> {
  while (wanted()) {
    try {
      return await query();
    } catch (error) {
      if (!(error instanceof EngineGone)) throw error;
      onGone();
      await pause("askOnceMore");
    }
  }
  return null;
}
