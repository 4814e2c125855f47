// One set-up in hand: the string of steps, the site, and one step at a time with what to look at and what to do.
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate, useParams } from "react-router";
import type { Fault, Guide } from "../../api/client";
import { instrumentQuery } from "../../api/queries";
import { useNotify } from "../../app/notices";
import { usePerson } from "../../app/session";
import { nowWithOffset } from "../../documents/draft";
import { type SetUpDraft, around, asDraft, asSetUp, logged, observing } from "../../documents/setUp";
import { dropDraft, storeDraft } from "../../device/device";
import { Back, Cautions, FaultLine, Head, Trouble, Waiting } from "../../ui/parts";
import { NO_CORE } from "../../hooks/useQuestion";
import { useDraft } from "../../hooks/useDraft";
import { Ask, AskTyped, Ring, type Notify } from "./Prompt";
import { SaveSetUp } from "./SaveSetUp";
import { LaserOn } from "./LaserOn";
import { PlumbLine } from "./PlumbLine";
import { Quick } from "./Quick";
import { SiteDrawing } from "./SiteDrawing";
import { TryFirst } from "./Trial";
import type { Observed } from "../../ui/Fold";
import { type GuidedPreview, useGuide } from "./useGuide";

const TURN_DEG = 60;
/** Where what the firm noted of a model helps: which ring does what, when the laser goes off. */
const PLUMMET = ["focus", "laser-on", "laser-off"];

export function SetUp() {
  const { id = "" } = useParams();
  const { draft, change } = useDraft(id);
  if (draft === undefined) return <Waiting what="Opening the set-up…" />;
  const setUp = draft && asSetUp(draft);
  if (!setUp)
    return <Head title="This set-up is not on this device" sub={<Back to="/set-up">It was saved, discarded, started on another device, or the storage was cleared. To the set-ups</Back>} />;
  const write = (next: (draft: SetUpDraft) => SetUpDraft) => change((each) => asDraft(next(asSetUp(each) ?? setUp)));
  return <Open key={setUp.id} draft={setUp} write={write} />;
}

function Open({ draft, write }: { draft: SetUpDraft; write: (next: (draft: SetUpDraft) => SetUpDraft) => void }) {
  const observed = draft.document.observations;
  const [step, setStep] = useState<string | null>(null);
  const { answer: answer, fresh, faults: refused, trouble, noSignal } = useGuide(draft, step);
  const navigate = useNavigate();
  const notify = useNotify();
  const { role } = usePerson();
  const set = (change: Partial<Observed>) => write((each) => observing(each, change));
  const discard = async () => {
    await dropDraft(draft.id);
    await navigate("/set-up");
    notify({ text: "Set-up discarded.", undo: async () => { await storeDraft(asDraft(draft)); await navigate(`/set-up/${draft.id}`); } });
  };
  const mark = observed.mark?.free ? "free station" : observed.mark?.name ? `over ${observed.mark.name}` : "";
  return (
    <div className="grid gap-4">
      <Head
        title={
          <>
            <span className="tag">{draft.instrument}</span> {mark}
          </>
        }
        sub={answer ? `${answer.guide.method_title}.${answer.guide.passes ? ` Pass ${answer.guide.passes}.` : ""}` : undefined}
        actions={
          <>
            {observed.options?.strict && role !== "trainee" && (
              <button className="btn" onClick={() => set({ options: { ...observed.options, strict: false } })}>
                Any order
              </button>
            )}
            <button className="btn" onClick={() => set({ quick: !observed.quick })}>
              {observed.quick ? "Guide me" : "Already set up: record it"}
            </button>
            <button className="btn" onClick={() => void discard()}>
              Discard
            </button>
          </>
        }
      />
      {noSignal && <p className="fault">{NO_CORE}</p>}
      <Trouble error={trouble} />
      {refused.filter((each) => !answer || !hasInput(answer.guide, each.path)).map((each) => (
        <FaultLine key={each.path} fault={each} />
      ))}
      {answer?.guide.laser && <LaserOn laser={answer.guide.laser} />}
      {answer && observed.quick && <Quick draft={draft} guided={answer} set={set} keep={<SaveSetUp draft={draft} guided={answer} refused={refused} write={write} />} refused={refused} />}
      {answer && !observed.quick && <Guided draft={draft} guided={answer} answered={fresh} refused={refused} setStep={setStep} write={write} set={set} />}
      {!answer && !trouble && !noSignal && !refused.length && <Waiting what="One moment…" />}
    </div>
  );
}

/** Whether the step at hand has an input for what was refused, and says it there. */
function hasInput(guide: Guide, path: string): boolean {
  const { prompt } = guide.step;
  if (prompt === "place") return path.includes("conditions.");
  if (prompt === "eye") return path.includes("observations.tripod") || path.includes("eye_height");
  if (prompt.startsWith("plate") || prompt.startsWith("rounds")) return path.includes("level.");
  if (prompt === "heights") return path.includes("height.");
  return guide.next === null && path.includes("work.");
}

type GuidedProps = { draft: SetUpDraft; guided: GuidedPreview; answered: boolean; refused: Fault[]; setStep: (step: string | null) => void; write: (next: (draft: SetUpDraft) => SetUpDraft) => void; set: (change: Partial<Observed>) => void };

function Guided({ draft, guided, answered, refused, setStep, write, set }: GuidedProps) {
  const observed = draft.document.observations;
  const { guide, preview } = guided;
  const instrument = useQuery(instrumentQuery(draft.instrument));
  const log = observed.log ?? [];
  const last = [...log].reverse().find((each) => each.step === guide.step.name);
  const lastAt = log.findLastIndex((each) => each.step === guide.step.name);
  // What was wrong at another step, or at an earlier look, is not said here.
  const faults = [...preview.faults, ...refused].filter((fault) => !fault.path.includes("log[") || fault.path.includes(`log[${lastAt}]`));
  const [fresh, setFresh] = useState<number | null>(null);
  // "Look again": what was seen before is not what is seen now.
  const shown = fresh !== null && log.length <= fresh ? undefined : last;
  const notify: Notify = {
    set,
    place: (conditions) => write((each) => around(each, { conditions })),
    see: (entry) => {
      setStep(guide.step.name);
      setFresh(null);
      write((each) => logged(each, { step: guide.step.name, at: nowWithOffset(), ...entry }));
    },
  };
  const goOn = (to: string | null) => {
    setFresh(null);
    setStep(to);
  };
  const confirm = () => {
    write((each) => logged(each, { step: guide.step.name, confirmed: true, at: nowWithOffset() }));
    goOn(guide.next);
  };
  const turn = () => set({ stand_bearing_deg: ((observed.stand_bearing_deg ?? 180) + TURN_DEG) % 360 });
  const again = () => {
    if (guide.step.prompt.startsWith("rounds")) set({ level: { by: observed.level?.by ?? "electronic" } });
    if (guide.step.name === "slide" || guide.step.name === "shift") return goOn(guide.next);
    setFresh(log.length);
  };
  // What is only good to know stands below the step; what the step turns on stands above it.
  const optional = guide.step.prompt === "place" || guide.step.prompt === "eye";
  const query = <Ask key={`${guide.step.name}${shown ? "" : "-again"}`} guide={guide} last={shown} observed={observed} conditions={draft.document.conditions ?? {}} faults={faults} notify={notify} />;
  const advice = shown || guide.step.prompt === "eye" || guide.step.prompt.startsWith("rounds") ? guide.advice : null;
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] items-start gap-4 tab:grid-cols-[minmax(0,1fr)_minmax(0,1fr)] desk:grid-cols-[196px_minmax(0,1fr)_minmax(0,1.05fr)]">
      <PlumbLine steps={guide.steps} onTake={goOn} />
      <section className="card overflow-hidden max-tab:order-last" aria-label="The site">
        <SiteDrawing site={guide.site} onTurn={turn} />
      </section>
      <section className="grid content-start gap-4" aria-label="What to do now" data-at-hand={guide.step.name} data-advice={advice?.result ? JSON.stringify(advice.result) : undefined} data-enough={guide.within_tolerance} data-fresh={answered}>
        {optional ? null : guide.step.name === "ring-round" ? <Ring observed={observed} set={set} /> : query}
        <Doing guide={guide} advice={advice} seen={Boolean(shown)} />
        <Buttons guide={guide} advice={Boolean(advice)} seen={Boolean(shown)} onConfirm={confirm} onAgain={again} onNext={() => goOn(guide.next)} onWrongWay={() => notify.see({ ...last, wrong_direction: true })} ready={<SaveSetUp draft={draft} guided={guided} refused={refused} write={write} />} />
        <AskTyped key={`typed-${guide.step.name}${shown ? "" : "-again"}`} guide={guide} last={shown} faults={faults} notify={notify} />
        {shown && guide.trial && <TryFirst guide={guide} trial={guide.trial} />}
        {optional && <div className="border-t border-line pt-4">{query}</div>}
        <More step={guide.step} tips={PLUMMET.includes(guide.step.name) ? instrument.data?.tips : undefined} />
      </section>
    </div>
  );
}

/** The one thing to do, large; why, and what usually goes wrong, below it. */
function Doing({ guide, advice, seen }: { guide: Guide; advice: Guide["advice"]; seen: boolean }) {
  const { step } = guide;
  const touched = ["bubble", "spot", "bob"].includes(step.prompt);
  const headline = advice ? advice.headline : seen && guide.within_tolerance ? "Good enough." : step.title;
  return (
    <div className="grid gap-3">
      {advice?.understood && !touched && <p className="sub">Read as: {advice.understood}.</p>}
      <p className="text-[1.85rem] font-[720] leading-[1.14] tracking-[-0.012em] text-pretty" data-headline>
        {headline}
      </p>
      {advice ? (
        advice.lines.map((line) => <p key={line}>{line}</p>)
      ) : (
        <>
          <p>{step.do}</p>
          <p className="sub">{step.why}</p>
        </>
      )}
      {guide.tips.map((tip) => (
        <p key={tip.code} data-hint={tip.code} className="border-l-[3px] border-ink pl-3">
          {tip.text}
        </p>
      ))}
      {guide.converges && <p className="caution">{guide.converges}</p>}
      <Cautions cautions={step.cautions} />
    </div>
  );
}

/** For whoever wants more of it. */
function More({ step, tips }: { step: Guide["step"]; tips?: string | undefined }) {
  return (
    <details open={Boolean(tips)} className="fold">
      <summary>What to check, why, common mistakes</summary>
      <div className="grid gap-2 pb-2">
        {tips && <p className="font-[600]">{tips}</p>}
        <p>{step.look}</p>
        <p>{step.why}</p>
        <p>{step.wrong}</p>
      </div>
    </details>
  );
}

type ButtonsProps = { guide: Guide; advice: boolean; seen: boolean; onConfirm: () => void; onAgain: () => void; onNext: () => void; onWrongWay: () => void; ready: React.ReactNode };

/** At most one filled step: confirm, look again, or go on; at the end, keep it. */
function Buttons({ guide, advice, seen, onConfirm, onAgain, onNext, onWrongWay, ready }: ButtonsProps) {
  const confirms = ["confirm", "place", "eye"].includes(guide.step.prompt);
  const toNext = guide.next_title ? `Next: ${guide.next_title}` : null;
  if (confirms && guide.step.name !== "ring-round")
    return (
      <button className="btn now site" onClick={onConfirm}>
        Done{toNext ? `. ${toNext}` : ""}
      </button>
    );
  if (advice)
    return (
      <div className="grid gap-3">
        <button className="btn now site" onClick={onAgain}>
          {guide.step.name === "slide" || guide.step.name === "shift" ? `Done. ${toNext ?? ""}` : "Done, look again"}
        </button>
        <div className="grid grid-cols-2 gap-3">
          {seen && (
            <button className="btn" onClick={onWrongWay}>
              Wrong direction
            </button>
          )}
          {toNext && guide.may_skip && (
            <button className="btn" onClick={onNext}>
              Leave it. {toNext}
            </button>
          )}
        </div>
      </div>
    );
  if (!guide.next) return <>{ready}</>;
  if (!guide.may_skip) return <p className="sub">Strict order: this first, then {guide.next_title}.</p>;
  return (
    <button className={`btn site ${seen || guide.within_tolerance ? "now" : ""}`} onClick={onNext}>
      {toNext}
    </button>
  );
}
