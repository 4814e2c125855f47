// What happened to an instrument, in three answers.
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { fleetQuery } from "../api/queries";
import { useEventName } from "../app/eventKinds";
import { useHappening } from "../app/events";
import { useHere } from "../app/session";
import { Choice } from "./Choice";
import { PickInstrument } from "./PickInstrument";

export default function NoteForm({ tag, onClose }: { tag: string | undefined; onClose: () => void }) {
  const [which, setWhich] = useState(tag ?? "");
  const [event, setEvent] = useState("knock");
  const [note, setNote] = useState("");
  const [degrees, setDegrees] = useState("");
  const kind = (useQuery(fleetQuery).data?.rows ?? []).find((row) => row.tag === which)?.kind;
  const { session } = useHere();
  const eventName = useEventName();
  const possible = session.events.filter(
    (each) => each.reported && (!kind || !each.kinds.length || each.kinds.includes(kind)),
  );
  const [query, setSubmitted] = useState(false);
  const happened = useHappening();
  const submit = async (e: React.FormEvent) => {
    e.preventDefault();
    if (!which) return setSubmitted(true);
    onClose();
    const temperature = event === "temperature-step" && degrees.trim() ? { temperature_c: degrees.trim() } : {};
    await happened({ instrument: which, event, note: note.trim(), ...temperature }, `${eventName(event)}: ${which}`);
  };
  return (
    <form className="grid gap-4" onSubmit={(e) => void submit(e)}>
      {!tag && <PickInstrument value={which} onChange={setWhich} missing={query && !which} />}
      <Choice
        label="What happened"
        value={event}
        options={possible.map(({ name, label, hint }) => ({ value: name, label, hint }))}
        onChange={setEvent}
        columns
      />
      {event === "temperature-step" && (
        <label className="grid gap-1 font-semibold">
          Temperature now, °C
          <input
            className="field font-mono"
            inputMode="text"
            pattern="[+\-−]?\d{1,2}([.,]\d)?"
            title="A number such as −2 or 14"
            autoComplete="off"
            value={degrees}
            onChange={(e) => setDegrees(e.target.value)}
          />
        </label>
      )}
      <label className="grid gap-1 font-semibold">
        Where and how
        <textarea
          className="field"
          rows={2}
          maxLength={500}
          value={note}
          onChange={(e) => setNote(e.target.value)}
          placeholder="slid off the tailgate in its case"
        />
      </label>
      <p className="sub">{possible.find((each) => each.name === event)?.follows} Reporting too much does no harm.</p>
      <button className="btn now site">Report it</button>
    </form>
  );
}
