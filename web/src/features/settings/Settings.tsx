// How the firm is called, writes and judges, and what its work is: one page for what the manager sets for everybody.
import { useQuery, useQueryClient } from "@tanstack/react-query";
import type { ReactNode } from "react";
import { fetchAgain } from "../../api/again";
import { type Schemas, api, data } from "../../api/client";
import { firmQuery, fleetQuery, rulesQuery } from "../../api/queries";
import { useHere } from "../../app/session";
import { setUpMethods } from "../../engine";
import type { Work } from "../../documents/work";
import { Changes } from "../../ui/Changes";
import { Field, faultsAt } from "../../ui/Field";
import { Meanwhile } from "../../ui/Meanwhile";
import { Choice } from "../../ui/Choice";
import { Head, Trouble, Waiting } from "../../ui/parts";
import { SettingsTabs } from "../../ui/Tabs";
import { ANGLES, UNITS } from "../../ui/units";
import { WorkFields } from "../../ui/WorkFields";
import { useSavedForm } from "../../ui/useSavedForm";

type Firm = Schemas["FirmOut"];
const STAFF_WORDS = [
  { value: "staff" as const, label: "Staff" },
  { value: "rod" as const, label: "Rod" },
];
const MARKS = [
  { value: "." as const, label: "Point", hint: "24.1″" },
  { value: "," as const, label: "Comma", hint: "24,1″" },
];
const JUDGED = [
  { value: "half", label: "c and i", hint: "half of the face difference" },
  { value: "raw", label: "2c and 2i", hint: "the face difference itself" },
];
const WRITTEN = ["staff_word", "decimal_mark", "length_unit", "angle_unit", "time_zone"] as const;
const GRADES = [
  { value: "watch", label: "Use, and watch with its condition" },
  { value: "use", label: "Use alone" },
];

export function Settings() {
  const firm = useQuery(firmQuery);
  return (
    <div className="grid gap-4">
      <SettingsTabs />
      <Head
        title={firm.data?.name ? `Settings of ${firm.data.name}` : "Settings of your firm"}
        sub="They hold for everybody, on every screen, print and export of a page. Records keep their figures."
      />
      {firm.isPending && <Waiting what="Loading the settings…" />}
      <Trouble error={firm.error} />
      {firm.data && <FirmForm first={firm.data} />}
    </div>
  );
}

function useFirm(first: Firm) {
  const client = useQueryClient();
  const store = async (firm: Firm) => {
    const sent: Partial<Firm> = { ...firm };
    delete sent.zone_in_force;
    const saved = await data(api.PUT("/api/organisation", { body: sent as Schemas["Firm"] }));
    client.setQueryData(firmQuery.queryKey, saved);
    await fetchAgain(client, {});
    // Every sentence on the page is written again in the firm's words.
    if (WRITTEN.some((name) => saved[name] !== first[name])) location.reload();
    return saved;
  };
  return useSavedForm<Firm>(first, store, () => client.fetchQuery({ ...firmQuery, staleTime: 0 }), "Settings saved.");
}

function FirmForm({ first }: { first: Firm }) {
  const { may } = useHere();
  const form = useFirm(first);
  const { value, set, trouble } = form;
  const right = may("manage-fleet");
  const at = (path: string) => faultsAt(trouble, path);
  return (
    <form
      className="grid items-start gap-4 desk:grid-cols-2"
      aria-label="Settings"
      onSubmit={(event) => {
        event.preventDefault();
        void form.save();
      }}
    >
      <HowItWrites value={value} set={set} at={at} />
      <div className="grid gap-4">
        <section className="card grid gap-5 p-5">
          <h2>How it works and judges</h2>
          <Setting title="A two-face check judges">
            <Choice
              label="A two-face check judges"
              value={value.judge_raw ? "raw" : "half"}
              options={JUDGED}
              onChange={(judged) => set({ judge_raw: judged === "raw" })}
            />
          </Setting>
          <Setting
            title="An instrument goes out graded"
            sub="With use alone, what passed only with a condition waits for a better check."
          >
            <Choice
              label="An instrument goes out graded"
              value={value.least_grade}
              options={GRADES}
              onChange={(least_grade) => set({ least_grade })}
            />
          </Setting>
          <Climate value={value.climate} onChange={(climate) => set({ climate })} />
          <PreferredMethod
            value={value.preferred_method}
            faults={at("preferred_method")}
            onChange={(preferred_method) => set({ preferred_method })}
          />
        </section>
        <section className="card grid gap-4 p-5">
          <h2>What the work usually is</h2>
          <p className="sub">
            Effects, limits and the tolerance of centring follow from it. A job can say otherwise; it is remembered.
          </p>
          <WorkFields
            work={value.work as Work}
            unit="m"
            path="work"
            faults={at("work.sight_m").concat(
              at("work.sight_imbalance_m"),
              at("work.elevation_deg"),
              at("work.angle_wanted_arcsec"),
            )}
            onChange={(work) => set({ work })}
          />
        </section>
        <section className="card grid gap-4 p-5">
          {form.meanwhile ? (
            <Meanwhile problem={form.meanwhile} onTheirs={form.takeTheirs} />
          ) : (
            <Unplaced trouble={trouble} />
          )}
          {right.allowed ? (
            <button className="btn now site" disabled={form.busy}>
              {form.busy ? "Saving…" : "Save settings"}
            </button>
          ) : (
            <p className="sub">{right.text}</p>
          )}
          <Changes about="firm" />
        </section>
      </div>
    </form>
  );
}

type Part = { value: Firm; set: (more: Partial<Firm>) => void; at: (path: string) => ReturnType<typeof faultsAt> };

/** Its name and zone, its words, marks and units. */
function HowItWrites({ value, set, at }: Part) {
  return (
    <section className="card grid gap-5 p-5">
      <h2>The firm</h2>
      <Field label="Name" faults={at("name")}>
        <input
          className="field"
          value={value.name}
          maxLength={120}
          autoComplete="organization"
          onChange={(event) => set({ name: event.target.value })}
        />
      </Field>
      <Field
        label="Time zone"
        sub={
          value.time_zone
            ? "Days and due dates turn at its midnight."
            : `Not set: the server's zone ${value.zone_in_force} holds.`
        }
        faults={at("time_zone")}
      >
        <input
          className="field"
          list="zones"
          value={value.time_zone}
          placeholder={value.zone_in_force}
          autoComplete="off"
          onChange={(event) => set({ time_zone: event.target.value })}
        />
        <datalist id="zones">
          {Intl.supportedValuesOf("timeZone").map((zone) => (
            <option key={zone} value={zone} />
          ))}
        </datalist>
      </Field>
      <Setting title="A levelling staff is called">
        <Choice
          label="A levelling staff is called"
          value={value.staff_word}
          options={STAFF_WORDS}
          onChange={(staff_word) => set({ staff_word })}
        />
      </Setting>
      <Setting title="Decimal mark">
        <Choice
          label="Decimal mark"
          value={value.decimal_mark}
          options={MARKS}
          onChange={(decimal_mark) => set({ decimal_mark })}
        />
      </Setting>
      <Setting
        title="Lengths in"
        sub="What is typed without a unit. Each person can still choose another for a check or an orientation; theirs is remembered."
      >
        <Choice
          label="Lengths in"
          value={value.length_unit}
          options={UNITS as { value: Firm["length_unit"]; label: string }[]}
          onChange={(length_unit) => set({ length_unit })}
        />
      </Setting>
      <Setting title="Angles are typed as">
        <Choice
          label="Angles are typed as"
          value={value.angle_unit}
          options={ANGLES as { value: Firm["angle_unit"]; label: string; hint?: string }[]}
          onChange={(angle_unit) => set({ angle_unit })}
        />
      </Setting>
    </section>
  );
}

/** A refusal whose faults stand beside their fields says only that it is one. */
function Unplaced({ trouble }: { trouble: unknown }) {
  if (!trouble) return null;
  return <Trouble error={trouble} />;
}

/** Rules for a climate hold where a firm says it works in it. */
function Climate({ value, onChange }: { value: string; onChange: (climate: string) => void }) {
  const climates = useQuery(rulesQuery).data?.climates ?? [];
  return (
    <Setting title="Climate" sub="A rule for a climate counts only when that climate is chosen here.">
      <Choice
        label="Climate"
        value={value}
        options={[{ value: "", label: "None in particular" }, ...climates]}
        onChange={onChange}
      />
    </Setting>
  );
}

function PreferredMethod({
  value,
  faults,
  onChange,
}: {
  value: string;
  faults: ReturnType<typeof faultsAt>;
  onChange: (method: string) => void;
}) {
  // Methods are those of an instrument that stands over a point: any of the fleet shows their names.
  const tag = useQuery(fleetQuery).data?.rows.find((row) => /total-station|theodolite/.test(row.kind))?.tag ?? "";
  const methods = useQuery({
    queryKey: ["methods", tag],
    queryFn: () => setUpMethods(tag),
    enabled: tag !== "",
    staleTime: Infinity,
    networkMode: "always",
  });
  return (
    <Field label="Preferred method of setting up" sub="Everybody is offered it first." faults={faults}>
      <select className="field" value={value} onChange={(event) => onChange(event.target.value)}>
        <option value="">Each person's own</option>
        {methods.data?.methods.map((method) => (
          <option key={method.method} value={method.method}>
            {method.title}
          </option>
        ))}
      </select>
    </Field>
  );
}

function Setting({ title, sub, children }: { title: string; sub?: string; children: ReactNode }) {
  return (
    <div className="grid gap-2">
      <h3 className="font-semibold">{title}</h3>
      {children}
      {sub && <p className="sub">{sub}</p>}
    </div>
  );
}
