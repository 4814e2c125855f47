// A check of this instrument that was begun and not finished.
import { useEffect, useState } from "react";
import { useNavigate } from "react-router";
import { useHere, usePerson } from "../app/session";
import type { Draft } from "../documents/draft";
import { addressOf } from "../documents/reopen";
import { drafts } from "../device/device";
import { moment } from "./words";

/** The begun check, or null; undefined until this device's store has been read, so that a page can wait and not move. */
export function useUnfinished(tag: string, kind: string): Draft | null | undefined {
  const { username } = usePerson();
  const [open, setOpen] = useState<Draft | null>();
  useEffect(() => {
    let here = true;
    drafts(username).then(
      (all) => here && setOpen(all.find((draft) => draft.instrument === tag && draft.kind === kind) ?? null),
      () => here && setOpen(null),
    );
    return () => {
      here = false;
    };
  }, [username, tag, kind]);
  return open;
}

export function GoOn({ tag, open }: { tag: string; open: Draft | null }) {
  const { session } = useHere();
  const navigate = useNavigate();
  if (!open) return null;
  return (
    <div className="card flex flex-wrap items-center justify-between gap-3 px-5 py-3">
      <span>
        One of {tag} was begun on {moment(open.startedAt, session.time_zone)} and is not finished.
      </span>
      <button className="btn" onClick={() => void navigate(addressOf(open))}>
        Go on with it
      </button>
    </div>
  );
}
