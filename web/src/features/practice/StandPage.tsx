// A lesson at a simulated stand: what a hand can do, what then is seen, and afterwards how it went.
import { useState } from "react";
import { useParams } from "react-router";
import { useQuery } from "@tanstack/react-query";
import { type Judged, type Lesson, type Seen, practiceAdvice, practiceJudge } from "../../engine/practice";
import { Cautions, Head, Trouble, Waiting } from "../../ui/parts";
import { Outcome } from "./Outcome";
import { Timer } from "./Timer";
import { TribrachTop } from "./TribrachTop";
import { TripodPlan } from "./TripodPlan";
import { LegRows, TripodSide } from "./TripodSide";
import { Focus, Vials } from "./Vials";
import { lessonsQuery } from "./useLessons";
import { useSaveRun } from "./useSaveRun";
import { useSeed } from "./useSeed";
import { type Stand, useStand } from "./useStand";
import { useTrouble } from "../../ui/refusal";

/** The last run at each tripod since the page was opened: the next one is shown beside it. */
const lastRuns = new Map<string, Judged>();

export function StandPage() {
  const { lesson: name = "" } = useParams();
  const { seed, tries, again } = useSeed();
  const lessons = useQuery(lessonsQuery);
  const lesson = lessons.data?.find((each) => each.name === name);
  if (lessons.error) return <Trouble error={lessons.error} />;
  if (!lessons.data) return <Waiting what="Preparing the tripod…" />;
  if (!lesson) return <Head title="No such lesson" sub="Choose one in Practice." />;
  return <Course key={`${name} ${seed} ${tries}`} lesson={lesson} seed={seed} onAgain={again} />;
}

function Course({ lesson, seed, onAgain }: { lesson: Lesson; seed: number; onAgain: (seed: number) => void }) {
  const [judged, setJudged] = useState<Judged | null>(null);
  const [before] = useState(() => lastRuns.get(`${lesson.name} ${seed}`) ?? null);
  const [error, setError] = useTrouble();
  const [advised, setAdvised] = useState(false);
  const stand = useStand({ lesson: lesson.name, seed }, judged === null);
  const save = useSaveRun();
  const finish = async () => {
    const seconds = stand.seen?.seconds ?? 0;
    try {
      const found = await practiceJudge({ lesson: lesson.name, seed }, stand.gestures, seconds);
      setJudged(found);
      lastRuns.set(`${lesson.name} ${seed}`, found);
      await save({ lesson: lesson.name, title: lesson.title, seed, seconds, advised, gestures: stand.gestures });
    } catch (wrong) {
      setError(wrong);
    }
  };
  if (judged)
    return (
      <Outcome
        judged={judged}
        gestures={stand.gestures}
        lesson={lesson}
        seed={seed}
        before={before}
        onAgain={onAgain}
      />
    );
  return (
    <div
      className="grid gap-3"
      data-frame-ms={stand.frameMs.toFixed(1)}
      data-seconds={(stand.seen?.seconds ?? 0).toFixed(1)}
      data-gestures={stand.gestures.length}
    >
      <Head
        low
        title={lesson.title}
        sub={`Good enough: ${lesson.good_enough}. Situation ${seed}.`}
        actions={
          <>
            <Timer seconds={stand.seen?.seconds ?? 0} />
            <button className="btn now" disabled={!stand.gestures.length} onClick={() => void finish()}>
              Finish
            </button>
          </>
        }
      />
      <Trouble error={error ?? stand.error} />
      <Advice of={{ lesson: lesson.name, seed }} stand={stand} onAsked={() => setAdvised(true)} />
      {stand.seen ? (
        <Views lesson={lesson} stand={stand} seen={stand.seen} />
      ) : (
        !stand.error && <Waiting what="Setting the tripod up…" />
      )}
      <p>{lesson.aim}</p>
      {!!stand.seen?.stated.length && (
        <ul className="m-0 list-none p-0" aria-label="This instrument">
          {stand.seen.stated.map((text) => (
            <li key={text}>{text}</li>
          ))}
        </ul>
      )}
      <Cautions cautions={lesson.cautions} />
    </div>
  );
}

/** Only what the lesson is about. */
function Views({ lesson, stand, seen }: { lesson: Lesson; stand: Stand; seen: Seen }) {
  const can = lesson.controls;
  const tripod = can.includes("legs") || can.includes("feet") || can.includes("carry");
  const tribrach = can.includes("screws") || can.includes("slide");
  const end = (what: { do: string; part: string; amount?: number }) => stand.end({ amount: 0, ...what });
  const columns =
    tripod && tribrach
      ? "desk:grid-cols-[minmax(0,2fr)_minmax(0,1fr)_230px]"
      : tripod
        ? "desk:grid-cols-[minmax(0,1fr)_300px]"
        : "desk:grid-cols-[minmax(0,520px)_minmax(0,1fr)]";
  return (
    <div className={`grid items-start gap-3 ${columns}`}>
      <div className="contents desk:order-last desk:grid desk:gap-3">
        <section
          className="card p-3 max-desk:sticky max-desk:top-0 max-desk:z-10 max-tab:p-2"
          aria-label="What is seen"
        >
          <Vials seen={seen} shows={lesson.shows} onMove={stand.move} />
        </section>
        {seen.optical && (
          <section className="card p-3" aria-label="Focus of the plummet">
            <Focus onMove={stand.move} />
          </section>
        )}
      </div>
      {tripod && (
        <section className="card grid gap-2 p-2" aria-label="Tripod">
          <div className="grid gap-2 tab:grid-cols-2">
            <TripodPlan seen={seen} can={can} onMove={stand.move} onEnd={end} />
            <TripodSide seen={seen} can={can} onMove={stand.move} onEnd={end} />
          </div>
          {can.includes("legs") && <LegRows seen={seen} can={can} onMove={stand.move} onEnd={end} />}
        </section>
      )}
      {tribrach && (
        <section className="card p-2 tab:max-desk:mx-auto tab:max-desk:w-[440px]" aria-label="Tribrach">
          <TribrachTop seen={seen} can={can} onMove={stand.move} onEnd={end} />
        </section>
      )}
    </div>
  );
}

function Advice({ of, stand, onAsked }: { of: { lesson: string; seed: number }; stand: Stand; onAsked: () => void }) {
  const [advice, setAdvice] = useState<{ headline: string; lines: string[] } | null>(null);
  const [error, setError] = useTrouble();
  const askFor = () => {
    const state = stand.state();
    if (!state) return;
    onAsked();
    practiceAdvice(of, state).then(setAdvice, setError);
  };
  return (
    <div className="grid min-h-[48px] grid-cols-[auto_minmax(0,1fr)] items-center gap-x-4">
      <button className="btn" onClick={askFor}>
        What now?
      </button>
      <p role="status" data-advice data-refused={stand.refused}>
        {stand.refused ? (
          <b className="font-semibold text-coral">{stand.refused}</b>
        ) : (
          advice && (
            <>
              <b className="font-semibold">{advice.headline}</b> <span className="sub">{advice.lines.join(" ")}</span>
            </>
          )
        )}
      </p>
      <Trouble error={error} />
    </div>
  );
}
