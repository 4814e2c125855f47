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
  const models = useQuery(modelsQuery);
  const client = useQueryClient();
  const navigate = useNavigate();
  const [form, setForm] = useState(EMPTY);
  const [stated, setStated] = useState<Record<string, string>>({});
  const [hints, setHints] = useState<Record<string, string>>({});
  const adjusted = useKinds().filter((one) => one.adjustable && one.applies_to.includes(form.kind));
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
        <select className="field" value={form.model} onChange={(e) => set({ model: e.target.value })} required>
          <option value="" disabled>
            Choose
          </option>
          {models.data?.map((one) => (
            <option key={one.id} value={one.id}>
              {one.maker} {one.name}
            </option>
          ))}
          <option value={NEW}>A new model</option>
        </select>
      </Field>
      {form.model === NEW && (
        <div className="grid gap-4 border-l-2 border-ink pl-4">
          <Choice label="Kind" value={form.kind} options={KINDS} onChange={(kind) => set({ kind })} />
          {field("maker", "Maker")}
          {field("name", "Model name")}
          {statedFields(form.kind).map((one) => (
            <Stated key={one.name} field={one} value={stated[one.name] ?? ""} faults={faults.filter((fault) => fault.path === `stated.${one.name}`)} onChange={(value) => setStated({ ...stated, [one.name]: value })} />
          ))}
          {field("hints", "A note for whoever uses it", "keep its staff evenly lit")}
          {adjusted.map((one) => (
            <Field key={one.kind} label={`Adjusting screws: ${lowered(one.title)}`} faults={faults.filter((fault) => fault.path === `adjusting_hints.${one.kind}`)}>
              <input className="field" value={hints[one.kind] ?? ""} placeholder="which screw, and where the tool is" maxLength={300} autoComplete="off" onChange={(event) => setHints({ ...hints, [one.kind]: event.target.value })} />
            </Field>
          ))}
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
