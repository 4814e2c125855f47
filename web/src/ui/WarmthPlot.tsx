// Findings against the temperature they were made at, with their uncertainty and the limit.
import { scaleLinear } from "d3-scale";
import { useNavigate } from "react-router";
import type { Series } from "../api/client";
import { fixed } from "../api/writing";
import { useNarrow } from "../hooks/useNarrow";
import { FindingMark, LimitBand, PLOT, reachOf } from "./plotParts";

const { height: H, left: LEFT, right: RIGHT, top: TOP, foot: FOOT } = PLOT;

export function WarmthPlot({ series }: { series: Series }) {
  const navigate = useNavigate();
  const W = useNarrow() ? PLOT.narrow : PLOT.wide;
  const points = series.points.flatMap((point) =>
    point.temperature_c === null ? [] : [{ ...point, celsius: point.temperature_c }],
  );
  if (points.length < 2)
    return (
      <p className="sub py-8">
        Fewer than two of these checks say at which temperature they were made. Enter it with the next one.
      </p>
    );
  const warmth = points.map((point) => point.celsius);
  const x = scaleLinear()
    .domain([Math.min(...warmth) - 1, Math.max(...warmth) + 1])
    .range([LEFT + 10, W - RIGHT - 10]);
  const most = reachOf(points);
  const y = scaleLinear()
    .domain([-most, most])
    .nice(4)
    .range([H - FOOT, TOP]);
  const limit = points.at(-1)?.use ?? 0;
  return (
    <svg
      viewBox={`0 0 ${W} ${H}`}
      className="block w-full"
      role="group"
      aria-label={`${points.length} findings against temperature`}
      data-warmth
    >
      <LimitBand y={y} limit={limit} width={W} unit={series.unit} />
      {x.ticks(6).map((tick) => (
        <text key={tick} x={x(tick)} y={H - 12} textAnchor="middle" fontSize="16" className="fill-ink-2">
          {tick < 0 ? `−${-tick}` : tick} °C
        </text>
      ))}
      {points.map((point) => (
        <FindingMark
          key={point.id}
          point={point}
          label={`${fixed(point.celsius, 0)} °C: ${fixed(point.value, 1)} ${series.unit_label}, plus or minus ${fixed(point.u95, 1)}`}
          open={point.stage === "as-left"}
          x={x(point.celsius)}
          y={y}
          onOpen={() => void navigate(`/records/${point.id}`)}
        />
      ))}
    </svg>
  );
}
