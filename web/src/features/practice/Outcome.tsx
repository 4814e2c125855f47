// How a lesson went: good enough or not, the one thing to do otherwise, where the time went, the way taken and the shortest.
import { written } from "../../api/writing";
import type { Gesture, Judged, Lesson } from "../../engine/practice";
import { Head } from "../../ui/parts";
import { AgainActions } from "./AgainActions";
import { Replay } from "./Replay";
import { Otherwise } from "./Otherwise";
import { clockOf } from "./clock";

type Props = {
  judged: Judged;
  gestures: Gesture[];
  lesson: Pick<Lesson, "title" | "good_enough">;
  seed: number;
  onAgain?: (seed: number) => void;
  who?: string;
  before?: Judged | null;
};

export function Outcome({ judged, gestures, lesson, seed, onAgain, who, before = null }: Props) {
  return (
    <div className="grid gap-4" data-passed={judged.passed}>
      <Head
        title={judged.headline}
        sub={`${lesson.title}, situation ${seed}${who ? `, ${who}` : ""}. Good enough: ${lesson.good_enough}.`}
        actions={onAgain && <AgainActions seed={seed} another="Another tripod" onAgain={onAgain} />}
      />
      <div className="grid items-start gap-4 desk:grid-cols-[minmax(0,1fr)_400px]">
        <section className="card p-4 tab:p-5" aria-label="The way taken">
          <Replay gestures={gestures} start={judged.start} shortest={judged.shortest} />
        </section>
        <div className="grid gap-4">
          <Otherwise text={judged.otherwise} habits={judged.habits} none="No habit that needs attention showed." />
          <Stages judged={judged} before={before} />
          <section className="card p-4 tab:p-5" aria-label="The shortest way">
            <h2>The shortest way: {judged.shortest.length === 1 ? "one move" : `${judged.shortest.length} moves`}</h2>
            <ol className="m-0 grid list-decimal gap-1 pl-7">
              {judged.shortest.map((step) => (
                <li key={step.text}>{written(step.text)}</li>
              ))}
            </ol>
          </section>
        </div>
      </div>
    </div>
  );
}

const total = (judged: Judged): string =>
  `${clockOf(judged.seconds)} in all${judged.measure === Math.round(judged.seconds) ? "" : `; ${judged.measure_text}`}`;

/** Beside the run before it at the same tripod, where there is one: two methods side by side. */
function Stages({ judged, before }: { judged: Judged; before: Judged | null }) {
  const runs = before ? [before, judged] : [judged];
  const most = Math.max(1, ...runs.flatMap((run) => run.stages.map((stage) => stage.seconds)));
  const labels = [...new Set(runs.flatMap((run) => run.stages.map((stage) => stage.label)))];
  return (
    <section className="card p-4 tab:p-5" aria-label="Where the time went" data-runs={runs.length}>
      <h2>{total(judged)}</h2>
      {before && <p className="sub">The run before, upper bar: {total(before)}.</p>}
      <ul className="m-0 grid list-none gap-2 p-0 pt-1">
        {labels.map((label) => (
          <li key={label} className="grid grid-cols-[120px_minmax(0,1fr)] items-center gap-2">
            <span>{label}</span>
            <span className="grid gap-1">
              {runs.map((run, i) => (
                <Bar
                  key={i}
                  seconds={run.stages.find((stage) => stage.label === label)?.seconds ?? 0}
                  most={most}
                  earlier={i < runs.length - 1}
                />
              ))}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}

function Bar({ seconds, most, earlier }: { seconds: number; most: number; earlier: boolean }) {
  return (
    <span className="grid grid-cols-[minmax(0,1fr)_52px] items-center gap-2">
      <span aria-hidden="true" className="h-[12px] border-b-[1.5px] border-ink">
        <i
          className={`block h-full ${earlier ? "border-[1.5px] border-ink" : "bg-ink"}`}
          style={{ width: `${(seconds / most) * 100}%` }}
        />
      </span>
      <b className="text-right font-mono">{clockOf(seconds)}</b>
    </span>
  );
}
