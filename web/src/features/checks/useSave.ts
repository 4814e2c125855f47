// Saving a check: allowed or not, finished or not, and leaving it for a chief.
import { useCallback, useState } from "react";
import { useNavigate } from "react-router";
import { useSaving } from "../../app/saving";
import { useNotify } from "../../app/notices";
import { instrumentContext } from "../../engine/instrumentContext";
import { useHere } from "../../app/session";
import type { Draft } from "../../documents/draft";
import { findDraft, storeDraft } from "../../device/device";

export type Save = {
  press: () => void;
  busy: boolean;
  finished: boolean;
  allowed: boolean;
  why: string;
  leave: () => void;
};

/** `finished`: every input that must be filled is filled, whether or not the core can say so. */
export function useSave(draft: Draft, title: string, finished: boolean): Save {
  const { may } = useHere();
  const keep = useSaving();
  const navigate = useNavigate();
  const notify = useNotify();
  const [busy, setBusy] = useState(false);
  // A chief may let a trainee check levels alone.
  const right = may(
    instrumentContext(draft.instrument)?.instrument.stated.kind === "level" ? "save-level-check" : "save-check",
  );
  const save = useCallback(async () => {
    if (!right.allowed || !finished || busy) return;
    setBusy(true);
    // What the last keystroke wrote is what is sent.
    await keep((await findDraft(draft.id)) ?? draft, `${title} of ${draft.instrument}`);
    setBusy(false);
  }, [right.allowed, finished, busy, draft, title, keep]);
  const leave = useCallback(async () => {
    await storeDraft({ ...draft, left: true });
    notify({ text: "Left on this device for your crew chief.", undo: () => storeDraft({ ...draft, left: false }) });
    await navigate("/bench");
  }, [draft, navigate, notify]);
  return {
    press: () => void save(),
    busy,
    finished,
    allowed: right.allowed,
    why: right.text,
    leave: () => void leave(),
  };
}
