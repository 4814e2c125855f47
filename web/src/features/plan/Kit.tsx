// What to take to a job: the kit with the shortest checks, those checks in order, what could go instead, and why.
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useParams } from "react-router";
import { jobKitQuery, jobsQuery } from "../../api/queries";
import { useHere } from "../../app/session";
import { Back, Dialog, Head, Trouble, Waiting } from "../../ui/parts";
import { plannedDay } from "../../ui/words";
import { FitnessList } from "./FitnessList";
import { JobForm } from "./JobForm";
import { KitChecks } from "./KitChecks";
import { TakeOutKit } from "./TakeOutKit";
import type { Fitness, JobKit, Kit } from "./types";

export function KitPage() {
  const { id } = useParams();
  const query = useQuery(jobKitQuery(Number(id)));
  return (
    <div className="grid gap-4">
      <Back to="/plan/jobs">All jobs</Back>
      {query.isPending && <Waiting what="Comparing kits…" />}
      <Trouble error={query.error} />
      {query.data && <Shown key={query.data.id} job={query.data} />}
    </div>
  );
}

function Shown({ job }: { job: JobKit }) {
  const { may } = useHere();
  const { answer } = job;
  const [editing, setEditing] = useState(false);
  const [instead, setInstead] = useState<Kit | null>(null);
  const kit = instead ?? answer.kit;
  const stored = useQuery(jobsQuery).data?.find((each) => each.id === job.id);
  const facts = [job.name, job.crew ? `${job.crew} crew` : "all crews", job.place].filter(Boolean).join(", ");
  return (
    <>
      <Head
        title={kit?.text ?? answer.text}
        sub={`${facts}. ${job.on === job.starts_on ? "First day" : "Looked at for"} ${plannedDay(job.on, "UTC")}.`}
        actions={
          <>
            {job.has_needs && (
              <a className="btn" href={`/api/jobs/${job.id}/kit/report`} target="_blank" rel="noreferrer">
                Report
              </a>
            )}
            {may("plan-jobs").allowed && (
              <button className="btn" onClick={() => setEditing(true)}>
                {job.has_needs ? "Change this job" : "State what it needs"}
              </button>
            )}
            {kit && <TakeOutKit job={job} kit={kit} />}
          </>
        }
      />
      {!job.has_needs && (
        <p className="card p-5">
          State how well a point, a height or an angle is needed. Then every instrument is compared with it: fit, fit
          under conditions, or not fit.
        </p>
      )}
      {kit && (
        <div className="grid items-start gap-4 desk:grid-cols-[minmax(0,1fr)_340px]">
          <div className="grid min-w-0 gap-4">
            <Take kit={kit} fitness={answer.fitness} />
            <KitChecks kit={kit} where="before-leaving" title="Check before leaving" />
            <KitChecks kit={kit} where="on-site" title="Check on site" />
          </div>
          <Instead answer={answer} chosen={kit} onChoose={setInstead} />
        </div>
      )}
      {answer.fitness.length > 0 && <FitnessList fitness={answer.fitness} kit={kit?.tags ?? []} />}
      <Dialog title="Change this job" wide open={editing} onClose={() => setEditing(false)}>
        {editing && stored && <JobForm job={stored} onDone={() => setEditing(false)} />}
      </Dialog>
    </>
  );
}

/** What to take, large: read while taking it from the rack. */
function Take({ kit, fitness }: { kit: Kit; fitness: Fitness[] }) {
  return (
    <section className="card px-4 py-3 tab:px-5" aria-label="Take">
      <h2>Take</h2>
      <ul className="m-0 list-none divide-y divide-line p-0">
        {kit.tags.map((tag) => {
          const one = fitness.find((each) => each.tag === tag);
          return (
            <li key={tag} className="grid grid-cols-[96px_minmax(0,1fr)] gap-x-4 py-1" data-take={tag}>
              <Link
                to={`/instruments/${tag}`}
                className="tag text-[22px] font-bold leading-[48px] no-underline hover:underline"
              >
                {tag}
              </Link>
              <div className="min-w-0 self-center">
                <p>
                  <b className="font-semibold">{one?.model}</b> <span className="sub">{one?.place}</span>
                </p>
                {one?.conditions.map((condition) => (
                  <p key={condition.code}>{condition.text}</p>
                ))}
              </div>
            </li>
          );
        })}
      </ul>
    </section>
  );
}

/** Other kits, each without one instrument of the best, with what they take. */
function Instead({
  answer,
  chosen,
  onChoose,
}: {
  answer: JobKit["answer"];
  chosen: Kit;
  onChoose: (kit: Kit) => void;
}) {
  const all = [...(answer.kit ? [answer.kit] : []), ...answer.alternatives];
  return (
    <aside className="card grid gap-2 px-4 py-3 tab:px-5" aria-label="Kits">
      <h2>Kits</h2>
      <ul className="m-0 grid list-none gap-2 p-0">
        {all.map((kit) => (
          <li key={kit.tags.join()}>
            <button
              className="w-full rounded-md px-4 py-2 text-left shadow-[inset_0_0_0_1.5px_var(--color-ink)] aria-pressed:bg-ink aria-pressed:text-card"
              aria-pressed={kit === chosen}
              onClick={() => onChoose(kit)}
            >
              <b className="block font-semibold">{kit.text}</b>
              <span className="block">{kit.tags.join(", ")}</span>
            </button>
          </li>
        ))}
      </ul>
      <p className="sub">
        {answer.compared_text} {chosen.separately}
      </p>
    </aside>
  );
}
