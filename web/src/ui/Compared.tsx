// The same check of several instruments, one below the other over the same years and on one scale: which of them drifts.
import { useQueries } from "@tanstack/react-query";
import { Link } from "react-router";
import type { Series } from "../api/client";
import { seriesQuery } from "../api/queries";
import { MiniPlot, firstDay, widest } from "./MiniPlot";
import { Trouble } from "./parts";

export const MAX_COMPARED = 24;

export function Compared({
  tags,
  of,
  here,
  today,
  label,
}: {
  tags: string[];
  of: string;
  here?: string;
  today: Date;
  label: string;
}) {
  const all = useQueries({ queries: tags.slice(0, MAX_COMPARED).map((tag) => seriesQuery(tag, of)) });
  const found = tags.flatMap((tag, i) => (all[i]?.data ? [{ tag, series: all[i].data as Series }] : []));
  const from = firstDay(
    found.map(({ series }) => series),
    today,
  );
  const most = widest(found.map(({ series }) => series));
  return (
    <>
      <ul className="m-0 grid list-none gap-1 p-0" aria-label={label}>
        {found.map(({ tag, series }) => (
          <li
            key={tag}
            className="grid items-center gap-x-4 border-t border-line py-1 tab:grid-cols-[70px_minmax(0,1fr)_minmax(0,1fr)]"
            data-compared={tag}
          >
            <Link className="tag font-bold" to={`/instruments/${tag}`} aria-current={tag === here ? "page" : undefined}>
              {tag}
            </Link>
            <MiniPlot series={series} from={from} today={today} most={most} />
            <span className="sub">
              {series.trend ? `${series.trend.text} ${series.trend.leaves}` : "Nothing on record since the last event."}
            </span>
          </li>
        ))}
        {tags.length > MAX_COMPARED && <li className="sub">{tags.length - MAX_COMPARED} more are not shown.</li>}
      </ul>
      <Trouble error={all.find((each) => each.error)?.error} />
    </>
  );
}
