// Before going out, or after a set-up: what centring, levelling, the instrument and its stated accuracy do to the work.
import { written } from "../../api/writing";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useSearchParams } from "react-router";
import { recordQuery } from "../../api/queries";
import { advise } from "../../engine";
import { Choice } from "../../ui/Choice";
import { Back, Head, Trouble } from "../../ui/parts";
import { SetUpTabs } from "../../ui/Tabs";
import { NO_CORE, useQuestion } from "../../hooks/useQuestion";
import { Named } from "../../ui/Named";
import { Fold } from "../../ui/Fold";
import { firmUnit, smallUnit, unitShown, withUnit } from "../../ui/units";
import { BudgetBar, type BudgetGiven } from "../../ui/BudgetBar";

type Fields = Record<string, string>;
type Answer = { result: { budgets: BudgetGiven[]; usual: Record<string, string> } };
const LEVELLING = ["back_m", "fore_m", "imbalance_m", "line_of_sight_arcsec", "staff_mm"];

export function BudgetPage() {
  const [query] = useSearchParams();
  const from = query.get("set-up");
  const record = useQuery({ ...recordQuery(from ?? ""), enabled: Boolean(from) });
  if (from && record.isPending) return null;
  return (
    <Compute
      key={from ?? ""}
      start={startOf(record.data?.result?.result)}
      compensated={
        (record.data?.result?.result["budget"] as { compensated?: boolean } | undefined)?.compensated ?? true
      }
      over={from ?? null}
    />
  );
}

/** A set-up's own start, as the core given it with its result. */
function startOf(result: Record<string, unknown> | undefined): Fields {
  return Object.fromEntries(
    Object.entries((result?.["budget"] ?? {}) as Record<string, number>).flatMap(([name, each]) =>
      typeof each === "number" ? [[name, String(each)]] : [],
    ),
  );
}

const KINDS = [
  { value: "angles", label: "Angles and distances" },
  { value: "levelling", label: "Levelling" },
] as const;
const FACES = [
  { value: "one", label: "One face" },
  { value: "both", label: "Both faces" },
] as const;
const COMPENSATORS = [
  { value: "on", label: "Compensator on" },
  { value: "off", label: "None, or off" },
] as const;
type Work = (typeof KINDS)[number]["value"];
type Inputs = [name: string, label: string, unit: string][];
/** A distance, and a small length, in the firm's unit. */
const FAR = "far";
const SMALL = "small";
const unitOf = (unit: string): string => (unit === FAR ? firmUnit() : unit === SMALL ? smallUnit() : unit);
const OF_WORK: Record<Work, Inputs> = {
  levelling: [
    ["back_m", "Backsight", FAR],
    ["fore_m", "Foresight", FAR],
    ["imbalance_m", "Sight imbalance", FAR],
    ["line_of_sight_arcsec", "Collimation", "″"],
    ["staff_mm", "Staff reading", SMALL],
    ["allowed.height_mm", "Height allowed", SMALL],
  ],
  angles: [
    ["back_m", "Backsight", FAR],
    ["fore_m", "Foresight", FAR],
    ["angle_deg", "Angle between", "°"],
    ["elevation_deg", "Elevation", "°"],
    ["centring_mm", "Centring", SMALL],
    ["target_mm", "Targets", SMALL],
    ["angle_accuracy_arcsec", "A direction", "″"],
    ["distance_accuracy_mm", "A distance", "mm"],
    ["allowed.angle_arcsec", "Angle allowed", "″"],
    ["allowed.position_mm", "Point allowed", SMALL],
  ],
};
const OWN_ERRORS: Inputs = [
  ["collimation_arcsec", "Collimation c", "″"],
  ["tilting_axis_arcsec", "Trunnion axis error t", "″"],
  ["index_arcsec", "Index i", "″"],
  ["tilt_arcsec", "Axis out of plumb", "″"],
  ["instrument_height_mm", "Instrument height", SMALL],
  ["target_height_mm", "Target height", SMALL],
  ["distance_accuracy_ppm", "Distance", "ppm"],
  ["allowed.height_mm", "Height allowed", SMALL],
];

function Compute({ start, over, compensated }: { start: Fields; over: string | null; compensated: boolean }) {
  const [fields, setFields] = useState<Fields>(start);
  const [work, setWork] = useState<Work>("angles");
  const [faces, setFaces] = useState<"one" | "both">("one");
  const [compensator, setCompensator] = useState<"on" | "off">(compensated ? "on" : "off");
  const question = questionOf(fields, work, faces, compensator);
  const { answer, faults, trouble, noSignal } = useQuestion<Answer>(question, (query) => advise<Answer>(query));
  const usual = answer?.result.usual ?? {};
  const inputs = (list: Inputs) => (
    <div className="grid grid-cols-2 gap-3">
      {list.map(([name, label, unit]) => (
        <Named
          key={name}
          id={`budget-${name}`}
          label={`${written(label)}, ${unitShown(unitOf(unit))}`}
          value={fields[name] ?? ""}
          placeholder={fields[name] ? "" : (usual[name] ?? "")}
          onType={(text) => setFields({ ...fields, [name]: text })}
          faults={faults}
          path={name}
        />
      ))}
    </div>
  );
  return (
    <div className="grid gap-4">
      <SetUpTabs />
      <Head
        title="Accuracy forecast"
        sub="Error budget: every part with its value, largest first, and how to reduce it."
        actions={over ? <Back to={`/records/${over}`}>To the set-up</Back> : undefined}
      />
      <div className="grid items-start gap-4 desk:grid-cols-[420px_minmax(0,1fr)]">
        <section className="card grid gap-4 p-5" aria-label="Input">
          <Choice label="Work" value={work} options={[...KINDS]} onChange={setWork} />
          {inputs(OF_WORK[work])}
          {work === "angles" && (
            <>
              <Choice label="Observed in" value={faces} options={[...FACES]} onChange={setFaces} />
              <Fold title="Instrument errors and heights">
                {inputs(OWN_ERRORS)}
                <Choice label="Compensator" value={compensator} options={[...COMPENSATORS]} onChange={setCompensator} />
              </Fold>
            </>
          )}
        </section>
        <div className="grid gap-4">
          {noSignal && <p className="fault">{NO_CORE}</p>}
          <Trouble error={trouble} />
          {answer?.result.budgets.map((budget) => (
            <BudgetBar key={budget.quantity} answer={budget} />
          ))}
        </div>
      </div>
    </div>
  );
}

const SMALL_ONES = new Set(
  [...Object.values(OF_WORK).flat(), ...OWN_ERRORS].flatMap(([name, , unit]) => (unit === SMALL ? [name] : [])),
);

/** What was typed, small lengths with the unit they were labelled with. */
const typedIn = (fields: Fields): [string, string][] =>
  Object.entries(fields).map(([name, text]) => [name, SMALL_ONES.has(name) ? withUnit(text, smallUnit()) : text]);

function questionOf(fields: Fields, work: string, faces: string, compensator: string): Record<string, unknown> {
  const answer = typedIn(fields).filter(
    ([name, each]) => each.trim() && (work === "angles" || LEVELLING.includes(name) || name === "allowed.height_mm"),
  );
  const plain = Object.fromEntries(answer.filter(([name]) => !name.startsWith("allowed.")));
  const allowed = Object.fromEntries(
    answer.filter(([name]) => name.startsWith("allowed.")).map(([name, each]) => [name.slice(8), each]),
  );
  return {
    advice: "budget",
    units: { length: firmUnit() },
    ...plain,
    levelling: work === "levelling",
    both_faces: faces === "both",
    compensated: compensator === "on",
    ...(Object.keys(allowed).length ? { allowed } : {}),
  };
}
