// Everything on record of an instrument, newest first; what was struck stays, struck, with its reason.
import { useInfiniteQuery } from "@tanstack/react-query";
import { MorePages } from "../../ui/MorePages";
import { Link } from "react-router";
import type { RecordRow } from "../../api/client";
import { recordsQuery } from "../../api/queries";
import { useEventName } from "../../app/eventKinds";
import { useHere } from "../../app/session";
import { GradeMark } from "../../ui/icons";
import { useKind } from "../../hooks/useKinds";
import { Trouble } from "../../ui/parts";
import { RECORD_NAMES, clock, moment } from "../../ui/words";

export function Records({ tag }: { tag: string }) {
  const records = useInfiniteQuery(recordsQuery(tag));
  const rows = records.data?.pages.flatMap((page) => page.records) ?? [];
  return (
    <section className="card" aria-label="Records">
      <h2 className="px-5 pb-1 pt-4">Records</h2>
      <Trouble error={records.error} />
      {records.data && !rows.length && (
        <p className="sub px-5 pb-5">No records yet. The first check starts the history.</p>
      )}
      <ul className="m-0 list-none divide-y divide-line p-0">
        {daysOut(rows).map(({ row, until }) => (
          <Row key={row.id} row={row} until={until} />
        ))}
      </ul>
      {records.hasNextPage && (
        <div className="border-t border-line p-3 text-center">
          <MorePages query={records} label="Show older" />
        </div>
      )}
    </section>
  );
}

/** Taking out and the handing in that follows it are one line: out until then. */
export function daysOut(rows: RecordRow[]): { row: RecordRow; until: string | null }[] {
  const lines: { row: RecordRow; until: string | null }[] = [];
  for (const [i, row] of rows.entries()) {
    const older = rows[i + 1];
    const back = row.kind === "in" && !row.note && row.amended_by === null;
    if (back && older?.kind === "out" && older.amended_by === null) continue;
    const newer = rows[i - 1];
    const returned =
      row.kind === "out" && row.amended_by === null && newer?.kind === "in" && !newer.note && newer.amended_by === null;
    lines.push({ row, until: returned ? newer.observed_at : null });
  }
  return lines;
}

function Row({ row, until }: { row: RecordRow; until: string | null }) {
  const { session } = useHere();
  const struck = row.amended_by !== null;
  const opens =
    row.category === "check" || row.category === "set-up" || row.category === "orientation" || row.category === "round";
  const kind = useKind(row.kind);
  const eventName = useEventName();
  const text =
    row.category === "check"
      ? `${kind?.title ?? row.kind}, ${row.stage === "as-left" ? "as left" : "as found"}`
      : (RECORD_NAMES[row.kind] ?? eventName(row.kind));
  return (
    <li
      data-record={row.kind}
      data-struck={struck || undefined}
      className="grid gap-x-4 gap-y-1 px-5 py-3 tab:grid-cols-[200px_minmax(0,1fr)_110px]"
    >
      <span className="sub">{moment(row.observed_at, session.time_zone)}</span>
      <div className="min-w-0">
        <span className={struck ? "line-through" : ""}>
          {opens ? (
            <Link className="font-semibold underline underline-offset-4" to={`/records/${row.id}`}>
              {text}
            </Link>
          ) : (
            <b className="font-semibold">
              {until ? `Out until ${sameDay(row.observed_at, until, session.time_zone)}` : text}
            </b>
          )}
          {row.finding && <span className="block">{row.finding}</span>}
          {row.note && (until ? `, ${row.note}` : <span className="block">{row.note}</span>)}
        </span>
        {(struck || row.why) && (
          <span className="block font-semibold">{struck ? `Struck: ${row.amended_why}` : row.why}</span>
        )}
        <span className={`sub ${until ? " before:content-['._']" : "block"}`}>
          {row.observed_by}
          {row.entered_by !== row.observed_by ? `, saved by ${row.entered_by}` : ""}
          {row.entry !== "typed" ? `, ${row.entry}` : ""}
        </span>
      </div>
      <div className="tab:justify-self-end">{row.grade && <GradeMark grade={row.grade as never} quiet={struck} />}</div>
    </li>
  );
}

function sameDay(from: string, until: string, zone: string): string {
  const end = moment(until, zone);
  return end.split(",")[0] === moment(from, zone).split(",")[0] ? clock(until, zone) : end;
}
