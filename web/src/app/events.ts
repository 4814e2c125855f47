// Actions that leave a record: into the outbox first, sent at once when there is signal, reported in one line, taken back from it.
import { useQueryClient } from "@tanstack/react-query";
import { useCallback } from "react";
import { fetchAgain } from "../api/again";
import { send } from "../api/client";
import { dropOutboxItem, items } from "../device/device";
import { type Happening, nowWithOffset, postEvent } from "../device/outbox";
import { useNotify } from "./notices";
import { useOutbox } from "./outbox";
import { usePerson } from "./session";

export type Outcome = { arrived: boolean; refused: string | null };

/** What became of a outbox item after sending: arrived, still waiting, or refused with its sentence. */
export async function outcomeOf(owner: string, id: string): Promise<Outcome> {
  const left = (await items(owner)).find((item) => item.id === id);
  if (!left) return { arrived: true, refused: null };
  return { arrived: false, refused: left.state === "refused" ? (left.problem?.title ?? "Rejected.") : null };
}

/** Note something that happened to an instrument. Never lost, whatever the network does. */
export function useHappening(): (
  happening: Omit<Happening, "at"> & { at?: string },
  title: string,
) => Promise<Outcome> {
  const { username } = usePerson();
  const { sendNow } = useOutbox();
  const client = useQueryClient();
  const notify = useNotify();
  return useCallback(
    async (happening, title) => {
      const id = await postEvent(username, { at: nowWithOffset(), ...happening }, title);
      await sendNow();
      const answer = await outcomeOf(username, id);
      const undo = async () => {
        if ((await items(username)).some((item) => item.id === id)) return dropOutboxItem(id);
        await send("POST", `/api/records/${id}/amend`, { id: crypto.randomUUID(), why: "Undone." });
        await fetchAgain(client);
      };
      const mayUndo = happening.event !== "adjusted";
      notify(
        answer.refused
          ? { text: answer.refused }
          : {
              text: answer.arrived
                ? `${title}: noted.`
                : `${title}: stored here, sent automatically when you are online.`,
              ...(mayUndo ? { undo } : {}),
            },
      );
      return answer;
    },
    [username, sendNow, client, notify],
  );
}
