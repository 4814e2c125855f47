// A simulated instrument with a secret: look through it, read it into the sheet, say what is wrong by leaving it as it should be.
import { useCallback, useState } from "react";
import { useParams } from "react-router";
import { useQuery } from "@tanstack/react-query";
import type { Kind, Preview } from "../../../api/client";
import { type CheckDocument, type Draft, begin, toSend } from "../../../documents/draft";
import {
  type Aim,
  type InstrumentJudged,
  type InstrumentLesson,
  type InstrumentStep,
  type Turns,
  judgeInstrument,
} from "../../../engine/practice";
import { useKind } from "../../../hooks/useKinds";
import { FindingView } from "../../../ui/FindingView";
import { Cautions, Head, Trouble, Waiting } from "../../../ui/parts";
import { LooseSheet } from "../../checks";
import { AdjustingScrews } from "./AdjustingScrews";
import { InstrumentOutcome } from "./InstrumentOutcome";
import { Screws } from "./Screws";
import { View } from "./View";
import { Timer } from "../Timer";
import { instrumentsQuery } from "../useLessons";
import { useSaveRun } from "../useSaveRun";
import { useSeed } from "../useSeed";
import { changeOf, typedIn, withStep } from "./steps";
import { useLook } from "./useLook";
import { VIEW_TITLES, firstAim } from "./views";
import { useTrouble } from "../../../ui/refusal";

const MAX_BLURS = 400;

export function InstrumentPage() {
  const { lesson: name = "" } = useParams();
  const { seed, tries, again } = useSeed();
  const lessons = useQuery(instrumentsQuery);
  const lesson = lessons.data?.find((each) => each.name === name);
  const kind = useKind(lesson?.check);
  if (lessons.error) return <Trouble error={lessons.error} />;
  if (!lessons.data || (lesson && !kind)) return <Waiting what="Setting the instrument up…" />;
  if (!lesson || !kind) return <Head title="No such lesson" sub="Choose one in Practice." />;
  const document = lesson.document as CheckDocument;
  const empty = begin({ kind: kind.kind, instrument: "", owner: "", document, begun: document.observations });
  return (
    <Course key={`${name} ${seed} ${tries}`} lesson={lesson} kind={kind} seed={seed} empty={empty} onAgain={again} />
  );
}

type CourseProps = {
  lesson: InstrumentLesson;
  kind: Kind;
  seed: number;
  empty: Draft;
  onAgain: (seed: number) => void;
};

/** What was typed and turned so far; as left once the screw was turned and the sheet begun again. */
function useWork({ lesson, seed, empty }: CourseProps) {
  const [aim, setAim] = useState<Aim>(() => firstAim(lesson));
  const [turns, setTurns] = useState<Turns>({});
  const [tested, setTested] = useState<Turns>({});
  const [found, setFound] = useState(empty);
  const [left, setLeft] = useState<Draft | null>(null);
  const [preview, setPreview] = useState<Preview | null>(null);
  const [steps, setSteps] = useState<InstrumentStep[]>([]);
  const [blurs, setBlurs] = useState<number[]>([]);
  const [judged, setJudged] = useState<InstrumentJudged | null>(null);
  const [error, setError] = useTrouble();
  const save = useSaveRun();
  const view = useLook({ lesson: lesson.name, seed }, aim, turns, judged === null);
  const note = (what: Pick<InstrumentStep, "do" | "label" | "typed">, after: { aim?: Aim; turns?: Turns } = {}) =>
    setSteps((all) => withStep(all, what, { seconds: view.seconds, aim, turns, ...after }));
  const change = (how: (draft: Draft) => Draft) => {
    const next = how(left ?? found);
    const cell = typedIn(left ?? found, next);
    if (cell) note({ do: "read", ...cell });
    if (left) setLeft(next);
    else setFound(next);
    if (view.look && "blur" in view.look) setBlurs([...blurs, view.look.blur].slice(-MAX_BLURS));
  };
  const aimAt: typeof setAim = (to) => {
    const next = typeof to === "function" ? to(aim) : to;
    const done = changeOf(aim, next);
    setAim(to);
    if (done) note({ do: done, label: "", typed: "" }, { aim: next });
  };
  const turn = (next: Turns) => {
    const screw = Object.keys(next).find((name) => next[name] !== turns[name]) ?? "";
    setTurns(next);
    note({ do: "turn", label: screw, typed: "" }, { turns: next });
  };
  const finish = async () => {
    try {
      const work = {
        lesson: lesson.name,
        seed,
        found: toSend(found.document),
        turns,
        left: left && toSend(left.document),
        blurs,
        steps,
        seconds: view.seconds,
      };
      setJudged(await judgeInstrument(work));
      await save({
        lesson: lesson.name,
        title: lesson.title,
        seed,
        seconds: work.seconds,
        advised: false,
        instrument: work,
      });
    } catch (wrong) {
      setError(wrong);
    }
  };
  const again = () => {
    setLeft({ ...empty, id: crypto.randomUUID(), stage: "as-left" });
    setTested(turns);
    note({ do: "again", label: "", typed: "" });
    setPreview(null);
  };
  const take = useCallback((next: Preview | null) => setPreview(next), []);
  return {
    aim,
    aimAt,
    steps,
    turns,
    tested,
    turn,
    found,
    left,
    preview,
    take,
    change,
    judged,
    finish,
    again,
    error: error ?? view.error,
    look: view.look,
    fresh: view.fresh,
    seconds: view.seconds,
  };
}

function Course(props: CourseProps) {
  const { lesson, kind, seed, onAgain } = props;
  const {
    aim,
    aimAt,
    steps,
    turns,
    tested,
    turn,
    found,
    left,
    preview,
    take,
    change,
    judged,
    finish,
    again,
    error,
    look,
    fresh,
    seconds,
  } = useWork(props);
  const footScrews = lesson.screws.filter((screw) => !screw.adjusting);
  const draft = left ?? found;
  const result = preview?.complete ? preview.reduced : null;
  if (judged) return <InstrumentOutcome judged={judged} lesson={lesson} steps={steps} seed={seed} onAgain={onAgain} />;
  return (
    <div className="grid gap-3" data-seconds={seconds.toFixed(1)}>
      <Head
        low
        title={`${lesson.title}${left ? ", as left" : ""}`}
        sub={`Good enough: ${lesson.good_enough}. Situation ${seed}.`}
        actions={
          <>
            <Timer seconds={seconds} />
            <button className="btn now" disabled={!result} onClick={() => void finish()}>
              Finish
            </button>
          </>
        }
      />
      <Trouble error={error} />
      <div className="grid items-start gap-4 desk:grid-cols-[minmax(0,1fr)_440px]">
        <div className="grid min-w-0 gap-4 max-desk:order-last">
          <LooseSheet
            key={draft.id + draft.stage}
            kind={kind}
            draft={draft}
            onChange={change}
            onDone={() => void finish()}
            onPreview={take}
          />
          {result && (
            <section className="card grid gap-3 p-4" aria-label="Finding">
              <FindingView result={result} />
            </section>
          )}
          <p>{lesson.aim}</p>
          <Cautions cautions={lesson.cautions} />
        </div>
        <section
          className="card grid gap-3 p-4 max-desk:order-first desk:sticky desk:top-4 desk:max-h-[calc(100dvh-32px)] desk:overflow-y-auto"
          aria-label={VIEW_TITLES[lesson.view]}
          data-looking
          data-fresh={fresh}
        >
          <View lesson={lesson} look={look} aim={aim} onAim={aimAt} small={Boolean(result)} seconds={seconds} />
          <Screws screws={footScrews} turns={turns} onTurn={turn} />
          {result && (
            <AdjustingScrews
              kind={kind}
              lesson={lesson}
              document={toSend(draft.document)}
              turns={turns}
              tested={tested}
              onTurn={turn}
              onAgain={again}
            />
          )}
        </section>
      </div>
    </div>
  );
}
