// Findings against the temperature they were made at, with their uncertainty and the limit.
import { scaleLinear } from "d3-scale";
import { useNavigate } from "react-router";
import type { Series } from "../api/client";
import { fixed } from "../api/writing";
import { useNarrow } from "../hooks/useNarrow";

const H = 250;
const LEFT = 78;
const RIGHT = 16;
const TOP = 22;
const FOOT = 44;

export function WarmthPlot({ series }: { series: Series }) {
  const navigate = useNavigate();
  const W = useNarrow() ? 400 : 760;
  const points = series.points.flatMap((point) => (point.temperature_c === null ? [] : [{ ...point, celsius: point.temperature_c }]));
  if (points.length < 2) return <p className="sub py-8">Fewer than two of these checks say at which temperature they were made. Enter it with the next one.</p>;
  const warmth = points.map((point) => point.celsius);
  const x = scaleLinear().domain([Math.min(...warmth) - 1, Math.max(...warmth) + 1]).range([LEFT + 10, W - RIGHT - 10]);
  const most = Math.max(...points.map((point) => Math.abs(point.value) + point.u95), ...points.map((point) => point.use * 1.25));
  const y = scaleLinear().domain([-most, most]).nice(4).range([H - FOOT, TOP]);
  const limit = points.at(-1)?.use ?? 0;
  return (
    <svg viewBox={`0 0 ${W} ${H}`} className="block w-full" role="group" aria-label={`${points.length} findings against temperature`} data-warmth>
      <rect x={LEFT} width={W - LEFT - RIGHT} y={y(limit)} height={y(-limit) - y(limit)} className="fill-band" opacity="0.55" />
      {[limit, -limit].map((each) => (
        <path key={each} d={`M${LEFT} ${y(each)}H${W - RIGHT}`} className="stroke-lichen" strokeWidth="2" />
      ))}
      <path d={`M${LEFT} ${y(0)}H${W - RIGHT}`} className="stroke-lichen" strokeWidth="0.8" />
      {y.ticks(5).map((tick) => (
        <text key={tick} x={LEFT - 8} y={y(tick) + 5} textAnchor="end" fontSize="16" className="fill-ink-2">
          {tick > 0 ? "+" : tick < 0 ? "−" : ""}
          {Math.abs(tick)}
          {series.unit}
        </text>
      ))}
      {x.ticks(6).map((tick) => (
        <text key={tick} x={x(tick)} y={H - 12} textAnchor="middle" fontSize="16" className="fill-ink-2">
          {tick < 0 ? `−${-tick}` : tick} °C
        </text>
      ))}
      {points.map((point) => (
        <g
          key={point.id}
          role="link"
          tabIndex={0}
          aria-label={`${fixed(point.celsius, 0)} °C: ${fixed(point.value, 1)} ${series.unit_label}, plus or minus ${fixed(point.u95, 1)}`}
          className="cursor-pointer"
          onClick={() => void navigate(`/records/${point.id}`)}
          onKeyDown={(event) => event.key === "Enter" && void navigate(`/records/${point.id}`)}
        >
          <rect x={x(point.celsius) - 12} y={y(point.value) - 16} width="24" height="32" fill="transparent" />
          <path d={`M${x(point.celsius)} ${y(point.value - point.u95)}V${y(point.value + point.u95)}`} className="stroke-ink" strokeWidth="1.6" />
          <rect x={x(point.celsius) - 6} y={y(point.value) - 2.6} width="12" height="5.2" className={point.stage === "as-left" ? "fill-card stroke-ink" : "fill-ink stroke-ink"} strokeWidth="1.4" />
        </g>
      ))}
    </svg>
  );
}
