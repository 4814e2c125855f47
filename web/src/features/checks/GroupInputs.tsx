// One input of a group: a choice, a switch or a figure, and its name with its unit.
import { written } from "../../api/writing";
import type { CheckDocument } from "../../documents/draft";
import { type Field, faultsUnder, pathOf, unitOf } from "../../documents/form";
import { spotId, textAt } from "../../documents/paths";
import { Choice } from "../../ui/Choice";
import { NumberField } from "../../ui/NumberField";
import type { GroupProps } from "./sheetProps";

/** A choice or a switch; a switch that nobody touched is on. */
export function Entered({
  field,
  value,
  onChange,
}: {
  field: Field;
  value: unknown;
  onChange: (value: unknown) => void;
}) {
  if (field.kind === "choice")
    return <Choice label={field.label} value={String(value ?? "")} options={field.options} onChange={onChange} />;
  return (
    <label className="flex min-h-[48px] items-center gap-3">
      <input
        type="checkbox"
        className="size-6 accent-[var(--color-ink)]"
        checked={value !== false}
        onChange={(event) => onChange(event.target.checked)}
      />
      {field.label}
    </label>
  );
}

export function FieldName({ field, document }: { field: Field; document: CheckDocument }) {
  const unit = unitOf(field, document);
  return (
    <span className="sub block font-semibold leading-tight">
      {field.label}
      {unit && `,\u00a0${unit}`}
      {field.optional && !field.prefilled && <span className="font-normal"> (if known)</span>}
    </span>
  );
}

export function FieldInput({
  group,
  field,
  row,
  document,
  preview,
  keys,
  placeholder,
}: GroupProps & { field: Field; row: number | null; placeholder?: string | undefined }) {
  const path = pathOf(group, field, row);
  const spot = { path, field, group, row };
  const entry = group.entry ? `${group.entry.each.noun} ${group.entry.index + 1}, ` : "";
  const where = row === null ? group.title : `${group.title}, ${row + 1}`;
  return (
    <NumberField
      id={spotId(path)}
      label={`${entry}${where}: ${field.label}`}
      narrow
      text={field.kind === "text"}
      placeholder={placeholder}
      value={field.prefilled ? written(textAt(document, path)) : textAt(document, path)}
      faults={faultsUnder(preview?.faults ?? [], path)}
      onType={(value) => keys.type(path, value)}
      onKey={(key) => keys.key(spot, key)}
      onHere={() => keys.here(spot)}
    />
  );
}
