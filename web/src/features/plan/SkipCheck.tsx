// A check is skipped: until when and why, with the name of whoever decides; it stays on record.
import { useState } from "react";
import { useEventKind } from "../../app/eventKinds";
import { useHappening } from "../../app/events";
import { dayAfter } from "../../documents/fleet";
import type { Due } from "../../documents/plan";
import { Field } from "../../ui/Field";
import { Dialog, Lacking } from "../../ui/parts";

const USUAL_DAYS = 7;

export function SkipCheck({
  due,
  today,
  latest,
  onClose,
}: {
  due: Due | null;
  today: string;
  latest: string;
  onClose: () => void;
}) {
  return (
    <Dialog title={due ? `Skip: ${due.title}, ${due.tag}` : ""} open={due !== null} onClose={onClose}>
      {due && <SkipForm due={due} today={today} latest={latest} onClose={onClose} />}
    </Dialog>
  );
}

function SkipForm({ due, today, latest, onClose }: { due: Due; today: string; latest: string; onClose: () => void }) {
  const happened = useHappening();
  const [until, setUntil] = useState(dayAfter(today, USUAL_DAYS));
  const [note, setNote] = useState("");
  const [submitted, setSubmitted] = useState(false);
  const submit = (event: React.FormEvent) => {
    event.preventDefault();
    if (!note.trim()) return setSubmitted(true);
    onClose();
    void happened(
      { instrument: due.tag, event: "skipped", check: due.check, until, note: note.trim() },
      `${due.title} of ${due.tag} skipped`,
    );
  };
  return (
    <form className="grid gap-4" onSubmit={submit}>
      <p>{useEventKind()("skipped")?.follows}</p>
      <Field label="Due again on" faults={[]}>
        <input
          className="field"
          type="date"
          required
          min={dayAfter(today, 1)}
          max={latest}
          value={until}
          onChange={(event) => setUntil(event.target.value)}
        />
      </Field>
      <label className="grid gap-1 font-semibold">
        Why
        <textarea
          className="field"
          rows={2}
          maxLength={500}
          value={note}
          onChange={(event) => setNote(event.target.value)}
        />
      </label>
      {submitted && !note.trim() && <Lacking at="note">Enter a few words: they are shown with it.</Lacking>}
      <button className="btn now site">Skip it until then</button>
    </form>
  );
}
