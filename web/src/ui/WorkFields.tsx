// What the work is, field by field: for a firm's usual work, and for a job.
import type { Fault } from "../api/client";
import { type Work, lengthText } from "../documents/work";
import { Field } from "./Field";
import { Choice } from "./Choice";

const FIGURES: {
  name: "sight_m" | "sight_imbalance_m" | "elevation_deg" | "angle_wanted_arcsec";
  label: (unit: string) => string;
  usual: string;
  sub?: string;
}[] = [
  {
    name: "sight_m",
    label: (unit) => `Sights, ${unit}`,
    usual: "usually 30 m",
    sub: "Effects and centring are given for them.",
  },
  { name: "sight_imbalance_m", label: (unit) => `Backsight and foresight differ by, ${unit}`, usual: "usually 10 m" },
  { name: "elevation_deg", label: () => "Steepest sight, °", usual: "usually 20" },
  {
    name: "angle_wanted_arcsec",
    label: () => "An angle is wanted to, ″",
    usual: "twice the stated",
    sub: "The tolerance of centring follows from it.",
  },
];
const BALANCED = [
  { value: "no", label: "Not balanced" },
  { value: "yes", label: "Balanced sights" },
];
const FACES = [
  { value: "no", label: "One face" },
  { value: "yes", label: "Both faces" },
];

export function WorkFields({
  work,
  unit,
  faults,
  path,
  onChange,
}: {
  work: Work;
  unit: string;
  faults: Fault[];
  path: string;
  onChange: (work: Work) => void;
}) {
  return (
    <div className="grid gap-4">
      <div className="grid items-start gap-4 tab:grid-cols-2">
        {FIGURES.map(({ name, label, usual, sub }) => (
          <Field
            key={name}
            label={label(unit)}
            {...(sub ? { sub } : {})}
            faults={faults.filter((fault) => fault.path === `${path}.${name}`)}
          >
            <input
              className="field font-mono"
              inputMode="decimal"
              autoComplete="off"
              placeholder={usual}
              value={name.endsWith("_m") ? lengthText(work[name], unit) : String(work[name] ?? "")}
              onChange={(event) => onChange({ ...work, [name]: event.target.value })}
            />
          </Field>
        ))}
      </div>
      <div className="flex flex-wrap gap-x-8 gap-y-3">
        <Choice
          label="Levelling sights"
          value={work.balanced_sights ? "yes" : "no"}
          options={BALANCED}
          onChange={(value) => onChange({ ...work, balanced_sights: value === "yes" })}
        />
        <Choice
          label="Angles in"
          value={work.both_faces ? "yes" : "no"}
          options={FACES}
          onChange={(value) => onChange({ ...work, both_faces: value === "yes" })}
        />
      </div>
    </div>
  );
}
