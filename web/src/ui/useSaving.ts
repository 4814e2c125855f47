// Sending what a form holds: what stood in the way, and what somebody else changed meanwhile.
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { fetchAgain } from "../api/again";
import { NoSignal, type Problem } from "../api/client";
import { useNotify } from "../app/notices";
import { changedMeanwhile } from "./Meanwhile";
import { useTrouble } from "./refusal";

export type Saving = {
  trouble: unknown;
  busy: boolean;
  meanwhile: Problem | null;
  /** Does it; `saved` is stated afterwards, and everything shown is fetched again. Gives whether it was done. */
  run: (action: () => Promise<unknown>, saved?: string) => Promise<boolean>;
};

/** `reread` brings the version that is saved now, so that the form saved again holds. */
export function useSaving(reread: () => Promise<void>): Saving {
  const client = useQueryClient();
  const notify = useNotify();
  const [trouble, setTrouble] = useTrouble();
  const [busy, setBusy] = useState(false);
  const run = async (action: () => Promise<unknown>, saved?: string) => {
    setTrouble(null);
    setBusy(true);
    try {
      await action();
    } catch (error) {
      if (error instanceof NoSignal) notify({ text: "This needs a connection. Your entries are kept here." });
      else setTrouble(error);
      if (changedMeanwhile(error)) await reread();
      return false;
    } finally {
      setBusy(false);
    }
    if (saved) {
      await fetchAgain(client);
      notify({ text: saved });
    }
    return true;
  };
  return { trouble, busy, meanwhile: changedMeanwhile(trouble), run };
}
