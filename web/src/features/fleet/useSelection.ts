// Which instruments are chosen, and from where a range reaches; what is not shown any more is chosen no more.
import { useMemo, useState } from "react";
import { type FleetRow, choose } from "../../documents/fleet";

export type Selection = {
  chosen: ReadonlySet<string>;
  toggle: (at: number, range: boolean) => void;
  all: () => void;
  clear: () => void;
};

export function useSelection(rows: FleetRow[]): Selection {
  const [held, setHeld] = useState<ReadonlySet<string>>(new Set());
  const [from, setFrom] = useState<string | null>(null);
  const chosen = useMemo(() => new Set(rows.filter((row) => held.has(row.tag)).map((row) => row.tag)), [rows, held]);
  const toggle = (at: number, range: boolean) => {
    const start = range && from !== null ? rows.findIndex((row) => row.tag === from) : -1;
    setHeld(choose(chosen, rows, at, start >= 0 ? start : null));
    setFrom(rows[at]?.tag ?? null);
  };
  return {
    chosen,
    toggle,
    all: () => setHeld(new Set(chosen.size === rows.length ? [] : rows.map((row) => row.tag))),
    clear: () => setHeld(new Set()),
  };
}
