// Note a knock or a drop: never refused, never lost, told to everybody who opens the yard.
import { useInfiniteQuery } from "@tanstack/react-query";
import { useState } from "react";
import { yardQuery } from "../../api/queries";
import { useHappening } from "../../app/acts";
import { Choice, Dialog } from "../../ui/parts";

const EVENTS = [
  { value: "knock", label: "Knock", hint: "Bumped, toppled in its case, a hard drive" },
  { value: "drop", label: "Drop", hint: "Fell, or the tripod went over" },
] as const;

export function NoteEvent({ open, onClose, tag }: { open: boolean; onClose: () => void; tag?: string }) {
  return (
    <Dialog title={tag ? `What happened to ${tag}?` : "What happened?"} open={open} onClose={onClose}>
      <NoteForm tag={tag} onClose={onClose} />
    </Dialog>
  );
}

function NoteForm({ tag, onClose }: { tag: string | undefined; onClose: () => void }) {
  const [which, setWhich] = useState(tag ?? "");
  const [event, setEvent] = useState<"knock" | "drop">("knock");
  const [note, setNote] = useState("");
  const [asked, setAsked] = useState(false);
  const happened = useHappening();
  const submit = async (e: React.FormEvent) => {
    e.preventDefault();
    if (!which) return setAsked(true);
    onClose();
    await happened({ instrument: which, event, note: note.trim() }, `${event === "knock" ? "Knock" : "Drop"} of ${which}`);
  };
  return (
    <form className="grid gap-5" onSubmit={(e) => void submit(e)}>
      {!tag && <PickInstrument value={which} onChange={setWhich} missing={asked && !which} />}
      <Choice label="What happened" value={event} options={[...EVENTS]} onChange={setEvent} />
      <label className="grid gap-1 font-[600]">
        Where, and how
        <textarea className="field" rows={2} maxLength={500} value={note} onChange={(e) => setNote(e.target.value)} placeholder="slid off the tailgate in its case" />
      </label>
      <p className="sub">
        {event === "drop" ? "After a drop every value is unknown: it is held until its check has passed." : "Its check comes first before it goes out again."} You cannot do harm by noting too much.
      </p>
      <button className="btn now site">Note it</button>
    </form>
  );
}

/** Tags of the fleet as touches; a search narrows them. */
export function PickInstrument({ value, onChange, missing, kinds }: { value: string; onChange: (tag: string) => void; missing: boolean; kinds?: string[] }) {
  const [q, setQ] = useState("");
  const yard = useInfiniteQuery({ ...yardQuery(q), placeholderData: (before) => before });
  const rows = (yard.data?.pages.flatMap((page) => page.instruments) ?? []).filter((row) => !kinds || kinds.includes(row.kind));
  return (
    <fieldset className="m-0 grid gap-2 border-0 p-0">
      <legend className="pb-1 font-[600]">Which instrument</legend>
      {(rows.length > 8 || q) && <input className="field" type="search" aria-label="Find an instrument" placeholder="Tag, model, place or crew" value={q} onChange={(e) => setQ(e.target.value)} />}
      <div className="flex max-h-[260px] flex-wrap gap-2 overflow-auto p-1">
        {rows.map((row) => (
          <button
            key={row.tag}
            type="button"
            aria-pressed={value === row.tag}
            onClick={() => onChange(row.tag)}
            className="btn tag aria-pressed:!bg-ink aria-pressed:!text-card"
          >
            {row.tag}
          </button>
        ))}
      </div>
      {missing && <p className="fault">Choose the instrument first.</p>}
    </fieldset>
  );
}
