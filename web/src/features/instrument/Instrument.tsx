// One instrument: where it stands and why, its latest finding, its history against the limit, its passport and records.
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useParams } from "react-router";
import type { Instrument as Passport } from "../../api/client";
import { instrumentQuery, kindsQuery, seriesQuery } from "../../api/queries";
import { useHere } from "../../app/session";
import { SeriesPlot } from "../../ui/SeriesPlot";
import { GradeMark, LimitBar } from "../../ui/icons";
import { Choice, Head, Trouble, Waiting } from "../../ui/parts";
import { Checks } from "./Checks";
import { Custody } from "./Custody";
import { PassportCard } from "./PassportCard";
import { Records } from "./Records";
import { closed, plannedDay, whereabouts } from "../../ui/words";

const TITLES: Record<string, string> = {
  ready: "ready",
  "ready-if": "ready, with a condition",
  "check-first": "check first",
  hold: "on hold",
  away: "away",
};

export function Instrument() {
  const { tag = "" } = useParams();
  const instrument = useQuery(instrumentQuery(tag));
  if (instrument.isPending) return <Waiting what={`Loading ${tag}…`} />;
  if (!instrument.data) return <Trouble error={instrument.error} />;
  return <Shown item={instrument.data} />;
}

function Shown({ item }: { item: Passport }) {
  const { now } = useHere();
  const [of, setOf] = useState(() => item.latest?.check ?? item.standing.checks[0]?.check ?? "two-peg");
  const kinds = useQuery(kindsQuery).data ?? [];
  const series = useQuery(seriesQuery(item.tag, of));
  const control = useQuery(seriesQuery(item.tag, "control"));
  const sighted = Boolean(control.data?.points.length);
  return (
    <div className="grid gap-4">
      <Head
        title={
          <>
            <span className="tag">{item.tag}</span>: {TITLES[item.standing.state]}
          </>
        }
        sub={`${item.model}. ${whereabouts(item)}.`}
        actions={<Custody item={item} />}
      />
      <div className="grid items-start gap-4 desk:grid-cols-[minmax(0,1fr)_380px]">
        <div className="grid gap-4">
          <StandingCard item={item} />
          {control.data && sighted && (
            <section className="card p-4 tab:p-5" aria-label="Agreement with control points">
              <h2 className="pb-3">Agreement with control points, each set-up against the tolerance</h2>
              <SeriesPlot series={control.data} today={now} />
            </section>
          )}
          {(item.checks.length > 0 || !sighted) && (
            <section className="card grid gap-3 p-4 tab:p-5" aria-label="History">
              <h2>{series.data?.title ?? "History"}, each result against the limit</h2>
              {item.checks.length > 1 && <Choice label="History of" value={of} onChange={setOf} options={item.checks.map((name) => ({ value: name, label: kinds.find((each) => each.kind === name)?.title ?? name }))} />}
              {series.data && <SeriesPlot series={series.data} today={now} />}
              <Trouble error={series.error} />
            </section>
          )}
          <Records tag={item.tag} />
        </div>
        <div className="grid gap-4">
          <Checks item={item} />
          <PassportCard item={item} />
        </div>
      </div>
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
          <li key={reason.code} className={i === 0 ? "font-[640]" : ""}>
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
