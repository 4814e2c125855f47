// The years at a glance: the check that decides, large; every other check beside it, small, against its own limit.
import { useQuery } from "@tanstack/react-query";
import { useDeferredValue, useState } from "react";
import type { Instrument, Series } from "../../api/client";
import { historyQuery } from "../../api/queries";
import { useHere } from "../../app/session";
import { useKinds } from "../../hooks/useKinds";
import { GradeMark } from "../../ui/icons";
import { MiniPlot, firstDay } from "../../ui/MiniPlot";
import { NoteEvent } from "../../ui/NoteEvent";
import { Choice, type Option } from "../../ui/Choice";
import { Trouble } from "../../ui/parts";
import { SeriesPlot } from "../../ui/SeriesPlot";
import { WarmthPlot } from "../../ui/WarmthPlot";
import { SameModel } from "./SameModel";

const CONTROL = "control";
type View = "time" | "warmth" | "model";
const VIEWS: Option<View>[] = [
  { value: "time", label: "Over time" },
  { value: "warmth", label: "By temperature" },
  { value: "model", label: "Same model" },
];

export default function Years({ item }: { item: Instrument }) {
  const { now } = useHere();
  const kinds = useKinds();
  const history = useQuery(historyQuery(item.tag));
  // Drawn in slices: it comes last, and draws the most.
  const found = (useDeferredValue(history.data) ?? []).map((each) => ({ name: each.of, series: each.series }));
  // Of what was never done nothing is drawn, but of the check that decides.
  const [of, setOf] = useState(() => item.latest?.check ?? item.standing.checks[0]?.check ?? item.checks[0] ?? CONTROL);
  const [view, setView] = useState<View>("time");
  const large = found.find(({ name }) => name === of);
  const others = found.filter(({ name, series }) => name !== of && series.points.length > 0);
  const from = firstDay(
    found.map(({ series }) => series),
    now,
  );
  const titleOf = (name: string) =>
    name === CONTROL ? "Agreement with control points" : (kinds.find((kind) => kind.kind === name)?.title ?? name);
  if (!item.checks.length && !others.length) return null;
  return (
    <section className="card grid gap-3 p-4 tab:p-5" aria-label="History">
      <div className="flex flex-wrap items-center justify-between gap-x-4 gap-y-2">
        <h2>{titleOf(of)}, each result against the limit</h2>
        <Choice label="Shown" value={view} options={VIEWS} onChange={setView} />
      </div>
      {large ? (
        <Large view={view} series={large.series} item={item} of={of} today={now} />
      ) : (
        <span aria-hidden="true" className="bone h-[220px]" />
      )}
      {large?.series.trend && view !== "model" && <TrendText trend={large.series.trend} tag={item.tag} />}
      <p className="no-print flex flex-wrap gap-x-5">
        {of !== CONTROL && (
          <a
            className="underline underline-offset-4"
            href={`/api/instruments/${item.tag}/series/table?of=${of}`}
            download
          >
            This series as CSV
          </a>
        )}
        <a
          className="underline underline-offset-4"
          href={`/api/instruments/${item.tag}/report`}
          target="_blank"
          rel="noreferrer"
        >
          Report of its history
        </a>
      </p>
      <Trouble error={history.error} />
      {others.length > 0 && (
        <div
          className="grid gap-3 border-t border-line pt-3 [grid-template-columns:repeat(auto-fill,minmax(158px,1fr))]"
          role="group"
          aria-label="Other checks"
        >
          {others.map(({ name, series }) => (
            <button
              key={name}
              className="grid content-start gap-1 rounded-md p-1 text-left hover:bg-[color-mix(in_srgb,var(--color-ink)_6%,transparent)]"
              data-series={name}
              onClick={() => setOf(name)}
            >
              <span className="truncate font-semibold">{titleOf(name)}</span>
              <MiniPlot series={series} from={from} today={now} />
              {series.points.at(-1)?.grade && <GradeMark grade={series.points.at(-1)?.grade as never} quiet />}
            </button>
          ))}
        </div>
      )}
    </section>
  );
}

function Large({
  view,
  series,
  item,
  of,
  today,
}: {
  view: View;
  series: Series;
  item: Instrument;
  of: string;
  today: Date;
}) {
  if (view === "warmth") return <WarmthPlot series={series} />;
  if (view === "model") return <SameModel tag={item.tag} model={item.model} of={of} today={today} />;
  return <SeriesPlot series={series} today={today} />;
}

/** What the findings since the last event say: drift, when it leaves the limit, which interval it has earned. */
function TrendText({ trend, tag }: { trend: NonNullable<Series["trend"]>; tag: string }) {
  const [noting, setNoting] = useState(false);
  return (
    <div className="grid gap-1" data-trend={trend.drifting ? "drifting" : "steady"}>
      <p className="font-semibold">
        {trend.text} {trend.leaves}
      </p>
      {trend.jump && (
        <p className="flex flex-wrap items-center gap-4 font-semibold text-coral">
          {trend.jump}
          {trend.jumped.length > 0 && (
            <button className="btn no-print" onClick={() => setNoting(true)}>
              Report what happened
            </button>
          )}
        </p>
      )}
      {trend.dispute && <p className="font-semibold text-coral">{trend.dispute}</p>}
      <NoteEvent tag={tag} open={noting} onClose={() => setNoting(false)} />
      <p className="sub">{[trend.earned, trend.warmth, trend.together].filter(Boolean).join(" ")}</p>
    </div>
  );
}
