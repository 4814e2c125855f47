// An orientation on record: whether it agreed, where it stood, the plan, and every point with what does not fit.
import { fixed } from "../../api/writing";
import { Link, useNavigate } from "react-router";
import type { RecordOut, Result } from "../../api/client";
import { useHere, usePerson } from "../../app/session";
import { addressOf, reopened } from "../../documents/reopen";
import { storeDraft } from "../../device/device";
import type { OutboxItem } from "../../device/device";
import { FindingView, NextSteps } from "../../ui/FindingView";
import { Calculation } from "../../ui/Calculation";
import { Back, Head } from "../../ui/parts";
import { moment } from "../../ui/words";
import { PlanDrawing } from "../../ui/drawings/PlanDrawing";
import { Notes, SomethingWrong, Waits } from "./notes";
import { Sealed } from "./Sealed";

type PointRow = {
  name: string;
  path: string;
  along_mm: number | null;
  across_mm: number | null;
  height_mm: number | null;
};

export function OrientationShown({
  record,
  result,
  waiting,
}: {
  record: RecordOut;
  result: Result;
  waiting?: OutboxItem | undefined;
}) {
  const { session } = useHere();
  const observed =
    (record.document as { observations?: { station?: { name?: string }; of_set_up?: string } }).observations ?? {};
  return (
    <div className="grid gap-4">
      <Head
        title={
          <>
            <span className="tag">{record.instrument}</span>{" "}
            {record.kind === "backsight" ? `backsight at ${observed.station?.name ?? ""}` : "free station"}
          </>
        }
        sub={`${moment(record.observed_at, session.time_zone)}. ${record.observed_by}.`}
        actions={
          <>
            <Back to={`/instruments/${record.instrument}`}>To {record.instrument}</Back>
            {observed.of_set_up && (
              <Link className="btn" to={`/records/${observed.of_set_up}`}>
                Its set-up
              </Link>
            )}
            {!waiting && (
              <a className="btn" href={`/api/records/${record.id}/csv`} download>
                Sights as a table
              </a>
            )}
            <button className="btn" onClick={() => window.print()}>
              Print
            </button>
            {!waiting && <SomethingWrong record={record} />}
            {!waiting && !record.amended_by && <ClosingLook record={record} />}
          </>
        }
      />
      {waiting && <Waits item={waiting} />}
      <Notes record={record} />
      <div className="grid items-start gap-4 desk:grid-cols-2 print:grid-cols-1">
        <section className="card grid gap-3 p-5" aria-label="Finding">
          <FindingView result={result} />
          <NextSteps result={result} />
        </section>
        {result.plan && (
          <section className="card overflow-hidden" aria-label="Plan">
            <PlanDrawing plan={result.plan} />
          </section>
        )}
      </div>
      <PointsTable rows={(result.result["points"] ?? []) as PointRow[]} />
      <Calculation result={result} />
      <Sealed record={record} what="Measured in the field, judged" waiting={Boolean(waiting)} />
    </div>
  );
}

/** At the end of the day the same sights are opened again for one look more; kept, they stand in this record's place. */
function ClosingLook({ record }: { record: RecordOut }) {
  const { may } = useHere();
  const { username } = usePerson();
  const navigate = useNavigate();
  const review = async () => {
    const draft = await reopened(record, username, "Closing sight added.");
    await storeDraft(draft);
    await navigate(`${addressOf(draft)}?closing`);
  };
  if (!may("amend").allowed) return null;
  return (
    <button className="btn" onClick={() => void review()}>
      Closing sight
    </button>
  );
}

function PointsTable({ rows }: { rows: PointRow[] }) {
  return (
    <section className="card overflow-x-auto p-5" aria-label="Points" tabIndex={0}>
      <h2 className="pb-2">Residuals by point</h2>
      <table className="w-full border-collapse">
        <thead>
          <tr className="text-left">
            {["Point", "Along, mm", "Across, mm", "Height, mm"].map((each) => (
              <th key={each} className="py-2 pr-6 font-semibold">
                {each}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <tr key={row.path} className="border-t border-line">
              <td className="tag py-2 pr-6">{row.name}</td>
              {[row.along_mm, row.across_mm, row.height_mm].map((value, i) => (
                <td key={i} className="py-2 pr-6 font-mono">
                  {value === null ? "" : `${value < -0.05 ? "−" : value > 0.05 ? "+" : ""}${fixed(Math.abs(value), 1)}`}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
