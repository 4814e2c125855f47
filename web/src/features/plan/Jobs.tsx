// Jobs that are planned: what their crews' checks have to be ready for.
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { jobsQuery } from "../../api/queries";
import { useHere } from "../../app/session";
import type { Job } from "../../documents/plan";
import { Dialog, Head, Trouble, Waiting } from "../../ui/parts";
import { PermissionButton } from "../../ui/permission";
import { PlanTabs } from "../../ui/Tabs";
import { day } from "../../ui/words";
import { JobForm } from "./JobForm";

export function Jobs() {
  const query = useQuery(jobsQuery);
  const { may } = useHere();
  const [editing, setEditing] = useState<Job | "new" | null>(null);
  const jobs = query.data ?? [];
  return (
    <div className="grid gap-4">
      <PlanTabs />
      <Head
        title={jobs.length ? (jobs.length === 1 ? "One job planned" : `${jobs.length} jobs planned`) : "Jobs"}
        sub="Open a job to see its kit: which instruments are fit, and which checks come first."
        actions={
          <PermissionButton right={may("plan-jobs")} onPress={() => setEditing("new")}>
            Plan a job
          </PermissionButton>
        }
      />
      {query.isPending && <Waiting what="Loading the jobs…" />}
      <Trouble error={query.error} />
      {query.data && !jobs.length && (
        <p className="card p-5">
          No job is planned. With a job the plan shows by when the instruments of its crew have to be checked.
        </p>
      )}
      {jobs.length > 0 && (
        <ul className="card m-0 list-none divide-y divide-line px-4 py-1 tab:px-5" aria-label="Jobs">
          {jobs.map((job) => (
            <Line key={job.id} job={job} onEdit={may("plan-jobs").allowed ? () => setEditing(job) : null} />
          ))}
        </ul>
      )}
      <Dialog
        title={editing === "new" ? "Plan a job" : "Change this job"}
        wide
        open={editing !== null}
        onClose={() => setEditing(null)}
      >
        {editing !== null && <JobForm job={editing === "new" ? null : editing} onDone={() => setEditing(null)} />}
      </Dialog>
    </div>
  );
}

function Line({ job, onEdit }: { job: Job; onEdit: (() => void) | null }) {
  const facts = [
    job.crew ? `${job.crew} crew` : "All crews",
    job.place,
    job.large ? "large job" : "",
    job.temperature_c === null ? "" : `${job.temperature_c} °C expected`.replace("-", "−"),
  ];
  return (
    <li className="grid grid-cols-[minmax(0,1fr)_auto] items-center gap-x-4 py-2" data-job={job.name}>
      <span className="min-w-0">
        <Link
          to={`/plan/jobs/${job.id}`}
          className="inline-block font-semibold leading-[48px] underline underline-offset-4 desk:leading-[36px]"
        >
          {job.name}
        </Link>
        <span className="sub block">
          {day(job.starts_on, "UTC")} to {day(job.ends_on, "UTC")}. {facts.filter(Boolean).join(", ")}.
        </span>
      </span>
      {onEdit && (
        <button className="btn !px-3" aria-label={`Change: ${job.name}`} onClick={onEdit}>
          Change
        </button>
      )}
    </li>
  );
}
