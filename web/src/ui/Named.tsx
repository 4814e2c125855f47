// A single figure asked with words above it.
import type { Fault } from "../api/client";
import { written } from "../api/writing";
import { NumberField } from "./NumberField";
import { FaultLine } from "./parts";

type NamedProps = {
  id: string;
  label: string;
  value: string;
  onType: (value: string) => void;
  faults?: Fault[];
  path?: string;
  onNext?: () => void;
  placeholder?: string;
};

/** An input with its name above it and its fault below. */
export function Named({ id, label, value, onType, faults, path, onNext, placeholder }: NamedProps) {
  const own = (faults ?? []).filter((fault) => path !== undefined && fault.path.endsWith(path));
  return (
    <label className="grid min-w-0 content-start gap-1" htmlFor={id}>
      <span className="font-semibold">{label}</span>
      <NumberField
        id={id}
        label={label}
        value={value}
        faults={own}
        placeholder={placeholder && written(placeholder)}
        onType={onType}
        onKey={(key) => key === "next" && onNext?.()}
        onHere={() => undefined}
      />
      {own.map((fault) => (
        <FaultLine key={fault.path} id={`${id}-fault`} fault={fault} beside />
      ))}
    </label>
  );
}
