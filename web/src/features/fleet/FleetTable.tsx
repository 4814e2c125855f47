// The rows of the fleet: only those in sight are drawn, each a line of one height; all of it goes by the keyboard.
import { useVirtualizer } from "@tanstack/react-virtual";
import { ArrowDown, ArrowUp } from "lucide-react";
import { type KeyboardEvent, useEffect, useRef, useState } from "react";
import { useNavigate } from "react-router";
import { type FleetRow, type View, sortedBy } from "../../documents/fleet";
import { useNarrow } from "../../hooks/useNarrow";
import { Cell, columnOf, columnsOf } from "./columns";
import type { Selection } from "./useSelection";

type Props = { rows: FleetRow[]; view: View; onView: (view: View) => void; selection: Selection; today: string };

export function FleetTable({ rows, view, onView, selection, today }: Props) {
  const narrow = useNarrow();
  const height = narrow ? 64 : 34;
  const scroller = useRef<HTMLDivElement>(null);
  const [at, setAt] = useState(0);
  // Its functions change with every scroll: this component is drawn again each time, as it must be.
  // eslint-disable-next-line react-hooks/incompatible-library
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => height,
    overscan: 10,
  });
  const keyed = useKeys({ rows, selection, at, setAt, scroller, show: (row) => virtual.scrollToIndex(row) });
  const columns = columnsOf(view, narrow);
  const template = narrow
    ? "36px 80px minmax(0,1fr) 118px"
    : `40px ${columns.map((name) => columnOf(name).width).join(" ")}`;
  return (
    <div
      ref={scroller}
      role="grid"
      aria-label="Fleet"
      aria-rowcount={rows.length + 1}
      aria-multiselectable="true"
      className="card overflow-auto"
      style={{ height: `min(${height * rows.length + 40}px, calc(100dvh - ${narrow ? 290 : 126}px))` }}
      onKeyDown={keyed}
      data-rows={rows.length}
    >
      <div
        role="row"
        aria-rowindex={1}
        className="sticky top-0 z-10 grid items-center border-b border-ink bg-card px-2"
        style={{ gridTemplateColumns: template }}
      >
        <span role="columnheader">
          <input
            type="checkbox"
            className="ml-2 size-5 accent-[var(--color-ink)]"
            aria-label="Choose all shown"
            checked={rows.length > 0 && selection.chosen.size === rows.length}
            onChange={selection.all}
          />
        </span>
        {columns.map((name) => (
          <span
            key={name}
            role="columnheader"
            aria-sort={view.sort === name ? (view.down ? "descending" : "ascending") : "none"}
            className="min-w-0"
          >
            <button
              className="flex min-h-[36px] w-full items-center gap-1 truncate px-2 text-left font-semibold max-desk:min-h-[44px]"
              onClick={() => onView(sortedBy(view, name))}
            >
              {columnOf(name).name}
              {view.sort === name &&
                (view.down ? <ArrowDown size={16} aria-hidden="true" /> : <ArrowUp size={16} aria-hidden="true" />)}
            </button>
          </span>
        ))}
      </div>
      <div
        role="rowgroup"
        className="relative"
        style={{ height: virtual.getTotalSize() + (selection.chosen.size ? ROOM_FOR_ACTIONS : 0) }}
      >
        {virtual.getVirtualItems().map((item) => {
          const row = rows[item.index];
          if (!row) return null;
          return (
            <div
              key={row.tag}
              role="row"
              data-instrument={row.tag}
              data-state={row.state}
              data-index={item.index}
              aria-rowindex={item.index + 2}
              aria-selected={selection.chosen.has(row.tag)}
              tabIndex={item.index === at ? 0 : -1}
              onFocus={(event) => event.target === event.currentTarget && setAt(item.index)}
              className="absolute inset-x-0 top-0 grid items-center border-b border-line px-2 aria-selected:bg-[color-mix(in_srgb,var(--color-sea)_14%,transparent)] hover:bg-[color-mix(in_srgb,var(--color-ink)_6%,transparent)] focus-visible:-outline-offset-3"
              style={{ gridTemplateColumns: template, height, transform: `translateY(${item.start}px)` }}
            >
              <span
                role="gridcell"
                className="grid h-full place-items-center"
                onClick={(event) => {
                  selection.toggle(item.index, event.shiftKey);
                }}
              >
                <input
                  type="checkbox"
                  tabIndex={-1}
                  readOnly
                  className="size-5 accent-[var(--color-ink)]"
                  aria-label={`Choose ${row.tag}`}
                  checked={selection.chosen.has(row.tag)}
                />
              </span>
              {columns.map((name) => (
                <span key={name} role="gridcell" className="min-w-0 truncate px-2">
                  <Cell row={row} column={name} today={today} />
                </span>
              ))}
            </div>
          );
        })}
      </div>
    </div>
  );
}

/** So that what is done with the chosen rows covers none of them. */
const ROOM_FOR_ACTIONS = 72;

type Keyed = {
  rows: FleetRow[];
  selection: Selection;
  at: number;
  setAt: (at: number) => void;
  scroller: React.RefObject<HTMLDivElement | null>;
  show: (row: number) => void;
};
const PAGE = 15;

/** Up, down, page, Home and End move; Space chooses, with Shift from the last one on; Enter opens; Escape clears. */
function useKeys({ rows, selection, at, setAt, scroller, show }: Keyed): (event: KeyboardEvent) => void {
  const navigate = useNavigate();
  const goal = useRef<number | null>(null);
  useEffect(() => {
    if (goal.current === null) return;
    const row = scroller.current?.querySelector<HTMLElement>(`[data-index="${goal.current}"]`);
    if (row) {
      goal.current = null;
      row.focus({ preventScroll: true });
    }
  });
  const go = (to: number) => {
    const next = Math.max(0, Math.min(rows.length - 1, to));
    goal.current = next;
    show(next);
    setAt(next);
  };
  const moves: Record<string, () => void> = {
    ArrowDown: () => go(at + 1),
    ArrowUp: () => go(at - 1),
    PageDown: () => go(at + PAGE),
    PageUp: () => go(at - PAGE),
    Home: () => go(0),
    End: () => go(rows.length - 1),
  };
  return (event) => {
    if (!(event.target as HTMLElement).matches("[role=row]")) return;
    const tag = rows[at]?.tag;
    const actions: Record<string, () => void> = {
      ...moves,
      " ": () => selection.toggle(at, event.shiftKey),
      Enter: () => tag && void navigate(`/instruments/${tag}`),
      Escape: selection.clear,
      ...(event.ctrlKey || event.metaKey ? { a: selection.all } : {}),
    };
    const action = actions[event.key];
    if (!action) return;
    event.preventDefault();
    if (event.shiftKey && event.key.startsWith("Arrow")) selection.toggle(at, true);
    action();
  };
}
