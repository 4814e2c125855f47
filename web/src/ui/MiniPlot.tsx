// An instrument's years in one check, small: findings against the limit, events as ticks. To compare, not to read off.
import { scaleLinear, scaleTime } from "d3-scale";
import type { Series } from "../api/client";

const W = 200;
const H = 56;

/** `most`: the scale of all that are compared; its own where nothing is given. */
export function MiniPlot({
  series,
  from,
  today,
  most = widest([series]),
}: {
  series: Series;
  from: Date;
  today: Date;
  most?: number;
}) {
  const { points, events } = series;
  if (!points.length) return <span className="sub block py-3">never</span>;
  const limit = points.at(-1)?.use ?? 0;
  const x = scaleTime()
    .domain([from, today])
    .range([3, W - 5]);
  const y = scaleLinear()
    .domain([-most, most])
    .range([H - 3, 3]);
  return (
    <svg viewBox={`0 0 ${W} ${H}`} className="block h-[56px] w-full" aria-hidden="true" preserveAspectRatio="none">
      <rect x="0" width={W} y={y(limit)} height={y(-limit) - y(limit)} className="fill-band" opacity="0.55" />
      <path
        d={`M0 ${y(limit)}H${W}M0 ${y(-limit)}H${W}`}
        className="stroke-lichen"
        strokeWidth="1.4"
        vectorEffect="non-scaling-stroke"
      />
      {events.map((event) => (
        <path
          key={event.id}
          d={`M${x(new Date(event.at))} 0V${H}`}
          className="stroke-ink"
          strokeWidth="1"
          strokeDasharray="2 3"
          vectorEffect="non-scaling-stroke"
        />
      ))}
      {points.map((point) => (
        <path
          key={point.id}
          d={`M${x(new Date(point.at))} ${y(point.value - point.u95)}V${y(point.value + point.u95)}M${x(new Date(point.at)) - 3} ${y(point.value)}h6`}
          className="stroke-ink"
          strokeWidth="2"
          vectorEffect="non-scaling-stroke"
        />
      ))}
    </svg>
  );
}

/** The first day any of some series has something on. */
export function firstDay(all: Series[], today: Date): Date {
  const times = all.flatMap((series) => [...series.points, ...series.events].map((each) => Number(new Date(each.at))));
  return new Date(Math.min(Number(today) - 30 * 86_400_000, ...times));
}

/** The largest figure that any of some series has to show, with its uncertainty, or somewhat more than its limit. */
export function widest(all: Series[]): number {
  return Math.max(
    ...all.flatMap(({ points }) => [
      ...points.map((point) => Math.abs(point.value) + point.u95),
      (points.at(-1)?.use ?? 0) * 1.25,
    ]),
  );
}
