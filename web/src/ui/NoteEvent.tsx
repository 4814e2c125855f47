// Report a knock or drop or a drop: never refused, never lost, given to everybody who opens the yard.
import { useState } from "react";
import { useHappening } from "../app/events";
import { Choice, Dialog } from "./parts";
import { PickInstrument } from "./PickInstrument";

const EVENTS = [
  { value: "knock", label: "Knock", hint: "Bumped, fell over in its case, rough transport" },
  { value: "drop", label: "Drop", hint: "Fell, or the tripod fell over" },
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
  const [query, setSubmitted] = useState(false);
  const happened = useHappening();
  const submit = async (e: React.FormEvent) => {
    e.preventDefault();
    if (!which) return setSubmitted(true);
    onClose();
    await happened({ instrument: which, event, note: note.trim() }, `${event === "knock" ? "Knock" : "Drop"} of ${which}`);
  };
  return (
    <form className="grid gap-5" onSubmit={(e) => void submit(e)}>
      {!tag && <PickInstrument value={which} onChange={setWhich} missing={query && !which} />}
      <Choice label="What happened" value={event} options={[...EVENTS]} onChange={setEvent} />
      <label className="grid gap-1 font-[600]">
        Where and how
        <textarea className="field" rows={2} maxLength={500} value={note} onChange={(e) => setNote(e.target.value)} placeholder="slid off the tailgate in its case" />
      </label>
      <p className="sub">
        {event === "drop" ? "After a drop every value is uncertain: it is on hold until its checks pass." : "It needs its check before it goes out again."} Reporting too much does no harm.
      </p>
      <button className="btn now site">Report it</button>
    </form>
  );
}
