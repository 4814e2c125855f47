// Limits: per model or kind of instrument, for all work or one class of it, with source, who and when; before a change is
// saved one sees what it would alter in the fleet today.
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { Problem, type Schemas, api, data } from "../../api/client";
import { classesQuery, limitsQuery, modelsQuery } from "../../api/queries";
import { useKinds } from "../../hooks/useKinds";
import { fixed, written } from "../../api/writing";
import { useHere } from "../../app/session";
import { Changes } from "../../ui/Changes";
import { Field, faultsAt } from "../../ui/Field";
import { GradeMark } from "../../ui/icons";
import { KIND_NAMES } from "../../ui/instrumentSpec";
import { Meanwhile } from "../../ui/Meanwhile";
import { Dialog, Head, Trouble, Waiting } from "../../ui/parts";
import { SettingsTabs } from "../../ui/Tabs";
import { useSaving } from "../../ui/useSaving";
import { moment } from "../../ui/words";

type Rule = Schemas["LimitOut"];
type Quantity = { name: string; label: string; unit: string; check: string };
const SIGNS: Record<string, string> = { arcsec: "″", div: "divisions" };
const unitOf = (unit: string): string => SIGNS[unit] ?? unit;

/** What checks of a kind of instrument judge, each once. */
function useQuantities(kind: string): Quantity[] {
  const kinds = useKinds();
  const all = kinds
    .filter((check) => check.applies_to.includes(kind))
    .flatMap((check) => check.limited.map((quantity) => ({ ...quantity, check: check.title })));
  return [...new Map(all.map((quantity) => [quantity.name, quantity])).values()];
}

export function Limits() {
  const limits = useQuery(limitsQuery);
  const { may } = useHere();
  const [editing, setEditing] = useState<Rule | "new" | null>(null);
  const right = may("manage-fleet");
  return (
    <div className="grid gap-4">
      <SettingsTabs />
      <Head
        title="Limits"
        sub="Where none is set the default limit of a check holds. A record keeps the limit it was judged by."
        actions={
          right.allowed && (
            <button className="btn" onClick={() => setEditing("new")}>
              Set a limit
            </button>
          )
        }
      />
      {limits.isPending && <Waiting what="Loading the limits…" />}
      <Trouble error={limits.error} />
      {limits.data && !limits.data.length && (
        <p className="card p-5">
          No limit of your own is set: every check is judged by its default limit, which each verdict names with its
          source.
        </p>
      )}
      {limits.data && limits.data.length > 0 && (
        <Rules rules={limits.data} onEdit={right.allowed ? setEditing : null} />
      )}
      <Changes about="limits" />
      <Dialog
        title={editing === "new" ? "Set a limit" : "Change this limit"}
        open={editing !== null}
        onClose={() => setEditing(null)}
        wide
      >
        {editing !== null && <LimitForm rule={editing === "new" ? null : editing} onDone={() => setEditing(null)} />}
      </Dialog>
    </div>
  );
}

function Rules({ rules, onEdit }: { rules: Rule[]; onEdit: ((rule: Rule) => void) | null }) {
  const { session } = useHere();
  return (
    <section className="card relative overflow-x-auto p-4" aria-label="Limits that are set">
      <table className="w-full border-collapse text-left">
        <thead>
          <tr className="border-b border-ink">
            {["For", "Work", "Quantity", "Use", "Watch", "Adjust", "Source", "Set by", ""].map((name) => (
              <th key={name} scope="col" className="py-2 pr-4 font-semibold">
                {name || <span className="sr-only">Change</span>}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rules.map((rule) => (
            <tr key={rule.id} className="border-b border-line" data-limit={rule.quantity}>
              <td className="py-2 pr-4">
                {rule.model_name || `Every ${written(KIND_NAMES[rule.kind] ?? rule.kind).toLowerCase()}`}
              </td>
              <td className="py-2 pr-4">{rule.class_of_work || "all"}</td>
              <td className="py-2 pr-4">
                <Called rule={rule} />
              </td>
              {[rule.use, rule.watch, rule.adjust].map((figure, i) => (
                <td key={i} className="py-2 pr-4 tabular-nums">
                  {figure === null ? "" : written(String(figure))}
                </td>
              ))}
              <td className="py-2 pr-4">{rule.source}</td>
              <td className="sub py-2 pr-4">
                {rule.by}, {moment(rule.at, session.time_zone)}
              </td>
              <td className="py-1">
                {onEdit && (
                  <button
                    className="btn !px-3"
                    aria-label={`Change: ${rule.model_name || rule.kind}, ${rule.quantity}`}
                    onClick={() => onEdit(rule)}
                  >
                    Change
                  </button>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

function Called({ rule }: { rule: Rule }) {
  const quantity = useQuantities(rule.kind).find((each) => each.name === rule.quantity);
  return quantity ? `${quantity.label}, ${unitOf(quantity.unit)}` : rule.quantity;
}

type Form = {
  scope: string;
  class_of_work: string;
  quantity: string;
  use: string;
  watch: string;
  adjust: string;
  source: string;
  version: number | null;
};
const asText = (figure: number | null): string => (figure === null ? "" : String(figure));
const formOf = (rule: Rule | null): Form =>
  rule
    ? {
        scope: rule.model ? `model:${rule.model}` : rule.kind,
        class_of_work: rule.class_of_work,
        quantity: rule.quantity,
        use: asText(rule.use),
        watch: asText(rule.watch),
        adjust: asText(rule.adjust),
        source: rule.source,
        version: rule.version,
      }
    : { scope: "level", class_of_work: "", quantity: "", use: "", watch: "", adjust: "", source: "", version: null };
const bodyOf = ({ scope, ...form }: Form) => ({
  ...form,
  model: scope.startsWith("model:") ? Number(scope.slice(6)) : null,
  kind: scope.startsWith("model:") ? "" : scope,
});

function LimitForm({ rule, onDone }: { rule: Rule | null; onDone: () => void }) {
  const client = useQueryClient();
  const [form, setForm] = useState(() => formOf(rule));
  const [preview, setPreview] = useState<Schemas["LimitPreview"] | null>(null);
  const set = (more: Partial<Form>) => {
    setForm((now) => ({ ...now, ...more }));
    setPreview(null);
  };
  const { trouble, meanwhile, run } = useSaving(async () => {
    const now = await client.fetchQuery({ ...limitsQuery, staleTime: 0 });
    setForm((mine) => ({ ...mine, version: now.find((each) => each.id === rule?.id)?.version ?? mine.version }));
  });
  const look = () => run(async () => setPreview(await data(api.POST("/api/limits/preview", { body: bodyOf(form) }))));
  const save = async () =>
    (await run(
      () => data(api.PUT("/api/limits", { body: bodyOf(form) })),
      "Limit set: the next check is judged by it.",
    )) && onDone();
  const drop = async () =>
    (await run(
      () => api.DELETE("/api/limits/{pk}", { params: { path: { pk: rule?.id ?? 0 } } }),
      "The default limit holds again.",
    )) && onDone();
  return (
    <form
      className="grid gap-4"
      onSubmit={(event) => {
        event.preventDefault();
        void look();
      }}
    >
      <LimitFields form={form} fixed={rule !== null} trouble={trouble} onSet={set} />
      {meanwhile ? (
        <Meanwhile problem={meanwhile} onTheirs={onDone} />
      ) : (
        !(trouble instanceof Problem && trouble.faults.length) && <Trouble error={trouble} />
      )}
      {preview && <Altered preview={preview} />}
      <div className="flex flex-wrap gap-3">
        {preview ? (
          <button type="button" className="btn now site" onClick={() => void save()}>
            Save this limit
          </button>
        ) : (
          <button className="btn now site">See what it would change</button>
        )}
        {rule && (
          <button type="button" className="btn site" onClick={() => void drop()}>
            Default limit again
          </button>
        )}
      </div>
    </form>
  );
}

function LimitFields({
  form,
  fixed: isFixed,
  trouble,
  onSet,
}: {
  form: Form;
  fixed: boolean;
  trouble: unknown;
  onSet: (more: Partial<Form>) => void;
}) {
  const models = useQuery(modelsQuery).data ?? [];
  const classes = useQuery(classesQuery).data ?? [];
  const kind = models.find((model) => `model:${model.id}` === form.scope)?.kind ?? form.scope;
  const quantities = useQuantities(kind);
  const unit = unitOf(quantities.find((each) => each.name === form.quantity)?.unit ?? "");
  const at = (path: string) => faultsAt(trouble, path);
  const figure = (name: "use" | "watch" | "adjust", label: string, hint: string) => (
    <Field label={unit ? `${label}, ${unit}` : label} faults={at(name)}>
      <input
        className="field font-mono"
        inputMode="decimal"
        autoComplete="off"
        value={form[name]}
        placeholder={hint}
        onChange={(event) => onSet({ [name]: event.target.value })}
      />
    </Field>
  );
  return (
    <>
      <div className="grid items-start gap-4 tab:grid-cols-2">
        <Field label="For" faults={at("kind").concat(at("model"))}>
          <select
            className="field"
            disabled={isFixed}
            value={form.scope}
            onChange={(event) => onSet({ scope: event.target.value, quantity: "" })}
          >
            {Object.entries(KIND_NAMES).map(([value, label]) => (
              <option key={value} value={value}>
                Every {written(label).toLowerCase()}
              </option>
            ))}
            {models.map((model) => (
              <option key={model.id} value={`model:${model.id}`}>
                {model.maker} {model.name}
              </option>
            ))}
          </select>
        </Field>
        <Field label="Quantity" faults={at("quantity")}>
          <select
            className="field"
            disabled={isFixed}
            value={form.quantity}
            onChange={(event) => onSet({ quantity: event.target.value })}
          >
            <option value="">Choose</option>
            {quantities.map((quantity) => (
              <option key={quantity.name} value={quantity.name}>
                {quantity.label} ({quantity.check})
              </option>
            ))}
          </select>
        </Field>
        <Field label="Class of work" sub="Empty: all work. A check asks which it is." faults={at("class_of_work")}>
          <input
            className="field"
            disabled={isFixed}
            list="classes"
            value={form.class_of_work}
            maxLength={40}
            placeholder="bridge bearings"
            onChange={(event) => onSet({ class_of_work: event.target.value })}
          />
          <datalist id="classes">
            {classes.map((name) => (
              <option key={name} value={name} />
            ))}
          </datalist>
        </Field>
        <Field label="Source" sub="Every verdict names it." faults={at("source")}>
          <input
            className="field"
            value={form.source}
            maxLength={200}
            placeholder="specification of the bridge, section 4"
            onChange={(event) => onSet({ source: event.target.value })}
          />
        </Field>
      </div>
      <div className="grid items-start gap-4 tab:grid-cols-3">
        {figure("use", "Use up to", "")}
        {figure("watch", "Watch up to", "as use")}
        {figure("adjust", "Adjust up to", "as the default")}
      </div>
    </>
  );
}

/** What another limit would alter today. */
function Altered({ preview }: { preview: Schemas["LimitPreview"] }) {
  const { looked_at: looked, changes } = preview;
  return (
    <section
      className="grid gap-2 border-t border-line pt-3"
      aria-label="What it would change"
      data-altered={changes.length}
    >
      <p className="font-semibold">
        {changes.length === 0
          ? `None of ${looked} latest checks would be graded otherwise.`
          : `${changes.length} of ${looked} latest checks would be graded otherwise. Their records stay as they are.`}
      </p>
      <ul className="m-0 grid list-none gap-1 p-0">
        {changes.slice(0, 12).map((change) => (
          <li key={change.record} className="flex flex-wrap items-center gap-x-3">
            <Link className="tag link" to={`/records/${change.record}`}>
              {change.tag}
            </Link>
            <span>{change.check}</span>
            <GradeMark grade={change.before as never} quiet /> <span aria-hidden="true">→</span>
            <span className="sr-only">would be</span> <GradeMark grade={change.after as never} quiet />
          </li>
        ))}
      </ul>
      {changes.length > 12 && <p className="sub">and {fixed(changes.length - 12, 0)} more.</p>}
    </section>
  );
}
