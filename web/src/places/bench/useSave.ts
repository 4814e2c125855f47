// Saving: into the outbox with the draft's own id, sent at once when there is signal, opened when it has arrived.
import { useCallback, useState } from "react";
import { useNavigate } from "react-router";
import { outcomeOf } from "../../app/acts";
import { useTell } from "../../app/notices";
import { useOutbox } from "../../app/outbox";
import { useHere, usePerson } from "../../app/session";
import { reckon } from "../../core";
import { NoRoom, findDraft, keepDraft } from "../../store/device";
import { type Draft, looksFinished, nowWithOffset, toSend } from "../../sheet/draft";
import { postCheck } from "../../store/outbox";

const RECKON_WITHIN_MS = 2_500;

/** Saving does not wait for a core that is slow: the house reckons anyway. */
function soon<T>(made: Promise<T | null>): Promise<T | null> {
  return Promise.race([made, new Promise<null>((done) => setTimeout(() => done(null), RECKON_WITHIN_MS))]);
}

export type Save = { act: () => void; busy: boolean; finished: boolean; allowed: boolean; why: string; leave: () => void };

export function useSave(draft: Draft): Save {
  const person = usePerson();
  const { may } = useHere();
  const { sendNow } = useOutbox();
  const navigate = useNavigate();
  const tell = useTell();
  const [busy, setBusy] = useState(false);
  const right = may("save-check");
  const finished = looksFinished(draft.document);
  const save = useCallback(async () => {
    if (!right.allowed || !finished || busy) return;
    setBusy(true);
    // What the last keystroke wrote is what is sent.
    const latest = (await findDraft(draft.id)) ?? draft;
    const observedBy = latest.owner === person.username ? latest.observedBy : latest.owner;
    const at = nowWithOffset();
    const made = await soon(reckon(latest.instrument, toSend(latest.document), at, latest.stage));
    try {
      await postCheck({ ...latest, owner: person.username, observedBy }, `Two-peg test of ${latest.instrument}`, made && { ...made, at });
    } catch (error) {
      setBusy(false);
      tell({ text: error instanceof NoRoom ? "This device is full: nothing was saved, your readings are still here. Make room, then save again." : "It could not be kept on this device. Your readings are still here; try again." });
      return;
    }
    await sendNow();
    const told = await outcomeOf(person.username, latest.id);
    setBusy(false);
    if (told.arrived || (made && !told.refused)) return navigate(`/records/${latest.id}`, { replace: true });
    tell({ text: told.refused ? `Not taken: ${told.refused}` : "Kept on this device. It goes by itself when there is signal." });
    await navigate("/bench", { replace: true });
  }, [right.allowed, finished, busy, draft, person.username, sendNow, navigate, tell]);
  const leave = useCallback(async () => {
    await keepDraft({ ...draft, left: true });
    tell({ text: "Left on this device for your crew chief.", undo: () => keepDraft({ ...draft, left: false }) });
    await navigate("/bench");
  }, [draft, navigate, tell]);
  return { act: () => void save(), busy, finished, allowed: right.allowed, why: right.text, leave: () => void leave() };
}
