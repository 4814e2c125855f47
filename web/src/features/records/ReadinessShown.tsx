// A round on record: how it ended, and each of its checks with the way to its own record.
import { Link } from "react-router";
import type { Grade, RecordOut, Result } from "../../api/client";
import { useHere } from "../../app/session";
import type { OutboxItem } from "../../device/device";
import { FindingView, NextSteps } from "../../ui/FindingView";
import { GradeMark } from "../../ui/icons";
import { Back, Cautions, Head } from "../../ui/parts";
import { moment } from "../../ui/words";
import { Notes, Waits } from "./notes";
import { Sealed } from "./Sealed";

type CheckRow = { check: string; title: string; record: string | null; grade: Grade | null; stage: string };

export function RoundShown({
  record,
  result,
  waiting,
}: {
  record: RecordOut;
  result: Result;
  waiting?: OutboxItem | undefined;
}) {
  const { session } = useHere();
  const rows = (result.result["checks"] ?? []) as CheckRow[];
  return (
    <div className="grid gap-4">
      <Head
        title={
          <>
            <span className="tag">{record.instrument}</span>: pre-work check
          </>
        }
        sub={`${moment(record.observed_at, session.time_zone)}. ${record.observed_by}.`}
        actions={
          <>
            <Back to={`/instruments/${record.instrument}`}>To {record.instrument}</Back>
            <button className="btn" onClick={() => window.print()}>
              Print
            </button>
          </>
        }
      />
      {waiting && <Waits item={waiting} />}
      <Notes record={record} />
      <div className="grid items-start gap-4 desk:grid-cols-2 print:grid-cols-1">
        <section className="card grid gap-3 p-5" aria-label="Finding">
          <FindingView result={result} />
          <NextSteps result={result} />
          <Cautions cautions={result.cautions} />
        </section>
        <section className="card" aria-label="Checks included">
          <h2 className="px-5 pb-1 pt-4">Its checks</h2>
          <ul className="m-0 list-none divide-y divide-line p-0">
            {rows.map((row) => (
              <li
                key={row.check}
                data-check={row.check}
                className="flex flex-wrap items-center justify-between gap-3 px-5 py-3"
              >
                {row.record ? (
                  <Link
                    className="inline-flex min-h-[44px] items-center font-semibold underline underline-offset-4"
                    to={`/records/${row.record}`}
                  >
                    {row.title}
                    {row.stage === "as-left" ? ", as left" : ""}
                  </Link>
                ) : (
                  <span className="sub">{row.title}, left out</span>
                )}
                {row.grade && <GradeMark grade={row.grade} />}
              </li>
            ))}
          </ul>
        </section>
      </div>
      <Sealed record={record} what="Field checks, calculated" waiting={Boolean(waiting)} />
    </div>
  );
}
