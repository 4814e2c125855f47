// What a job needs: begun from a class of jobs, then figure by figure; each is shown only where it is wanted.
import { useQuery } from "@tanstack/react-query";
import type { Fault } from "../../api/client";
import { jobClassesQuery } from "../../api/queries";
import { written } from "../../api/writing";
import { Named } from "../../ui/Named";
import { FaultLine } from "../../ui/parts";
import { firmUnit, smallUnit, unitShown, withUnit } from "../../ui/units";

export type Needs = Record<string, string | boolean>;
type Inputs = [name: string, label: string, unit: "far" | "small" | "″" | "°" | ""][];
const WANTED: Inputs = [
  ["position_mm", "A point set out", "small"],
  ["height_mm", "Height by total station", "small"],
  ["angle_arcsec", "An angle", "″"],
  ["levelling_mm", "Height difference by level", "small"],
];
const SIGHT: Inputs = [["sight_m", "Longest sight", "far"]];
const OF_LEVELS: Inputs = [["imbalance_m", "Sight imbalance", "far"]];
const OF_ANGLES: Inputs = [
  ["back_m", "Backsight", "far"],
  ["elevation_deg", "Elevation", "°"],
  ["centring_mm", "Centring", "small"],
  ["target_mm", "Targets", "small"],
];
const BY_LEVEL = "levelling_mm";
const NUMBERS: Inputs = [
  ["staffs", "Staffs", ""],
  ["tripods", "Tripods", ""],
  ["tribrachs", "Tribrachs", ""],
  ["poles", "Poles", ""],
];
const SMALL = new Set([...WANTED, ...OF_ANGLES].flatMap(([name, , unit]) => (unit === "small" ? [name] : [])));
const shownUnit = (unit: Inputs[number][2]): string =>
  unit === "far" ? unitShown(firmUnit()) : unit === "small" ? unitShown(smallUnit()) : unit;

/** The needs as they are sent: small lengths with the unit they are labelled with, what is empty left out. */
export function needsTyped(needs: Needs): Needs {
  const typed = Object.entries(needs).filter(([, value]) => typeof value === "boolean" || value.trim());
  if (!typed.some(([name, value]) => typeof value === "string" && WANTED.some(([wanted]) => wanted === name)))
    return {};
  return Object.fromEntries(
    typed.map(([name, value]) => [
      name,
      typeof value === "string" && SMALL.has(name) ? withUnit(value, smallUnit()) : value,
    ]),
  );
}

type Props = { needs: Needs; faults: Fault[]; onSet: (needs: Needs) => void };

export function JobNeeds({ needs, faults, onSet }: Props) {
  const classes = useQuery(jobClassesQuery).data ?? [];
  const text = (name: string) => (typeof needs[name] === "string" ? needs[name] : "");
  const wanted = (names: string[]) => names.some((name) => text(name).trim());
  const byLevel = wanted([BY_LEVEL]);
  const byAngles = wanted(WANTED.flatMap(([name]) => (name === BY_LEVEL ? [] : [name])));
  const inputs = (list: Inputs, title: string, columns: string) => (
    <fieldset className="m-0 grid gap-3 border-0 p-0">
      <legend className="sub pb-1">{title}</legend>
      <div className={`grid grid-cols-2 items-end gap-3 ${columns}`}>
        {list.map(([name, label, unit]) => (
          <Named
            key={name}
            id={`needs-${name}`}
            label={[written(label), shownUnit(unit)].filter(Boolean).join(", ")}
            value={text(name)}
            onType={(value) => onSet({ ...needs, [name]: value })}
            faults={faults}
            path={`needs.${name}`}
          />
        ))}
      </div>
    </fieldset>
  );
  return (
    <section className="grid gap-4" aria-label="What it needs">
      <div className="grid items-end gap-3 tab:grid-cols-[minmax(0,1fr)_auto]">
        <h3 className="font-bold">What it needs</h3>
        <select
          className="field !w-auto"
          aria-label="Begin from a class of jobs"
          value=""
          onChange={(event) => onSet({ ...(classes.find((each) => each.name === event.target.value)?.needs ?? needs) })}
        >
          <option value="">Begin from…</option>
          {classes.map((each) => (
            <option key={each.name} value={each.name}>
              {each.label}
            </option>
          ))}
        </select>
      </div>
      {inputs(WANTED, "Tolerances, with 95 % confidence. Leave empty what is not needed.", "")}
      {faults
        .filter((fault) => fault.path === "needs")
        .map((fault) => (
          <FaultLine key={fault.path} fault={fault} beside />
        ))}
      {(byLevel || byAngles) && (
        <>
          {inputs(
            [...SIGHT, ...(byLevel ? OF_LEVELS : []), ...(byAngles ? OF_ANGLES : [])],
            byAngles ? "Sights. Leave centring empty to use what your set-ups usually reach." : "Sights",
            "tab:grid-cols-3",
          )}
          {byAngles && (
            <label className="flex min-h-[48px] items-center gap-3 font-semibold">
              <input
                type="checkbox"
                className="size-6 accent-[var(--color-ink)]"
                checked={needs["both_faces"] === true}
                onChange={(event) => onSet({ ...needs, both_faces: event.target.checked })}
              />
              Observed in both faces
            </label>
          )}
          {inputs(NUMBERS, "Equipment that goes with it, how many", "tab:grid-cols-4")}
        </>
      )}
    </section>
  );
}
