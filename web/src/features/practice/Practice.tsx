// Practice: the lessons in order, how far one is, and what to practise next; for whoever signs people off, everybody.
import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { written } from "../../api/writing";
import { practiceProgressQuery } from "../../api/queries";
import { useHere } from "../../app/session";
import type { Schemas } from "../../api/client";
import { Head, Trouble, Waiting } from "../../ui/parts";
import { PracticeTabs } from "./PracticeTabs";
import { Seconds } from "./Seconds";
import { clockOf } from "./clock";
import { type Listed, useLessons } from "./useLessons";

type Progress = Schemas["PracticeProgress"];

export function Practice() {
  const { session } = useHere();
  const { lessons, error } = useLessons();
  const progress = useQuery(practiceProgressQuery(""));
  const mine = progress.data;
  const next = lessons?.all.find((lesson) => lesson.name === (mine?.next ?? lessons.all[0]?.name));
  return (
    <div className="grid gap-4">
      <PracticeTabs />
      {!lessons && !error && <Waiting what="Preparing the lessons…" />}
      <Trouble error={error} />
      {lessons && (
        <>
          <Head
            title={next ? `Next: ${next.title}` : "Every lesson is mastered"}
            sub="A simulated tripod and simulated instruments: nothing you do here touches a real instrument or its records."
            actions={
              next && (
                <Link className="btn now" to={next.to}>
                  Begin
                </Link>
              )
            }
          />
          <LessonList lessons={lessons.all} progress={mine} />
          <p className="sub">
            Two people who enter the same number meet the same tripod:{" "}
            <Link className="link" to={`/practice/whole-set-up?n=${numberOfDay(session.now)}`}>
              the tripod of the day
            </Link>{" "}
            is the same for everybody.
          </p>
        </>
      )}
    </div>
  );
}

/** The same number for everybody on one day. */
export const numberOfDay = (now: string): number => Number(now.slice(0, 10).replaceAll("-", "")) % 9_973;

export function LessonList({ lessons, progress }: { lessons: Listed[]; progress: Progress | undefined }) {
  return (
    <ol className="card m-0 list-none divide-y divide-line p-0" aria-label="Lessons">
      {lessons.map((lesson, i) => {
        const done = progress?.lessons.find((each) => each.lesson === lesson.name);
        return (
          <li
            key={lesson.name}
            data-lesson={lesson.name}
            data-mastered={done?.mastered ?? false}
            className="grid items-center gap-x-4 gap-y-1 px-4 py-3 tab:grid-cols-[28px_minmax(0,1fr)_150px_110px] tab:px-5"
          >
            <b className="font-mono text-[18px] max-tab:hidden">{i + 1}</b>
            <div className="min-w-0">
              <Link className="text-[18px] font-bold underline-offset-4" to={lesson.to}>
                {lesson.title}
              </Link>
              <p className="sub">{written(lesson.aim)}</p>
              {lesson.methods && lesson.methods.length > 0 && (
                <p className="sub">By the method: {lesson.methods.join("; ")}.</p>
              )}
            </div>
            <Seconds runs={done?.recent ?? []} />
            <p className="sub tab:text-right">
              {done?.runs
                ? `${done.mastered ? "mastered" : `${done.passed} of ${done.runs} good`}${done.best_seconds !== null ? `, best ${clockOf(done.best_seconds)}` : ""}`
                : `${lesson.minutes} minutes`}
            </p>
          </li>
        );
      })}
    </ol>
  );
}
