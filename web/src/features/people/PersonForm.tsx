// What the manager sets for one person: name, role, crew, and what they may adjust.
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { fetchAgain } from "../../api/again";
import { type Schemas, api, data } from "../../api/client";
import { peopleQuery } from "../../api/queries";
import { useKinds } from "../../hooks/useKinds";
import { Field, faultsAt } from "../../ui/Field";
import { Meanwhile } from "../../ui/Meanwhile";
import { Choice } from "../../ui/Choice";
import { Trouble } from "../../ui/parts";
import { useSavedForm } from "../../ui/useSavedForm";
import { ROLE_NAMES, lowered } from "../../ui/words";

type Row = Schemas["PersonRow"];
export const ROLES = Object.entries(ROLE_NAMES).map(([value, label]) => ({ value, label }));
const ADJUSTS = [
  { value: "role", label: "As the role may" },
  { value: "own", label: "Only these" },
];

/** Crews there are, to choose from or to name another. */
export function useCrews(): string[] {
  const people = useQuery(peopleQuery).data ?? [];
  return [...new Set(people.flatMap((row) => (row.crew ? [row.crew] : [])))].sort();
}

function useRow(first: Row) {
  const client = useQueryClient();
  const store = async ({ username, name, role, crew, adjusts, version }: Row) => {
    const saved = await data(
      api.PUT("/api/people/{username}", {
        params: { path: { username } },
        body: { name, role, crew: crew?.trim() ? crew : null, adjusts, version },
      }),
    );
    await fetchAgain(client);
    return saved;
  };
  const read = async () =>
    (await client.fetchQuery({ ...peopleQuery, staleTime: 0 })).find((row) => row.username === first.username) ?? first;
  return useSavedForm<Row>(first, store, read, `${first.name} saved.`);
}

export function PersonForm({ first }: { first: Row }) {
  const form = useRow(first);
  const { value, set, trouble } = form;
  const crews = useCrews();
  return (
    <form
      className="grid gap-4"
      aria-label={first.name}
      onSubmit={(event) => {
        event.preventDefault();
        void form.save();
      }}
    >
      <Field label="Name" faults={faultsAt(trouble, "name")}>
        <input
          className="field"
          value={value.name}
          maxLength={120}
          onChange={(event) => set({ name: event.target.value })}
        />
      </Field>
      <Field label="Role" faults={faultsAt(trouble, "role")}>
        <select className="field" value={value.role} onChange={(event) => set({ role: event.target.value })}>
          {ROLES.map((role) => (
            <option key={role.value} value={role.value}>
              {role.label}
            </option>
          ))}
        </select>
      </Field>
      <Field label="Crew" faults={faultsAt(trouble, "crew")}>
        <input
          className="field"
          list="crews"
          value={value.crew ?? ""}
          maxLength={60}
          placeholder="none"
          autoComplete="off"
          onChange={(event) => set({ crew: event.target.value })}
        />
        <datalist id="crews">
          {crews.map((crew) => (
            <option key={crew} value={crew} />
          ))}
        </datalist>
      </Field>
      <Adjusts value={value.adjusts} faults={trouble} onChange={(adjusts) => set({ adjusts })} />
      {form.meanwhile ? <Meanwhile problem={form.meanwhile} onTheirs={form.takeTheirs} /> : <Trouble error={trouble} />}
      <button className="btn now site" disabled={form.busy}>
        {form.busy ? "Saving…" : "Save"}
      </button>
    </form>
  );
}

/** By role, or exactly these kinds of check. */
function Adjusts({
  value,
  faults,
  onChange,
}: {
  value: string[] | null;
  faults: unknown;
  onChange: (value: string[] | null) => void;
}) {
  const adjusted = useKinds().filter((kind) => kind.adjustable);
  return (
    <div className="grid gap-2">
      <span className="font-semibold">May adjust</span>
      <Choice
        label="May adjust"
        value={value === null ? "role" : "own"}
        options={ADJUSTS}
        onChange={(how) => onChange(how === "role" ? null : (value ?? []))}
      />
      {value !== null &&
        adjusted.map((kind) => (
          <label key={kind.kind} className="flex min-h-[44px] items-center gap-3">
            <input
              type="checkbox"
              className="size-6 accent-[var(--color-ink)]"
              checked={value.includes(kind.kind)}
              onChange={(event) =>
                onChange(event.target.checked ? [...value, kind.kind] : value.filter((each) => each !== kind.kind))
              }
            />
            after the {lowered(kind.title)}
          </label>
        ))}
      {faultsAt(faults, "adjusts").length > 0 && <Trouble error={faults} />}
    </div>
  );
}
