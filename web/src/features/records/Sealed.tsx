// How far a record is to be trusted: what it is, its seal, and the same document computed again with today's core.
import { useQuery } from "@tanstack/react-query";
import type { RecordOut } from "../../api/client";
import { recomputedQuery } from "../../api/queries";
import { Trouble } from "../../ui/parts";

export function Sealed({ record, what, waiting }: { record: RecordOut; what: string; waiting: boolean }) {
  const query = useQuery(recomputedQuery(record.id));
  const found = query.data;
  return (
    <div className="grid justify-items-start gap-2">
      <p className="sub">
        {what} by Naveta {record.core_version}. Not an accredited calibration.{" "}
        {waiting
          ? "Sealed when it reaches the server."
          : `Record ${record.sequence} of ${record.instrument}, seal ${record.digest.slice(0, 12)}…`}
      </p>
      {!waiting && (
        <button className="link min-h-[44px] no-print" disabled={query.isFetching} onClick={() => void query.refetch()}>
          {query.isFetching ? "Calculating again…" : "Calculate it again with today's Naveta"}
        </button>
      )}
      <Trouble error={query.error} />
      {found && (
        <div role="status" data-recomputed={found.same ? "same" : "other"}>
          {found.same ? (
            <p>
              <b className="font-semibold">The same result</b>: every figure and sentence, by Naveta{" "}
              {found.core_version}.
            </p>
          ) : (
            <>
              <p className="font-semibold">
                {found.differences.length === 1 ? "One thing is" : `${found.differences.length} things are`} different
                by Naveta {found.core_version}. The record stays as it was judged.
              </p>
              <ul className="m-0 list-none divide-y divide-line p-0">
                {found.differences.map((each) => (
                  <li key={each.path} className="py-1">
                    <span className="font-mono text-[15px]">{each.path}</span>: {each.stored}{" "}
                    <span className="sub">now</span> {each.now}
                  </li>
                ))}
              </ul>
            </>
          )}
        </div>
      )}
    </div>
  );
}
