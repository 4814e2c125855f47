// The fleet table: dense, for comparing; the view is in the address, so that it can be kept, shared and gone back to.
import { useDeferredValue, useMemo } from "react";
import { useAddress } from "../../hooks/useAddress";
import { isoDay } from "../../ui/words";
import { useHere } from "../../app/session";
import { type FleetRow, type View, addressOf, changedView, shown, viewOf } from "../../documents/fleet";
import { useSelection } from "./useSelection";
import { FleetTable } from "./FleetTable";
import { FleetFilters } from "./FleetFilters";
import { FleetActions } from "./FleetActions";

export default function Fleet({ rows }: { rows: FleetRow[] }) {
  const { now, session } = useHere();
  const [params, setParams] = useAddress();
  const view = useMemo(() => viewOf(params), [params]);
  const today = isoDay(now, session.time_zone);
  const deferred = useDeferredValue(view);
  const found = useMemo(() => shown(rows, deferred, today), [rows, deferred, today]);
  const set = (next: View) => setParams((address) => addressOf(changedView(viewOf(address), view, next)));
  const selection = useSelection(found);
  const waiting = rows.filter((row) => row.needed.length > 0).length;
  return (
    <>
      <div className="flex flex-wrap items-center justify-between gap-x-4 gap-y-1">
        <FleetFilters rows={rows} view={view} onView={set} />
        <h1 className="!text-[1.06rem] leading-tight desk:text-right">
          {found.length === rows.length ? `${rows.length} instruments` : `${found.length} of ${rows.length}`}
          {found.length === rows.length && waiting > 0 && (
            <span className="sub font-semibold desk:block">
              {" "}
              {waiting === 1 ? "one waits for a check" : `${waiting} wait for a check`}
            </span>
          )}
        </h1>
      </div>
      <FleetTable rows={found} view={view} onView={set} selection={selection} today={today} />
      {selection.chosen.size > 0 && (
        <FleetActions rows={rows.filter((row) => selection.chosen.has(row.tag))} onDone={selection.clear} />
      )}
      {!found.length && (
        <section className="card grid justify-items-start gap-3 p-5">
          <p>
            No instrument matches{view.text ? <b> {view.text}</b> : " these filters"}. Tags can be typed in any form:
            lv7, LV 07.
          </p>
          <button className="btn" onClick={() => setParams(() => new URLSearchParams(), false)}>
            Show all
          </button>
        </section>
      )}
    </>
  );
}
