// One record: what was found, the drawing, the readings as typed, how it was calculated, and what follows from it.
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useParams } from "react-router";
import type { RecordOut, Result } from "../../api/client";
import { recordQuery } from "../../api/queries";
import { useOutbox } from "../../app/outbox";
import { useHere, usePerson } from "../../app/session";
import type { OutboxItem } from "../../device/device";
import type { CheckDocument } from "../../documents/draft";
import { ORIENTATION_KINDS } from "../../documents/orientation";
import { FindingView, NextSteps } from "../../ui/FindingView";
import { CheckPicture } from "../../ui/CheckPicture";
import { Calculation } from "../../ui/Calculation";
import { useKind } from "../../hooks/useKinds";
import { Back, Head, Trouble, Waiting } from "../../ui/parts";
import { Amend } from "./Amend";
import { BadFinding } from "./BadFinding";
import { OrientationShown } from "./OrientationShown";
import { ReadingsTable } from "./ReadingsTable";
import { RoundShown } from "./ReadinessShown";
import { SetUpShown } from "./SetUpShown";
import { localRecord } from "./local";
import { Notes, Waits } from "./notes";
import { lowered, moment } from "../../ui/words";
import { Sealed } from "./Sealed";

export function RecordPage() {
  const { id = "" } = useParams();
  const { items } = useOutbox();
  const { name } = usePerson();
  const item = items.find((item) => item.id === id);
  const local = item ? localRecord(item, name) : null;
  const record = useQuery({ ...recordQuery(id), enabled: !local });
  if (local?.result && local.kind === "set-up")
    return <SetUpShown record={local} result={local.result} waiting={item} />;
  if (local?.result && ORIENTATION_KINDS.includes(local.kind))
    return <OrientationShown record={local} result={local.result} waiting={item} />;
  if (local?.result && local.kind === "pre-survey")
    return <RoundShown record={local} result={local.result} waiting={item} />;
  if (local?.result) return <Shown key={id} record={local} result={local.result} waiting={item} />;
  if (record.isPending) return <Waiting what="Loading the record…" />;
  if (!record.data) return <Trouble error={record.error} />;
  const { result } = record.data;
  if (!result)
    return <Head title={`${record.data.instrument}: ${record.data.kind}`} sub={record.data.note || record.data.why} />;
  if (record.data.category === "set-up") return <SetUpShown record={record.data} result={result} />;
  if (record.data.category === "orientation") return <OrientationShown record={record.data} result={result} />;
  if (record.data.category === "round") return <RoundShown record={record.data} result={result} />;
  return <Shown key={record.data.id} record={record.data} result={result} />;
}

export const isBad = (result: Result): boolean => ["adjust", "service", "repeat"].includes(result.verdict.grade);

function Shown({ record, result, waiting }: { record: RecordOut; result: Result; waiting?: OutboxItem | undefined }) {
  const { session } = useHere();
  const [amending, setAmending] = useState(false);
  const kind = useKind(record.kind);
  const document = record.document as unknown as CheckDocument;
  const guided = record.stage === "as-found" && isBad(result) && !record.amended_by;
  const by =
    record.entered_by === record.observed_by
      ? record.observed_by
      : `${record.observed_by}, saved by ${record.entered_by}`;
  return (
    <div className="grid gap-4">
      <Head
        title={
          <>
            <span className="tag">{record.instrument}</span>: {kind ? lowered(kind.title) : record.kind},{" "}
            {record.stage === "as-left" ? "as left" : "as found"}
          </>
        }
        sub={`${moment(record.observed_at, session.time_zone)}. ${by}.${record.taken_out_for ? ` Taken out: ${record.taken_out_for}.` : ""}`}
        actions={
          <>
            <Back to={`/instruments/${record.instrument}`}>To {record.instrument}</Back>
            <RecordActions record={record} waiting={Boolean(waiting)} onAmend={() => setAmending(true)} />
          </>
        }
      />
      {waiting && <Waits item={waiting} />}
      <Notes record={record} />
      <div className="grid items-start gap-4 desk:grid-cols-[minmax(0,1fr)_430px]">
        <div className="grid gap-4">
          <section className={`card p-5 ${record.amended_by ? "line-through decoration-2" : ""}`} aria-label="Finding">
            <FindingView result={result} />
            {!guided && (
              <div className="pt-3">
                <NextSteps result={result} />
              </div>
            )}
          </section>
          <section className="card px-3 pt-2 tab:px-5" aria-label="Drawing">
            <CheckPicture picture={result.picture} />
          </section>
          {kind && <ReadingsTable id={record.id} document={document} kind={kind} setAside={result.verdict.set_aside} />}
          <Calculation result={result} />
          <Sealed record={record} what="Field check, calculated" waiting={Boolean(waiting)} />
        </div>
        {guided ? <BadFinding record={record} result={result} document={document} /> : <Companion record={record} />}
      </div>
      <Amend record={record} open={amending} onClose={() => setAmending(false)} />
    </div>
  );
}

function RecordActions({ record, waiting, onAmend }: { record: RecordOut; waiting: boolean; onAmend: () => void }) {
  return (
    <>
      {!waiting && (
        <>
          <a className="btn" href={`/api/records/${record.id}/document`} download>
            Document
          </a>
          <a className="btn" href={`/api/records/${record.id}/csv`} download>
            Table
          </a>
          <a className="btn" href={`/api/records/${record.id}/report`} target="_blank" rel="noreferrer">
            Report
          </a>
          <a className="btn" href={`/api/records/${record.id}/proof`} download>
            Proof file
          </a>
        </>
      )}
      <button className="btn" onClick={() => window.print()}>
        Print
      </button>
      {!record.amended_by && !waiting && (
        <button className="btn" onClick={onAmend}>
          Something is wrong here
        </button>
      )}
    </>
  );
}

/** The other half of a pair, given from a record that needs nothing itself. */
function Companion({ record }: { record: RecordOut }) {
  const other = record.pair ?? record.as_left;
  const mayAdjust = record.result?.verdict.next.some((step) => step.code === "adjust-if-wanted");
  if (!other)
    return (
      <section className="card grid gap-2 p-5">
        <h2>{mayAdjust ? "Not adjusted" : "No adjustment needed"}</h2>
        <p>
          {mayAdjust && "Usable under its condition. "}
          This as-found check is also the as-left.
        </p>
      </section>
    );
  return (
    <section className="card grid gap-2 p-5" data-pair>
      <h2>{record.pair ? "After adjusting" : "Adjusted since"}</h2>
      <p>
        {record.pair
          ? "This is how it was left. The as-found check is linked here."
          : "The as-left check is linked here."}
      </p>
      <Link className="btn" to={`/records/${other}`}>
        {record.pair ? "As found" : "As left"}
      </Link>
    </section>
  );
}
