// Keeping something finished: calculated here when that is quick, into the outbox, sent at once when there is signal,
// opened when it has arrived.
import { useCallback } from "react";
import { useNavigate } from "react-router";
import { type Result, api, data } from "../api/client";
import { compute } from "../engine";
import { type Draft, nowWithOffset, toSend } from "../documents/draft";
import { stepOf, withStep } from "../documents/readiness";
import { NoRoom, findDraft, storeDraft } from "../device/device";
import { postCheck } from "../device/outbox";
import { outcomeOf } from "./events";
import { useNotify } from "./notices";
import { useOutbox } from "./outbox";
import { usePerson } from "./session";
import { pause } from "../timers";

/** Saving does not wait for a core that is slow: the server calculates anyway. */
function soon<T>(promise: Promise<T | null>): Promise<T | null> {
  return Promise.race([promise, pause("compute").then(() => null)]);
}

/** Says the round a check was taken in what became of it; false when there is no such round here any more. */
async function intoRound(draft: Draft, at: string, result: Result | null, arrived: boolean): Promise<boolean> {
  const round = await findDraft(draft.round ?? "");
  if (!round) return false;
  const answer = result ?? (arrived ? await ofFirm(draft.id) : null);
  const step = answer ? stepOf(draft.id, draft.stage, at, answer) : { record: draft.id, stage: draft.stage, at };
  await storeDraft(withStep(round, draft.kind, step));
  return true;
}

/** The result the server came to; null when it cannot be had now: the round asks for it later. */
async function ofFirm(id: string): Promise<Result | null> {
  try {
    return (await data(api.GET("/api/records/{uuid}", { params: { path: { uuid: id } } }))).result;
  } catch {
    return null;
  }
}

/** Gives a function that keeps a draft under a title; false when there was no room and the draft stays open. */
export function useSaving(): (draft: Draft, title: string) => Promise<boolean> {
  const person = usePerson();
  const { sendNow } = useOutbox();
  const navigate = useNavigate();
  const notify = useNotify();
  return useCallback(
    async (draft, title) => {
      const observedBy = draft.owner === person.username ? draft.observedBy : draft.owner;
      const at = nowWithOffset();
      const created = await soon(compute(draft.instrument, toSend(draft.document), at, draft.stage));
      try {
        await postCheck({ ...draft, owner: person.username, observedBy }, title, created && { ...created, at });
      } catch (error) {
        notify({
          text:
            error instanceof NoRoom
              ? "Device storage is full: not saved, your readings are still here. Free some space, then save again."
              : "It could not be stored on this device. Your readings are still here; try again.",
        });
        return false;
      }
      await sendNow();
      const answer = await outcomeOf(person.username, draft.id);
      if (draft.round && !answer.refused && (await intoRound(draft, at, created?.result ?? null, answer.arrived))) {
        await navigate(`/bench/readiness/${draft.round}`, { replace: true });
        return true;
      }
      if (answer.arrived || (created && !answer.refused)) {
        await navigate(`/records/${draft.id}`, { replace: true });
        return true;
      }
      notify({
        text: answer.refused
          ? `Rejected: ${answer.refused}`
          : "Stored on this device. Sent automatically when you are online.",
      });
      await navigate("/bench", { replace: true });
      return true;
    },
    [person.username, sendNow, navigate, notify],
  );
}
