// What is stated of a model: its maker's figures, and hints for each step with it.
import { useQuery } from "@tanstack/react-query";
import type { Fault } from "../api/client";
import { hintsQuery } from "../api/queries";
import { Field } from "./Field";
import { type SpecField, specFields } from "./instrumentSpec";
import { Choice } from "./Choice";

type OfModel = {
  kind: string;
  typed: Record<string, string>;
  faults: Fault[];
  onChange: (typed: Record<string, string>) => void;
};

/** What the maker states of a model of this kind. */
export function SpecFields({ kind, typed, faults, onChange }: OfModel) {
  return specFields(kind).map((field) => (
    <SpecInput
      key={field.name}
      field={field}
      value={typed[field.name] ?? ""}
      faults={faults.filter((fault) => fault.path === `stated.${field.name}`)}
      onChange={(value) => onChange({ ...typed, [field.name]: value })}
    />
  ));
}

/** A hint for each step: where the screws are, check by check, and which ring or key does what. */
export function Hints({ kind, typed, faults, onChange }: OfModel) {
  const fields = useQuery(hintsQuery).data ?? [];
  return fields
    .filter((field) => field.kinds.includes(kind))
    .map((field) => (
      <Field
        key={field.name}
        label={field.label}
        faults={faults.filter((fault) => fault.path === `adjusting_tips.${field.name}`)}
      >
        <input
          className="field"
          value={typed[field.name] ?? ""}
          placeholder={field.example}
          maxLength={300}
          autoComplete="off"
          onChange={(event) => onChange({ ...typed, [field.name]: event.target.value })}
        />
      </Field>
    ));
}

/** One figure its maker states, or one of a few. */
function SpecInput({
  field,
  value,
  faults,
  onChange,
}: {
  field: SpecField;
  value: string;
  faults: Fault[];
  onChange: (value: string) => void;
}) {
  if (field.options)
    return (
      <div className="grid gap-1">
        <span className="font-semibold">{field.label}</span>
        <Choice label={field.label} value={value} options={field.options} onChange={onChange} />
      </div>
    );
  return (
    <Field label={field.label} faults={faults}>
      <input
        className="field"
        value={value}
        placeholder={field.hint}
        inputMode="decimal"
        autoComplete="off"
        onChange={(event) => onChange(event.target.value)}
      />
    </Field>
  );
}
