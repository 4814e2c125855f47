// Small parts of what is asked at the stand.
import type { ReactNode } from "react";
import type { Fault } from "../../api/client";
import type { SetUpDocument } from "../../sheet/setUp";
import { FaultLine } from "../../ui/parts";
import { Well } from "../../ui/Well";

export type Observed = SetUpDocument["observations"];
export type Part = { observed: Observed; faults: Fault[]; set: (change: Partial<Observed>) => void };

/** What the core reckons with where nothing was told. */
export type Usual = Record<string, number>;

export function Asked({ title, children }: { title: ReactNode; children: ReactNode }) {
  return (
    <div className="grid gap-2">
      <p className="font-[680]">{title}</p>
      {children}
    </div>
  );
}

type NamedProps = { id: string; label: string; value: string; onType: (value: string) => void; faults?: Fault[]; path?: string; onNext?: () => void; placeholder?: string };

/** A well with its name above it and its fault below. */
export function Named({ id, label, value, onType, faults, path, onNext, placeholder }: NamedProps) {
  const own = (faults ?? []).filter((one) => path !== undefined && one.path.endsWith(path));
  return (
    <label className="grid min-w-0 content-start gap-1" htmlFor={id}>
      <span className="font-[560]">{label}</span>
      <Well id={id} label={label} value={value} faults={own} placeholder={placeholder} onType={onType} onKey={(key) => key === "next" && onNext?.()} onHere={() => undefined} />
      {own.map((fault) => (
        <FaultLine key={fault.path} id={`${id}-fault`} fault={fault} beside />
      ))}
    </label>
  );
}

export const focusOn = (id: string) => () => document.getElementById(id)?.focus();

/** More of the same for whoever wants it. */
export function Fold({ title, open = false, children }: { title: string; open?: boolean; children: ReactNode }) {
  return (
    <details open={open} className="fold">
      <summary>{title}</summary>
      <div className="grid gap-4 pb-2">{children}</div>
    </details>
  );
}
