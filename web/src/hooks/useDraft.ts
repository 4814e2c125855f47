// One draft in hand: what is typed shows at once and is on the device with the same keystroke.
import { useCallback, useEffect, useRef, useState } from "react";
import { findDraft, storeDraft } from "../device/device";
import { type Draft, nowWithOffset } from "../documents/draft";

export type Change = (change: (draft: Draft) => Draft) => void;

/** undefined while it is looked for, null when this device has no such draft; `room` says whether it is being kept. */
export function useDraft(id: string): { draft: Draft | null | undefined; change: Change; room: boolean } {
  const [room, setRoom] = useState(true);
  const [draft, setDraft] = useState<Draft | null | undefined>(undefined);
  const held = useRef<Draft | null>(null);
  useEffect(() => {
    let here = true;
    void findDraft(id).then((found) => {
      if (!here) return;
      held.current = found ?? null;
      setDraft(found ?? null);
    });
    return () => {
      here = false;
    };
  }, [id]);
  const change = useCallback<Change>((how) => {
    if (!held.current) return;
    const next = { ...how(held.current), changedAt: nowWithOffset() };
    held.current = next;
    setDraft(next);
    storeDraft(next).then(
      () => setRoom(true),
      () => setRoom(false),
    );
  }, []);
  return { draft, change, room };
}
