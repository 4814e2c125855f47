// Back from service: what was done, which stored values were reset, what it cost, and the certificate that came with it.
import { useState } from "react";
import { type Instrument, Problem } from "../../api/client";
import { sendFile } from "../../api/files";
import { useEventKind } from "../../app/eventKinds";
import { useHappening } from "../../app/events";
import { Field, faultsAt } from "../../ui/Field";
import { Dialog, Lacking, Trouble } from "../../ui/parts";
import { useTrouble } from "../../ui/refusal";

export function ServiceBack({ item, open, onClose }: { item: Instrument; open: boolean; onClose: () => void }) {
  return (
    <Dialog title={`${item.tag} is back from service`} open={open} onClose={onClose}>
      {open && <Form item={item} onClose={onClose} />}
    </Dialog>
  );
}

function Form({ item, onClose }: { item: Instrument; onClose: () => void }) {
  const happened = useHappening();
  const follows = useEventKind()("service-in")?.follows ?? "";
  const [note, setNote] = useState("");
  const [resets, setResets] = useState<string[]>([]);
  const [cost, setCost] = useState("");
  const [daysCost, setDaysCost] = useState("");
  const [file, setFile] = useState<File | null>(null);
  const [trouble, setTrouble] = useTrouble();
  const [submitted, setSubmitted] = useState(false);
  const submit = async (event: React.FormEvent) => {
    event.preventDefault();
    setSubmitted(true);
    if (!note.trim()) return;
    try {
      // The file first: the event names it. What is typed stays until both are kept.
      const certificate = file ? await sendFile("certificates", item.tag, file) : null;
      onClose();
      const costs = {
        ...(cost.trim() ? { cost: cost.trim() } : {}),
        ...(daysCost.trim() ? { days_cost: daysCost.trim() } : {}),
      };
      await happened(
        {
          instrument: item.tag,
          event: "service-in",
          note: note.trim(),
          resets,
          ...costs,
          ...(certificate ? { certificate: certificate.digest } : {}),
        },
        `${item.tag} back from service`,
      );
    } catch (error) {
      setTrouble(error);
    }
  };
  return (
    <form className="grid gap-4" onSubmit={(event) => void submit(event)}>
      <p>{follows}</p>
      <label className="grid gap-1 font-semibold">
        What was done
        <textarea
          className="field"
          rows={2}
          maxLength={500}
          value={note}
          onChange={(event) => setNote(event.target.value)}
        />
      </label>
      {submitted && !note.trim() && <Lacking at="note">Enter a few words: they are shown with it.</Lacking>}
      {item.stored_settings.length > 0 && (
        <fieldset className="m-0 grid border-0 p-0 tab:grid-cols-2">
          <legend className="font-semibold">Stored values reset (none ticked: all count as reset)</legend>
          {item.stored_settings.map(({ name, label }) => (
            <label key={name} className="flex min-h-[48px] items-center gap-3">
              <input
                type="checkbox"
                className="size-6 shrink-0 accent-[var(--color-ink)]"
                checked={resets.includes(name)}
                onChange={(event) =>
                  setResets(event.target.checked ? [...resets, name] : resets.filter((each) => each !== name))
                }
              />
              {label}
            </label>
          ))}
        </fieldset>
      )}
      <div className="grid items-start gap-4 tab:grid-cols-2">
        <Cost label="Cost of the service" value={cost} onType={setCost} />
        <Cost label="Cost of the days without it" value={daysCost} onType={setDaysCost} />
      </div>
      <Field
        label="Certificate, if one came with it"
        faults={faultsAt(trouble, "file")}
        sub="PDF or picture, at most 20 MB. It is kept as it is."
      >
        <input
          type="file"
          accept="application/pdf,image/jpeg,image/png"
          className="field file:mr-4 file:min-h-[44px] file:border-0 file:bg-transparent file:font-semibold file:underline"
          onChange={(event) => setFile(event.target.files?.[0] ?? null)}
        />
      </Field>
      {!(trouble instanceof Problem && trouble.faults.length) && <Trouble error={trouble} />}
      <button className="btn now site">It is back</button>
    </form>
  );
}

function Cost({ label, value, onType }: { label: string; value: string; onType: (value: string) => void }) {
  return (
    <label className="grid gap-1 font-semibold">
      {label}
      <input
        className="field font-mono"
        inputMode="decimal"
        pattern="\d{1,7}([.,]\d{1,2})?"
        title="A number such as 180 or 180.50"
        autoComplete="off"
        value={value}
        onChange={(event) => onType(event.target.value)}
      />
    </label>
  );
}
