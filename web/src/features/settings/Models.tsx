// Models: every fact that is stated of one, at any time, and hints for each step; what is stated holds from then on.
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useSearchParams } from "react-router";
import { fetchAgain } from "../../api/again";
import { Problem, type Schemas, api, data } from "../../api/client";
import { modelsQuery } from "../../api/queries";
import { written } from "../../api/writing";
import { useHere } from "../../app/session";
import { Changes } from "../../ui/Changes";
import { Field, faultsAt } from "../../ui/Field";
import { KIND_NAMES, specFields, specOf, typedOf, unlisted } from "../../ui/instrumentSpec";
import { Meanwhile } from "../../ui/Meanwhile";
import { Hints, SpecFields } from "../../ui/ModelFields";
import { Head, Trouble, Waiting } from "../../ui/parts";
import { SettingsTabs } from "../../ui/Tabs";
import { useSavedForm } from "../../ui/useSavedForm";

type Model = Schemas["ModelOut"];

export function Models() {
  const models = useQuery(modelsQuery);
  const [params, setParams] = useSearchParams();
  const list = models.data ?? [];
  const chosen = list.find((model) => String(model.id) === params.get("model")) ?? list[0];
  return (
    <div className="grid gap-4">
      <SettingsTabs />
      <Head title="Models" sub="What is stated of each holds for every instrument of it, from the next check on." />
      {models.isPending && <Waiting what="Loading the models…" />}
      <Trouble error={models.error} />
      {models.data && !list.length && (
        <p className="card p-5">No models yet. A model is entered with its first instrument, in the yard.</p>
      )}
      {chosen && (
        <div className="grid items-start gap-4 desk:grid-cols-[280px_minmax(0,1fr)]">
          <nav aria-label="Models" className="card grid max-desk:max-h-[240px] overflow-auto p-2">
            {list.map((model) => (
              <button
                key={model.id}
                aria-current={model.id === chosen.id ? "true" : undefined}
                className="menu-item text-left aria-[current]:bg-ink aria-[current]:text-card hover:bg-[color-mix(in_srgb,var(--color-ink)_7%,transparent)] aria-[current]:hover:bg-ink"
                onClick={() => setParams({ model: String(model.id) })}
              >
                <span className="min-w-0 flex-1 py-1">
                  <b className="font-semibold">
                    {model.maker} {model.name}
                  </b>
                  <span className="block text-[15px] opacity-85">{written(KIND_NAMES[model.kind] ?? model.kind)}</span>
                </span>
                {model.instruments}
              </button>
            ))}
          </nav>
          <ModelForm key={chosen.id} first={chosen} />
        </div>
      )}
    </div>
  );
}

function useModel(first: Model) {
  const client = useQueryClient();
  const store = async (model: Model) => {
    const { maker, name, stated, tips, adjusting_tips, contents, version, id } = model;
    const saved = await data(
      api.PUT("/api/models/{pk}", {
        params: { path: { pk: id } },
        body: { maker, name, stated, tips, adjusting_tips, contents, version },
      }),
    );
    await fetchAgain(client);
    return { ...saved, instruments: model.instruments };
  };
  const read = async () => {
    const list = await client.fetchQuery({ ...modelsQuery, staleTime: 0 });
    return list.find((model) => model.id === first.id) ?? first;
  };
  return useSavedForm<Model>(first, store, read, `Saved for every ${first.maker} ${first.name}.`);
}

function ModelForm({ first }: { first: Model }) {
  const { may } = useHere();
  const form = useModel(first);
  const { value, set, trouble } = form;
  const right = may("manage-fleet");
  // What stands in the fields is what is stated: one source, also after somebody else's version was taken.
  const typed = typedOf(value.kind, value.stated);
  const faults =
    trouble && !form.meanwhile
      ? specFields(value.kind).flatMap((field) => faultsAt(trouble, `stated.${field.name}`))
      : [];
  const state = (fields: Record<string, string>) =>
    set({ stated: { ...unlisted(value.kind, value.stated), ...specOf(value.kind, fields) } });
  return (
    <form
      className="card grid gap-5 p-5"
      aria-label={`${first.maker} ${first.name}`}
      onSubmit={(event) => {
        event.preventDefault();
        void form.save();
      }}
    >
      <div className="grid items-start gap-4 tab:grid-cols-2">
        <Field label="Maker" faults={faultsAt(trouble, "maker")}>
          <input
            className="field"
            value={value.maker}
            maxLength={60}
            onChange={(event) => set({ maker: event.target.value })}
          />
        </Field>
        <Field label="Model name" faults={faultsAt(trouble, "name")}>
          <input
            className="field"
            value={value.name}
            maxLength={60}
            onChange={(event) => set({ name: event.target.value })}
          />
        </Field>
        <SpecFields kind={value.kind} typed={typed} faults={faults} onChange={state} />
      </div>
      {value.unstated.length > 0 && (
        <section className="border-l-[5px] border-ochre pl-3" aria-label="Not stated" data-unstated>
          <h2>Not stated, and what depends on it</h2>
          <ul className="m-0 grid list-none gap-1 p-0">
            {value.unstated.map((fact) => (
              <li key={fact.code}>{fact.text}</li>
            ))}
          </ul>
        </section>
      )}
      <h2 className="border-t border-line pt-4">Hints, shown at the step</h2>
      <div className="grid items-start gap-4 tab:grid-cols-2">
        <Field label="A note for whoever uses it" faults={faultsAt(trouble, "tips")}>
          <input
            className="field"
            value={value.tips}
            maxLength={500}
            onChange={(event) => set({ tips: event.target.value })}
          />
        </Field>
        <Hints
          kind={value.kind}
          typed={value.adjusting_tips}
          faults={trouble instanceof Problem && !form.meanwhile ? trouble.faults : []}
          onChange={(adjusting_tips) => set({ adjusting_tips })}
        />
      </div>
      <Field
        label="What belongs into its case, a line each"
        sub={
          value.contents.length
            ? undefined
            : `Empty uses the default list: ${value.usual_contents.join(", ") || "nothing"}.`
        }
        faults={faultsAt(trouble, "contents")}
      >
        <textarea
          className="field"
          rows={5}
          value={value.contents.join("\n")}
          onChange={(event) => set({ contents: event.target.value ? event.target.value.split("\n") : [] })}
        />
      </Field>
      {form.meanwhile ? <Meanwhile problem={form.meanwhile} onTheirs={form.takeTheirs} /> : <Trouble error={trouble} />}
      {right.allowed ? (
        <button className="btn now site justify-self-start" disabled={form.busy}>
          {form.busy ? "Saving…" : "Save this model"}
        </button>
      ) : (
        <p className="sub">{right.text}</p>
      )}
      <Changes about={`model:${first.id}`} />
    </form>
  );
}
