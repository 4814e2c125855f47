// Work that was begun on this device and is not finished, with the way back to it.
import { type ReactNode, useEffect, useState } from "react";
import { Link } from "react-router";
import { useHere, usePerson } from "../app/session";
import type { Draft } from "../documents/draft";
import { addressOf } from "../documents/reopen";
import { drafts, onStoreChange } from "../device/device";
import { moment } from "./words";

/** Open work of one place; undefined until this device's store has been read, so that a page can wait and not move. */
export function useOpenWork(belongs: (draft: Draft) => boolean): Draft[] | undefined {
  const { username } = usePerson();
  const maySave = useHere().may("save-check").allowed;
  const [found, setFound] = useState<Draft[]>();
  useEffect(() => {
    let here = true;
    const look = () =>
      void drafts(username, maySave).then(
        (all) => here && setFound(all.filter(belongs)),
        () => here && setFound([]),
      );
    look();
    const forget = onStoreChange(look);
    return () => {
      here = false;
      forget();
    };
  }, [username, maySave, belongs]);
  return found;
}

type Props = {
  label: string;
  drafts: Draft[];
  title: (draft: Draft) => ReactNode;
  detail?: (draft: Draft) => ReactNode;
};

export function OpenWork({ label, drafts: open, title, detail }: Props) {
  const { session } = useHere();
  const { username } = usePerson();
  if (!open.length) return null;
  return (
    <section className="card" aria-label={label}>
      <ul className="m-0 list-none divide-y divide-line p-0">
        {open.map((draft) => (
          <li key={draft.id} className="flex flex-wrap items-center justify-between gap-x-6 gap-y-2 px-5 py-3">
            <div>
              <span className="tag text-[19px]">{draft.instrument}</span> <b>{title(draft)}</b>
              <span className="sub block">
                Begun {moment(draft.startedAt, session.time_zone)}. {detail?.(draft)}
                {draft.left &&
                  (draft.owner === username
                    ? " Left for your crew chief."
                    : ` Left by ${draft.owner} for you to save.`)}
              </span>
            </div>
            <Link className="btn" to={addressOf(draft)}>
              Go on
            </Link>
          </li>
        ))}
      </ul>
    </section>
  );
}
