// The same for several instruments, one after the other: each leaves its own record; what is refused is named.
import { useState } from "react";
import { useHappening } from "./events";
import { useNotify } from "./notices";

export type Action = { event: "out" | "in" | "held" | "knock"; crew?: string; note?: string };
const DONE: Record<Action["event"], string> = {
  out: "taken out",
  in: "handed in",
  held: "put on hold",
  knock: "reported",
};

/** `busy`: the number of the one under way; at the end it says what became of all. */
export function useEach(onDone: () => void): {
  busy: number | null;
  each: (tags: string[], action: Action) => Promise<void>;
} {
  const happened = useHappening();
  const notify = useNotify();
  const [busy, setBusy] = useState<number | null>(null);
  const each = async (tags: string[], action: Action) => {
    const refused: string[] = [];
    for (const [i, tag] of tags.entries()) {
      setBusy(i + 1);
      const outcome = await happened({ instrument: tag, ...action }, `${tag} ${DONE[action.event]}`);
      if (outcome.refused) refused.push(`${tag}: ${outcome.refused}`);
    }
    setBusy(null);
    const well = tags.length - refused.length;
    notify({
      text: [`${well === 1 ? "One instrument" : `${well} instruments`} ${DONE[action.event]}.`, ...refused].join(" "),
    });
    onDone();
  };
  return { busy, each };
}
