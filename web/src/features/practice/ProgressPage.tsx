// How somebody comes along: lesson by lesson, the habits seen lately, the last runs with their replay, what may be done alone.
import { useQuery } from "@tanstack/react-query";
import { Link, useSearchParams } from "react-router";
import type { Schemas } from "../../api/client";
import { practiceProgressQuery } from "../../api/queries";
import { useHere } from "../../app/session";
import { Back, Head, Trouble, Waiting } from "../../ui/parts";
import { moment } from "../../ui/words";
import { LessonList } from "./Practice";
import { PracticeTabs } from "./PracticeTabs";
import { SignOffs } from "./SignOffs";
import { clockOf } from "./clock";
import { useLessons } from "./useLessons";

export function ProgressPage() {
  const [params] = useSearchParams();
  const whose = params.get("person") ?? "";
  const progress = useQuery(practiceProgressQuery(whose));
  const { lessons } = useLessons();
  const found = progress.data;
  const good = found?.lessons.filter((lesson) => lesson.mastered).length ?? 0;
  return (
    <div className="grid gap-4">
      <PracticeTabs />
      {progress.isPending && <Waiting what="Loading the progress…" />}
      <Trouble error={progress.error} />
      {found && (
        <>
          <Head
            title={`${found.name}: ${good} of ${found.lessons.length} lessons mastered`}
            sub={
              found.runs
                ? `${found.runs} runs; mastered means that the last three were good enough without advice.`
                : "Nothing practised yet."
            }
            actions={whose && <Back to="/practice/people">To people</Back>}
          />
          <div className="grid items-start gap-4 desk:grid-cols-[minmax(0,1fr)_380px]">
            {lessons && <LessonList lessons={lessons.all} progress={found} />}
            <div className="grid gap-4">
              <SignOffs progress={found} />
              <Habits progress={found} />
              <Recent
                progress={found}
                titles={Object.fromEntries((lessons?.all ?? []).map((lesson) => [lesson.name, lesson.title]))}
              />
            </div>
          </div>
        </>
      )}
    </div>
  );
}

function Habits({ progress }: { progress: Schemas["PracticeProgress"] }) {
  return (
    <section className="card p-4 tab:p-5" aria-label="Habits">
      <h2>Habits in the last ten runs</h2>
      {!progress.habits.length && <p className="sub">None that needs attention.</p>}
      <ul className="m-0 list-none p-0">
        {progress.habits.map((habit) => (
          <li key={habit.code} className="flex justify-between gap-4 border-t border-line py-1">
            <span>{habit.label}</span>
            <b className="font-mono">{habit.times}</b>
          </li>
        ))}
      </ul>
    </section>
  );
}

function Recent({ progress, titles }: { progress: Schemas["PracticeProgress"]; titles: Record<string, string> }) {
  const { session } = useHere();
  const runs = progress.lessons
    .flatMap((lesson) => lesson.recent.map((run) => ({ ...run, lesson: lesson.lesson })))
    .sort((a, b) => (a.at < b.at ? 1 : -1));
  if (!runs.length) return null;
  return (
    <section className="card p-4 tab:p-5" aria-label="Last runs">
      <h2>Last runs</h2>
      <ul className="m-0 list-none p-0">
        {runs.slice(0, 8).map((run) => (
          <li
            key={run.id}
            className="grid grid-cols-[minmax(0,1fr)_auto] gap-x-3 border-t border-line py-1"
            data-run={run.id}
          >
            <Link className="underline-offset-4" to={`/practice/runs/${run.id}`}>
              {titles[run.lesson] ?? run.lesson}
            </Link>
            <span className="font-mono">{clockOf(run.seconds)}</span>
            <span className="sub col-span-2">
              {moment(run.at, session.time_zone)}: {run.passed ? "good enough" : "not yet"}
              {run.advised ? ", with advice" : ""}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
