// A round in hand: one check after the other, broken off and taken up as one likes; at its end go or not go.
import { useQueries } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Link, useParams } from "react-router";
import type { ReadinessPreview } from "../../api/client";
import { recordQuery } from "../../api/queries";
import { useDiscard } from "../../app/useDiscard";
import { useSaving } from "../../app/saving";
import { useHere } from "../../app/session";
import type { Draft } from "../../documents/draft";
import { type Step, nextStep, roundOf, stepFrom, stepsOf, unsettled, withStep } from "../../documents/readiness";
import { NextSteps } from "../../ui/FindingView";
import { GradeMark } from "../../ui/icons";
import { Back, Dialog, Head, Trouble, Waiting } from "../../ui/parts";
import { NO_CORE, usePreview } from "../../hooks/useQuestion";
import { type Change, useDraft } from "../../hooks/useDraft";
import { useKind } from "../../hooks/useKinds";
import { capital, lowered } from "../../ui/words";
import { NoRoomLine } from "../../ui/NoRoomLine";

const REASONS = ["no time", "equipment not available", "weather does not allow it"];

export function Round() {
  const { id = "" } = useParams();
  const { draft, change, room } = useDraft(id);
  if (draft === undefined) return <Waiting what="Opening…" />;
  if (draft === null)
    return (
      <Head
        title="This pre-work check is not on this device"
        sub={<Back to="/bench">It was saved, discarded, or started on another device. To the bench</Back>}
      />
    );
  return <Open draft={draft} change={change} room={room} />;
}

function Open({ draft, change, room }: { draft: Draft; change: Change; room: boolean }) {
  const steps = stepsOf(draft);
  const { answer, trouble, noSignal } = usePreview<ReadinessPreview>(draft.instrument, roundOf(draft.document), "now");
  const [leaving, setLeaving] = useState<Step | null>(null);
  useSettling(draft, change);
  const now = nextStep(steps);
  const done = steps.filter((step) => step.record).length;
  // What can still be made better comes before keeping it as it is.
  const better = steps.find((step) => step.grade === "adjust" || step.grade === "repeat");
  const discard = useDiscard(
    draft,
    `Pre-work check of ${draft.instrument} discarded; its checks stay on record.`,
    `/bench/readiness/${draft.id}`,
  );
  const leave = (step: Step, why: string) => {
    change((each) => withStep(each, step.check, { left_out: why }));
    setLeaving(null);
  };
  return (
    <div className="grid gap-4">
      <Head
        title={
          <>
            Pre-work check of <span className="tag">{draft.instrument}</span>: {done} of {steps.length} done
          </>
        }
        sub={answer?.progress || "In the order they depend on each other. You can interrupt it; it waits on the bench."}
        actions={
          <>
            <Back to="/bench">To the bench</Back>
            <button className="btn" onClick={() => void discard()}>
              Discard this check
            </button>
          </>
        }
      />
      {!room && <NoRoomLine />}
      <div className="grid items-start gap-4 desk:grid-cols-[minmax(0,1fr)_400px]">
        <ol className="card m-0 list-none divide-y divide-line p-0" aria-label="Checks included">
          {steps.map((step) => (
            <Line
              key={step.check}
              step={step}
              now={step === now}
              better={!now && step === better}
              draft={draft}
              onLeave={() => setLeaving(step)}
              onTake={() => change((each) => withStep(each, step.check, { left_out: "" }))}
            />
          ))}
        </ol>
        <HowItEnds
          draft={draft}
          answer={answer}
          trouble={trouble}
          noSignal={noSignal}
          now={now}
          better={Boolean(better)}
        />
      </div>
      <Dialog title="Skip it?" open={leaving !== null} onClose={() => setLeaving(null)}>
        {leaving && <LeaveOut step={leaving} onLeave={(why) => leave(leaving, why)} />}
      </Dialog>
    </div>
  );
}

type EndProps = {
  draft: Draft;
  answer: ReadinessPreview | null;
  trouble: unknown;
  noSignal: boolean;
  now: Step | undefined;
  better: boolean;
};

/** What it comes to so far, and keeping it at its end. */
function HowItEnds({ draft, answer, trouble, noSignal, now, better }: EndProps) {
  const { may } = useHere();
  const keep = useSaving();
  const [busy, setBusy] = useState(false);
  const right = may("save-check");
  const finish = async () => {
    setBusy(true);
    await keep(draft, `Pre-work check of ${draft.instrument}`);
    setBusy(false);
  };
  return (
    <section
      className="card grid gap-4 p-5 desk:sticky desk:top-5"
      aria-label="Outcome"
      aria-live="polite"
      data-complete={Boolean(answer?.reduced)}
    >
      {noSignal && <p className="fault">{NO_CORE}</p>}
      <Trouble error={trouble} />
      {answer?.faults.map((fault) => (
        <p key={fault.path} className="fault">
          {capital(fault.where)}: {fault.given}. Enter {fault.wanted}.
        </p>
      ))}
      {answer?.reduced ? (
        <>
          <div className="grid justify-items-start gap-3" data-finding={answer.reduced.verdict.grade}>
            <GradeMark grade={answer.reduced.verdict.grade} />
            <p className="text-[1.4rem] font-semibold leading-[1.22]">{answer.reduced.finding.text}</p>
          </div>
          <NextSteps result={answer.reduced} />
          <button
            className={`btn site ${better ? "" : "now"}`}
            disabled={busy || !right.allowed}
            onClick={() => void finish()}
          >
            {busy ? "Saving…" : "Save this pre-work check"}
          </button>
          {!right.allowed && <p className="sub">{right.text}</p>}
        </>
      ) : (
        <p className="text-[1.3rem] font-semibold leading-tight">
          {now ? <NextReading step={now} /> : "Filled automatically."}
        </p>
      )}
    </section>
  );
}

function NextReading({ step }: { step: Step }) {
  const kind = useKind(step.check);
  return <>Next: {kind ? lowered(kind.title) : step.check}</>;
}

/** One check: done with what it found, at hand with the way in, or left out with the reason. */
function Line({
  step,
  now,
  better,
  draft,
  onLeave,
  onTake,
}: {
  step: Step;
  now: boolean;
  better: boolean;
  draft: Draft;
  onLeave: () => void;
  onTake: () => void;
}) {
  const kind = useKind(step.check);
  const address = `/bench/new/${draft.instrument}/${step.check}?round=${draft.id}${step.method ? `&method=${step.method}` : ""}`;
  const bad = ["adjust", "repeat", "service"].includes(step.grade ?? "");
  return (
    <li
      data-step={step.check}
      data-state={step.record ? "done" : step.left_out ? "left-out" : now ? "now" : "later"}
      data-grade={step.grade}
      className="grid gap-3 px-5 py-4 tab:grid-cols-[minmax(0,1fr)_auto] tab:items-center"
    >
      <div className="grid gap-1">
        <h2 className={step.left_out ? "text-ink-2" : ""}>
          {kind?.title ?? step.check}{" "}
          {kind?.quick && !step.record && <span className="sub font-normal">{kind.quick.minutes} min</span>}
        </h2>
        {step.record && (
          <p>
            {step.grade ? step.finding : "Stored; the verdict follows when you are online."}
            {step.stage === "as-left" ? " As left." : ""}
          </p>
        )}
        {step.left_out && <p className="sub">Left out: {step.left_out}.</p>}
        {now && kind && <p>{kind.why}</p>}
      </div>
      {step.record ? (
        <div className="flex items-center gap-4">
          {step.grade && <GradeMark grade={step.grade as "use"} />}
          <Link className={bad ? `btn ${better ? "now" : ""}` : "link"} to={`/records/${step.record}`}>
            {step.grade === "adjust" ? "Open it" : step.grade === "repeat" ? "Repeat it" : "Record"}
          </Link>
        </div>
      ) : step.left_out ? (
        <button className="btn" onClick={onTake}>
          Do it after all
        </button>
      ) : (
        <div className="flex flex-wrap items-center gap-3">
          <button className="link min-h-[48px]" onClick={onLeave}>
            Leave out
          </button>
          <Link className={`btn site ${now ? "now" : ""}`} to={address}>
            Begin
          </Link>
        </div>
      )}
    </li>
  );
}

function LeaveOut({ step, onLeave }: { step: Step; onLeave: (why: string) => void }) {
  const kind = useKind(step.check);
  const [why, setWhy] = useState("");
  return (
    <div className="grid gap-4">
      <p>{kind?.title} will be listed as not checked, with the reason.</p>
      {REASONS.map((each) => (
        <button key={each} className="btn site" onClick={() => onLeave(each)}>
          {capital(each)}
        </button>
      ))}
      <label className="grid gap-1 font-semibold">
        Another reason
        <input className="field" maxLength={200} value={why} onChange={(event) => setWhy(event.target.value)} />
      </label>
      <button className="btn site" disabled={!why.trim()} onClick={() => onLeave(why.trim())}>
        Leave out
      </button>
    </div>
  );
}

/** What was adjusted, taken again, or judged on the server in the meantime is taken up on its own. */
function useSettling(draft: Draft, change: Change): void {
  const open = stepsOf(draft).filter(unsettled);
  const records = useQueries({
    queries: open.map((each) => ({
      ...recordQuery(each.record ?? ""),
      retry: false,
      refetchOnMount: "always" as const,
    })),
  });
  const found = records.map((record) => record.data);
  const newer = useQueries({
    queries: found.map((each) => ({
      ...recordQuery(each?.as_left ?? each?.amended_by ?? ""),
      enabled: Boolean(each?.as_left ?? each?.amended_by),
      retry: false,
    })),
  });
  useEffect(() => {
    open.forEach((step, i) => {
      const record = newer[i]?.data ?? found[i];
      if (!record?.grade || record.kind !== step.check || (record.id === step.record && record.grade === step.grade))
        return;
      change((each) => withStep(each, step.check, stepFrom(record)));
    });
  });
}
