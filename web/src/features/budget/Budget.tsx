// Before going out, or after a set-up: what centring, levelling, the instrument and its stated accuracy do to the work.
import { written } from "../../api/writing";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useSearchParams } from "react-router";
import { recordQuery } from "../../api/queries";
import { advise } from "../../engine";
import { Back, Choice, Head, Trouble } from "../../ui/parts";
import { NO_CORE, useQuestion } from "../../hooks/useQuestion";
import { Named } from "../../ui/Named";
import { Fold } from "../../ui/Fold";
import { BudgetBar, type BudgetGiven } from "./BudgetBar";

type Fields = Record<string, string>;
type Answer = { result: { budgets: BudgetGiven[]; given: Record<string, unknown> } };
const LEVELLING = ["back_m", "fore_m", "imbalance_m", "line_of_sight_arcsec", "staff_mm"];

export function BudgetPage() {
  const [query] = useSearchParams();
  const from = query.get("set-up");
  const record = useQuery({ ...recordQuery(from ?? ""), enabled: Boolean(from) });
  if (from && record.isPending) return null;
  return <Compute key={from ?? ""} start={startOf(record.data?.result?.result)} compensated={(record.data?.result?.result["budget"] as { compensated?: boolean } | undefined)?.compensated ?? true} over={from ?? null} />;
}

/** A set-up's own start, as the core given it with its result. */
function startOf(result: Record<string, unknown> | undefined): Fields {
  return Object.fromEntries(Object.entries((result?.["budget"] ?? {}) as Record<string, number>).flatMap(([name, each]) => (typeof each === "number" ? [[name, String(each)]] : [])));
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
type Inputs = [name: string, label: string][];
const OF_WORK: Record<Work, Inputs> = {
  levelling: [
    ["back_m", "Backsight, m"],
    ["fore_m", "Foresight, m"],
    ["imbalance_m", "Sight imbalance, m"],
    ["line_of_sight_arcsec", "Collimation, ″"],
    ["staff_mm", "Staff reading, mm"],
    ["allowed.height_mm", "Height allowed, mm"],
  ],
  angles: [
    ["back_m", "Backsight, m"],
    ["fore_m", "Foresight, m"],
    ["angle_deg", "Angle between, °"],
    ["elevation_deg", "Elevation, °"],
    ["centring_mm", "Centring, mm"],
    ["target_mm", "Targets, mm"],
    ["angle_accuracy_arcsec", "A direction, ″"],
    ["distance_accuracy_mm", "A distance, mm"],
    ["allowed.angle_arcsec", "Angle allowed, ″"],
    ["allowed.position_mm", "Point allowed, mm"],
  ],
};
const OWN_ERRORS: Inputs = [
  ["collimation_arcsec", "Collimation c, ″"],
  ["tilting_axis_arcsec", "Trunnion axis error t, ″"],
  ["index_arcsec", "Index i, ″"],
  ["tilt_arcsec", "Axis out of plumb, ″"],
  ["instrument_height_mm", "Instrument height, mm"],
  ["target_height_mm", "Target height, mm"],
  ["distance_accuracy_ppm", "Distance, ppm"],
  ["allowed.height_mm", "Height allowed, mm"],
];

function Compute({ start, over, compensated }: { start: Fields; over: string | null; compensated: boolean }) {
  const [fields, setFields] = useState<Fields>(start);
  const [work, setWork] = useState<Work>("angles");
  const [faces, setFaces] = useState<"one" | "both">("one");
  const [compensator, setCompensator] = useState<"on" | "off">(compensated ? "on" : "off");
  const question = questionOf(fields, work, faces, compensator);
  const { answer, faults, trouble, noSignal } = useQuestion<Answer>(question, (query) => advise<Answer>(query));
  const given = answer?.result.given ?? {};
  const inputs = (list: Inputs) => (
    <div className="grid grid-cols-2 gap-3">
      {list.map(([name, label]) => (
        <Named key={name} id={`budget-${name}`} label={written(label)} value={fields[name] ?? ""} placeholder={fields[name] ? "" : String(given[name] ?? "")} onType={(text) => setFields({ ...fields, [name]: text })} faults={faults} path={name} />
      ))}
    </div>
  );
  return (
    <div className="grid gap-4">
      <Head title="Accuracy forecast" sub="Error budget: every part with its value, largest first, and how to reduce it." acts={<Back to={over ? `/records/${over}` : "/set-up"}>{over ? "To the set-up" : "To the set-ups"}</Back>} />
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

function questionOf(fields: Fields, work: string, faces: string, compensator: string): Record<string, unknown> {
  const answer = Object.entries(fields).filter(([name, each]) => each.trim() && (work === "angles" || LEVELLING.includes(name) || name === "allowed.height_mm"));
  const plain = Object.fromEntries(answer.filter(([name]) => !name.startsWith("allowed.")));
  const allowed = Object.fromEntries(answer.filter(([name]) => name.startsWith("allowed.")).map(([name, each]) => [name.slice(8), each]));
  return { advice: "budget", ...plain, levelling: work === "levelling", both_faces: faces === "both", compensated: compensator === "on", ...(Object.keys(allowed).length ? { allowed } : {}) };
}
