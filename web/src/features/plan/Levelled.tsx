// The load levelled on request: each week as it falls due and spread, then morning by morning who checks what.
import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import type { Schemas } from "../../api/client";
import { levelledQuery } from "../../api/queries";
import { Trouble, Waiting } from "../../ui/parts";
import { day, plannedDay } from "../../ui/words";

type Load = Schemas["LevelledLoad"];

export function Levelled({ days, crew }: { days: number; crew: string }) {
  const query = useQuery(levelledQuery(days, crew));
  return (
    <div className="grid gap-4">
      {query.isPending && <Waiting what="Levelling the load…" />}
      <Trouble error={query.error} />
      {query.data && (
        <>
          <Weeks load={query.data} />
          <Mornings load={query.data} />
        </>
      )}
    </div>
  );
}

const W = 560;

/** Two bars a week: minutes as they fall due, and levelled. */
function Weeks({ load }: { load: Load }) {
  const most = Math.max(1, ...load.weeks.flatMap((week) => [week.due, week.levelled]));
  return (
    <section className="card overflow-x-auto px-4 py-3 tab:px-5" tabIndex={0} aria-label="Minutes a week">
      <h2>Minutes a week</h2>
      <table className="w-full min-w-[420px] border-collapse">
        <thead>
          <tr className="text-left">
            <th scope="col" className="sub py-1 pr-4 font-semibold">
              Week of
            </th>
            <th scope="col" className="sub py-1 font-semibold">
              As due (outlined), levelled (filled)
            </th>
          </tr>
        </thead>
        <tbody>
          {load.weeks.map((week) => (
            <tr key={week.monday} className="border-t border-line" data-week={week.monday}>
              <th scope="row" className="w-[130px] whitespace-nowrap py-1 pr-4 text-left font-normal">
                {day(week.monday, "UTC")}
              </th>
              <td className="py-1">
                <svg
                  viewBox={`0 0 ${W + 90} 34`}
                  className="block w-full max-w-[760px]"
                  role="img"
                  aria-label={`${week.due} minutes as due, ${week.levelled} levelled`}
                >
                  <rect
                    x="1"
                    y="2"
                    width={Math.max(1, (week.due / most) * W)}
                    height="12"
                    fill="var(--color-card)"
                    stroke="var(--color-ink)"
                    strokeWidth="1.5"
                  />
                  <rect
                    x="1"
                    y="18"
                    width={Math.max(1, (week.levelled / most) * W)}
                    height="12"
                    fill="var(--color-ink)"
                  />
                  <text x={(week.due / most) * W + 8} y="13" fontSize="14" fill="currentColor">
                    {week.due}
                  </text>
                  <text x={(week.levelled / most) * W + 8} y="30" fontSize="14" fontWeight="700" fill="currentColor">
                    {week.levelled}
                  </text>
                </svg>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

function Mornings({ load }: { load: Load }) {
  return (
    <section className="card px-4 py-3 tab:px-5" aria-label="Mornings">
      <h2>Who checks what on which morning</h2>
      {!load.mornings.length && <p className="sub py-1">Nothing comes due until {day(load.until, "UTC")}.</p>}
      <ul className="m-0 list-none divide-y divide-line p-0">
        {load.mornings.map((morning) => (
          <li
            key={`${morning.day} ${morning.crew}`}
            className="grid gap-x-4 py-2 tab:grid-cols-[230px_minmax(0,1fr)_90px]"
            data-morning={morning.day}
          >
            <span>
              <b className="font-semibold">{plannedDay(morning.day, "UTC")}</b>
              <span className="sub block">
                {morning.crew ? `${morning.crew} crew` : "Yard"}
                {!morning.quiet && ", a job runs"}
              </span>
            </span>
            <span className="min-w-0">
              {morning.checks.map((check) => (
                <span key={`${check.tag} ${check.check}`} className="block">
                  <Link
                    className="tag font-bold no-underline hover:underline"
                    to={`/bench/new/${check.tag}/${check.check}`}
                  >
                    {check.tag}
                  </Link>{" "}
                  {check.title} <span className="sub">due {day(check.due_on, "UTC")}</span>
                </span>
              ))}
            </span>
            <span className="whitespace-nowrap tab:text-right">{morning.minutes} min</span>
          </li>
        ))}
      </ul>
    </section>
  );
}
