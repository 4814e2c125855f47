// What the core says of a set-up as it stands: the act at hand, the advice, and what can be judged already.
import { useEffect, useState } from "react";
import { type Fault, NoSignal, Problem, type Guide, type SetUpPreview } from "../../api/client";
import { guide, onReady, previewSetUp } from "../../core";
import type { SetUpDraft } from "../../sheet/setUp";

export type Said = { guide: Guide; preview: SetUpPreview };
/** What the core refused of the document as it stands now: the last answer stays on the page meanwhile. */
export type Refused = Fault[];

export function useGuide(draft: SetUpDraft, act: string | null): { said: Said | null; fresh: boolean; trouble: unknown; refused: Refused } {
  const question = JSON.stringify({ document: draft.document, act });
  const [answer, setAnswer] = useState<{ to: string; said: Said } | null>(null);
  const [trouble, setTrouble] = useState<{ to: string; what: unknown } | null>(null);
  const [again, setAgain] = useState(0);
  useEffect(() => {
    const stop = new AbortController();
    const asked = JSON.parse(question) as { document: SetUpDraft["document"]; act: string | null };
    const ask = setTimeout(() => {
      Promise.all([guide(draft.instrument, asked.document, asked.act, stop.signal), previewSetUp(draft.instrument, asked.document, stop.signal)]).then(
        ([told, preview]) => {
          setAnswer({ to: question, said: { guide: told, preview } });
          setTrouble(null);
        },
        (error: unknown) => {
          if (!stop.signal.aborted) setTrouble({ to: question, what: error instanceof NoSignal ? "no-signal" : error });
        },
      );
    }, 60);
    return () => {
      clearTimeout(ask);
      stop.abort();
    };
  }, [question, draft.instrument, again]);
  useEffect(() => onReady(() => setAgain((n) => n + 1)), []);
  const wrong = trouble?.to === question ? trouble.what : null;
  return { said: answer?.said ?? null, fresh: answer?.to === question, trouble: wrong, refused: wrong instanceof Problem ? wrong.faults : [] };
}
