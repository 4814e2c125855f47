// Packing: what belongs into the case, ticked as it is seen; before leaving also what has to be ready. Without a tick
// nothing is recorded of the case.
import { useState } from "react";
import type { Instrument } from "../api/client";
import { Dialog, Lacking } from "./parts";

export type CaseSeen = { case_looked?: boolean; missing?: string[]; ready?: string[] };
type Props = {
  item: Instrument;
  leaving: boolean;
  title: string;
  word: string;
  reason?: { because: string } | undefined;
  open: boolean;
  onClose: () => void;
  onDone: (seen: CaseSeen, note: string) => void;
};

export function CaseLook({ open, onClose, title, ...rest }: Props) {
  return (
    <Dialog title={title} wide open={open} onClose={onClose}>
      {open && <Form {...rest} />}
    </Dialog>
  );
}

function Form({ item, leaving, word, reason, onDone }: Omit<Props, "open" | "onClose" | "title">) {
  const [seen, setSeen] = useState<Set<string> | null>(null);
  const [ready, setReady] = useState<Set<string> | null>(null);
  const [note, setNote] = useState("");
  const [submitted, setSubmitted] = useState(false);
  const departure = leaving ? item.departure : [];
  const missing = seen ? item.contents.filter((name) => !seen.has(name)) : [];
  const submit = (event: React.FormEvent) => {
    event.preventDefault();
    if (reason && !note.trim()) return setSubmitted(true);
    onDone({ ...(seen ? { case_looked: true, missing } : {}), ...(ready ? { ready: [...ready] } : {}) }, note.trim());
  };
  return (
    <form className="grid gap-4" onSubmit={submit}>
      {reason && (
        <>
          <p>{reason.because}</p>
          <label className="grid gap-1 font-semibold">
            Why it goes out before its check
            <textarea
              className="field"
              rows={2}
              maxLength={500}
              value={note}
              onChange={(event) => setNote(event.target.value)}
            />
          </label>
          {submitted && !note.trim() && <Lacking at="note">Enter a few words: they are shown with it.</Lacking>}
        </>
      )}
      <div className="grid items-start gap-x-6 gap-y-4 tab:grid-cols-2">
        {item.contents.length > 0 && (
          <Ticks
            title="In its case"
            all="All there"
            names={item.contents.map((name) => [name, name])}
            ticked={seen}
            onTick={setSeen}
          />
        )}
        <div className="grid gap-4">
          {departure.length > 0 && (
            <Ticks
              title="Before leaving"
              all="All ready"
              names={departure.map(({ code, label }) => [code, label])}
              ticked={ready}
              onTick={setReady}
            />
          )}
          {item.photograph && (
            <img
              className="max-h-[220px] justify-self-start rounded-md border border-line"
              src={item.photograph}
              alt={`How ${item.tag} lies in its case`}
            />
          )}
        </div>
      </div>
      <p className="sub" role="status">
        {caseText(item, seen, ready)}
      </p>
      <button className="btn now site">{word}</button>
    </form>
  );
}

/** How far one is; before anybody looked, what was missing last. */
function caseText(item: Instrument, seen: Set<string> | null, ready: Set<string> | null): string {
  const last = item.missing?.items.length ? `${item.missing.text}, as last seen by ${item.missing.by}.` : "";
  const there = seen
    ? `${seen.size} of ${item.contents.length} there; what is not ticked is recorded as missing.`
    : last || "Tick what you see, or go on without looking.";
  return ready ? `${there} ${ready.size} of ${item.departure.length} ready.` : there;
}

/** A list to tick; `ticked` null: nobody looked yet. */
function Ticks({
  title,
  all,
  names,
  ticked,
  onTick,
}: {
  title: string;
  all: string;
  names: [string, string][];
  ticked: Set<string> | null;
  onTick: (ticked: Set<string>) => void;
}) {
  const turn = (name: string) => {
    const next = new Set(ticked ?? []);
    if (!next.delete(name)) next.add(name);
    onTick(next);
  };
  return (
    <fieldset className="m-0 grid gap-0 border-0 p-0">
      <legend className="float-left flex w-full items-center justify-between gap-3 pb-1 font-bold">
        {title}
        <button type="button" className="btn !px-4" onClick={() => onTick(new Set(names.map(([name]) => name)))}>
          {all}
        </button>
      </legend>
      {names.map(([name, label]) => (
        <label key={name} className="flex min-h-[48px] items-center gap-3 border-t border-line desk:min-h-[38px]">
          <input
            type="checkbox"
            className="size-6 shrink-0 accent-[var(--color-ink)]"
            checked={ticked?.has(name) ?? false}
            onChange={() => turn(name)}
          />
          {label}
        </label>
      ))}
    </fieldset>
  );
}
