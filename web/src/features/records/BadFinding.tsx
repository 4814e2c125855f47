// A bad finding, led through one step at a time: real, kept, adjusted or done without, and what was done with it since.
import { useQuery } from "@tanstack/react-query";
import { type ReactNode, useState } from "react";
import { Link, useNavigate } from "react-router";
import type { Kind, RecordOut, Result } from "../../api/client";
import { impactReviewQuery, standInsQuery } from "../../api/queries";
import { useHere, usePerson } from "../../app/session";
import { storeDraft, roundHolding } from "../../device/device";
import { type CheckDocument, begin } from "../../documents/draft";
import { useKind } from "../../hooks/useKinds";
import { fromFile, repeatDocument } from "../../engine";
import { formOf, takenAgain } from "../../documents/form";
import { Adjusting } from "./Adjusting";
import { ImpactReview } from "./ImpactReview";
import { WithReason } from "../../ui/permission";
import { Trouble } from "../../ui/parts";
import { useTrouble } from "../../ui/refusal";

type Props = { record: RecordOut; result: Result; document: CheckDocument };
type Code = "real" | "keep" | "adjust" | "without" | "impact-review";

export function BadFinding({ record, result, document }: Props) {
  const kind = useKind(record.kind);
  const { grade } = result.verdict;
  const { next } = result.verdict;
  // What a quick look found is taken in full before anything is turned or stored by it: the core says so.
  const full = next.some((each) => each.code.startsWith("adjust"))
    ? undefined
    : next.find((each) => each.code === "once-more");
  const [now, setNow] = useState<Code>(
    grade === "adjust" ? (full ? "real" : "adjust") : grade === "repeat" ? "real" : "without",
  );
  const looked = useQuery(impactReviewQuery(record.id));
  if (!kind) return null;
  const again = record.amends !== null || takenAgain(document, formOf(kind, document));
  const done: Record<Code, boolean> = {
    real: again,
    keep: true,
    adjust: record.as_left !== null,
    without: false,
    "impact-review": Boolean(looked.data?.signed) && !looked.data?.work.some((each) => !each.reviewed),
  };
  const content: Record<Code, ReactNode> = {
    real: (
      <>
        {full && <p className="font-semibold">{full.text}</p>}
        <Again record={record} document={document} kind={kind} taken={again} />
      </>
    ),
    keep: <p className="sub">On record, sealed, with every reading.</p>,
    adjust:
      grade === "service" ? (
        <p>Too large for field adjustment: put it on hold and send it to service with this result.</p>
      ) : (
        <Adjusting record={record} document={document} kind={kind} />
      ),
    without: <Without record={record} condition={grade === "adjust" ? null : kind.watch_condition} />,
    "impact-review": <ImpactReview record={record} />,
  };
  return (
    <section className="card p-5" aria-label="What to do with a bad finding">
      <ol className="relative m-0 list-none p-0 pl-8">
        <span aria-hidden="true" className="absolute bottom-0 left-[9px] top-4 w-[2px] bg-ink" />
        {kind.when_bad.map((step) => {
          const code = step.code as Code;
          const open = code === now;
          return (
            <li key={code} data-step={code} data-open={open || undefined} className="relative pb-2">
              <span
                aria-hidden="true"
                className={`absolute -left-8 top-[17px] rounded-full border-ink ${open ? "size-5 border-[5px] bg-card" : `ml-[4px] size-3 border-2 ${done[code] ? "bg-ink" : "bg-card"}`}`}
              />
              <button
                className="flex min-h-[48px] w-full items-center gap-3 text-left text-[17px] font-semibold"
                aria-expanded={open}
                onClick={() => setNow(code)}
              >
                {step.title}
                {done[code] && <span className="sub font-normal">done</span>}
              </button>
              {open && (
                <div className="grid gap-3 pb-4">
                  {code !== "adjust" && <p>{step.text}</p>}
                  {content[code]}
                </div>
              )}
            </li>
          );
        })}
        <span
          aria-hidden="true"
          className="absolute -bottom-3 left-[3px] h-5 w-[14px] bg-ink [clip-path:polygon(0_0,100%_0,50%_100%)]"
        />
      </ol>
    </section>
  );
}

/** Once more: both in one sheet, which then stands in place of this record; or a fresh check where runs are not joined. */
function Again({
  record,
  document,
  kind,
  taken,
}: {
  record: RecordOut;
  document: CheckDocument;
  kind: Kind;
  taken: boolean;
}) {
  const { username } = usePerson();
  const { may } = useHere();
  const navigate = useNavigate();
  const [trouble, setTrouble] = useTrouble();
  if (taken && kind.allows_repeat) return <p className="sub">Both runs are in this record.</p>;
  const again = async () => {
    const round = await roundHolding(username, record.id);
    if (!kind.allows_repeat)
      return navigate(`/bench/new/${record.instrument}/${kind.kind}${round ? `?round=${round}` : ""}`);
    const grown = await repeatDocument(await fromFile(document));
    const why = `${kind.repeat_label}: both runs count together.`;
    const draft = begin({
      kind: record.kind,
      instrument: record.instrument,
      owner: username,
      stage: "as-found",
      amends: record.id,
      why,
      document: { ...grown, in_place_of: record.observed_at },
      ...(round ? { round } : {}),
    });
    await storeDraft(draft);
    await navigate(`/bench/${draft.id}`);
  };
  const right = may("amend");
  // A fresh check changes nothing that is on record.
  const allowed = right.allowed || !kind.allows_repeat;
  return (
    <>
      <button className="btn site" aria-disabled={!allowed} onClick={() => allowed && void again().catch(setTrouble)}>
        {kind.allows_repeat ? kind.repeat_label : "Start a new check"}
      </button>
      {!allowed && <p className="sub">{right.text}</p>}
      <Trouble error={trouble} />
    </>
  );
}

function Without({ record, condition }: { record: RecordOut; condition: string | null }) {
  const others = useQuery(standInsQuery(record.instrument));
  const { may } = useHere();
  const [holding, setHolding] = useState(false);
  const right = may("hold");
  return (
    <>
      {condition && <p>{condition}</p>}
      {others.data && others.data.length === 0 && <p>No other of this kind is ready today.</p>}
      <ul className="m-0 grid list-none gap-2 p-0">
        {others.data?.map((each) => (
          <li key={each.tag} className="border-b border-line pb-2" data-stand-in={each.tag}>
            <Link className="tag min-h-[44px] text-[18px] underline underline-offset-4" to={`/instruments/${each.tag}`}>
              {each.tag}
            </Link>{" "}
            <b>{each.where}</b>, {each.model}. <span className="sub">{each.reason}</span>
          </li>
        ))}
      </ul>
      <button className="btn site" aria-disabled={!right.allowed} onClick={() => right.allowed && setHolding(true)}>
        Hold {record.instrument}
      </button>
      {!right.allowed && <p className="sub">{right.text}</p>}
      <WithReason
        event="held"
        tag={record.instrument}
        open={holding}
        title={`Put ${record.instrument} on hold?`}
        word="Put on hold"
        done={`Hold on ${record.instrument}`}
        onClose={() => setHolding(false)}
      />
    </>
  );
}
