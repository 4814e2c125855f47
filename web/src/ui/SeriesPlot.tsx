// An instrument's history: each finding a needle with its whisker, the limit a band, events as plumb lines.
import { fixed } from "../api/writing";
import { type ScaleLinear, scaleLinear, scaleUtc } from "d3-scale";
import { line } from "d3-shape";
import { useNavigate } from "react-router";
import { useNarrow } from "../hooks/useNarrow";
import { useEventName } from "../app/eventKinds";
import { useHere } from "../app/session";
import { day, monthOf } from "./words";
import type { Series } from "../api/client";
import { FindingMark, LimitBand, PLOT, reachOf } from "./plotParts";

type Point = Series["points"][number];
const { wide: WIDE, narrow: NARROW, height: H, left: LEFT, right: RIGHT, top: TOP, foot: FOOT } = PLOT;

/** The plot; a finding opens its record. */
export function SeriesPlot({ series, today }: { series: Series; today: Date }) {
  const navigate = useNavigate();
  const eventName = useEventName();
  const W = useNarrow() ? NARROW : WIDE;
  const points = series.points;
  if (!points.length) return <p className="sub py-8">No check on record yet.</p>;
  const times = [...points.map((p) => new Date(p.at)), ...series.events.map((e) => new Date(e.at))];
  const first = new Date(Math.min(...times.map(Number)));
  const x = scaleUtc()
    .domain([first, today])
    .range([LEFT + 10, W - RIGHT - 10]);
  const most = reachOf(points);
  const y = scaleLinear()
    .domain([-most, most])
    .nice(4)
    .range([H - FOOT, TOP]);
  const limit = points[points.length - 1]?.use ?? 0;
  const path = line<Point>()
    .x((p) => x(new Date(p.at)))
    .y((p) => y(p.value));
  return (
    <svg
      viewBox={`0 0 ${W} ${H}`}
      className="block w-full"
      role="group"
      aria-label={`${points.length} findings against the limit of ${limit} ${series.unit_label}`}
    >
      <LimitBand y={y} limit={limit} width={W} unit={series.unit} />
      {x.ticks(W / 170).map((tick) => (
        <text key={Number(tick)} x={x(tick)} y={H - 8} textAnchor="middle" fontSize="16" className="fill-ink-2">
          {monthOf(tick)}
        </text>
      ))}
      {together(
        series.events.map((each) => ({ x: x(new Date(each.at)), word: eventName(each.event).toLowerCase() })),
      ).map((each) => (
        <Event key={each.x} x={each.x} word={each.word} width={W} />
      ))}
      {series.trend && series.trend.line.length > 1 && (
        <TrendLine trend={series.trend} x={(at) => x(new Date(at))} y={y} within={[TOP, H - FOOT]} />
      )}
      {partsBetween(series).map((piece, i) => (
        <path key={i} d={path(piece) ?? ""} fill="none" className="stroke-stroke" strokeWidth="1.2" />
      ))}
      {pairs(points).map(([found, left]) => (
        <path
          key={left.id}
          data-pair-line
          d={`M${x(new Date(found.at))} ${y(found.value)}L${x(new Date(left.at))} ${y(left.value)}`}
          className="stroke-ink"
          strokeWidth="1.6"
          strokeDasharray="2 3"
        />
      ))}
      {points.map((point) => (
        <Finding
          key={point.id}
          point={point}
          outlier={series.trend?.outliers.includes(point.id) ?? false}
          disputed={series.trend?.disputed.includes(point.id) ?? false}
          message={series.unit_label}
          x={x(new Date(point.at))}
          y={y}
          open={() => void navigate(`/records/${point.id}`)}
        />
      ))}
    </svg>
  );
}

/** Findings between events; a line never runs through a knock or an adjustment. */
export function partsBetween(series: Series): Point[][] {
  const cuts = series.events
    .filter((event) => event.cuts)
    .map((e) => +new Date(e.at))
    .sort((a, b) => a - b);
  const groups = new Map<number, Point[]>();
  for (const point of series.points) {
    const key = cuts.filter((cut) => cut <= +new Date(point.at)).length;
    groups.set(key, [...(groups.get(key) ?? []), point]);
  }
  return [...groups.values()];
}

/** As found and as left of one adjustment. */
export function pairs(points: Point[]): [Point, Point][] {
  return points.flatMap((left) => {
    const found = points.find((point) => point.id === left.pair);
    return found ? [[found, left] as [Point, Point]] : [];
  });
}

/** The line through the findings since the last event, with its 95 percent bounds dotted. */
function TrendLine({
  trend,
  x,
  y,
  within: [top, foot],
}: {
  trend: NonNullable<Series["trend"]>;
  x: (at: string) => number;
  y: (value: number) => number;
  within: [number, number];
}) {
  const through = (of: "value" | "low" | "high") =>
    trend.line
      .map((point, i) => `${i ? "L" : "M"}${x(point.at)} ${Math.min(foot, Math.max(top, y(point[of])))}`)
      .join("");
  return (
    <g data-trend>
      <path d={through("low")} fill="none" className="stroke-ink" strokeWidth="1.4" strokeDasharray="1.5 4" />
      <path d={through("high")} fill="none" className="stroke-ink" strokeWidth="1.4" strokeDasharray="1.5 4" />
      <path d={through("value")} fill="none" className="stroke-ink" strokeWidth="2.6" />
    </g>
  );
}

/** About half as wide as a letter of a label. */
const HALF_LETTER_PX = 4.2;
const apart = (one: string, other: string): number => (one.length + other.length + 2) * HALF_LETTER_PX;

/** Events too close for a label each share one: "knock, adjusted". */
export function together(events: { x: number; word: string }[]): { x: number; word: string }[] {
  const rows: { x: number; word: string }[] = [];
  for (const each of [...events].sort((a, b) => a.x - b.x)) {
    const last = rows[rows.length - 1];
    if (!last || each.x - last.x > apart(last.word, each.word)) rows.push({ ...each });
    else if (!last.word.split(", ").includes(each.word)) last.word = `${last.word}, ${each.word}`;
  }
  return rows;
}

function Event({ x, word, width }: { x: number; word: string; width: number }) {
  return (
    <g data-event={word}>
      <path d={`M${x} ${TOP}V${H - FOOT + 8}`} className="stroke-ink" strokeWidth="1.2" strokeDasharray="3 3" />
      <path d={`M${x - 4} ${H - FOOT + 8}h8l-4 8z`} className="fill-ink" />
      <text
        x={Math.min(Math.max(x, LEFT + 60), width - RIGHT - 60)}
        y={TOP - 7}
        textAnchor="middle"
        fontSize="16"
        fontWeight="600"
        className="fill-ink"
      >
        {word}
      </text>
    </g>
  );
}

function Finding({
  point,
  outlier,
  disputed,
  message,
  x,
  y,
  open,
}: {
  point: Point;
  outlier: boolean;
  disputed: boolean;
  message: string;
  x: number;
  y: ScaleLinear<number, number>;
  open: () => void;
}) {
  const { session } = useHere();
  const label = `${day(point.at, session.time_zone)}, ${point.stage}, ${fixed(point.value, 1)} ${message}, plus or minus ${fixed(point.u95, 1)}`;
  return (
    <FindingMark
      point={point}
      label={disputed ? `${label}, contradicts another result` : label}
      open={point.stage === "as-left" || outlier}
      disputed={disputed}
      x={x}
      y={y}
      onOpen={open}
    />
  );
}
