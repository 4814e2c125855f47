// A simulated instrument with a secret: look through it, read it into the sheet, say what is wrong by leaving it as it should be.
import { useCallback, useState } from "react";
import { useParams } from "react-router";
import { useQuery } from "@tanstack/react-query";
import type { Kind, Preview } from "../../api/client";
import { type CheckDocument, type Draft, begin, toSend } from "../../documents/draft";
import { type Aim, type InstrumentJudged, type InstrumentLesson, judgeInstrument } from "../../engine/practice";
import { useKind } from "../../hooks/useKinds";
import { FindingView } from "../../ui/FindingView";
import { Cautions, Choice, Head, Trouble, Waiting } from "../../ui/parts";
import { LooseSheet } from "../checks";
import { InstrumentOutcome } from "./InstrumentOutcome";
import { Reticle } from "./Reticle";
import { clockOf } from "./StandPage";
import { Telescope } from "./Telescope";
import { instrumentsQuery } from "./useLessons";
import { useSaveRun } from "./useSaveRun";
import { useSeed } from "./useSeed";
import { useLook } from "./useLook";

const MOST_BLURS = 400;

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
  return <Course key={`${name} ${seed} ${tries}`} lesson={lesson} kind={kind} seed={seed} empty={empty} onAgain={again} />;
}

type CourseProps = { lesson: InstrumentLesson; kind: Kind; seed: number; empty: Draft; onAgain: (seed: number) => void };

/** What was typed and turned so far; as left once the screw was turned and the sheet begun again. */
function useWork({ lesson, seed, empty }: CourseProps) {
  const [aim, setAim] = useState<Aim>({ place: "middle", staff: "a", focus: 0.6, turned: 0 });
  const [found, setFound] = useState(empty);
  const [left, setLeft] = useState<Draft | null>(null);
  const [preview, setPreview] = useState<Preview | null>(null);
  const [blurs, setBlurs] = useState<number[]>([]);
  const [judged, setJudged] = useState<InstrumentJudged | null>(null);
  const [error, setError] = useState<unknown>(null);
  const save = useSaveRun();
  const view = useLook({ lesson: lesson.name, seed }, aim, judged === null);
  const change = (how: (draft: Draft) => Draft) => {
    if (left) setLeft(how(left));
    else setFound(how(found));
    if (view.look) setBlurs([...blurs, view.look.blur].slice(-MOST_BLURS));
  };
  const finish = async () => {
    try {
      const work = { lesson: lesson.name, seed, found: toSend(found.document), turned: aim.turned, left: left && toSend(left.document), blurs, seconds: view.seconds };
      setJudged(await judgeInstrument(work));
      await save({ lesson: lesson.name, title: lesson.title, seed, seconds: work.seconds, advised: false, instrument: work });
    } catch (wrong) {
      setError(wrong);
    }
  };
  const again = () => {
    setLeft({ ...empty, stage: "as-left" });
    setPreview(null);
  };
  const take = useCallback((next: Preview | null) => setPreview(next), []);
  return { aim, setAim, found, left, preview, take, change, judged, finish, again, error: error ?? view.error, look: view.look, seconds: view.seconds };
}

function Course(props: CourseProps) {
  const { lesson, kind, seed, onAgain } = props;
  const { aim, setAim, found, left, preview, take, change, judged, finish, again, error, look, seconds } = useWork(props);
  const draft = left ?? found;
  const result = preview?.complete ? preview.reduced : null;
  if (judged) return <InstrumentOutcome judged={judged} lesson={lesson} seed={seed} onAgain={onAgain} />;
  return (
    <div className="grid gap-3" data-seconds={seconds.toFixed(1)}>
      <Head
        low
        title={`${lesson.title}${left ? ", as left" : ""}`}
        sub={`Good enough: ${lesson.good_enough}. Situation ${seed}.`}
        actions={
          <>
            <span className="self-center font-mono text-[20px]" role="timer" aria-label="Time">
              {clockOf(seconds)}
            </span>
            <button className="btn now" disabled={!result} onClick={() => void finish()}>
              Finish
            </button>
          </>
        }
      />
      <Trouble error={error} />
      <div className="grid items-start gap-4 desk:grid-cols-[minmax(0,1fr)_440px]">
        <div className="grid min-w-0 gap-4 max-desk:order-last">
          <LooseSheet key={draft.id + draft.stage} kind={kind} draft={draft} onChange={change} onDone={() => void finish()} onPreview={take} />
          {result && (
            <section className="card grid gap-3 p-4" aria-label="Finding">
              <FindingView result={result} />
            </section>
          )}
          <p>{lesson.aim}</p>
          <Cautions cautions={lesson.cautions} />
        </div>
        <section className="card grid gap-3 p-4 max-desk:order-first desk:sticky desk:top-4 desk:max-h-[calc(100dvh-32px)] desk:overflow-y-auto" aria-label="Through the telescope">
          <Eye look={look} aim={aim} onAim={setAim} small={Boolean(result) && !left} />
          {result && !left && <Reticle kind={kind} document={toSend(found.document)} turned={aim.turned} onTurn={(turned) => setAim({ ...aim, turned })} onAgain={again} />}
        </section>
      </div>
    </div>
  );
}

function Eye({ look, aim, onAim, small }: { look: ReturnType<typeof useLook>["look"]; aim: Aim; onAim: (aim: Aim) => void; small: boolean }) {
  const [closer, setCloser] = useState(false);
  return (
    <>
      {look ? <Telescope look={look} closer={closer} small={small} /> : <Waiting what="Pointing…" />}
      <label className="grid grid-cols-[64px_minmax(0,1fr)] items-center gap-3">
        <span className="font-[560]">Focus</span>
        <input type="range" min="0" max="100" step="0.5" value={aim.focus * 100} className="h-[40px] w-full accent-[var(--color-ink)]" aria-label="Focus" onChange={(event) => onAim({ ...aim, focus: Number(event.target.value) / 100 })} />
      </label>
      <div className="flex flex-wrap gap-x-4 gap-y-2">
        <Choice label="Staff" value={aim.staff} options={[{ value: "a", label: "Staff A" }, { value: "b", label: "Staff B" }]} onChange={(staff) => onAim({ ...aim, staff })} />
        <Choice label="The level stands" value={aim.place} options={[{ value: "middle", label: "In the middle" }, { value: "near-b", label: "Near B" }]} onChange={(place) => onAim({ ...aim, place })} />
        <button className="btn" aria-pressed={closer} onClick={() => setCloser(!closer)}>
          {closer ? "Whole field" : "Look closer"}
        </button>
      </div>
    </>
  );
}
