// How a morning's choice went: the one thing to do otherwise, and what each instrument would have been.
import { written } from "../../api/writing";
import type { MorningJudged, MorningLesson } from "../../engine/practice";
import { Head } from "../../ui/parts";
import { AgainActions } from "./AgainActions";
import { Otherwise } from "./Otherwise";
import { clockOf } from "./clock";

type Props = {
  judged: MorningJudged;
  lesson: Pick<MorningLesson, "title" | "good_enough">;
  seed: number;
  job?: string;
  onAgain?: (seed: number) => void;
  who?: string;
};

export function MorningOutcome({ judged, lesson, seed, job, onAgain, who }: Props) {
  return (
    <div className="grid gap-4" data-passed={judged.passed}>
      <Head
        title={judged.headline}
        sub={`${lesson.title}, situation ${seed}${who ? `, ${who}` : ""}. ${clockOf(judged.seconds)} in all. Good enough: ${lesson.good_enough}.`}
        actions={onAgain && <AgainActions seed={seed} another="Another morning" onAgain={onAgain} />}
      />
      {job && <p>The job: {written(job)}</p>}
      <Otherwise text={judged.otherwise} habits={judged.habits} />
      <section className="card p-4 tab:p-5" aria-label="What each would have been">
        <h2>What each would have been</h2>
        <ul className="m-0 list-none divide-y divide-line p-0">
          {judged.instruments.map((each) => (
            <li
              key={each.tag}
              className="grid grid-cols-[84px_minmax(0,1fr)_auto] items-baseline gap-x-3 py-2"
              data-fit={each.fit}
            >
              <span className="tag font-bold">{each.tag}</span>
              <span>{written(each.text)}</span>
              <span className="sub">{each.taken ? "taken" : ""}</span>
            </li>
          ))}
        </ul>
      </section>
    </div>
  );
}
