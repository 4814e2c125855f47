// The manager enters an instrument: its tag, its model (one of the server's or a new one), where it is kept.
import { written } from "../../api/writing";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { fetchAgain } from "../../api/again";
import { Problem, api, data } from "../../api/client";
import { modelsQuery } from "../../api/queries";
import { Field } from "../../ui/Field";
import { Hints, SpecFields } from "../../ui/ModelFields";
import { Choice } from "../../ui/Choice";
import { Dialog, Trouble } from "../../ui/parts";
import { KIND_NAMES, specOf } from "../../ui/instrumentSpec";
import { useTrouble } from "../../ui/refusal";

const kindOptions = () => Object.entries(KIND_NAMES).map(([value, label]) => ({ value, label: written(label) }));
const NEW = "new";
type Form = {
  since: string;
  tag: string;
  model: string;
  serial: string;
  place: string;
  maker: string;
  name: string;
  kind: string;
  tips: string;
};
const EMPTY: Form = {
  since: "",
  tag: "",
  model: "",
  serial: "",
  place: "",
  maker: "",
  name: "",
  kind: "level",
  tips: "",
};

export default function AddInstrument({ open, onClose }: { open: boolean; onClose: () => void }) {
  return (
    <Dialog title="Add an instrument" open={open} onClose={onClose}>
      <Sheet onDone={onClose} />
    </Dialog>
  );
}

/** The model's id: chosen, or entered first. */
async function modelOf(form: Form, typed: Record<string, string>, tips: Record<string, string>): Promise<number> {
  if (form.model !== NEW) return Number(form.model);
  const stated = specOf(form.kind, typed);
  const body = {
    maker: form.maker,
    name: form.name,
    kind: form.kind,
    stated,
    tips: form.tips,
    adjusting_tips: tips,
    contents: [],
  };
  const answer = await data(api.POST("/api/models", { body }));
  return answer.id;
}

function Sheet({ onDone }: { onDone: () => void }) {
  const client = useQueryClient();
  const navigate = useNavigate();
  const [form, setForm] = useState(EMPTY);
  const [stated, setSpec] = useState<Record<string, string>>({});
  const [tips, setHints] = useState<Record<string, string>>({});
  const [trouble, setTrouble] = useTrouble();
  const [busy, setBusy] = useState(false);
  const set = (more: Partial<Form>) => setForm((now) => ({ ...now, ...more }));
  const faults = trouble instanceof Problem ? trouble.faults : [];
  const submit = async (event: React.FormEvent) => {
    event.preventDefault();
    setBusy(true);
    try {
      const model = await modelOf(form, stated, tips);
      set({ model: String(model) });
      const answer = await data(
        api.POST("/api/instruments", {
          body: {
            tag: form.tag,
            model,
            serial: form.serial,
            place: form.place,
            crew: null,
            ...(form.since ? { since: form.since } : {}),
          },
        }),
      );
      await fetchAgain(client);
      onDone();
      await navigate(`/instruments/${answer.tag}`);
    } catch (error) {
      setTrouble(error);
      await fetchAgain(client, { queryKey: modelsQuery.queryKey });
    }
    setBusy(false);
  };
  const field = (name: keyof Form, label: string, hint = "", path: string = name) => (
    <Field label={label} faults={faults.filter((fault) => fault.path === path)}>
      <input
        className="field"
        value={form[name]}
        placeholder={hint}
        autoComplete="off"
        onChange={(e) => set({ [name]: e.target.value })}
      />
    </Field>
  );
  return (
    <form className="grid gap-4" onSubmit={(event) => void submit(event)}>
      {field("tag", "Tag", "LV-12")}
      <Field label="Model" faults={faults.filter((fault) => fault.path === "model")}>
        <PickModel value={form.model} onChange={(model) => set({ model })} />
      </Field>
      {form.model === NEW && (
        <div className="grid gap-4 border-l-2 border-ink pl-4">
          <Choice label="Kind" value={form.kind} options={kindOptions()} onChange={(kind) => set({ kind })} />
          {field("maker", "Maker")}
          {field("name", "Model name")}
          <SpecFields kind={form.kind} typed={stated} faults={faults} onChange={setSpec} />
          {field("tips", "A note for whoever uses it", written("keep its staff evenly lit"))}
          <Hints kind={form.kind} typed={tips} faults={faults} onChange={setHints} />
        </div>
      )}
      {field("serial", "Serial number")}
      {field("place", "Kept at", "Yard, rack 2")}
      <Field label="With the firm since" faults={faults.filter((fault) => fault.path === "since")}>
        <input className="field" type="date" value={form.since} onChange={(e) => set({ since: e.target.value })} />
      </Field>
      {!faults.length && <Trouble error={trouble} />}
      <button className="btn now site" disabled={busy}>
        {busy ? "Adding…" : "Add it"}
      </button>
    </form>
  );
}

function PickModel({ value, onChange }: { value: string; onChange: (model: string) => void }) {
  const models = useQuery(modelsQuery);
  return (
    <select className="field" value={value} onChange={(event) => onChange(event.target.value)} required>
      <option value="" disabled>
        Choose
      </option>
      {models.data?.map((model) => (
        <option key={model.id} value={model.id}>
          {model.maker} {model.name}
        </option>
      ))}
      <option value={NEW}>A new model</option>
    </select>
  );
}
