// Throwing a field sheet away, with the way back.
import { useNavigate } from "react-router";
import { useNotify } from "../../app/notices";
import type { Draft } from "../../documents/draft";
import { dropDraft, storeDraft } from "../../device/device";

export function useDiscard(draft: Draft, what: string): () => Promise<void> {
  const notify = useNotify();
  const navigate = useNavigate();
  return async () => {
    await dropDraft(draft.id);
    await navigate("/bench");
    const undo = async () => {
      await storeDraft(draft);
      await navigate(`/bench/${draft.id}`);
    };
    notify({ text: `${what} of ${draft.instrument} discarded.`, undo });
  };
}
