// A question asked again whenever it changes: the last answer stays on the page until the next one has come.
import { useEffect, useState } from "react";
import { type Fault, NoSignal, Problem } from "../api/client";
import { onReady, preview } from "../engine";
import type { CheckDocument } from "../documents/draft";
import { type Delay, after } from "../timers";

export const NO_CORE = "Offline, and the calculation is not yet stored on this device. Your entries are kept.";

/** `trouble`: what went wrong where it has no faults of its own; `wrong`: whatever it was. */
export type Answered<T> = {
  answer: T | null;
  fresh: boolean;
  faults: Fault[];
  trouble: unknown;
  noSignal: boolean;
  wrong: unknown;
};

/** `question` null asks nothing; `ask` is called some `wait` ms after the last change, and overtaken ones are dropped. */
export function useQuestion<T>(
  question: unknown,
  ask: (question: never, signal: AbortSignal) => Promise<T>,
  delay: Delay = "question",
): Answered<T> {
  const text = question === null ? "" : JSON.stringify(question);
  const [answer, setAnswer] = useState<{ to: string; answer: T } | null>(null);
  const [wrong, setWrong] = useState<{ to: string; what: unknown } | null>(null);
  const [again, setAgain] = useState(0);
  useEffect(() => {
    if (!text) return;
    const stop = new AbortController();
    const forget = after(delay, () => {
      ask(JSON.parse(text) as never, stop.signal).then(
        (answer) => {
          if (stop.signal.aborted) return;
          setAnswer({ to: text, answer: answer });
          setWrong(null);
        },
        (what: unknown) => {
          if (!stop.signal.aborted) setWrong({ to: text, what });
        },
      );
    });
    return () => {
      forget();
      stop.abort();
    };
    // Question is in the text; the asking itself does not change.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [text, delay, again]);
  // What could not be answered is asked again once the core is ready, or the signal is back.
  useEffect(() => {
    const ask = () => setAgain((n) => n + 1);
    window.addEventListener("online", ask);
    const forget = onReady(ask);
    return () => {
      window.removeEventListener("online", ask);
      forget();
    };
  }, []);
  const what = wrong?.to === text ? wrong.what : null;
  const faults = what instanceof Problem ? what.faults : [];
  return {
    answer: answer?.answer ?? null,
    fresh: answer?.to === text,
    faults,
    trouble: faults.length || what instanceof NoSignal ? null : what,
    noSignal: what instanceof NoSignal,
    wrong: what,
  };
}

/** What can be said already of a document as it stands; null asks nothing. */
export function usePreview<T>(
  instrument: string | null,
  document: { kind: string } | null,
  delay: Delay = "preview",
): Answered<T> {
  return useQuestion<T>(
    document,
    (checkDocument: CheckDocument, signal) => preview<T>(instrument, checkDocument, signal),
    delay,
  );
}
