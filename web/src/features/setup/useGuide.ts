// What the core says of a set-up as it stands: the step at hand, the advice, and what can be judged already.
import type { Guide, SetUpPreview } from "../../api/client";
import { guide, preview } from "../../engine";
import type { SetUpDraft } from "../../documents/setUp";
import { type Answered, useQuestion } from "../../hooks/useQuestion";

export type GuidedPreview = { guide: Guide; preview: SetUpPreview };
type Question = { document: SetUpDraft["document"]; step: string | null };

export function useGuide(draft: SetUpDraft, step: string | null): Answered<GuidedPreview> {
  return useQuestion<GuidedPreview>(
    { document: draft.document, step },
    (question: Question, signal) =>
      Promise.all([
        guide(draft.instrument, question.document, question.step, signal),
        preview<SetUpPreview>(draft.instrument, question.document, signal),
      ]).then(([answer, preview]) => ({ guide: answer, preview })),
    "preview",
  );
}
