// A check of this instrument that was begun and not finished.
import { useEffect, useState } from "react";
import { useNavigate } from "react-router";
import { useHere, usePerson } from "../app/session";
import type { Draft } from "../documents/draft";
import { addressOf } from "../documents/reopen";
import { drafts } from "../device/device";
import { moment } from "./words";

export function GoOn({ tag, kind }: { tag: string; kind: string }) {
  const { session } = useHere();
  const { username } = usePerson();
  const navigate = useNavigate();
  const [open, setOpen] = useState<Draft | null>(null);
  useEffect(() => {
    let here = true;
    void drafts(username).then((all) => here && setOpen(all.find((one) => one.instrument === tag && one.kind === kind) ?? null));
    return () => {
      here = false;
    };
  }, [username, tag, kind]);
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
