// A set-up on record: how it stood, what was not confirmed, what the remaining error causes.
import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import type { RecordOut, RecordRow, Result } from "../../api/client";
import { orientationsQuery } from "../../api/queries";
import { useHere } from "../../app/session";
import type { OutboxItem } from "../../device/device";
import { FindingView, NextSteps } from "../../ui/FindingView";
import { Calculation } from "../../ui/Calculation";
import { GradeMark } from "../../ui/icons";
import { Back, Head } from "../../ui/parts";
import { ShownRows } from "../../ui/ShownRows";
import { moment } from "../../ui/words";
import { Notes, SomethingWrong, Waits } from "./notes";
import { Sealed } from "./Sealed";

type Observed = { zero?: { counts?: string }; mark?: { name?: string; free?: boolean } };

/** What was sighted from here, and whether it agreed. */
function Oriented({ rows }: { rows: RecordRow[] }) {
  return (
    <section className="card p-5" aria-label="Orientation">
      <h2 className="pb-2">Orientations</h2>
      <ul className="m-0 grid list-none gap-2 p-0">
        {rows.map((row) => (
          <li key={row.id} className="flex flex-wrap items-center justify-between gap-3">
            <Link className="link" to={`/records/${row.id}`}>
              {row.finding}
            </Link>
            {row.grade && <GradeMark grade={row.grade as never} />}
          </li>
        ))}
      </ul>
    </section>
  );
}

export function SetUpShown({
  record,
  result,
  waiting,
}: {
  record: RecordOut;
  result: Result;
  waiting?: OutboxItem | undefined;
}) {
  const { session } = useHere();
  const observed = (record.document as { observations?: Observed }).observations ?? {};
  const mark = observed.mark?.free ? "free station" : observed.mark?.name ? `over ${observed.mark.name}` : "set up";
  const oriented = useQuery({ ...orientationsQuery(record.id), enabled: !waiting });
  const over = result.result["centring_mm"] !== undefined || observed.mark?.free === true;
  const orient = orientationAddress(record, observed, result.result["height_m"]);
  return (
    <div className="grid gap-4">
      <Head
        title={
          <>
            <span className="tag">{record.instrument}</span> {mark}
          </>
        }
        sub={`${moment(record.observed_at, session.time_zone)}. ${record.observed_by}.`}
        actions={
          <>
            <Back to={`/instruments/${record.instrument}`}>To {record.instrument}</Back>
            {!waiting && (
              <a className="btn" href={`/api/records/${record.id}/document`} download>
                Document
              </a>
            )}
            <button className="btn" onClick={() => window.print()}>
              Print
            </button>
            {!waiting && <SomethingWrong record={record} />}
            {over && (
              <Link className="btn" to={`/forecast?set-up=${record.id}`}>
                Effect on work
              </Link>
            )}
            {over && (
              <Link className={`btn ${oriented.data?.length ? "" : "now"}`} to={orient}>
                Orientation
              </Link>
            )}
          </>
        }
      />
      {waiting && <Waits item={waiting} />}
      <Notes record={record} />
      <div className="grid items-start gap-4 desk:grid-cols-[minmax(0,1fr)_430px] print:grid-cols-1">
        <section className="card grid gap-3 p-5" aria-label="Finding">
          <FindingView result={result} />
          <NextSteps result={result} />
        </section>
        <HowItStands result={result} />
      </div>
      {result.work.length > 1 && <Effects result={result} />}
      {oriented.data && oriented.data.length > 0 && <Oriented rows={oriented.data} />}
      <Calculation result={result} />
      <Sealed record={record} what="Set up in the field, judged" waiting={Boolean(waiting)} />
    </div>
  );
}

/** Where it is oriented, with what is known already. */
function orientationAddress(record: RecordOut, observed: Observed, height: unknown): string {
  const answer = new URLSearchParams({ "set-up": record.id, instrument: record.instrument });
  if (observed.mark?.name) answer.set("point", observed.mark.name);
  if (typeof height === "number") answer.set("height", height.toFixed(4));
  if (observed.zero?.counts === "anticlockwise") answer.set("counts", "anticlockwise");
  return `/orientation?${answer.toString()}`;
}

function HowItStands({ result }: { result: Result }) {
  const answer = (result.result["details"] ?? []) as { label: string; text: string }[];
  return (
    <section className="card p-5" aria-label="Set-up">
      <h2 className="pb-2">Set-up</h2>
      <dl className="m-0 grid grid-cols-[minmax(140px,auto)_minmax(0,1fr)] gap-x-6 gap-y-2">
        <ShownRows shown={result.shown} />
        {answer.map((each) => (
          <div key={each.label} className="contents" data-details>
            <dt className="sub">{each.label}</dt>
            <dd className="m-0 text-right">{each.text}</dd>
          </div>
        ))}
      </dl>
    </section>
  );
}

function Effects({ result }: { result: Result }) {
  return (
    <section className="card p-5" aria-label="Effect on the work">
      <h2 className="pb-2">Effect on the work</h2>
      <ul className="m-0 grid list-none gap-1 p-0">
        {result.work.map((each) => (
          <li key={each.code}>{each.text}</li>
        ))}
      </ul>
    </section>
  );
}
