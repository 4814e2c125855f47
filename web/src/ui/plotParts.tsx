// What plots of findings have in common: their size, the band within the limit with its scale, one finding with its whisker.
import type { ScaleLinear } from "d3-scale";
import type { Series } from "../api/client";

export const PLOT = { wide: 760, narrow: 400, height: 250, left: 78, right: 16, top: 22, foot: 44 };
type Y = ScaleLinear<number, number>;
type Point = Series["points"][number];

/** The limit as a band about zero, and the scale on the left in the unit of the series. */
export function LimitBand({ y, limit, width, unit }: { y: Y; limit: number; width: number; unit: string }) {
  const { left, right } = PLOT;
  return (
    <>
      <rect
        x={left}
        width={width - left - right}
        y={y(limit)}
        height={y(-limit) - y(limit)}
        className="fill-band"
        opacity="0.55"
      />
      {[limit, -limit].map((each) => (
        <path key={each} d={`M${left} ${y(each)}H${width - right}`} className="stroke-lichen" strokeWidth="2" />
      ))}
      <path d={`M${left} ${y(0)}H${width - right}`} className="stroke-lichen" strokeWidth="0.8" />
      {y.ticks(5).map((tick) => (
        <text key={tick} x={left - 8} y={y(tick) + 5} textAnchor="end" fontSize="16" className="fill-ink-2">
          {tick > 0 ? "+" : tick < 0 ? "−" : ""}
          {Math.abs(tick)}
          {unit}
        </text>
      ))}
    </>
  );
}

/** How far the plot reaches on either side of zero. */
export const reachOf = (points: Point[]): number =>
  Math.max(...points.map((point) => Math.abs(point.value) + point.u95), ...points.map((point) => point.use * 1.25));

/**
 * A finding with its uncertainty; open where it was left so, or lies beside the others; between brackets where it
 * contradicts another. Touch or Enter opens its record.
 */
export function FindingMark({
  point,
  label,
  open,
  disputed = false,
  x,
  y,
  onOpen,
}: {
  point: Point;
  label: string;
  open: boolean;
  disputed?: boolean;
  x: number;
  y: Y;
  onOpen: () => void;
}) {
  return (
    <g
      role="link"
      tabIndex={0}
      aria-label={label}
      className="cursor-pointer"
      onClick={onOpen}
      onKeyDown={(event) => event.key === "Enter" && onOpen()}
      data-stage={point.stage}
      data-disputed={disputed || undefined}
    >
      {disputed && (
        <path
          d={`M${x - 9} ${y(point.value) - 11}h-4v22h4M${x + 9} ${y(point.value) - 11}h4v22h-4`}
          fill="none"
          className="stroke-coral"
          strokeWidth="2.2"
        />
      )}
      <rect x={x - 12} y={y(point.value) - 16} width="24" height="32" fill="transparent" />
      <path
        d={`M${x} ${y(point.value - point.u95)}V${y(point.value + point.u95)}`}
        className="stroke-ink"
        strokeWidth="1.6"
      />
      <rect
        x={x - 6}
        y={y(point.value) - 2.6}
        width="12"
        height="5.2"
        className={open ? "fill-card stroke-ink" : "fill-ink stroke-ink"}
        strokeWidth="1.4"
      />
    </g>
  );
}
