// The ledger: every record, filtered by anything and found by words; the filters are the address, so that they can be kept.
import { useInfiniteQuery, useQuery } from "@tanstack/react-query";
import { type KeyboardEvent, type ReactNode, useDeferredValue, useRef } from "react";
import { Link } from "react-router";
import { useAddress } from "../../hooks/useAddress";
import type { RecordRow } from "../../api/client";
import { ledgerQuery, peopleNamesQuery } from "../../api/queries";
import { useKind, useKinds } from "../../hooks/useKinds";
import { useEventName } from "../../app/eventKinds";
import { useHere } from "../../app/session";
import { GradeMark } from "../../ui/icons";
import { KeptViews } from "../../ui/KeptViews";
import { MorePages } from "../../ui/MorePages";
import { Head, Trouble, Waiting } from "../../ui/parts";
import { RECORD_NAMES, moment } from "../../ui/words";

const NAMES = ["words", "instrument", "kind", "category", "grade", "stage", "by", "first", "last", "struck"] as const;
export type Filters = Partial<Record<(typeof NAMES)[number], string>>;
const CATEGORIES: [string, string][] = [
  ["check", "Checks"],
  ["event", "Events"],
  ["set-up", "Set-ups"],
  ["orientation", "Orientations"],
  ["round", "Pre-work checks"],
  ["amendment", "Amendments"],
];
const GRADES: [string, string][] = [
  ["use", "Use"],
  ["watch", "Watch"],
  ["adjust", "Adjust"],
  ["service", "Service"],
  ["repeat", "Repeat"],
];
const OPENS = ["check", "set-up", "orientation", "round"];

export function Ledger() {
  const [params, setParams] = useAddress();
  const filters = Object.fromEntries(
    NAMES.flatMap((name) => (params.get(name) ? [[name, params.get(name)]] : [])),
  ) as Filters;
  const deferred = useDeferredValue(filters);
  const query = useInfiniteQuery(ledgerQuery(deferred));
  const rows = query.data?.pages.flatMap((page) => page.records) ?? [];
  const count = query.data?.pages[0]?.count ?? 0;
  const set = (name: string, value: string) =>
    setParams((now) => {
      if (value) now.set(name, value);
      else now.delete(name);
      return now;
    });
  const some = Object.keys(filters).length > 0;
  return (
    <div className="grid gap-3">
      <Head
        title={
          query.data
            ? count === 1
              ? "One record"
              : `${query.data.pages[0]?.more ? "More than " : ""}${count} records`
            : "Ledger"
        }
        sub={
          some
            ? "These match every filter. The address of this page keeps the filters."
            : "Everything on record, the latest first. Nothing is changed or removed: what is wrong is struck and stays."
        }
        actions={
          <>
            {some && (
              <button className="btn" onClick={() => setParams(() => new URLSearchParams())}>
                Clear filters
              </button>
            )}
            <a
              className="btn"
              href={`/api/ledger/table?${new URLSearchParams(filters as Record<string, string>).toString()}`}
              download
            >
              Export these
            </a>
            {some && (
              <a
                className="btn"
                href={`/api/ledger/proof?${new URLSearchParams(filters as Record<string, string>).toString()}`}
                download
              >
                Proof file of these
              </a>
            )}
          </>
        }
      />
      <FilterBar
        filters={filters}
        onSet={set}
        views={
          <KeptViews
            place="ledger"
            address={params.toString()}
            whole="Whole ledger"
            example="Adjusted this year"
            onView={(address) => setParams(() => new URLSearchParams(address))}
          />
        }
      />
      {query.isPending && <Waiting what="Loading the ledger…" />}
      <Trouble error={query.error} />
      {query.data && !rows.length && (
        <p className="card p-5">
          {some ? "No record matches these filters." : "No records yet. The first check starts the ledger."}
        </p>
      )}
      {rows.length > 0 && <Rows rows={rows} />}
      <MorePages query={query} label="Show older" />
    </div>
  );
}

function FilterBar({
  filters,
  onSet,
  views,
}: {
  filters: Filters;
  onSet: (name: string, value: string) => void;
  views: ReactNode;
}) {
  const kinds = useKinds();
  const people = useQuery(peopleNamesQuery).data ?? [];
  const pick = (name: keyof Filters, label: string, options: [string, string][]) => (
    <select
      className="field !w-auto max-w-[190px]"
      aria-label={label}
      value={filters[name] ?? ""}
      onChange={(event) => onSet(name, event.target.value)}
    >
      <option value="">{label}</option>
      {options.map(([value, text]) => (
        <option key={value} value={value}>
          {text}
        </option>
      ))}
    </select>
  );
  const day = (name: "first" | "last", label: string) => (
    <label className="flex items-center gap-2">
      <span className="sub">{label}</span>
      <input
        className="field !w-auto"
        type="date"
        value={filters[name] ?? ""}
        onChange={(event) => onSet(name, event.target.value)}
      />
    </label>
  );
  return (
    <div className="flex flex-wrap items-center gap-2 no-print" role="search">
      {views}
      <input
        className="field !w-auto min-w-[280px] flex-1"
        type="search"
        aria-label="Words"
        placeholder="Tag, model, finding, note, place, who"
        value={filters.words ?? ""}
        onChange={(event) => onSet("words", event.target.value)}
      />
      {pick("category", "Everything", CATEGORIES)}
      {pick(
        "kind",
        "Every check",
        kinds.map((kind) => [kind.kind, kind.title]),
      )}
      {pick("grade", "Every grade", GRADES)}
      {pick("stage", "Every stage", [
        ["as-found", "As found"],
        ["as-left", "As left"],
      ])}
      {pick(
        "by",
        "Everybody",
        people.map((person) => [person.username, person.name]),
      )}
      {pick("struck", "Struck or not", [
        ["not", "Not struck"],
        ["only", "Struck"],
      ])}
      {day("first", "from")}
      {day("last", "to")}
    </div>
  );
}

/** Rows to read down; arrow keys move, Enter opens. */
function Rows({ rows }: { rows: RecordRow[] }) {
  const list = useRef<HTMLUListElement>(null);
  const move = (event: KeyboardEvent) => {
    const step = { ArrowDown: 1, ArrowUp: -1, Home: -rows.length, End: rows.length }[event.key];
    if (!step) return;
    event.preventDefault();
    const all = [...(list.current?.querySelectorAll<HTMLElement>("[data-open]") ?? [])];
    const at = all.indexOf(document.activeElement as HTMLElement);
    all[Math.min(all.length - 1, Math.max(0, at + step))]?.focus();
  };
  return (
    <ul ref={list} className="card m-0 list-none divide-y divide-line p-0" aria-label="Records" onKeyDown={move}>
      {rows.map((row) => (
        <Line key={row.id} row={row} />
      ))}
    </ul>
  );
}

function Line({ row }: { row: RecordRow }) {
  const { session } = useHere();
  const kind = useKind(row.kind);
  const eventName = useEventName();
  const struck = row.amended_by !== null;
  const title = kind
    ? `${kind.title}, ${row.stage === "as-left" ? "as left" : "as found"}`
    : (RECORD_NAMES[row.kind] ?? eventName(row.kind));
  const to = OPENS.includes(row.category) ? `/records/${row.id}` : `/instruments/${row.instrument}`;
  return (
    <li
      className="grid items-baseline gap-x-4 px-4 py-2 tab:grid-cols-[150px_70px_minmax(0,1fr)_100px] desk:grid-cols-[170px_80px_minmax(0,1fr)_150px_100px]"
      data-record={row.id}
      data-struck={struck || undefined}
    >
      <span className="sub whitespace-nowrap">
        {moment(row.observed_at, session.time_zone)}
        <span className="block truncate max-tab:hidden desk:hidden">{row.observed_by}</span>
      </span>
      <Link className="tag font-bold no-underline hover:underline" to={`/instruments/${row.instrument}`}>
        {row.instrument}
      </Link>
      <span className={`min-w-0 ${struck ? "line-through" : ""}`}>
        <Link data-open className="font-semibold underline underline-offset-4" to={to}>
          {title}
        </Link>{" "}
        {row.finding ?? ""} {row.note} {struck ? row.amended_why : row.why}
      </span>
      <span className="sub truncate tab:max-desk:hidden">{row.observed_by}</span>
      <span className="tab:justify-self-end">
        {row.grade && <GradeMark grade={row.grade as never} quiet={struck} />}
      </span>
    </li>
  );
}
