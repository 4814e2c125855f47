// What can be said of a draft already. The latest question wins; an older answer never overwrites a newer one.
import { useEffect, useState } from "react";
import { NoSignal, type Preview } from "../../api/client";
import { onReady, preview } from "../../core";
import { type Draft, toSend } from "../../sheet/draft";

export type Saying = {
  /** The latest answer; stays on the page while the next one is on its way. */
  said: Preview | null;
  /** Whether it answers what stands on the page now. */
  fresh: boolean;
  trouble: "no-signal" | "signed-out" | unknown;
};
const SETTLE_MS = 60;

export function usePreview(draft: Draft | null | undefined): Saying {
  const question = draft ? JSON.stringify(toSend(draft.document)) : null;
  const instrument = draft?.instrument ?? null;
  const [answer, setAnswer] = useState<{ to: string; said: Preview } | null>(null);
  const [trouble, setTrouble] = useState<{ to: string; what: unknown } | null>(null);
  const [again, setAgain] = useState(0);
  useEffect(() => {
    if (question === null) return;
    const stop = new AbortController();
    const ask = setTimeout(() => {
      preview(instrument, JSON.parse(question), stop.signal).then(
        (said) => {
          setAnswer({ to: question, said });
          setTrouble(null);
        },
        (error: unknown) => {
          if (!stop.signal.aborted) setTrouble({ to: question, what: error instanceof NoSignal ? "no-signal" : error });
        },
      );
    }, SETTLE_MS);
    return () => {
      clearTimeout(ask);
      stop.abort();
    };
  }, [question, instrument, again]);
  useEffect(() => {
    const once = () => setAgain((n) => n + 1);
    window.addEventListener("online", once);
    const forget = onReady(once);
    return () => {
      window.removeEventListener("online", once);
      forget();
    };
  }, []);
  return { said: answer?.said ?? null, fresh: answer?.to === question, trouble: trouble?.to === question ? trouble.what : null };
}
