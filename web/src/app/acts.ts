// Acts that leave a record: into the outbox first, sent at once when there is signal, told in one line, taken back from it.
import { useQueryClient } from "@tanstack/react-query";
import { useCallback } from "react";
import { send } from "../api/client";
import { dropParcel, parcels } from "../device/device";
import { type Happening, nowWithOffset, postEvent } from "../device/outbox";
import { useTell } from "./notices";
import { useOutbox } from "./outbox";
import { usePerson } from "./session";

export type Told = { arrived: boolean; refused: string | null };

/** What became of a parcel after sending: arrived, still waiting, or refused with its sentence. */
export async function outcomeOf(owner: string, id: string): Promise<Told> {
  const left = (await parcels(owner)).find((one) => one.id === id);
  if (!left) return { arrived: true, refused: null };
  return { arrived: false, refused: left.state === "refused" ? (left.problem?.title ?? "Rejected.") : null };
}

/** Note something that happened to an instrument. Never lost, whatever the network does. */
export function useHappening(): (happening: Omit<Happening, "at"> & { at?: string }, title: string) => Promise<Told> {
  const { username } = usePerson();
  const { sendNow } = useOutbox();
  const client = useQueryClient();
  const tell = useTell();
  return useCallback(
    async (happening, title) => {
      const id = await postEvent(username, { at: nowWithOffset(), ...happening }, title);
      await sendNow();
      const told = await outcomeOf(username, id);
      const undo = async () => {
        if ((await parcels(username)).some((one) => one.id === id)) return dropParcel(id);
        await send("POST", `/api/records/${id}/amend`, { id: crypto.randomUUID(), why: "Undone." });
        await client.invalidateQueries({ predicate: (one) => one.queryKey[0] !== "session" });
      };
      const mayUndo = happening.event !== "adjusted";
      tell(
        told.refused
          ? { text: told.refused }
          : { text: told.arrived ? `${title}: noted.` : `${title}: stored here, sent automatically when you are online.`, ...(mayUndo ? { undo } : {}) },
      );
      return told;
    },
    [username, sendNow, client, tell],
  );
}
