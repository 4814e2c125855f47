// Somebody new: name, sign-in name, role, crew. They set a password of their own by a one-time link.
import { useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { fetchAgain } from "../../api/again";
import { Problem, api, data } from "../../api/client";
import { peopleQuery } from "../../api/queries";
import { useNotify } from "../../app/notices";
import { Field, faultsAt } from "../../ui/Field";
import { Choice } from "../../ui/Choice";
import { Trouble } from "../../ui/parts";
import { ROLES, useCrews } from "./PersonForm";
import { useTrouble } from "../../ui/refusal";

export function NewPerson({ onDone }: { onDone: () => void }) {
  const client = useQueryClient();
  const notify = useNotify();
  const crews = useCrews();
  const [form, setForm] = useState({ name: "", username: "", role: "crew", crew: "" });
  const [trouble, setTrouble] = useTrouble();
  const set = (more: Partial<typeof form>) => setForm((now) => ({ ...now, ...more }));
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    try {
      await data(api.POST("/api/people", { body: { ...form, crew: form.crew.trim() || null, password: null } }));
      await fetchAgain(client, { queryKey: peopleQuery.queryKey });
      notify({ text: `${form.name} added. Make a one-time link for them under Change.` });
      onDone();
    } catch (error) {
      setTrouble(error);
    }
  };
  return (
    <form className="grid gap-4" onSubmit={(event) => void submit(event)}>
      <Field label="Name" faults={faultsAt(trouble, "name")}>
        <input
          className="field"
          value={form.name}
          maxLength={120}
          autoComplete="off"
          onChange={(event) => set({ name: event.target.value })}
        />
      </Field>
      <Field label="Sign-in name" faults={faultsAt(trouble, "username")}>
        <input
          className="field"
          value={form.username}
          maxLength={60}
          autoComplete="off"
          autoCapitalize="none"
          onChange={(event) => set({ username: event.target.value })}
        />
      </Field>
      <Choice label="Role" value={form.role} options={ROLES} onChange={(role) => set({ role })} />
      <Field label="Crew" faults={faultsAt(trouble, "crew")}>
        <input
          className="field"
          list="new-crews"
          value={form.crew}
          maxLength={60}
          placeholder="none"
          autoComplete="off"
          onChange={(event) => set({ crew: event.target.value })}
        />
        <datalist id="new-crews">
          {crews.map((crew) => (
            <option key={crew} value={crew} />
          ))}
        </datalist>
      </Field>
      {!(trouble instanceof Problem && trouble.faults.length) && <Trouble error={trouble} />}
      <button className="btn now site">Add this person</button>
    </form>
  );
}
