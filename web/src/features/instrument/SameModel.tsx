// The same check of every instrument of a model, one below the other over the same years: which of them drifts.
import { useQueries, useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import type { Series } from "../../api/client";
import { fleetQuery, seriesQuery } from "../../api/queries";
import { MiniPlot, firstDay } from "../../ui/MiniPlot";

const MOST = 24;

export function SameModel({ tag, model, of, today }: { tag: string; model: string; of: string; today: Date }) {
  const rows = (useQuery(fleetQuery).data?.rows ?? []).filter((row) => row.model === model);
  const shown = [...rows].sort((a, b) => Number(b.tag === tag) - Number(a.tag === tag)).slice(0, MOST);
  const all = useQueries({ queries: shown.map((row) => seriesQuery(row.tag, of)) });
  const found = shown.flatMap((row, i) => (all[i]?.data ? [{ tag: row.tag, series: all[i].data as Series }] : []));
  if (rows.length < 2) return <p className="sub py-8">No other instrument of this model is in the fleet.</p>;
  const from = firstDay(found.map(({ series }) => series), today);
  return (
    <ul className="m-0 grid list-none gap-1 p-0" aria-label={`Every ${model}`}>
      {found.map(({ tag: each, series }) => (
        <li key={each} className="grid items-center gap-x-4 border-t border-line py-1 tab:grid-cols-[70px_minmax(0,1fr)_minmax(0,1fr)]" data-compared={each}>
          <Link className="tag font-[700]" to={`/instruments/${each}`} aria-current={each === tag ? "page" : undefined}>
            {each}
          </Link>
          <MiniPlot series={series} from={from} today={today} />
          <span className="sub">{series.trend ? `${series.trend.text} ${series.trend.leaves}` : "Nothing on record since the last event."}</span>
        </li>
      ))}
      {rows.length > MOST && <li className="sub">{rows.length - MOST} more of this model are not shown.</li>}
    </ul>
  );
}
