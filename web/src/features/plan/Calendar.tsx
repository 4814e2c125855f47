// A month: on each day what comes due and which jobs run.
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { dueMonthQuery, jobsQuery } from "../../api/queries";
import { useHere } from "../../app/session";
import { type DayCell, isNow, monthAfter, monthOf } from "../../documents/plan";
import { Head, Trouble, Waiting } from "../../ui/parts";
import { PlanTabs } from "../../ui/Tabs";
import { plannedDay } from "../../ui/words";
import { Subscribe } from "./Subscribe";

const WEEKDAYS = ["Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun"];

export function Calendar() {
  const { may } = useHere();
  const [chosen, setChosen] = useState("");
  const query = useQuery(dueMonthQuery(chosen));
  const jobs = useQuery(jobsQuery).data ?? [];
  const [subscribing, setSubscribing] = useState(false);
  const answer = query.data;
  const month = chosen || answer?.month || "";
  return (
    <div className="grid gap-4">
      <PlanTabs />
      {query.isPending && <Waiting what="Loading the calendar…" />}
      <Trouble error={query.error} />
      {answer && (
        <>
          <Head
            title={plannedDay(`${answer.month}-01`, "UTC").split(" ").slice(2).join(" ")}
            sub={`${answer.checks} ${answer.checks === 1 ? "check comes" : "checks come"} due: ${answer.minutes} minutes.`}
            actions={
              <>
                {may("plan-jobs").allowed && (
                  <button className="btn" onClick={() => setSubscribing(true)}>
                    Add to my calendar
                  </button>
                )}
                <button className="btn" onClick={() => setChosen(monthAfter(month, -1))}>
                  Month before
                </button>
                {month !== answer.today.slice(0, 7) && (
                  <button className="btn" onClick={() => setChosen("")}>
                    This month
                  </button>
                )}
                <button className="btn" onClick={() => setChosen(monthAfter(month, 1))}>
                  Month after
                </button>
              </>
            }
          />
          <Month weeks={monthOf(answer.month, answer.days, jobs)} today={answer.today} />
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
              <th key={name} scope="col" className="sub py-1 text-left font-semibold">
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
    <td
      className={`h-[96px] border border-line p-1 align-top ${cell.inMonth ? "" : "bg-stone"} ${here ? "shadow-[inset_0_0_0_2px_var(--color-ink)]" : ""}`}
      data-day={cell.day}
      aria-current={here ? "date" : undefined}
    >
      <span className={`block text-[15px] ${here ? "font-bold" : "sub"}`}>{Number(cell.day.slice(8))}</span>
      {cell.jobs.map((job) => (
        <span
          key={job.id}
          className="block truncate border-l-[4px] border-ink pl-1 text-[15px] font-semibold"
          title={job.name}
        >
          {job.name}
        </span>
      ))}
      {cell.due.map((due) => (
        <Link
          key={`${due.tag} ${due.check}`}
          className={`block truncate text-[15px] no-underline hover:underline ${isNow(due) ? "font-semibold" : ""}`}
          to={`/instruments/${due.tag}`}
          title={`${due.tag}: ${due.title}`}
        >
          <span className="tag">{due.tag}</span> {due.title}
        </Link>
      ))}
      {cell.count > cell.due.length && (
        <Link className="link text-[15px]" to="/plan?crew=all">
          {cell.count - cell.due.length} more
        </Link>
      )}
    </td>
  );
}
