// Throwing a field sheet away, with the way back.
import { useNavigate } from "react-router";
import { useTell } from "../../app/notices";
import type { Draft } from "../../documents/draft";
import { dropDraft, keepDraft } from "../../device/device";

export function useDiscard(draft: Draft, what: string): () => Promise<void> {
  const tell = useTell();
  const navigate = useNavigate();
  return async () => {
    await dropDraft(draft.id);
    await navigate("/bench");
    const undo = async () => {
      await keepDraft(draft);
      await navigate(`/bench/${draft.id}`);
    };
    tell({ text: `${what} of ${draft.instrument} discarded.`, undo });
  };
}
