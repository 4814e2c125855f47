// Before going out, or after a set-up: what centring, levelling, the instrument and its stated accuracy do to the work.
import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { useSearchParams } from "react-router";
import { NoSignal, Problem, type Fault } from "../../api/client";
import { recordQuery } from "../../api/queries";
import { advise } from "../../core";
import { Back, Choice, Head, Trouble } from "../../ui/parts";
import { Fold, Named } from "../stand/parts";
import { BudgetBar, type BudgetTold } from "./BudgetBar";

type Fields = Record<string, string>;
const LEVELLING = ["back_m", "fore_m", "imbalance_m", "line_of_sight_arcsec", "staff_mm"];

export function BudgetPage() {
  const [asked] = useSearchParams();
  const from = asked.get("set-up");
  const record = useQuery({ ...recordQuery(from ?? ""), enabled: Boolean(from) });
  if (from && record.isPending) return null;
  return <Reckon key={from ?? ""} start={from && record.data ? startOf(record.data as unknown as SetUpRecord) : {}} over={from ?? null} />;
}

type SetUpRecord = { document: { instrument?: Record<string, number>; work?: { sight_m?: string | number } }; result: { result: Record<string, number | undefined> } | null };

/** A set-up as it was judged: what is left at the mark and of the tilt, and the instrument's stated accuracies. */
function startOf(record: SetUpRecord): Fields {
  const { instrument = {}, work } = record.document;
  const result = record.result?.result ?? {};
  const told: Record<string, number | string | undefined> = {
    centring_mm: result["centring_mm"] === undefined ? undefined : Math.hypot(result["centring_mm"], result["sigma_centring_mm"] ?? 0).toFixed(2),
    tilt_arcsec: result["tilt_arcsec"]?.toFixed(1),
    angle_accuracy_arcsec: instrument["angle_accuracy_arcsec"],
    distance_accuracy_mm: instrument["distance_accuracy_mm"],
    distance_accuracy_ppm: instrument["distance_accuracy_ppm"],
    fore_m: work?.sight_m,
  };
  return Object.fromEntries(Object.entries(told).flatMap(([name, one]) => (one === undefined || one === null ? [] : [[name, String(one)]])));
}

const KINDS = [
  { value: "angles", label: "Angles and distances" },
  { value: "levelling", label: "Levelling" },
] as const;

function Reckon({ start, over }: { start: Fields; over: string | null }) {
  const [fields, setFields] = useState<Fields>(start);
  const [work, setWork] = useState<"angles" | "levelling">("angles");
  const [faces, setFaces] = useState<"one" | "both">("one");
  const [compensator, setCompensator] = useState<"on" | "off">("on");
  const { budgets, faults, trouble } = useBudget(fields, work, faces, compensator);
  const well = (name: string, label: string, usual: string) => (
    <Named id={`budget-${name}`} label={label} value={fields[name] ?? ""} placeholder={usual} onType={(text) => setFields({ ...fields, [name]: text })} faults={faults} path={name} />
  );
  return (
    <div className="grid gap-4">
      <Head title="What may be expected of the work" sub="Every part with its own value; the largest first, and what would remove it." acts={<Back to={over ? `/records/${over}` : "/stand"}>{over ? "To the set-up" : "To the stand"}</Back>} />
      <div className="grid items-start gap-4 desk:grid-cols-[420px_minmax(0,1fr)]">
        <section className="card grid gap-4 p-5" aria-label="What is known">
          <Choice label="The work" value={work} options={[...KINDS]} onChange={setWork} />
          <div className="grid grid-cols-2 gap-3">
            {well("back_m", work === "levelling" ? "Back sight, m" : "To the reference, m", "30")}
            {well("fore_m", work === "levelling" ? "Fore sight, m" : "To the point, m", "30")}
            {work === "levelling" ? (
              <>
                {well("imbalance_m", "Sights unequal by, m", "0")}
                {well("line_of_sight_arcsec", "Line of sight, ″", "0")}
                {well("staff_mm", "Reading a staff, mm", "1")}
                {well("allowed.height_mm", "Height allowed, mm", "")}
              </>
            ) : (
              <>
                {well("angle_deg", "Angle between, °", "90")}
                {well("elevation_deg", "Up to the point, °", "0")}
                {well("centring_mm", "Centring, mm", "1")}
                {well("target_mm", "Targets, mm", "1")}
                {well("angle_accuracy_arcsec", "A direction, ″", "5")}
                {well("distance_accuracy_mm", "A distance, mm", "2")}
                {well("allowed.angle_arcsec", "Angle allowed, ″", "")}
                {well("allowed.position_mm", "Point allowed, mm", "")}
              </>
            )}
          </div>
          {work === "angles" && (
            <>
              <Choice
                label="Observed in"
                value={faces}
                options={[
                  { value: "one", label: "One face" },
                  { value: "both", label: "Both faces" },
                ]}
                onChange={setFaces}
              />
              <Fold title="The instrument's own errors, heights">
                <div className="grid grid-cols-2 gap-3">
                  {well("collimation_arcsec", "Collimation c, ″", "0")}
                  {well("tilting_axis_arcsec", "Tilting axis t, ″", "0")}
                  {well("index_arcsec", "Index i, ″", "0")}
                  {well("tilt_arcsec", "Axis out of plumb, ″", "0")}
                  {well("instrument_height_mm", "Its height, mm", "1")}
                  {well("target_height_mm", "Target height, mm", "1")}
                  {well("distance_accuracy_ppm", "Distance, ppm", "2")}
                  {well("allowed.height_mm", "Height allowed, mm", "")}
                </div>
                <Choice
                  label="Compensator"
                  value={compensator}
                  options={[
                    { value: "on", label: "Compensator on" },
                    { value: "off", label: "None, or off" },
                  ]}
                  onChange={setCompensator}
                />
              </Fold>
            </>
          )}
        </section>
        <div className="grid gap-4">
          {trouble === "no-signal" ? <p className="fault">No signal, and the core is not ready on this device yet.</p> : trouble ? <Trouble error={trouble} /> : null}
          {budgets.map((one) => (
            <BudgetBar key={one.quantity} told={one} />
          ))}
        </div>
      </div>
    </div>
  );
}

function questionOf(fields: Fields, work: string, faces: string, compensator: string): Record<string, unknown> {
  const told = Object.entries(fields).filter(([name, one]) => one.trim() && (work === "angles" || LEVELLING.includes(name) || name === "allowed.height_mm"));
  const plain = Object.fromEntries(told.filter(([name]) => !name.startsWith("allowed.")));
  const allowed = Object.fromEntries(told.filter(([name]) => name.startsWith("allowed.")).map(([name, one]) => [name.slice(8), one]));
  return { advice: "budget", ...plain, levelling: work === "levelling", both_faces: faces === "both", compensated: compensator === "on", ...(Object.keys(allowed).length ? { allowed } : {}) };
}

function useBudget(fields: Fields, work: string, faces: string, compensator: string): { budgets: BudgetTold[]; faults: Fault[]; trouble: unknown } {
  const question = JSON.stringify(questionOf(fields, work, faces, compensator));
  const [budgets, setBudgets] = useState<BudgetTold[]>([]);
  const [wrong, setWrong] = useState<{ to: string; what: unknown } | null>(null);
  useEffect(() => {
    let here = true;
    const ask = setTimeout(() => {
      advise<{ result: { budgets: BudgetTold[] } }>(JSON.parse(question) as Record<string, unknown>).then(
        (told) => {
          if (!here) return;
          setBudgets(told.result.budgets);
          setWrong(null);
        },
        (error: unknown) => here && setWrong({ to: question, what: error instanceof NoSignal ? "no-signal" : error }),
      );
    }, 100);
    return () => {
      here = false;
      clearTimeout(ask);
    };
  }, [question]);
  const trouble = wrong?.to === question ? wrong.what : null;
  const faults = trouble instanceof Problem ? trouble.faults : [];
  return { budgets, faults, trouble: faults.length ? null : trouble };
}
