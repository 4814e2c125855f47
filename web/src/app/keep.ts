// Keeping something finished: reckoned here when that is quick, into the outbox, sent at once when there is signal,
// opened when it has arrived.
import { useCallback } from "react";
import { useNavigate } from "react-router";
import { type Result, api, data } from "../api/client";
import { reckon } from "../engine";
import { type Draft, nowWithOffset, toSend } from "../documents/draft";
import { stepOf, withStep } from "../documents/round";
import { NoRoom, findDraft, keepDraft } from "../device/device";
import { postCheck } from "../device/outbox";
import { outcomeOf } from "./acts";
import { useTell } from "./notices";
import { useOutbox } from "./outbox";
import { usePerson } from "./session";

const RECKON_WITHIN_MS = 2_500;

/** Saving does not wait for a core that is slow: the house reckons anyway. */
function soon<T>(made: Promise<T | null>): Promise<T | null> {
  return Promise.race([made, new Promise<null>((done) => setTimeout(() => done(null), RECKON_WITHIN_MS))]);
}

/** Tells the round a check was taken in what became of it; false when there is no such round here any more. */
async function intoRound(draft: Draft, at: string, result: Result | null, arrived: boolean): Promise<boolean> {
  const round = await findDraft(draft.round ?? "");
  if (!round) return false;
  const told = result ?? (arrived ? await ofHouse(draft.id) : null);
  const step = told ? stepOf(draft.id, draft.stage, at, told) : { record: draft.id, stage: draft.stage, at };
  await keepDraft(withStep(round, draft.kind, step));
  return true;
}

/** The result the house came to; null when it cannot be had now: the round asks for it later. */
async function ofHouse(id: string): Promise<Result | null> {
  try {
    return (await data(api.GET("/api/records/{uuid}", { params: { path: { uuid: id } } }))).result;
  } catch {
    return null;
  }
}

/** Gives a function that keeps a draft under a title; false when there was no room and the draft stays open. */
export function useKeep(): (draft: Draft, title: string) => Promise<boolean> {
  const person = usePerson();
  const { sendNow } = useOutbox();
  const navigate = useNavigate();
  const tell = useTell();
  return useCallback(
    async (draft, title) => {
      const observedBy = draft.owner === person.username ? draft.observedBy : draft.owner;
      const at = nowWithOffset();
      const made = await soon(reckon(draft.instrument, toSend(draft.document), at, draft.stage));
      try {
        await postCheck({ ...draft, owner: person.username, observedBy }, title, made && { ...made, at });
      } catch (error) {
        tell({ text: error instanceof NoRoom ? "Device storage is full: not saved, your readings are still here. Free some space, then save again." : "It could not be stored on this device. Your readings are still here; try again." });
        return false;
      }
      await sendNow();
      const told = await outcomeOf(person.username, draft.id);
      if (draft.round && !told.refused && (await intoRound(draft, at, made?.result ?? null, told.arrived))) {
        await navigate(`/bench/round/${draft.round}`, { replace: true });
        return true;
      }
      if (told.arrived || (made && !told.refused)) {
        await navigate(`/records/${draft.id}`, { replace: true });
        return true;
      }
      tell({ text: told.refused ? `Rejected: ${told.refused}` : "Stored on this device. Sent automatically when you are online." });
      await navigate("/bench", { replace: true });
      return true;
    },
    [person.username, sendNow, navigate, tell],
  );
}
