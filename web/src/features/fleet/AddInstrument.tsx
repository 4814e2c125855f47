// The manager enters an instrument: its tag, its model (one of the house's or a new one), where it is kept.
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { type ReactNode, useState } from "react";
import { useNavigate } from "react-router";
import { type Fault, Problem, api, data } from "../../api/client";
import { modelsQuery } from "../../api/queries";
import { Choice, Dialog, FaultLine, Trouble } from "../../ui/parts";
import { useKinds } from "../../hooks/useKinds";
import { lowered } from "../../ui/words";
import { KIND_NAMES, type StatedField, statedFields, statedOf } from "../../ui/stated";

const KINDS = Object.entries(KIND_NAMES).map(([value, label]) => ({ value, label }));
const NEW = "new";
type Form = { since: string; tag: string; model: string; serial: string; place: string; maker: string; name: string; kind: string; hints: string };
const EMPTY: Form = { since: "", tag: "", model: "", serial: "", place: "", maker: "", name: "", kind: "level", hints: "" };

export function AddInstrument({ open, onClose }: { open: boolean; onClose: () => void }) {
  return (
    <Dialog title="Add an instrument" open={open} onClose={onClose}>
      <Sheet onDone={onClose} />
    </Dialog>
  );
}

/** The model's id: chosen, or entered first. */
async function modelOf(form: Form, typed: Record<string, string>, hints: Record<string, string>): Promise<number> {
  if (form.model !== NEW) return Number(form.model);
  const stated = statedOf(form.kind, typed);
  const body = { maker: form.maker, name: form.name, kind: form.kind, stated, limits: {}, hints: form.hints, adjusting_hints: hints };
  const made = await data(api.POST("/api/models", { body }));
  return made.id;
}

function Sheet({ onDone }: { onDone: () => void }) {
  const client = useQueryClient();
  const navigate = useNavigate();
  const [form, setForm] = useState(EMPTY);
  const [stated, setStated] = useState<Record<string, string>>({});
  const [hints, setHints] = useState<Record<string, string>>({});
  const [trouble, setTrouble] = useState<unknown>(null);
  const [busy, setBusy] = useState(false);
  const set = (more: Partial<Form>) => setForm((one) => ({ ...one, ...more }));
  const faults = trouble instanceof Problem ? trouble.faults : [];
  const submit = async (event: React.FormEvent) => {
    event.preventDefault();
    setBusy(true);
    try {
      const model = await modelOf(form, stated, hints);
      set({ model: String(model) });
      const made = await data(api.POST("/api/instruments", { body: { tag: form.tag, model, serial: form.serial, place: form.place, crew: null, ...(form.since ? { since: form.since } : {}) } }));
      await client.invalidateQueries({ predicate: (one) => one.queryKey[0] !== "session" });
      onDone();
      await navigate(`/instruments/${made.tag}`);
    } catch (error) {
      setTrouble(error);
      await client.invalidateQueries({ queryKey: modelsQuery.queryKey });
    }
    setBusy(false);
  };
  const field = (name: keyof Form, label: string, hint = "", path: string = name) => (
    <Field label={label} faults={faults.filter((one) => one.path === path)}>
      <input className="field" value={form[name]} placeholder={hint} autoComplete="off" onChange={(e) => set({ [name]: e.target.value })} />
    </Field>
  );
  return (
    <form className="grid gap-4" onSubmit={(event) => void submit(event)}>
      {field("tag", "Tag", "LV-12")}
      <Field label="Model" faults={faults.filter((one) => one.path === "model")}>
        <PickModel value={form.model} onChange={(model) => set({ model })} />
      </Field>
      {form.model === NEW && (
        <div className="grid gap-4 border-l-2 border-ink pl-4">
          <Choice label="Kind" value={form.kind} options={KINDS} onChange={(kind) => set({ kind })} />
          {field("maker", "Maker")}
          {field("name", "Model name")}
          <StatedFigures kind={form.kind} typed={stated} faults={faults} onChange={setStated} />
          {field("hints", "A note for whoever uses it", "keep its staff evenly lit")}
          <AdjustingTips kind={form.kind} typed={hints} faults={faults} onChange={setHints} />
        </div>
      )}
      {field("serial", "Serial number")}
      {field("place", "Kept at", "Yard shelf 2")}
      <Field label="With the firm since" faults={faults.filter((one) => one.path === "since")}>
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

type OfModel = { kind: string; typed: Record<string, string>; faults: Fault[]; onChange: (typed: Record<string, string>) => void };

/** What the maker states of a model of this kind. */
function StatedFigures({ kind, typed, faults, onChange }: OfModel) {
  return statedFields(kind).map((field) => (
    <Stated key={field.name} field={field} value={typed[field.name] ?? ""} faults={faults.filter((fault) => fault.path === `stated.${field.name}`)} onChange={(value) => onChange({ ...typed, [field.name]: value })} />
  ));
}

/** Where the adjusting screws of a model are, check by check. */
function AdjustingTips({ kind, typed, faults, onChange }: OfModel) {
  const adjusted = useKinds().filter((check) => check.adjustable && check.applies_to.includes(kind));
  return adjusted.map((check) => (
    <Field key={check.kind} label={`Adjusting screws: ${lowered(check.title)}`} faults={faults.filter((fault) => fault.path === `adjusting_hints.${check.kind}`)}>
      <input className="field" value={typed[check.kind] ?? ""} placeholder="which screw, and where the tool is" maxLength={300} autoComplete="off" onChange={(event) => onChange({ ...typed, [check.kind]: event.target.value })} />
    </Field>
  ));
}

/** One figure its maker states, or one of a few. */
function Stated({ field, value, faults, onChange }: { field: StatedField; value: string; faults: Fault[]; onChange: (value: string) => void }) {
  if (field.options)
    return (
      <div className="grid gap-1">
        <span className="font-[600]">{field.label}</span>
        <Choice label={field.label} value={value} options={field.options} onChange={onChange} />
      </div>
    );
  return (
    <Field label={field.label} faults={faults}>
      <input className="field" value={value} placeholder={field.hint} inputMode="decimal" autoComplete="off" onChange={(event) => onChange(event.target.value)} />
    </Field>
  );
}

function Field({ label, faults, children }: { label: string; faults: Fault[]; children: ReactNode }) {
  return (
    <div className="grid gap-1">
      <label className="grid gap-1 font-[600]">
        {label}
        {children}
      </label>
      {faults.map((one) => (
        <FaultLine key={one.path} fault={one} beside />
      ))}
    </div>
  );
}
