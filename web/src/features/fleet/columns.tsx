// The columns of the fleet table: what each is called, how wide it is, what it shows.
import { Link } from "react-router";
import { useHere } from "../../app/session";
import { type Column, type FleetRow, STATE_NAMES, type View } from "../../documents/fleet";
import { GradeMark, LimitBar } from "../../ui/icons";
import { KIND_NAMES } from "../../ui/instrumentSpec";
import { written } from "../../api/writing";
import { day } from "../../ui/words";

type Shape = { name: string; width: string };
const SHAPES: Record<Column, Shape> = {
  tag: { name: "Tag", width: "86px" },
  model: { name: "Model", width: "minmax(110px,1.1fr)" },
  kind: { name: "Kind", width: "minmax(120px,0.9fr)" },
  place: { name: "Place", width: "minmax(90px,0.9fr)" },
  crew: { name: "Who", width: "minmax(80px,0.6fr)" },
  state: { name: "State", width: "190px" },
  finding: { name: "Worst finding", width: "262px" },
  due: { name: "Next due", width: "122px" },
  last: { name: "Last check", width: "118px" },
  since: { name: "With the firm since", width: "160px" },
  serial: { name: "Serial number", width: "150px" },
};
export const columnOf = (column: Column): Shape => SHAPES[column];

/** A phone shows what one goes by; the rest is one touch away. */
const ON_A_PHONE: Column[] = ["tag", "state", "due"];
export const columnsOf = (view: View, narrow: boolean): Column[] => (narrow ? ON_A_PHONE : view.columns);

export function Cell({ row, column, today }: { row: FleetRow; column: Column; today: string }) {
  const { session } = useHere();
  switch (column) {
    case "tag":
      return (
        <Link to={`/instruments/${row.tag}`} tabIndex={-1} className="tag font-bold no-underline hover:underline">
          {row.tag}
        </Link>
      );
    case "model":
      return row.model;
    case "kind":
      return written(KIND_NAMES[row.kind] ?? row.kind);
    case "place":
      return row.place || "Yard";
    case "crew":
      return row.crew ?? <span className="sub">yard</span>;
    case "state":
      return (
        <span
          className={row.state === "hold" ? "font-bold text-coral" : row.state === "check-first" ? "font-semibold" : ""}
        >
          {STATE_NAMES[row.state]}
        </span>
      );
    case "finding":
      return <Found row={row} />;
    case "due":
      return <Due row={row} today={today} />;
    case "last":
      return row.latest ? day(row.latest.at, session.time_zone) : <span className="sub">never</span>;
    case "since":
      return day(row.since, session.time_zone);
    case "serial":
      return row.serial;
  }
}

function Found({ row: { latest } }: { row: FleetRow }) {
  if (!latest) return <span className="sub">no check on record</span>;
  return (
    <span className="flex items-center gap-2" title={`${latest.title}: ${latest.finding}`}>
      <span className="w-[92px] shrink-0 [&_[data-grade]]:border-0 [&_[data-grade]]:text-[16px]">
        <GradeMark grade={latest.grade as never} quiet />
      </span>
      <LimitBar value={latest.value} u95={latest.u95} limit={latest.limit} label={latest.finding} width={72} />
      <span className="truncate tabular-nums">{latest.text}</span>
    </span>
  );
}

function Due({ row, today }: { row: FleetRow; today: string }) {
  const { session } = useHere();
  if (!row.due_on || (row.needed.length > 0 && row.due_on >= today))
    return <span className="sub">{row.needed.length ? "now" : ""}</span>;
  return (
    <span title={row.due_check} className={row.due_on < today ? "font-bold text-coral" : ""}>
      {day(row.due_on, session.time_zone)}
    </span>
  );
}
