// What the core says of an orientation as it stands.
import { useEffect, useState } from "react";
import { NoSignal, type OrientPreview } from "../../api/client";
import { onReady, previewOrientation } from "../../core";
import { type OrientDraft, orientToSend } from "../../sheet/orient";

export function useOrient(draft: OrientDraft): { said: OrientPreview | null; fresh: boolean; trouble: unknown } {
  const question = JSON.stringify(orientToSend(draft.document));
  const [answer, setAnswer] = useState<{ to: string; said: OrientPreview } | null>(null);
  const [trouble, setTrouble] = useState<{ to: string; what: unknown } | null>(null);
  const [again, setAgain] = useState(0);
  useEffect(() => {
    const stop = new AbortController();
    const ask = setTimeout(() => {
      previewOrientation(draft.instrument, JSON.parse(question) as OrientDraft["document"], stop.signal).then(
        (said) => {
          setAnswer({ to: question, said });
          setTrouble(null);
        },
        (error: unknown) => {
          if (!stop.signal.aborted) setTrouble({ to: question, what: error instanceof NoSignal ? "no-signal" : error });
        },
      );
    }, 120);
    return () => {
      clearTimeout(ask);
      stop.abort();
    };
  }, [question, draft.instrument, again]);
  useEffect(() => onReady(() => setAgain((n) => n + 1)), []);
  return { said: answer?.said ?? null, fresh: answer?.to === question, trouble: trouble?.to === question ? trouble.what : null };
}
