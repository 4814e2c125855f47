// Turning what is to be turned: the target, the tool, the caution at the action, and "it reads now" as often as wanted.
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import type { Adjusting as Guided, Kind, RecordOut } from "../../api/client";
import { instrumentQuery } from "../../api/queries";
import { useHappening } from "../../app/events";
import { useHere, usePerson } from "../../app/session";
import { adjusting, asLeftDocument } from "../../engine";
import { storeDraft, roundHolding } from "../../device/device";
import { type CheckDocument, begin } from "../../documents/draft";
import { Cautions, Trouble } from "../../ui/parts";
import { NumberField } from "../../ui/NumberField";

/** Readings since the first turn, kept over a reload. */
function useReadsNow(id: string): [string[], (next: string[]) => void] {
  const key = `adjusting-${id}`;
  const [list, setList] = useState<string[]>(() => JSON.parse(sessionStorage.getItem(key) ?? "[]") as string[]);
  return [
    list,
    (next) => {
      sessionStorage.setItem(key, JSON.stringify(next));
      setList(next);
    },
  ];
}

export function Adjusting({ record, document, kind }: { record: RecordOut; document: CheckDocument; kind: Kind }) {
  const person = usePerson();
  const { may, session } = useHere();
  const navigate = useNavigate();
  const happened = useHappening();
  const instrument = useQuery(instrumentQuery(record.instrument));
  const [readsNow, setReadsNow] = useReadsNow(record.id);
  const guide = useQuery({
    queryKey: ["adjusting", record.id, readsNow],
    enabled: kind.adjustable,
    queryFn: () => adjusting(record.instrument, record.document, readsNow),
    placeholderData: (before) => before,
    staleTime: Infinity,
  });
  // What the manager cleared a person for comes before what their role may.
  const mine = session.adjusts ? session.adjusts.includes(record.kind) : kind.who_adjusts.includes(person.role);
  const right = may("adjust");
  const answer = guide.data;
  const again = async () => {
    await happened(
      { instrument: record.instrument, event: "adjusted", record: record.id, steps: readsNow, note: "" },
      `Adjustment of ${record.instrument}`,
    );
    const fresh = await asLeftDocument(document, record.result?.result ?? {});
    const draft = begin({
      kind: record.kind,
      instrument: record.instrument,
      owner: person.username,
      stage: "as-left",
      pair: record.id,
      document: fresh,
      begun: fresh.observations,
    });
    const round = await roundHolding(person.username, record.id);
    await storeDraft(round ? { ...draft, round } : draft);
    await navigate(`/bench/${draft.id}`);
  };
  if (!kind.adjustable)
    return <p>{kind.when_bad.find((step) => step.code === "adjust")?.text ?? "No field adjustment for this check."}</p>;
  if (!answer) return <Trouble error={guide.error} />;
  if (!answer.allowed) return <p>{answer.text}</p>;
  if (!mine || !right.allowed)
    return (
      <p className="sub">{right.text || "You are not allowed to make this adjustment: ask the equipment manager."}</p>
    );
  if (answer.inputs.length === 0)
    return <ByHand text={answer.text} cautions={kind.cautions["adjusting"] ?? []} onAgain={() => void again()} />;
  // Where nothing is turned, old values are noted first: only then is the second round the action that matters.
  const turned = Boolean(answer.screw);
  const hint = instrument.data?.adjusting_tips[record.kind];
  const last = answer.steps[answer.steps.length - 1];
  return (
    <div className="grid gap-3">
      <p className="text-[1.35rem] font-semibold leading-tight">{answer.text}</p>
      {answer.screw && <p>{`${answer.screw} ${answer.tool}`}</p>}
      {hint && <p>{hint}</p>}
      <Cautions cautions={kind.cautions["adjusting"] ?? []} />
      <ReadsNow answer={answer} onEnter={(value) => setReadsNow([...readsNow, value])} />
      <Trouble error={guide.error} />
      {guide.error && readsNow.length > 0 && (
        <button className="btn" onClick={() => setReadsNow(readsNow.slice(0, -1))}>
          Take {readsNow[readsNow.length - 1]} away
        </button>
      )}
      <SinceTheFirstTurn steps={answer.steps} onTakeAway={() => setReadsNow(readsNow.slice(0, -1))} />
      <button
        className={`btn site ${last?.done || (turned && record.as_left === null) ? "now" : ""}`}
        onClick={() => void again()}
      >
        {readsNow.length
          ? "Test again, as left"
          : turned
            ? "Adjusted: test again"
            : "Stored without a note: test again"}
      </button>
      {record.as_left && <p className="sub">An as-left check exists already; this would be another.</p>}
    </div>
  );
}

/** What it read after each turn; the last can be taken away again. */
function SinceTheFirstTurn({ steps, onTakeAway }: { steps: Guided["steps"]; onTakeAway: () => void }) {
  const last = steps.length - 1;
  return (
    <ol className="m-0 grid list-none gap-1 p-0" aria-label="Readings since the first turn" aria-live="polite">
      {steps.map((step, i) => (
        <li key={i} data-done={step.done || undefined} className={i === last ? "font-semibold" : "sub"}>
          <span className="font-mono">{step.given}</span>: {step.text}
          {i === last && (
            <button className="ml-2 min-h-[44px] underline underline-offset-4 font-normal" onClick={onTakeAway}>
              take away
            </button>
          )}
        </li>
      ))}
    </ol>
  );
}

/** What has no reading while it is done: stored by the instrument's own routine, or fixed by hand. Then once more. */
function ByHand({
  text,
  cautions,
  onAgain,
}: {
  text: string;
  cautions: Kind["cautions"][string];
  onAgain: () => void;
}) {
  return (
    <div className="grid gap-3">
      <p className="text-[1.2rem] font-semibold leading-tight">{text}</p>
      <Cautions cautions={cautions} />
      <button className="btn now site" onClick={onAgain}>
        Done: check again, as left
      </button>
    </div>
  );
}

/** What it reads or where it points after a turn: one figure, or two that are entered together. */
function ReadsNow({ answer, onEnter }: { answer: Guided; onEnter: (value: string) => void }) {
  const [typed, setTyped] = useState<string[]>(() => answer.inputs.map(() => ""));
  const enter = () => {
    if (typed.some((each) => !each.trim())) return;
    onEnter(typed.map((each) => each.trim()).join(" "));
    setTyped(answer.inputs.map(() => ""));
    window.document.getElementById("reads-now")?.focus();
  };
  const key = (index: number) => (what: string) => {
    if (what !== "next") return;
    if (index < answer.inputs.length - 1) window.document.getElementById(`reads-now-${index + 1}`)?.focus();
    else enter();
  };
  return (
    <>
      <span className="font-semibold">
        {answer.prompt}, {answer.unit}
      </span>
      <div
        className="grid items-end gap-2"
        style={{ gridTemplateColumns: `repeat(${answer.inputs.length}, minmax(0, 1fr)) auto` }}
      >
        {answer.inputs.map((label, i) => (
          <label key={label} className="grid gap-1">
            {label && <span className="sub">{label}</span>}
            <NumberField
              id={i === 0 ? "reads-now" : `reads-now-${i}`}
              label={label ? `${answer.prompt}, ${label}` : answer.prompt}
              value={typed[i] ?? ""}
              onType={(value) => setTyped(typed.map((each, k) => (k === i ? value : each)))}
              onKey={key(i)}
              onHere={() => undefined}
            />
          </label>
        ))}
        <button className={`btn site ${answer.screw || answer.steps.length ? "" : "now"}`} onClick={enter}>
          {answer.screw ? "Enter" : "Note"}
        </button>
      </div>
    </>
  );
}
