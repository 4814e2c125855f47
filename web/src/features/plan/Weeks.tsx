// The load of the weeks to come: minutes of checks as a bar, and the jobs that run.
import type { Week } from "../../documents/plan";
import { day } from "../../ui/words";

export function Weeks({ now, weeks }: { now: number; weeks: Week[] }) {
  const rows = [
    { key: "now", name: "Now", minutes: now, jobs: [] as Week["jobs"] },
    ...weeks.map((week) => ({
      key: week.monday,
      name: day(week.monday, "UTC").replace(/ \d{4}$/, ""),
      minutes: week.minutes,
      jobs: week.jobs,
    })),
  ];
  const most = Math.max(60, ...rows.map((row) => row.minutes));
  return (
    <section className="card grid gap-2 px-4 py-3 tab:px-5 desk:sticky desk:top-4" aria-label="Weeks">
      <h2>Minutes by week</h2>
      <ul className="m-0 grid list-none gap-2 p-0">
        {rows.map((row) => (
          <li key={row.key} className="grid grid-cols-[64px_minmax(0,1fr)_48px] items-center gap-x-2">
            <span className="sub">{row.name}</span>
            <span aria-hidden="true" className="h-[14px] border-b-[1.5px] border-ink">
              <i className="block h-full bg-ink" style={{ width: `${(row.minutes / most) * 100}%` }} />
            </span>
            <b className="text-right">{row.minutes}</b>
            {row.jobs.map((job) => (
              <span key={job.id} className="col-span-2 col-start-2 truncate">
                {job.name}
                {job.large ? <span className="sub"> (large)</span> : null}
              </span>
            ))}
          </li>
        ))}
      </ul>
    </section>
  );
}
