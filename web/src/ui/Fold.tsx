// Small parts of what is asked at the stand.
import type { ReactNode } from "react";
import type { Fault } from "../api/client";
import type { SetUpDocument } from "../documents/setUp";

export type Observed = SetUpDocument["observations"];
export type Part = { observed: Observed; faults: Fault[]; set: (change: Partial<Observed>) => void };

/** What the core calculates with where nothing was given. */
export type Usual = Record<string, string>;

export function Answered({ title, children }: { title: ReactNode; children: ReactNode }) {
  return (
    <div className="grid gap-2">
      <p className="font-bold">{title}</p>
      {children}
    </div>
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
