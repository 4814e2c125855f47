// The way taken, gesture by gesture, beside the shortest: where the axis met the ground, and how far it was out of plumb.
import { scaleLinear, scaleSymlog } from "d3-scale";
import { useEffect, useState } from "react";
import type { Gesture, Judged } from "../../engine/practice";
import { clockOf } from "./clock";
import { after } from "../../timers";

const SIDE = 320;
const W = 560;
const H = 200;
const NAMES: Record<string, string> = {
  carry: "Tripod carried",
  foot: "Foot moved",
  press: "Foot pressed in",
  leg: "Leg changed",
  open: "Clamp opened",
  close: "Clamp closed",
  screws: "Foot screws",
  slide: "Tribrach slid",
  heading: "Turned round",
};
type Point = { axis_mm: number[]; tilt_arcsec: number[] };
const size = (pair: number[]): number => Math.hypot(pair[0] ?? 0, pair[1] ?? 0);

export function Replay({
  gestures,
  start,
  shortest,
}: {
  gestures: Gesture[];
  start: Point;
  shortest: Judged["shortest"];
}) {
  const [at, setAt] = useState(gestures.length - 1);
  const [playing, setPlaying] = useState(false);
  useEffect(() => {
    if (!playing) return;
    return after("replayStep", () => {
      setAt(at + 1);
      if (at + 2 >= gestures.length) setPlaying(false);
    });
  }, [playing, at, gestures.length]);
  const here = gestures[at];
  const play = () => {
    if (at >= gestures.length - 1) setAt(0);
    setPlaying(!playing && gestures.length > 1);
  };
  return (
    <div className="grid gap-3" data-replay={at + 1}>
      <h2>The way taken, beside the shortest (dashed)</h2>
      <div className="grid items-start gap-4 tab:grid-cols-[minmax(0,4fr)_minmax(0,6fr)]">
        <Plan taken={[start, ...gestures.slice(0, at + 1)]} whole={gestures} shortest={[start, ...shortest]} />
        <Tilt taken={[start, ...gestures]} shortest={[start, ...shortest]} at={at + 1} />
      </div>
      <div className="no-print flex flex-wrap items-center gap-3">
        <button className="btn" onClick={play}>
          {playing ? "Stop" : "Play"}
        </button>
        <input
          type="range"
          className="h-[44px] min-w-[180px] flex-1 accent-[var(--color-ink)]"
          min="0"
          max={Math.max(0, gestures.length - 1)}
          value={at}
          aria-label="Gesture"
          onChange={(event) => setAt(Number(event.target.value))}
        />
        <span className="min-w-[220px]" role="status">
          {here
            ? `${at + 1} of ${gestures.length}, ${clockOf(here.seconds)}: ${NAMES[here.do] ?? here.do}${here.part ? ` ${here.part}` : ""}`
            : ""}
        </span>
      </div>
    </div>
  );
}

function Plan({ taken, whole, shortest }: { taken: Point[]; whole: Point[]; shortest: Point[] }) {
  const most = Math.max(3, ...[...whole, ...shortest].map((point) => size(point.axis_mm))) * 1.1;
  const scale = scaleLinear()
    .domain([-most, most])
    .range([8, SIDE - 8]);
  const path = (points: Point[]) =>
    points
      .map(
        (point, i) =>
          `${i ? "L" : "M"}${scale(point.axis_mm[0] ?? 0).toFixed(1)} ${scale(-(point.axis_mm[1] ?? 0)).toFixed(1)}`,
      )
      .join("");
  const last = taken.at(-1);
  const ring = most > 40 ? 25 : most > 12 ? 10 : 2;
  return (
    <figure className="m-0">
      <svg
        viewBox={`0 0 ${SIDE} ${SIDE}`}
        className="block w-full"
        role="img"
        aria-label="Where the axis met the ground"
      >
        <circle
          cx={SIDE / 2}
          cy={SIDE / 2}
          r={scale(ring) - scale(0)}
          fill="none"
          stroke="var(--color-line)"
          strokeWidth="1.5"
        />
        <text x={SIDE / 2 + scale(ring) - scale(0) + 4} y={SIDE / 2 - 4} fontSize="15" fill="var(--color-ink-2)">
          {ring} mm
        </text>
        <circle cx={SIDE / 2} cy={SIDE / 2} r="4.5" fill="none" stroke="var(--color-ink)" strokeWidth="2" />
        <path d={path(shortest)} fill="none" stroke="var(--color-ink)" strokeWidth="1.6" strokeDasharray="5 5" />
        <path d={path(taken)} fill="none" stroke="var(--color-ink)" strokeWidth="2.4" strokeLinejoin="round" />
        {last && (
          <circle
            cx={scale(last.axis_mm[0] ?? 0)}
            cy={scale(-(last.axis_mm[1] ?? 0))}
            r="6"
            fill="var(--color-coral)"
          />
        )}
      </svg>
      <figcaption className="sub">Where the axis met the ground; the mark in the middle</figcaption>
    </figure>
  );
}

function Tilt({ taken, shortest, at }: { taken: Point[]; shortest: Point[]; at: number }) {
  const most = Math.max(60, ...[...taken, ...shortest].map((point) => size(point.tilt_arcsec)));
  const x = scaleLinear()
    .domain([0, Math.max(1, taken.length - 1, shortest.length - 1)])
    .range([46, W - 8]);
  const y = scaleSymlog()
    .constant(20)
    .domain([0, most])
    .range([H - 26, 8]);
  const path = (points: Point[]) =>
    points.map((point, i) => `${i ? "L" : "M"}${x(i).toFixed(1)} ${y(size(point.tilt_arcsec)).toFixed(1)}`).join("");
  const lines = [10, 60, 600, 3600].filter((value) => value <= most);
  return (
    <figure className="m-0">
      <svg
        viewBox={`0 0 ${W} ${H}`}
        className="block w-full"
        role="img"
        aria-label="How far the axis was out of plumb after each gesture"
      >
        {lines.map((value) => (
          <g key={value}>
            <path d={`M46 ${y(value)}H${W - 8}`} stroke="var(--color-line)" strokeWidth="1" />
            <text x="40" y={y(value) + 5} textAnchor="end" fontSize="15" fill="var(--color-ink-2)">
              {value < 60 ? `${value}″` : value < 3600 ? `${value / 60}′` : "1°"}
            </text>
          </g>
        ))}
        <path d={`M46 ${H - 26}H${W - 8}`} stroke="var(--color-ink)" strokeWidth="1.4" />
        <path d={path(shortest)} fill="none" stroke="var(--color-ink)" strokeWidth="1.6" strokeDasharray="5 5" />
        <path d={path(taken)} fill="none" stroke="var(--color-ink)" strokeWidth="2.4" strokeLinejoin="round" />
        {taken[at] && <circle cx={x(at)} cy={y(size(taken[at].tilt_arcsec))} r="6" fill="var(--color-coral)" />}
        <text x={W - 8} y={H - 6} textAnchor="end" fontSize="15" fill="var(--color-ink-2)">
          gestures
        </text>
      </svg>
      <figcaption className="sub">How far the axis was out of plumb after each gesture</figcaption>
    </figure>
  );
}
