// One rule: its time, its events, for which instruments; first what it would change, then saved.
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Problem, type Schemas, api, data } from "../../api/client";
import { modelsQuery, rulesQuery } from "../../api/queries";
import { Field, faultsAt } from "../../ui/Field";
import { KIND_NAMES } from "../../ui/instrumentSpec";
import { Meanwhile } from "../../ui/Meanwhile";
import { Trouble } from "../../ui/parts";
import { useSaving } from "../../ui/useSaving";
import { capital } from "../../ui/words";
import type { Named, Rule } from "./types";

type Form = {
  check: string;
  scope: string;
  climate: string;
  every_days: string;
  after: string[];
  before_large_jobs: boolean;
  temperature_step_c: string;
  version: number | null;
};

const formOf = (rule: Rule): Form => ({
  check: rule.check,
  scope: rule.model ? `model:${rule.model}` : (rule.kinds[0] ?? ""),
  climate: rule.climate,
  every_days: rule.every_days === null ? "" : String(rule.every_days),
  after: rule.after,
  before_large_jobs: rule.before_large_jobs,
  temperature_step_c: rule.temperature_step_c === null ? "" : String(rule.temperature_step_c),
  version: rule.id === null ? null : rule.version,
});

const bodyOf = ({ scope, ...form }: Form) => ({
  ...form,
  kinds: scope && !scope.startsWith("model:") ? [scope] : [],
  model: scope.startsWith("model:") ? scope.slice(6) : "",
  every_days: form.every_days.trim() || null,
  temperature_step_c: form.temperature_step_c.trim() || null,
});

export function RuleForm({
  rule,
  events,
  climates,
  onDone,
}: {
  rule: Rule;
  events: Named[];
  climates: Named[];
  onDone: () => void;
}) {
  const client = useQueryClient();
  const [form, setForm] = useState(() => formOf(rule));
  const [preview, setPreview] = useState<Schemas["RulePreview"] | null>(null);
  const set = (more: Partial<Form>) => {
    setForm((now) => ({ ...now, ...more }));
    setPreview(null);
  };
  const { trouble, meanwhile, run } = useSaving(async () => {
    const now = await client.fetchQuery({ ...rulesQuery, staleTime: 0 });
    setForm((mine) => ({ ...mine, version: now.rules.find((each) => each.id === rule.id)?.version ?? null }));
  });
  const look = () =>
    run(async () => setPreview(await data(api.POST("/api/due-rules/preview", { body: bodyOf(form) }))));
  const save = async () =>
    (await run(
      () => data(api.PUT("/api/due-rules", { body: bodyOf(form) })),
      "Rule set: what is due follows it from now on.",
    )) && onDone();
  const drop = async () =>
    (await run(
      () => api.DELETE("/api/due-rules/{pk}", { params: { path: { pk: rule.id ?? 0 } } }),
      "The rule is gone; the default rule holds where there is one.",
    )) && onDone();
  return (
    <form
      className="grid gap-4"
      onSubmit={(event) => {
        event.preventDefault();
        void look();
      }}
    >
      <RuleFields form={form} events={events} climates={climates} trouble={trouble} onSet={set} />
      {meanwhile ? (
        <Meanwhile problem={meanwhile} onTheirs={onDone} />
      ) : (
        !(trouble instanceof Problem && trouble.faults.length) && <Trouble error={trouble} />
      )}
      {preview && <Altered preview={preview} />}
      <div className="flex flex-wrap gap-3">
        {preview ? (
          <button type="button" className="btn now site" onClick={() => void save()}>
            Save this rule
          </button>
        ) : (
          <button className="btn now site">See what it would change</button>
        )}
        {rule.id !== null && (
          <button type="button" className="btn site" onClick={() => void drop()}>
            Remove this rule
          </button>
        )}
      </div>
    </form>
  );
}

function RuleFields({
  form,
  events,
  climates,
  trouble,
  onSet,
}: {
  form: Form;
  events: Named[];
  climates: Named[];
  trouble: unknown;
  onSet: (more: Partial<Form>) => void;
}) {
  const models = useQuery(modelsQuery).data ?? [];
  const at = (path: string) => faultsAt(trouble, path);
  const toggle = (value: string) =>
    onSet({ after: form.after.includes(value) ? form.after.filter((each) => each !== value) : [...form.after, value] });
  return (
    <>
      <div className="grid items-start gap-4 tab:grid-cols-2">
        <Field label="For" faults={at("kinds").concat(at("model"))}>
          <select className="field" value={form.scope} onChange={(event) => onSet({ scope: event.target.value })}>
            <option value="">Every instrument</option>
            {Object.entries(KIND_NAMES).map(([value, label]) => (
              <option key={value} value={value}>
                {label}
              </option>
            ))}
            {models.map((model) => (
              <option key={model.id} value={`model:${model.maker} ${model.name}`}>
                {model.maker} {model.name}
              </option>
            ))}
          </select>
        </Field>
        <Field label="In which climate" faults={at("climate")}>
          <select className="field" value={form.climate} onChange={(event) => onSet({ climate: event.target.value })}>
            <option value="">Any</option>
            {climates.map((each) => (
              <option key={each.value} value={each.value}>
                {each.label}
              </option>
            ))}
          </select>
        </Field>
        <Field label="A pass holds, days" sub="Empty: as long as nothing happens." faults={at("every_days")}>
          <input
            className="field font-mono"
            inputMode="numeric"
            autoComplete="off"
            value={form.every_days}
            onChange={(event) => onSet({ every_days: event.target.value })}
          />
        </Field>
        <Field
          label="Due when the temperature differs by, °C"
          sub="Empty: whatever the temperature."
          faults={at("temperature_step_c")}
        >
          <input
            className="field font-mono"
            inputMode="decimal"
            autoComplete="off"
            value={form.temperature_step_c}
            onChange={(event) => onSet({ temperature_step_c: event.target.value })}
          />
        </Field>
      </div>
      <fieldset className="m-0 grid gap-x-6 border-0 p-0 tab:grid-cols-2">
        <legend className="pb-1 font-semibold">Due again after</legend>
        {events.map((each) => (
          <label key={each.value} className="flex min-h-[44px] items-center gap-3">
            <input
              type="checkbox"
              className="size-6 shrink-0 accent-[var(--color-ink)]"
              checked={form.after.includes(each.value)}
              onChange={() => toggle(each.value)}
            />
            {capital(each.label)}
          </label>
        ))}
        <label className="flex min-h-[44px] items-center gap-3">
          <input
            type="checkbox"
            className="size-6 shrink-0 accent-[var(--color-ink)]"
            checked={form.before_large_jobs}
            onChange={(event) => onSet({ before_large_jobs: event.target.checked })}
          />
          Before a large job
        </label>
      </fieldset>
    </>
  );
}

const MAX_SHOWN = 12;

function Altered({ preview }: { preview: Schemas["RulePreview"] }) {
  const more = preview.changes.length - MAX_SHOWN;
  return (
    <section className="grid gap-2 border-l-[5px] border-ink pl-4" aria-label="What it would change" role="status">
      <p className="font-semibold">
        {preview.changes.length === 0
          ? "It would change nothing today."
          : `Due now: ${preview.due_now}. With this rule: ${preview.due_then}.`}
        <span className="sub font-normal"> {preview.looked_at} instruments looked at.</span>
      </p>
      <ul className="m-0 grid list-none gap-1 p-0">
        {preview.changes.slice(0, MAX_SHOWN).map((change) => (
          <li key={change.tag}>
            <span className="tag">{change.tag}</span>: {change.before}; with this rule {change.after}
          </li>
        ))}
      </ul>
      {more > 0 && <p className="sub">{more} more.</p>}
    </section>
  );
}
