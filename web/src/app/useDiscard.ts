// Throwing a draft away, with the way back.
import { useNavigate } from "react-router";
import { useNotify } from "./notices";
import type { Draft } from "../documents/draft";
import { dropDraft, storeDraft } from "../device/device";

/** `text` says what was thrown away; `back` is the page the draft is opened on again. */
export function useDiscard(draft: Draft, text: string, back: string): () => Promise<void> {
  const notify = useNotify();
  const navigate = useNavigate();
  return async () => {
    await dropDraft(draft.id);
    await navigate("/bench");
    const undo = async () => {
      await storeDraft(draft);
      await navigate(back);
    };
    notify({ text, undo });
  };
}
