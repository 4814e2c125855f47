// A month: on each day what comes due and which jobs run.
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { dueQuery, jobsQuery } from "../../api/queries";
import { useHere } from "../../app/session";
import { type DayCell, isCheck, isNow, minutesOfDue, monthAfter, monthOf } from "../../documents/plan";
import { Head, Trouble, Waiting } from "../../ui/parts";
import { PlanTabs } from "../../ui/Tabs";
import { plannedDay } from "../../ui/words";
import { Subscribe } from "./Subscribe";

const AHEAD_DAYS = 400;
const MOST_SHOWN = 3;
const WEEKDAYS = ["Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun"];

export function Calendar() {
  const query = useQuery(dueQuery(AHEAD_DAYS, ""));
  const jobs = useQuery(jobsQuery).data ?? [];
  const [months, setMonths] = useState(0);
  const [subscribing, setSubscribing] = useState(false);
  const { may } = useHere();
  const answer = query.data;
  const month = answer ? monthAfter(answer.today.slice(0, 7), months) : "";
  const weeks = answer ? monthOf(month, answer.due, jobs, answer.today) : [];
  const inMonth = weeks.flat().filter((cell) => cell.inMonth).flatMap((cell) => cell.due).filter(isCheck);
  return (
    <div className="grid gap-4">
      <PlanTabs />
      {query.isPending && <Waiting what="Loading the calendar…" />}
      <Trouble error={query.error} />
      {answer && (
        <>
          <Head
            title={plannedDay(`${month}-01`, "UTC").split(" ").slice(2).join(" ")}
            sub={`${inMonth.length} ${inMonth.length === 1 ? "check comes" : "checks come"} due: ${minutesOfDue(inMonth)} minutes.`}
            actions={
              <>
                {may("plan-jobs").allowed && (
                  <button className="btn" onClick={() => setSubscribing(true)}>
                    Add to my calendar
                  </button>
                )}
                <button className="btn" onClick={() => setMonths(months - 1)}>
                  Month before
                </button>
                {months !== 0 && (
                  <button className="btn" onClick={() => setMonths(0)}>
                    This month
                  </button>
                )}
                <button className="btn" onClick={() => setMonths(months + 1)}>
                  Month after
                </button>
              </>
            }
          />
          <Month weeks={weeks} today={answer.today} />
          <Subscribe open={subscribing} onClose={() => setSubscribing(false)} />
        </>
      )}
    </div>
  );
}

function Month({ weeks, today }: { weeks: DayCell[][]; today: string }) {
  return (
    <div className="card overflow-x-auto p-2">
      <table className="w-full min-w-[680px] table-fixed border-collapse">
        <thead>
          <tr>
            {WEEKDAYS.map((name) => (
              <th key={name} scope="col" className="sub py-1 text-left font-[600]">
                {name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {weeks.map((week) => (
            <tr key={week[0]?.day}>
              {week.map((cell) => (
                <Day key={cell.day} cell={cell} today={today} />
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

function Day({ cell, today }: { cell: DayCell; today: string }) {
  const here = cell.day === today;
  return (
    <td className={`h-[96px] border border-line p-1 align-top ${cell.inMonth ? "" : "bg-stone"} ${here ? "shadow-[inset_0_0_0_2px_var(--color-ink)]" : ""}`} data-day={cell.day} aria-current={here ? "date" : undefined}>
      <span className={`block text-[15px] ${here ? "font-[700]" : "sub"}`}>{Number(cell.day.slice(8))}</span>
      {cell.jobs.map((job) => (
        <span key={job.id} className="block truncate border-l-[4px] border-ink pl-1 text-[15px] font-[600]" title={job.name}>
          {job.name}
        </span>
      ))}
      {cell.due.slice(0, MOST_SHOWN).map((due) => (
        <Link key={`${due.tag} ${due.check}`} className={`block truncate text-[15px] no-underline hover:underline ${isNow(due) ? "font-[640]" : ""}`} to={`/instruments/${due.tag}`} title={`${due.tag}: ${due.title}`}>
          <span className="tag">{due.tag}</span> {due.title}
        </Link>
      ))}
      {cell.due.length > MOST_SHOWN && (
        <Link className="link text-[15px]" to="/plan?crew=all">
          {cell.due.length - MOST_SHOWN} more
        </Link>
      )}
    </td>
  );
}
