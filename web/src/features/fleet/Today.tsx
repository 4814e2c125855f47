// Today: a crew's own instruments, large, with what each needs before it goes out; below them what lies free in the yard.
import { type ReactNode } from "react";
import { Link } from "react-router";
import { NextJob } from "./NextJob";
import { useHere, usePerson } from "../../app/session";
import { type FleetRow, STATES, STATE_NAMES, minutesOf } from "../../documents/fleet";
import { inOrder } from "../../documents/order";
import { useKind } from "../../hooks/useKinds";
import { Below } from "../../ui/Below";
import { GradeMark, LimitBar } from "../../ui/icons";
import { Head } from "../../ui/parts";
import { clock, closed, plannedDay, whereabouts } from "../../ui/words";

const byNeed = (one: FleetRow, other: FleetRow) =>
  STATES.indexOf(one.state) - STATES.indexOf(other.state) || inOrder(one.tag, other.tag);

/** `summaries`: what each crew needs, and under "" the whole fleet, in the core's words. */
export function Today({
  rows,
  summaries,
  actions,
}: {
  rows: FleetRow[];
  summaries: Record<string, string>;
  actions: ReactNode;
}) {
  const { session, now } = useHere();
  const { crew } = usePerson();
  const mine = rows.filter((row) => crew && row.crew === crew).sort(byNeed);
  const free = rows.filter((row) => !row.crew).sort(byNeed);
  const others = rows.length - mine.length - free.length;
  const shown = crew ? mine : rows.filter((row) => row.crew).sort(byNeed);
  return (
    <>
      <Head
        title={summaries[crew ?? ""] ?? `Nothing with ${crew} crew`}
        sub={`${plannedDay(now.toISOString(), session.time_zone)}, ${clock(now.toISOString(), session.time_zone)}`}
        actions={actions}
      />
      <NextJob />
      <section className="grid gap-3" aria-label={crew ? `Instruments of ${crew} crew` : "Instruments that are out"}>
        {shown.slice(0, AT_FIRST).map((row) => (
          <Large key={row.tag} row={row} />
        ))}
        {shown.length > AT_FIRST && (
          <Below tall={(shown.length - AT_FIRST) * 150}>
            <div className="grid gap-3">
              {shown.slice(AT_FIRST).map((row) => (
                <Large key={row.tag} row={row} />
              ))}
            </div>
          </Below>
        )}
        {!shown.length && (
          <p className="sub">
            {crew ? `${crew} crew holds no instrument. Take one out below.` : "No crew holds an instrument."}
          </p>
        )}
      </section>
      {free.length > 0 && (
        <Below tall={Math.min(free.length, MAX_FREE) * 56 + 60}>
          <section className="card px-4 pb-2 pt-3 tab:px-6" aria-label="In the yard">
            <h2>In the yard</h2>
            <ul className="m-0 list-none divide-y divide-line p-0">
              {free.slice(0, MAX_FREE).map((row) => (
                <Small key={row.tag} row={row} />
              ))}
            </ul>
            {free.length > MAX_FREE && (
              <Link className="link" to="/fleet?crew=In+the+yard">
                All {free.length} in the yard
              </Link>
            )}
          </section>
        </Below>
      )}
      {crew && others > 0 && (
        <Link className="link justify-self-start" to="/fleet">
          {others === 1 ? "One instrument is" : `${others} instruments are`} with other crews
        </Link>
      )}
    </>
  );
}

const MAX_FREE = 12;
/** What a phone's first screen holds of large ones. */
const AT_FIRST = 3;

/** One instrument of the crew: tag and state as large as can be read at arm's length, the reason, the one action. */
function Large({ row }: { row: FleetRow }) {
  return (
    <article
      data-instrument={row.tag}
      data-state={row.state}
      className="card grid items-center gap-x-5 gap-y-1 px-4 py-3 tab:grid-cols-[132px_minmax(0,1fr)_240px] tab:px-6"
    >
      <div className="flex items-baseline justify-between tab:block">
        <Link
          to={`/instruments/${row.tag}`}
          className="tag text-[30px] font-bold leading-[48px] no-underline hover:underline"
        >
          {row.tag}
        </Link>
        <span className={`block text-[17px] font-bold ${row.state === "hold" ? "text-coral" : ""}`}>
          {STATE_NAMES[row.state]}
        </span>
      </div>
      <div className="min-w-0">
        <p>
          <b className="font-semibold">{row.model}</b>
        </p>
        <p>{row.reasons.map((reason) => closed(reason)).join(" ")}</p>
        <Found row={row} />
      </div>
      <NextAction row={row} />
    </article>
  );
}

function Found({ row: { latest } }: { row: FleetRow }) {
  const kind = useKind(latest?.check);
  if (!latest) return <p className="sub">No check on record</p>;
  return (
    <div className="flex flex-wrap items-center gap-x-4 gap-y-1 pt-1">
      <GradeMark grade={latest.grade as never} />
      <span className="flex items-center gap-3">
        <span className="sub">{kind?.quantity_label ?? latest.title}</span>
        <LimitBar value={latest.value} u95={latest.u95} limit={latest.limit} label={latest.finding} width={130} />
        <b className="whitespace-nowrap">{latest.text}</b>
      </span>
    </div>
  );
}

/** What is done about it: adjust or review, the first check it waits for with its minutes, or only a look. */
function NextAction({ row }: { row: FleetRow }) {
  const { latest, needed, state, tag } = row;
  const first = needed[0];
  const button = "btn site w-full max-tab:!min-h-[56px]";
  if (state === "hold" && latest && ["adjust", "service"].includes(latest.grade))
    return (
      <Link className={button} to={`/records/${latest.id}`}>
        {latest.grade === "adjust" ? "Adjust or review" : "Details"}
      </Link>
    );
  if (!first)
    return (
      <Link className="btn w-full" to={`/instruments/${tag}`}>
        Open
      </Link>
    );
  const more = needed.length > 1;
  return (
    <Link className={button} to={more ? `/bench/new/${tag}` : `/bench/new/${tag}/${first.check}`}>
      {more ? `${needed.length} checks, ${minutesOf(row)} minutes` : `${first.title}, ${first.minutes} minutes`}
    </Link>
  );
}

function Small({ row }: { row: FleetRow }) {
  return (
    <li
      data-instrument={row.tag}
      data-state={row.state}
      className="grid grid-cols-[84px_minmax(0,1fr)] items-center gap-x-4 py-1 tab:grid-cols-[84px_minmax(0,1fr)_160px_150px]"
    >
      <Link
        to={`/instruments/${row.tag}`}
        className="tag text-[19px] font-bold leading-[48px] no-underline hover:underline"
      >
        {row.tag}
      </Link>
      <span className="min-w-0 truncate">
        {row.model} <span className="sub">{whereabouts(row)}</span>
      </span>
      <span className="font-semibold max-tab:col-start-2">{STATE_NAMES[row.state]}</span>
      <span className="sub max-tab:hidden">{row.needed.length > 0 ? `${minutesOf(row)} minutes of checks` : ""}</span>
    </li>
  );
}
