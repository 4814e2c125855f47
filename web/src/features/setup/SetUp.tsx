// One set-up in hand: the string of acts, the site, and one act at a time with what to look at and what to do.
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate, useParams } from "react-router";
import type { Fault, Guide } from "../../api/client";
import { instrumentQuery } from "../../api/queries";
import { useTell } from "../../app/notices";
import { usePerson } from "../../app/session";
import { nowWithOffset } from "../../documents/draft";
import { type SetUpDraft, around, asDraft, asSetUp, logged, observing } from "../../documents/setUp";
import { dropDraft, keepDraft } from "../../device/device";
import { Back, Cautions, FaultLine, Head, Trouble, Waiting } from "../../ui/parts";
import { NO_CORE } from "../../hooks/useAsked";
import { useDraft } from "../../hooks/useDraft";
import { Ask, AskTyped, Ring, type Tell } from "./Ask";
import { Keep } from "./Keep";
import { LaserOn } from "./LaserOn";
import { PlumbLine } from "./PlumbLine";
import { Quick } from "./Quick";
import { SiteDrawing } from "./SiteDrawing";
import { TryFirst } from "./Try";
import type { Observed } from "../../ui/Fold";
import { type Said, useGuide } from "./useGuide";

const TURN_DEG = 60;
/** Where what the firm noted of a model helps: which ring does what, when the laser goes off. */
const PLUMMET = ["focus", "laser-on", "laser-off"];

export function SetUp() {
  const { id = "" } = useParams();
  const { draft, change } = useDraft(id);
  if (draft === undefined) return <Waiting what="Opening the set-up…" />;
  const setUp = draft && asSetUp(draft);
  if (!setUp)
    return <Head title="This set-up is not on this device" sub={<Back to="/stand">It was saved, discarded, started on another device, or the storage was cleared. To the set-ups</Back>} />;
  const write = (next: (draft: SetUpDraft) => SetUpDraft) => change((one) => asDraft(next(asSetUp(one) ?? setUp)));
  return <Open key={setUp.id} draft={setUp} write={write} />;
}

function Open({ draft, write }: { draft: SetUpDraft; write: (next: (draft: SetUpDraft) => SetUpDraft) => void }) {
  const observed = draft.document.observations;
  const [act, setAct] = useState<string | null>(null);
  const { told: said, fresh, faults: refused, trouble, noSignal } = useGuide(draft, act);
  const navigate = useNavigate();
  const tell = useTell();
  const { role } = usePerson();
  const set = (change: Partial<Observed>) => write((one) => observing(one, change));
  const discard = async () => {
    await dropDraft(draft.id);
    await navigate("/stand");
    tell({ text: "Set-up discarded.", undo: async () => { await keepDraft(asDraft(draft)); await navigate(`/stand/${draft.id}`); } });
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
        sub={said ? `${said.guide.way_title}.${said.guide.passes ? ` Pass ${said.guide.passes}.` : ""}` : undefined}
        acts={
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
      {refused.filter((one) => !said || !hasWell(said.guide, one.path)).map((one) => (
        <FaultLine key={one.path} fault={one} />
      ))}
      {said?.guide.laser && <LaserOn laser={said.guide.laser} />}
      {said && observed.quick && <Quick draft={draft} said={said} set={set} keep={<Keep draft={draft} said={said} refused={refused} write={write} />} refused={refused} />}
      {said && !observed.quick && <Led draft={draft} said={said} answered={fresh} refused={refused} setAct={setAct} write={write} set={set} />}
      {!said && !trouble && !noSignal && !refused.length && <Waiting what="One moment…" />}
    </div>
  );
}

/** Whether the act at hand has a well for what was refused, and says it there. */
function hasWell(guide: Guide, path: string): boolean {
  const { asks } = guide.act;
  if (asks === "place") return path.includes("conditions.");
  if (asks === "eye") return path.includes("observations.tripod") || path.includes("eye_height");
  if (asks.startsWith("plate") || asks.startsWith("rounds")) return path.includes("level.");
  if (asks === "heights") return path.includes("height.");
  return guide.next === null && path.includes("work.");
}

type LedProps = { draft: SetUpDraft; said: Said; answered: boolean; refused: Fault[]; setAct: (act: string | null) => void; write: (next: (draft: SetUpDraft) => SetUpDraft) => void; set: (change: Partial<Observed>) => void };

function Led({ draft, said, answered, refused, setAct, write, set }: LedProps) {
  const observed = draft.document.observations;
  const { guide, preview } = said;
  const instrument = useQuery(instrumentQuery(draft.instrument));
  const log = observed.log ?? [];
  const last = [...log].reverse().find((one) => one.act === guide.act.name);
  const lastAt = log.findLastIndex((one) => one.act === guide.act.name);
  // What was wrong at another act, or at an earlier look, is not said here.
  const faults = [...preview.faults, ...refused].filter((one) => !one.path.includes("log[") || one.path.includes(`log[${lastAt}]`));
  const [fresh, setFresh] = useState<number | null>(null);
  // "Look again": what was seen before is not what is seen now.
  const shown = fresh !== null && log.length <= fresh ? undefined : last;
  const tell: Tell = {
    set,
    place: (conditions) => write((one) => around(one, { conditions })),
    see: (entry) => {
      setAct(guide.act.name);
      setFresh(null);
      write((one) => logged(one, { act: guide.act.name, at: nowWithOffset(), ...entry }));
    },
  };
  const goOn = (to: string | null) => {
    setFresh(null);
    setAct(to);
  };
  const confirm = () => {
    write((one) => logged(one, { act: guide.act.name, confirmed: true, at: nowWithOffset() }));
    goOn(guide.next);
  };
  const turn = () => set({ stand_bearing_deg: ((observed.stand_bearing_deg ?? 180) + TURN_DEG) % 360 });
  const again = () => {
    if (guide.act.asks.startsWith("rounds")) set({ level: { by: observed.level?.by ?? "electronic" } });
    if (guide.act.name === "slide" || guide.act.name === "shift") return goOn(guide.next);
    setFresh(log.length);
  };
  // What is only good to know stands below the act; what the act turns on stands above it.
  const optional = guide.act.asks === "place" || guide.act.asks === "eye";
  const asked = <Ask key={`${guide.act.name}${shown ? "" : "-again"}`} guide={guide} last={shown} observed={observed} conditions={draft.document.conditions ?? {}} faults={faults} tell={tell} />;
  const advice = shown || guide.act.asks === "eye" || guide.act.asks.startsWith("rounds") ? guide.advice : null;
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] items-start gap-4 tab:grid-cols-[minmax(0,1fr)_minmax(0,1fr)] desk:grid-cols-[196px_minmax(0,1fr)_minmax(0,1.05fr)]">
      <PlumbLine knots={guide.knots} onTake={goOn} />
      <section className="card overflow-hidden max-tab:order-last" aria-label="The site">
        <SiteDrawing site={guide.site} onTurn={turn} />
      </section>
      <section className="grid content-start gap-4" aria-label="What to do now" data-act={guide.act.name} data-advice={advice?.result ? JSON.stringify(advice.result) : undefined} data-enough={guide.enough} data-fresh={answered}>
        {optional ? null : guide.act.name === "ring-round" ? <Ring observed={observed} set={set} /> : asked}
        <Doing guide={guide} advice={advice} seen={Boolean(shown)} />
        <Buttons guide={guide} advice={Boolean(advice)} seen={Boolean(shown)} onConfirm={confirm} onAgain={again} onNext={() => goOn(guide.next)} onWrongWay={() => tell.see({ ...last, wrong_way: true })} ready={<Keep draft={draft} said={said} refused={refused} write={write} />} />
        <AskTyped key={`typed-${guide.act.name}${shown ? "" : "-again"}`} guide={guide} last={shown} faults={faults} tell={tell} />
        {shown && guide.tries && <TryFirst guide={guide} tries={guide.tries} />}
        {optional && <div className="border-t border-line pt-4">{asked}</div>}
        <More act={guide.act} hints={PLUMMET.includes(guide.act.name) ? instrument.data?.hints : undefined} />
      </section>
    </div>
  );
}

/** The one thing to do, large; why, and what usually goes wrong, below it. */
function Doing({ guide, advice, seen }: { guide: Guide; advice: Guide["advice"]; seen: boolean }) {
  const { act } = guide;
  const touched = ["bubble", "spot", "bob"].includes(act.asks);
  const headline = advice ? advice.headline : seen && guide.enough ? "Good enough." : act.title;
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
          <p>{act.do}</p>
          <p className="sub">{act.why}</p>
        </>
      )}
      {guide.hints.map((one) => (
        <p key={one.code} data-hint={one.code} className="border-l-[3px] border-ink pl-3">
          {one.text}
        </p>
      ))}
      {guide.converges && <p className="caution">{guide.converges}</p>}
      <Cautions cautions={act.cautions} />
    </div>
  );
}

/** For whoever wants more of it. */
function More({ act, hints }: { act: Guide["act"]; hints?: string | undefined }) {
  return (
    <details open={Boolean(hints)} className="fold">
      <summary>What to check, why, common mistakes</summary>
      <div className="grid gap-2 pb-2">
        {hints && <p className="font-[600]">{hints}</p>}
        <p>{act.look}</p>
        <p>{act.why}</p>
        <p>{act.wrong}</p>
      </div>
    </details>
  );
}

type ButtonsProps = { guide: Guide; advice: boolean; seen: boolean; onConfirm: () => void; onAgain: () => void; onNext: () => void; onWrongWay: () => void; ready: React.ReactNode };

/** At most one filled act: confirm, look again, or go on; at the end, keep it. */
function Buttons({ guide, advice, seen, onConfirm, onAgain, onNext, onWrongWay, ready }: ButtonsProps) {
  const confirms = ["confirm", "place", "eye"].includes(guide.act.asks);
  const toNext = guide.next_title ? `Next: ${guide.next_title}` : null;
  if (confirms && guide.act.name !== "ring-round")
    return (
      <button className="btn now site" onClick={onConfirm}>
        Done{toNext ? `. ${toNext}` : ""}
      </button>
    );
  if (advice)
    return (
      <div className="grid gap-3">
        <button className="btn now site" onClick={onAgain}>
          {guide.act.name === "slide" || guide.act.name === "shift" ? `Done. ${toNext ?? ""}` : "Done, look again"}
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
    <button className={`btn site ${seen || guide.enough ? "now" : ""}`} onClick={onNext}>
      {toNext}
    </button>
  );
}
