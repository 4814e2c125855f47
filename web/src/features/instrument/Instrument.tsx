// One instrument: its years at a glance, where it stands and why, its checks, its records and its passport.
import { useQuery } from "@tanstack/react-query";
import { lazy, useDeferredValue } from "react";
import { Link, useParams } from "react-router";
import type { Instrument as Passport } from "../../api/client";
import { instrumentQuery } from "../../api/queries";
import { useHere } from "../../app/session";
import { Below } from "../../ui/Below";
import { GradeMark, LimitBar } from "../../ui/icons";
import { Head, Trouble, Waiting } from "../../ui/parts";
import { Custody } from "./Custody";
import { STATE_NAMES } from "../../documents/fleet";
import { closed, lowered, plannedDay, whereabouts } from "../../ui/words";

const Years = lazy(() => import("./Years"));
const Rest = lazy(() => import("./Rest"));

export function Instrument() {
  const { tag = "" } = useParams();
  const instrument = useQuery(instrumentQuery(tag));
  // Drawn in slices, as the yard is.
  const item = useDeferredValue(instrument.data);
  if (instrument.isError && !item) return <Trouble error={instrument.error} />;
  if (!item) return <Waiting what={`Loading ${tag}…`} />;
  // Another instrument is another page: nothing of the last one stands there meanwhile.
  return <Shown key={item.tag} item={item} />;
}

function Shown({ item }: { item: Passport }) {
  return (
    <div className="grid gap-4">
      <Head
        title={
          <>
            <span className="tag">{item.tag}</span>: {lowered(STATE_NAMES[item.standing.state] ?? item.standing.state)}
          </>
        }
        sub={`${item.model}. ${whereabouts(item)}.`}
        actions={<Custody item={item} />}
      />
      <div className="grid items-start gap-4 desk:grid-cols-[minmax(0,1fr)_380px]">
        <div className="grid min-w-0 gap-4">
          <Below tall={380}>
            <Years item={item} />
          </Below>
        </div>
        <div className="grid min-w-0 gap-4 max-desk:order-first">
          <StandingCard item={item} />
        </div>
      </div>
      <Below tall={1300}>
        <Rest item={item} />
      </Below>
    </div>
  );
}

/** Why it stands as it does, the latest finding, and the one action that matters now. */
function StandingCard({ item }: { item: Passport }) {
  const { latest, standing } = item;
  return (
    <section className="card grid gap-4 p-5" aria-label="Status" data-standing={standing.state}>
      <ul className="m-0 grid list-none gap-1 p-0 text-[17px]">
        {standing.reasons.map((reason, i) => (
          <li key={reason.code} className={i === 0 ? "font-semibold" : ""}>
            {closed(reason.text)}
          </li>
        ))}
      </ul>
      {latest && (
        <div className="flex flex-wrap items-center gap-x-5 gap-y-2 border-t border-line pt-4">
          <GradeMark grade={latest.grade as never} />
          <LimitBar value={latest.value} u95={latest.u95} limit={latest.limit} label={latest.finding} width={240} />
          <b className="text-[1.15rem]">{latest.text}</b>
          <span className="sub">{latest.title}</span>
          <Link className="link" to={`/records/${latest.id}`}>
            Latest check
          </Link>
        </div>
      )}
      <MainAction item={item} />
    </section>
  );
}

function MainAction({ item }: { item: Passport }) {
  const { session } = useHere();
  const { latest, standing } = item;
  const check = standing.checks[0];
  if (standing.state === "hold" && latest && ["adjust", "service"].includes(latest.grade))
    return (
      <Link className="btn now site" to={`/records/${latest.id}`}>
        {latest.grade === "adjust" ? "Adjust or review" : "What to do now"}
      </Link>
    );
  if (!check) return null;
  const first = standing.state === "check-first" || standing.state === "hold";
  return (
    <div className="grid gap-2">
      <Link className={`btn site ${first ? "now" : ""}`} to={`/bench/new/${item.tag}/${check.check}`}>
        {check.title}, {check.minutes} minutes
      </Link>
      {check.due_on && !first && <p className="sub">Due again on {plannedDay(check.due_on, session.time_zone)}.</p>}
    </div>
  );
}
