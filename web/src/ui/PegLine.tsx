// The peg line to scale: pegs, set-ups and sight lines; the slope of the sights exaggerated, by how much is stated.
import { written } from "../api/writing";
import { useEffect, useRef, useState } from "react";
import type { Picture } from "../api/client";

type Setup = Picture["setups"][number];
type Staff = Setup["a"];

const TOP = 34;
const FOOT = 46;
const ERROR_PX = 34;
/** No slope is drawn steeper than this: an error of nothing must not look like one. */
const MAX_TIMES = 3000;

function useWidth(): [React.RefObject<HTMLDivElement | null>, number] {
  const ref = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(900);
  useEffect(() => {
    if (!ref.current || typeof ResizeObserver === "undefined") return;
    const watcher = new ResizeObserver(([entry]) => entry && setWidth(Math.max(280, entry.contentRect.width)));
    watcher.observe(ref.current);
    return () => watcher.disconnect();
  }, []);
  return [ref, width];
}

/** Scales of a picture: metres to pixels along and up, and how many times too steep the sights are drawn. */
export function scales(picture: Picture, width: number, height: number) {
  const xs = [...picture.pegs.map((p) => p.x_m), ...picture.setups.map((s) => s.x_m)];
  const [left, right] = [Math.min(...xs), Math.max(...xs)];
  const pad = width < 500 ? 34 : 74;
  const perMetre = (width - 2 * pad) / Math.max(right - left, 1);
  const x = (m: number) => pad + (m - left) * perMetre;
  const heights = picture.pegs.map((p) => p.height_m);
  const lines = picture.setups.map((s) => s.line_height_m ?? 1.6);
  const low = Math.min(...heights, 0);
  const high = Math.max(...lines, low + 1.6) + 0.8;
  const y = (m: number) => TOP + ((high - m) / (high - low)) * (height - TOP - FOOT);
  const errors = picture.setups
    .flatMap((s) => [s.a, s.b])
    .map((s) => (s.error_m && s.distance_m ? { error: Math.abs(s.error_m), distance: s.distance_m } : null));
  const largest = errors.reduce((most, each) => (each && each.error > (most?.error ?? 0) ? each : most), null);
  const wanted = largest ? ERROR_PX / (largest.distance * perMetre) / (largest.error / largest.distance) : 0;
  const times = Math.min(wanted, MAX_TIMES);
  /** Pixels upward for an error at its distance: its true slope, so many times too steep. */
  const rise = (error: number, distance: number) => (error / distance) * times * distance * perMetre;
  return { x, y, rise, times, pad };
}

function round2(value: number): number {
  const power = 10 ** (Math.floor(Math.log10(value)) - 1);
  return Math.round(value / power) * power;
}

/** The drawing; grows with each reading. */
export function PegLine({ picture, height = 206 }: { picture: Picture | null; height?: number }) {
  const [ref, width] = useWidth();
  const drawn = picture && picture.baseline_m !== null ? picture : null;
  return (
    <div ref={ref} data-drawing="peg-line">
      {drawn ? (
        <Drawing picture={drawn} width={width} height={height} />
      ) : (
        <p className="sub py-10 text-center">The drawing appears with the first two distances.</p>
      )}
    </div>
  );
}

function Drawing({ picture, width, height }: { picture: Picture; width: number; height: number }) {
  const s = scales(picture, width, height);
  const last = picture.setups.length - 1;
  const answer = longest(picture);
  return (
    <figure className="m-0">
      <svg
        viewBox={`0 0 ${width} ${height}`}
        width={width}
        height={height}
        role="img"
        aria-label={in_words(picture)}
        className="block w-full"
      >
        <Ground picture={picture} x={s.x} y={s.y} width={width} />
        {picture.pegs.map((peg) => (
          <StaffRod key={peg.name} name={peg.name} x={s.x(peg.x_m)} foot={s.y(peg.height_m)} top={TOP} />
        ))}
        {picture.setups.map((setup, i) => (
          <SetupDrawing
            key={setup.index}
            setup={setup}
            picture={picture}
            s={s}
            now={i === last}
            height={height}
            row={picture.setups.length > 2 ? i % 2 : 0}
          />
        ))}
        {answer && (
          <text
            x={answer.onA ? s.x(0) + 16 : s.x(picture.baseline_m ?? 0) - 16}
            y={20}
            textAnchor={answer.onA ? "start" : "end"}
            fontSize="17"
            fontWeight="700"
            className="fill-ink"
          >
            {answer.text}
          </text>
        )}
      </svg>
      <figcaption className="sub text-[16px] px-1 pb-1">
        {s.times > 0
          ? `Slope of the sights drawn about ${round2(s.times)} times too steep; the dotted line is level.`
          : picture.setups.some((setup) => setup.line_height_m !== null)
            ? written("Distances to scale. The slope of the sights shows once every staff is read.")
            : "Distances to scale. The sights appear with the readings."}
      </figcaption>
    </figure>
  );
}

function in_words(picture: Picture): string {
  const answer = longest(picture);
  return `Two-peg layout, ${picture.setups.length} set-ups drawn${answer ? `: ${answer.text}` : ""}`;
}

function longest(picture: Picture): { text: string; onA: boolean } | null {
  const last = picture.setups[picture.setups.length - 1];
  if (!last) return null;
  const onA = (last.a.distance_m ?? 0) >= (last.b.distance_m ?? 0);
  const staff = onA ? last.a : last.b;
  return staff.error_text ? { text: staff.error_text, onA } : null;
}

function Ground({
  picture,
  x,
  y,
  width,
}: {
  picture: Picture;
  x: (m: number) => number;
  y: (m: number) => number;
  width: number;
}) {
  const [a, b] = picture.pegs;
  if (!a || !b) return null;
  const line = `M0 ${y(a.height_m)}H${x(a.x_m)}L${x(b.x_m)} ${y(b.height_m)}H${width}`;
  return (
    <g>
      <defs>
        <pattern id="earth" width="8" height="8" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <path d="M0 0v8" className="stroke-field" strokeWidth="1.1" />
        </pattern>
      </defs>
      <path d={`${line}v14H${x(b.x_m)}L${x(a.x_m)} ${y(a.height_m) + 14}H0Z`} fill="url(#earth)" />
      <path d={line} fill="none" className="stroke-ink" strokeWidth="2" />
    </g>
  );
}

function StaffRod({ name, x, foot, top }: { name: string; x: number; foot: number; top: number }) {
  const marks = [];
  for (let y = foot - 18; y > top + 6; y -= 16) marks.push(`M${x - 4} ${y}h8v8h-8z`);
  return (
    <g>
      <path d={`M${x - 4} ${foot}V${top}h8V${foot}z`} className="fill-card stroke-ink" strokeWidth="1.8" />
      <path d={marks.join("")} className="fill-ink" />
      <text x={x} y={20} textAnchor="middle" fontSize="18" fontWeight="700" className="fill-ink">
        {name}
      </text>
    </g>
  );
}

type Scales = ReturnType<typeof scales>;

function SetupDrawing({
  setup,
  picture,
  s,
  now,
  height,
  row,
}: {
  setup: Setup;
  picture: Picture;
  s: Scales;
  now: boolean;
  height: number;
  row: number;
}) {
  const [a, b] = picture.pegs;
  if (!a || !b) return null;
  const x = s.x(setup.x_m);
  const ground = s.y(
    a.height_m + ((b.height_m - a.height_m) * clamp(setup.x_m - a.x_m, b.x_m - a.x_m)) / (b.x_m - a.x_m),
  );
  const read = setup.line_height_m !== null;
  const y = read ? s.y(setup.line_height_m as number) : ground - 78;
  const tone = now ? "stroke-sea" : "stroke-stroke";
  return (
    <g data-setup={setup.index}>
      <path
        d={`M${x} ${y + 6}L${x - 18} ${ground}M${x} ${y + 6}L${x + 18} ${ground}M${x} ${y + 6}V${ground}`}
        className={tone}
        strokeWidth="2"
        fill="none"
      />
      {read && <Sight staff={setup.a} from={[x, y]} to={s.x(a.x_m)} s={s} now={now} />}
      {read && <Sight staff={setup.b} from={[x, y]} to={s.x(b.x_m)} s={s} now={now} />}
      <rect x={x - 14} y={y - 7} width="28" height="14" rx="3" className={now ? "fill-sea" : "fill-stroke"} />
      <text
        x={Math.min(Math.max(x, 52), s.x(Math.max(b.x_m, setup.x_m)) + 20)}
        y={height - 8 - 18 * row}
        textAnchor="middle"
        fontSize="16"
        className={now ? "fill-sea" : "fill-ink-2"}
        fontWeight={now ? 600 : 400}
      >
        {setup.label}
      </text>
    </g>
  );
}

function clamp(value: number, high: number): number {
  return Math.max(0, Math.min(high, value));
}

function Sight({
  staff,
  from: [x, y],
  to,
  s,
  now,
}: {
  staff: Staff;
  from: [number, number];
  to: number;
  s: Scales;
  now: boolean;
}) {
  if (staff.read_m === null || staff.distance_m === null) return null;
  const up = staff.error_m === null ? 0 : s.rise(staff.error_m, staff.distance_m);
  return (
    <g fill="none" className={now ? "stroke-sea" : "stroke-stroke"}>
      {now && staff.error_m !== null && <path d={`M${x} ${y}H${to}`} strokeWidth="1.3" strokeDasharray="2 4" />}
      <path d={`M${x} ${y}L${to} ${y - up}`} strokeWidth={now ? 2.6 : 2} strokeDasharray={now ? undefined : "7 5"} />
      {now && Math.abs(up) > 6 && (
        <path
          d={`M${to + (to < x ? -10 : 10)} ${y - up}v${up}m-5 0h10m-10 ${-up}h10`}
          className="stroke-ink"
          strokeWidth="1.8"
        />
      )}
    </g>
  );
}
