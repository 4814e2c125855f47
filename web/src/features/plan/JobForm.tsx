// A job: who does what when, and how well it has to be done.
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Problem, api, data } from "../../api/client";
import { jobsQuery, peopleNamesQuery } from "../../api/queries";
import type { Job } from "../../documents/plan";
import { Field, faultsAt } from "../../ui/Field";
import { Meanwhile } from "../../ui/Meanwhile";
import { Trouble } from "../../ui/parts";
import { useSaving } from "../../ui/useSaving";
import { JobNeeds, type Needs, needsTyped } from "./JobNeeds";

type Form = {
  name: string;
  crew: string;
  starts_on: string;
  ends_on: string;
  large: boolean;
  place: string;
  temperature: string;
  needs: Needs;
  version: number | null;
};
const formOf = (job: Job | null): Form =>
  job
    ? { ...job, crew: job.crew ?? "", temperature: job.temperature_c === null ? "" : String(job.temperature_c) }
    : {
        name: "",
        crew: "",
        starts_on: "",
        ends_on: "",
        large: false,
        place: "",
        temperature: "",
        needs: {},
        version: null,
      };

const bodyOf = ({ temperature, needs, ...form }: Form) => ({
  ...form,
  needs: needsTyped(needs),
  crew: form.crew || null,
  ends_on: form.ends_on || form.starts_on,
  temperature_c: temperature.trim() || null,
});

export function JobForm({ job, onDone }: { job: Job | null; onDone: () => void }) {
  const client = useQueryClient();
  const [form, setForm] = useState(() => formOf(job));
  const set = (more: Partial<Form>) => setForm((now) => ({ ...now, ...more }));
  const { trouble, meanwhile, run } = useSaving(async () => {
    const now = await client.fetchQuery({ ...jobsQuery, staleTime: 0 });
    set({ version: now.find((each) => each.id === job?.id)?.version ?? null });
  });
  const store = () =>
    data(
      job
        ? api.PUT("/api/jobs/{pk}", { params: { path: { pk: job.id } }, body: bodyOf(form) })
        : api.POST("/api/jobs", { body: bodyOf(form) }),
    );
  const save = async () => (await run(store, `${form.name}: planned.`)) && onDone();
  const drop = async () =>
    (await run(
      () => api.DELETE("/api/jobs/{pk}", { params: { path: { pk: job?.id ?? 0 } } }),
      `${form.name}: taken off the plan.`,
    )) && onDone();
  return (
    <form
      className="grid gap-4"
      onSubmit={(event) => {
        event.preventDefault();
        void save();
      }}
    >
      <JobFields form={form} trouble={trouble} onSet={set} />
      {meanwhile ? (
        <Meanwhile problem={meanwhile} onTheirs={onDone} />
      ) : (
        !(trouble instanceof Problem && trouble.faults.length) && <Trouble error={trouble} />
      )}
      <div className="flex flex-wrap gap-3">
        <button className="btn now site">{job ? "Save" : "Plan it"}</button>
        {job && (
          <button type="button" className="btn site" onClick={() => void drop()}>
            Take it off the plan
          </button>
        )}
      </div>
    </form>
  );
}

function JobFields({ form, trouble, onSet }: { form: Form; trouble: unknown; onSet: (more: Partial<Form>) => void }) {
  const crews = [
    ...new Set((useQuery(peopleNamesQuery).data ?? []).flatMap((person) => (person.crew ? [person.crew] : []))),
  ].sort();
  const at = (path: string) => faultsAt(trouble, path);
  return (
    <>
      <Field label="Name of the job" faults={at("name")}>
        <input
          className="field"
          required
          maxLength={120}
          autoComplete="off"
          value={form.name}
          placeholder="east abutment pile heads"
          onChange={(event) => onSet({ name: event.target.value })}
        />
      </Field>
      <div className="grid items-start gap-4 tab:grid-cols-2">
        <Field label="First day" faults={at("starts_on")}>
          <input
            className="field"
            type="date"
            required
            value={form.starts_on}
            onChange={(event) => onSet({ starts_on: event.target.value })}
          />
        </Field>
        <Field label="Last day" faults={at("ends_on")}>
          <input
            className="field"
            type="date"
            value={form.ends_on}
            onChange={(event) => onSet({ ends_on: event.target.value })}
          />
        </Field>
        <Field label="Crew" faults={at("crew")}>
          <select className="field" value={form.crew} onChange={(event) => onSet({ crew: event.target.value })}>
            <option value="">All crews</option>
            {crews.map((name) => (
              <option key={name}>{name}</option>
            ))}
          </select>
        </Field>
        <Field label="Place" faults={at("place")}>
          <input
            className="field"
            maxLength={80}
            autoComplete="off"
            value={form.place}
            onChange={(event) => onSet({ place: event.target.value })}
          />
        </Field>
        <Field label="Temperature expected, °C" faults={at("temperature_c")}>
          <input
            className="field font-mono"
            inputMode="text"
            autoComplete="off"
            value={form.temperature}
            onChange={(event) => onSet({ temperature: event.target.value })}
          />
        </Field>
      </div>
      <label className="flex min-h-[48px] items-center gap-3 font-semibold">
        <input
          type="checkbox"
          className="size-6 accent-[var(--color-ink)]"
          checked={form.large}
          onChange={(event) => onSet({ large: event.target.checked })}
        />
        A large job: checks come due before it
      </label>
      <JobNeeds
        needs={form.needs}
        faults={trouble instanceof Problem ? trouble.faults : []}
        onSet={(needs) => onSet({ needs })}
      />
    </>
  );
}
