// One set-up in hand: the string of steps, the site, and one step at a time with what to look at and what to do.
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate, useParams } from "react-router";
import type { Fault, Guide, Instrument } from "../../api/client";
import { instrumentQuery } from "../../api/queries";
import { useNotify } from "../../app/notices";
import { usePerson } from "../../app/session";
import { nowWithOffset } from "../../documents/draft";
import { type LogEntry, type SetUpDraft, around, asDraft, asSetUp, logged, observing } from "../../documents/setUp";
import { dropDraft, storeDraft } from "../../device/device";
import { CheckOffList } from "../../ui/CheckOffList";
import { Back, FaultLine, Head, Trouble, Waiting } from "../../ui/parts";
import { NO_CORE } from "../../hooks/useQuestion";
import { useDraft } from "../../hooks/useDraft";
import { useNarrow } from "../../hooks/useNarrow";
import { useTyping } from "../../hooks/useTyping";
import { Ask, AskTyped, Ring, type Notify } from "./Prompt";
import { SaveSetUp } from "./SaveSetUp";
import { HeadTilt } from "./HeadTilt";
import { LaserOn } from "./LaserOn";
import { PlumbLine } from "./PlumbLine";
import { Quick } from "./Quick";
import { SiteDrawing } from "./SiteDrawing";
import { Buttons, Headline, More, Reasons, TOUCHED } from "./StepSaid";
import { TryFirst } from "./Trial";
import type { Observed } from "../../ui/Fold";
import { useFollowed } from "./useFollowed";
import type { GuidedPreview } from "./useGuide";

const TURN_DEG = 60;
/** Steps at which a head that is far from level is still put right with the legs. */
const AT_THE_HEAD = ["tripod", "mount"];
/** Where what the firm noted of a model helps: which ring does what, when the laser goes off. */
const HINT_OF: Record<string, string> = {
  focus: "plummet-focus",
  "laser-on": "plummet-laser",
  "laser-off": "plummet-laser",
  plate: "electronic-level",
  "turn-round": "electronic-level",
};
const WITH_NOTE = ["focus", "laser-on", "laser-off"];

/** What the firm noted of the model for a step, and its general note where the plummet is handled. */
function hintAt(step: string, model: Instrument | undefined): string | undefined {
  const notes = [model?.adjusting_tips[HINT_OF[step] ?? ""], WITH_NOTE.includes(step) ? model?.tips : ""].filter(
    Boolean,
  );
  return notes.length ? notes.join(" ") : undefined;
}

export function SetUp() {
  const { id = "" } = useParams();
  const { draft, change } = useDraft(id);
  if (draft === undefined) return <Waiting what="Opening the set-up…" />;
  const setUp = draft && asSetUp(draft);
  if (!setUp)
    return (
      <Head
        title="This set-up is not on this device"
        sub={
          <Back to="/set-up">
            It was saved, discarded, started on another device, or the storage was cleared. To the set-ups
          </Back>
        }
      />
    );
  const write = (next: (draft: SetUpDraft) => SetUpDraft) => change((each) => asDraft(next(asSetUp(each) ?? setUp)));
  return <Open key={setUp.id} draft={setUp} write={write} />;
}

function Open({ draft, write }: { draft: SetUpDraft; write: (next: (draft: SetUpDraft) => SetUpDraft) => void }) {
  const observed = draft.document.observations;
  const [step, setStep] = useState<string | null>(null);
  const { shown, live, judged, saying } = useFollowed(draft, step);
  const { answer, fresh, faults: refused, trouble, noSignal } = saying;
  const navigate = useNavigate();
  const notify = useNotify();
  const { role } = usePerson();
  const set = (change: Partial<Observed>) => write((each) => observing(each, change));
  const discard = async () => {
    await dropDraft(draft.id);
    await navigate("/set-up");
    notify({
      text: "Set-up discarded.",
      undo: async () => {
        await storeDraft(asDraft(draft));
        await navigate(`/set-up/${draft.id}`);
      },
    });
  };
  const mark = observed.mark?.free ? "free station" : observed.mark?.name ? `over ${observed.mark.name}` : "";
  // On a phone what is done rarely stands last: action, drawing and Done share the first screen.
  const narrow = useNarrow();
  const rare = (
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
  );
  return (
    <div className="grid gap-4 max-tab:gap-2">
      <Head
        low={narrow}
        title={
          <>
            <span className="tag">{draft.instrument}</span> {mark}
          </>
        }
        sub={
          answer && !narrow
            ? `${answer.guide.method_title}.${answer.guide.passes ? ` Pass ${answer.guide.passes}.` : ""}`
            : undefined
        }
        actions={narrow ? undefined : rare}
      />
      {noSignal && <p className="fault">{NO_CORE}</p>}
      <Trouble error={trouble} />
      {refused
        .filter((each) => !answer || !hasInput(answer.guide, each.path))
        .map((each) => (
          <FaultLine key={each.path} fault={each} />
        ))}
      {answer?.guide.laser && <LaserOn laser={answer.guide.laser} />}
      {answer && observed.quick && (
        <Quick
          draft={draft}
          guided={answer}
          set={set}
          keep={<SaveSetUp draft={draft} guided={answer} refused={refused} write={write} />}
          refused={refused}
        />
      )}
      {answer && !observed.quick && (
        <Guided
          draft={shown}
          live={live}
          judged={judged}
          guided={answer}
          answered={fresh}
          refused={refused}
          setStep={setStep}
          write={write}
          set={set}
        />
      )}
      {!answer && !trouble && !noSignal && !refused.length && <Waiting what="One moment…" />}
      {narrow && answer && <div className="flex flex-wrap gap-3 border-t border-line pt-4 no-print">{rare}</div>}
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

type GuidedProps = {
  draft: SetUpDraft;
  live: LogEntry | null;
  judged: LogEntry | null;
  guided: GuidedPreview;
  answered: boolean;
  refused: Fault[];
  setStep: (step: string | null) => void;
  write: (next: (draft: SetUpDraft) => SetUpDraft) => void;
  set: (change: Partial<Observed>) => void;
};

/** What can be done at the step at hand, and what was last seen there. */
function useStep({ draft, judged, guided, refused, setStep, write, set }: GuidedProps) {
  const { guide, preview } = guided;
  const observed = draft.document.observations;
  const log = observed.log ?? [];
  const lastAt = log.findLastIndex((each) => each.step === guide.step.name);
  // What was wrong at another step, or at an earlier look, is not said here.
  const faults = [...preview.faults, ...refused].filter(
    (fault) => !fault.path.includes("log[") || fault.path.includes(`log[${lastAt}]`),
  );
  const [fresh, setFresh] = useState<number | null>(null);
  // "Look again": what was seen before is not what is seen now.
  const shown = fresh !== null && log.length <= fresh ? undefined : log[lastAt];
  const see: Notify["see"] = (entry) => {
    setStep(guide.step.name);
    setFresh(null);
    write((each) => logged(each, { step: guide.step.name, at: nowWithOffset(), ...entry }));
  };
  const notify: Notify = { set, see, place: (conditions) => write((each) => around(each, { conditions })) };
  const goOn = (to: string | null) => {
    // What the page said of the level is what is kept, not what it has sent since.
    if (judged && to === guide.next) write((each) => logged(each, judged));
    setFresh(null);
    setStep(to);
  };
  const confirm = () => {
    write((each) => logged(each, { step: guide.step.name, confirmed: true, at: nowWithOffset() }));
    goOn(guide.next);
  };
  const again = () => {
    if (guide.step.prompt.startsWith("rounds")) set({ level: { by: observed.level?.by ?? "electronic" } });
    if (guide.step.name === "slide" || guide.step.name === "shift") return goOn(guide.next);
    setFresh(log.length);
  };
  const turn = () => set({ stand_bearing_deg: ((observed.stand_bearing_deg ?? 180) + TURN_DEG) % 360 });
  const wrongWay = () => see({ ...log[lastAt], wrong_direction: true });
  return { faults, shown, notify, goOn, confirm, again, turn, wrongWay };
}

function Guided(props: GuidedProps) {
  const { draft, live, guided, answered, refused, write, set } = props;
  const { guide } = guided;
  const observed = draft.document.observations;
  const instrument = useQuery(instrumentQuery(draft.instrument));
  const narrow = useNarrow();
  const typing = useTyping();
  const { faults, shown, notify, goOn, confirm, again, turn, wrongWay } = useStep(props);
  // What is only good to know stands below the step; what the step turns on stands above it.
  const optional = guide.step.prompt === "place" || guide.step.prompt === "eye";
  const query = (
    <Ask
      key={`${guide.step.name}${shown ? "" : "-again"}`}
      guide={guide}
      live={live?.saw?.level ?? null}
      last={shown}
      document={draft.document}
      faults={faults}
      notify={notify}
    />
  );
  const touched = TOUCHED.includes(guide.step.prompt);
  const site = <SiteDrawing site={guide.site} onTurn={turn} />;
  const advice = shown || guide.step.prompt === "eye" || guide.step.prompt.startsWith("rounds") ? guide.advice : null;
  return (
    <div className="hand-columns grid grid-cols-[minmax(0,1fr)] items-start gap-4 tab:grid-cols-[minmax(0,1fr)_minmax(0,1fr)] desk:grid-cols-[196px_minmax(0,1fr)_minmax(0,1.05fr)]">
      <PlumbLine steps={guide.steps} onTake={goOn} />
      {!(narrow && !touched) && (
        <section className="card overflow-hidden max-tab:order-last" aria-label="The site">
          {site}
        </section>
      )}
      <section
        className="grid content-start gap-4"
        aria-label="What to do now"
        data-at-hand={guide.step.name}
        data-advice={advice?.result ? JSON.stringify(advice.result) : undefined}
        data-enough={guide.within_tolerance}
        data-fresh={answered}
      >
        {optional ? null : guide.step.name === "ring-round" ? <Ring observed={observed} set={set} /> : query}
        <Headline guide={guide} advice={advice} seen={Boolean(shown)} />
        {narrow && !touched && <div className="card overflow-hidden">{site}</div>}
        <Reasons guide={guide} advice={advice} />
        <div
          className={`grid gap-3 ${typing || !guide.next ? "" : "max-tab:sticky max-tab:bottom-[56px] max-tab:z-20 max-tab:-mx-4 max-tab:bg-stone max-tab:px-4 max-tab:py-2"}`}
          data-now
        >
          <Buttons
            guide={guide}
            live={live !== null}
            advice={Boolean(advice)}
            seen={Boolean(shown)}
            onConfirm={confirm}
            onAgain={again}
            onNext={() => goOn(guide.next)}
            onWrongWay={wrongWay}
            ready={<SaveSetUp draft={draft} guided={guided} refused={refused} write={write} />}
          />
        </div>
        <AskTyped
          key={`typed-${guide.step.name}${shown ? "" : "-again"}`}
          guide={guide}
          last={shown}
          faults={faults}
          notify={notify}
        />
        {guide.check_off.length > 0 && (
          <CheckOffList
            items={guide.check_off}
            photograph={instrument.data?.photograph}
            ticked={draft.document.checked_off ?? []}
            onTick={(checked_off) => write((each) => ({ ...each, document: { ...each.document, checked_off } }))}
          />
        )}
        {AT_THE_HEAD.includes(guide.step.name) && <HeadTilt />}
        {shown && guide.trial && <TryFirst guide={guide} trial={guide.trial} />}
        {optional && <div className="border-t border-line pt-4">{query}</div>}
        <More step={guide.step} tips={hintAt(guide.step.name, instrument.data)} />
      </section>
    </div>
  );
}
