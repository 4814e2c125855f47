// A named field of a form, with what is wrong with it beside it.
import type { ReactNode } from "react";
import { type Fault, Problem } from "../api/client";
import { FaultLine } from "./parts";

export function Field({
  label,
  sub,
  faults,
  children,
}: {
  label: string;
  sub?: string;
  faults: Fault[];
  children: ReactNode;
}) {
  return (
    <div className="grid content-start gap-1">
      <label className="grid gap-1 font-semibold">
        {label}
        {children}
      </label>
      {sub && <p className="sub">{sub}</p>}
      {faults.map((each) => (
        <FaultLine key={each.path} fault={each} beside />
      ))}
    </div>
  );
}

/** What is wrong with one field, of an answer that says so. */
export const faultsAt = (trouble: unknown, path: string): Fault[] =>
  trouble instanceof Problem ? trouble.faults.filter((fault) => fault.path === path) : [];
