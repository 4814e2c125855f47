// The plan: what is due now and in the weeks to come, why, how many minutes; each check with the way to it.
import { useInfiniteQuery, useQuery } from "@tanstack/react-query";
import { useDeferredValue, useState } from "react";
import { useAddress } from "../../hooks/useAddress";
import { dueQuery, jobsQuery } from "../../api/queries";
import { useHere, usePerson } from "../../app/session";
import { type Due, isNow, weeksOf } from "../../documents/plan";
import { MorePages } from "../../ui/MorePages";
import { Head, Trouble, Waiting } from "../../ui/parts";
import { PlanTabs } from "../../ui/Tabs";
import { day } from "../../ui/words";
import { DueTable } from "./DueTable";
import { Levelled } from "./Levelled";
import { SkipCheck } from "./SkipCheck";
import { WeekMail } from "./WeekMail";
import { Weeks } from "./Weeks";

export const SPANS = [
  { days: 35, label: "Five weeks" },
  { days: 91, label: "Three months" },
  { days: 365, label: "A year" },
];

export function DuePage() {
  const { crew } = usePerson();
  const { session } = useHere();
  const [params, setParams] = useAddress();
  const of = params.get("crew") ?? crew ?? "";
  const days = SPANS.find((span) => String(span.days) === params.get("days"))?.days ?? 35;
  const query = useInfiniteQuery(dueQuery(days, of === "all" ? "" : of));
  const pages = useDeferredValue(query.data?.pages);
  const answer = pages?.[0];
  const due = pages?.flatMap((page) => page.due) ?? [];
  const jobs = useQuery(jobsQuery).data ?? [];
  const [skipping, setSkipping] = useState<Due | null>(null);
  const [mailing, setMailing] = useState(false);
  const levelling = params.get("load") === "levelled";
  const set = (name: string, value: string) =>
    setParams((now) => {
      now.set(name, value);
      return now;
    });
  const now = due.filter(isNow);
  const shownJobs = jobs.filter((job) => of === "all" || !of || job.crew === null || job.crew === of);
  const weeks = answer ? weeksOf(answer.weeks, due, shownJobs, answer.today, answer.until) : [];
  return (
    <div className="grid gap-4">
      <PlanTabs />
      {!answer && !query.isError && <Waiting what="Loading the plan…" />}
      <Trouble error={query.error} />
      {answer && (
        <>
          <Head
            title={answer.summary}
            sub={`${of && of !== "all" ? `${of} crew` : "All instruments"}, until ${day(answer.until, session.time_zone)}.`}
            actions={
              <Actions
                of={of}
                crews={[...new Set([...answer.crews, ...(crew ? [crew] : [])])]}
                days={days}
                levelling={levelling}
                onSet={set}
                onMail={() => setMailing(true)}
              />
            }
          />
          {levelling ? (
            <Levelled days={days} crew={of === "all" ? "" : of} />
          ) : (
            <div className="grid items-start gap-4 desk:grid-cols-[minmax(0,1fr)_300px]">
              <div className="grid min-w-0 gap-4">
                <DueTable
                  label="Now"
                  minutes={answer.now.minutes}
                  due={now}
                  empty="Nothing is due now."
                  onSkip={setSkipping}
                />
                {weeks.map(
                  (week) =>
                    week.due.length > 0 && (
                      <DueTable
                        key={week.monday}
                        label={`Week of ${day(week.monday, "UTC")}`}
                        minutes={week.minutes}
                        due={week.due}
                        onSkip={setSkipping}
                      />
                    ),
                )}
                <MorePages query={query} label="Show later" />
              </div>
              <Weeks now={answer.now.minutes} weeks={weeks} />
            </div>
          )}
        </>
      )}
      <WeekMail open={mailing} onClose={() => setMailing(false)} />
      <SkipCheck
        due={skipping}
        today={answer?.today ?? ""}
        latest={answer?.skip_until ?? ""}
        onClose={() => setSkipping(null)}
      />
    </div>
  );
}

type Acting = {
  of: string;
  crews: string[];
  days: number;
  levelling: boolean;
  onSet: (name: string, value: string) => void;
  onMail: () => void;
};

/** Whose, how far ahead, as due or levelled, and the same by e-mail. */
function Actions({ of, crews, days, levelling, onSet, onMail }: Acting) {
  return (
    <>
      <select
        className="field !w-auto"
        aria-label="Whose instruments"
        value={of || "all"}
        onChange={(event) => onSet("crew", event.target.value)}
      >
        <option value="all">All instruments</option>
        {crews.map((name) => (
          <option key={name} value={name}>
            {name} crew
          </option>
        ))}
      </select>
      <select
        className="field !w-auto"
        aria-label="How far ahead"
        value={days}
        onChange={(event) => onSet("days", event.target.value)}
      >
        {SPANS.map((span) => (
          <option key={span.days} value={span.days}>
            {span.label}
          </option>
        ))}
      </select>
      <button className="btn" aria-pressed={levelling} onClick={() => onSet("load", levelling ? "due" : "levelled")}>
        {levelling ? "As due" : "Level the load"}
      </button>
      <button className="btn" onClick={onMail}>
        By e-mail
      </button>
    </>
  );
}
