// How a lesson went: good enough or not, the one thing to do otherwise, where the time went, the way taken and the shortest.
import { written } from "../../api/writing";
import type { Gesture, Judged, Lesson } from "../../engine/practice";
import { Head } from "../../ui/parts";
import { AgainActions } from "./AgainActions";
import { Replay } from "./Replay";
import { clockOf } from "./clock";

type Props = { judged: Judged; gestures: Gesture[]; lesson: Pick<Lesson, "title" | "good_enough">; seed: number; onAgain?: (seed: number) => void; who?: string };

export function Outcome({ judged, gestures, lesson, seed, onAgain, who }: Props) {
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
          <section className="card grid gap-2 p-4 tab:p-5" aria-label="What to do otherwise">
            <h2>{judged.otherwise}</h2>
            <ul className="m-0 grid gap-1 pl-5" data-habits={judged.habits.map((habit) => habit.code).join(" ")}>
              {judged.habits.map((habit) => (
                <li key={habit.code}>{habit.text}</li>
              ))}
            </ul>
            {judged.habits.length === 0 && <p className="sub">No habit that needs attention showed.</p>}
          </section>
          <Stages judged={judged} />
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

function Stages({ judged }: { judged: Judged }) {
  const most = Math.max(1, ...judged.stages.map((stage) => stage.seconds));
  return (
    <section className="card p-4 tab:p-5" aria-label="Where the time went">
      <h2>
        {clockOf(judged.seconds)} in all{judged.measure === Math.round(judged.seconds) ? "" : `; ${judged.measure_text}`}
      </h2>
      <ul className="m-0 grid list-none gap-2 p-0 pt-1">
        {judged.stages.map((stage) => (
          <li key={stage.label} className="grid grid-cols-[120px_minmax(0,1fr)_52px] items-center gap-2">
            <span>{stage.label}</span>
            <span aria-hidden="true" className="h-[12px] border-b-[1.5px] border-ink">
              <i className="block h-full bg-ink" style={{ width: `${(stage.seconds / most) * 100}%` }} />
            </span>
            <b className="text-right font-mono">{clockOf(stage.seconds)}</b>
          </li>
        ))}
      </ul>
    </section>
  );
}
