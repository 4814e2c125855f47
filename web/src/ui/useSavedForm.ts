// A form over something that is saved: what is entered here, what is saved, what somebody else changed meanwhile.
import { useState } from "react";
import { NoSignal, type Problem } from "../api/client";
import { useNotify } from "../app/notices";
import { changedMeanwhile } from "./Meanwhile";
import { useTrouble } from "./refusal";

export type SavedForm<T> = {
  value: T;
  set: (more: Partial<T>) => void;
  trouble: unknown;
  meanwhile: Problem | null;
  busy: boolean;
  save: () => Promise<void>;
  takeTheirs: () => void;
};

/** `store` sends it with a version; `read` brings what is saved now. */
export function useSavedForm<T extends { version: number }>(
  first: T,
  store: (value: T) => Promise<T>,
  read: () => Promise<T>,
  saved: string,
): SavedForm<T> {
  const notify = useNotify();
  const [value, setValue] = useState(first);
  const [theirs, setTheirs] = useState<T | null>(null);
  const [trouble, setTrouble] = useTrouble();
  const [busy, setBusy] = useState(false);
  const save = async () => {
    setBusy(true);
    setTrouble(null);
    try {
      setValue(await store(value));
      setTheirs(null);
      notify({ text: saved });
    } catch (error) {
      if (error instanceof NoSignal) notify({ text: "This needs a connection. Your entries are kept here." });
      else setTrouble(error);
      if (changedMeanwhile(error)) {
        const now = await read();
        setTheirs(now);
        // Saved again, these entries hold; the other person is informed in turn.
        setValue((mine) => ({ ...mine, version: now.version }));
      }
    }
    setBusy(false);
  };
  const takeTheirs = () => {
    if (theirs) setValue(theirs);
    setTheirs(null);
    setTrouble(null);
  };
  return {
    value,
    set: (more) => setValue((now) => ({ ...now, ...more })),
    trouble,
    meanwhile: changedMeanwhile(trouble),
    busy,
    save,
    takeTheirs,
  };
}
