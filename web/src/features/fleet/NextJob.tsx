// The crew's job of today, or the next one within a week: what to take to it and how many minutes of checks it is.
import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { jobKitQuery, jobsQuery } from "../../api/queries";
import { useHere, usePerson } from "../../app/session";
import { dayAfter } from "../../documents/fleet";
import type { Job } from "../../documents/plan";
import { isoDay, plannedDay } from "../../ui/words";

const AHEAD_DAYS = 7;

export function NextJob() {
  const { now, session } = useHere();
  const { crew } = usePerson();
  const today = isoDay(now, session.time_zone);
  const until = dayAfter(today, AHEAD_DAYS);
  const job = useQuery(jobsQuery).data?.find(
    (each) => each.starts_on <= until && (!crew || each.crew === null || each.crew === crew),
  );
  return job ? <Strip job={job} today={today} /> : null;
}

function Strip({ job, today }: { job: Job; today: string }) {
  const kit = useQuery(jobKitQuery(job.id)).data?.answer;
  const when = job.starts_on <= today ? "today" : `from ${plannedDay(job.starts_on, "UTC")}`;
  const tags = kit?.kit?.tags.join(", ");
  return (
    <section
      className="card grid items-center gap-x-5 gap-y-1 px-4 py-3 tab:grid-cols-[minmax(0,1fr)_240px] tab:px-6"
      aria-label="Next job"
      data-job={job.name}
    >
      <div className="min-w-0">
        <p>
          <b className="font-semibold">{job.name}</b>, {when}
        </p>
        <p className="min-h-[1.5em] truncate">
          {kit && <b className="font-semibold">{kit.text}</b>}
          {tags && <span className="sub">: {tags}</span>}
        </p>
      </div>
      <Link className="btn site w-full max-tab:!min-h-[56px]" to={`/plan/jobs/${job.id}`}>
        Kit for this job
      </Link>
    </section>
  );
}
