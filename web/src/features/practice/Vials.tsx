// What shows level and mark: circular vial, plate vial, electronic level, plummet and bob, each as it is seen at the stand.
import { type PointerEvent, useState } from "react";
import { written } from "../../api/writing";
import type { Move, Seen } from "../../engine/practice";

const FIELD_MM = 15;
type Props = { seen: Seen; shows: string[]; onMove: (move: Move) => void };

export function Vials({ seen, shows, onMove }: Props) {
  return (
    <div className="grid content-start gap-3 max-desk:grid-cols-3 max-desk:items-center max-tab:gap-2 max-tab:[&_figcaption]:text-[14px] max-tab:[&_svg]:max-w-[112px]">
      {shows.includes("circular") && <Circular seen={seen} />}
      {shows.includes("plate") && <Plate seen={seen} />}
      {shows.includes("electronic") && <Electronic seen={seen} />}
      {(shows.includes("laser") || shows.includes("optical") || seen.bob) && (
        <Ground seen={seen} shows={shows} onMove={onMove} />
      )}
    </div>
  );
}

function Circular({ seen }: { seen: Seen }) {
  const r = 60;
  const bubble = 17;
  const scale = (r - bubble) / seen.wall_mm;
  const at = { x: seen.bubble_right_mm * scale, y: -seen.bubble_away_mm * scale };
  const inside = Math.hypot(seen.bubble_right_mm, seen.bubble_away_mm) <= seen.ring_mm;
  return (
    <figure className="m-0 text-center">
      <svg
        viewBox="-66 -66 132 132"
        className="mx-auto block w-full max-w-[190px]"
        role="img"
        aria-label={inside ? "The circular bubble is in its ring" : "The circular bubble is outside its ring"}
        data-bubble={inside ? "in" : "out"}
        data-at={`${seen.bubble_right_mm.toFixed(2)} ${seen.bubble_away_mm.toFixed(2)}`}
      >
        <circle r={r} fill="var(--color-input)" stroke="var(--color-ink)" strokeWidth="2.4" />
        <circle
          r={bubble + seen.ring_mm * scale}
          fill="none"
          stroke="var(--color-ink)"
          strokeWidth="1"
          strokeDasharray="4 3"
        />
        <circle cx={at.x} cy={at.y} r={bubble} fill="var(--color-stone)" stroke="var(--color-ink)" strokeWidth="1.8" />
        <path
          d={`M${at.x - 8} ${at.y - 8}a11 11 0 0 1 9 -4`}
          fill="none"
          stroke="var(--color-card)"
          strokeWidth="3"
          strokeLinecap="round"
        />
      </svg>
      <figcaption className="sub">Circular vial</figcaption>
    </figure>
  );
}

function Plate({ seen }: { seen: Seen }) {
  const half = 86;
  const per = (half - 26) / seen.plate_end_div;
  const at = (seen.plate_div ?? 0) * per;
  return (
    <figure className="m-0 text-center">
      <svg
        viewBox="-94 -24 188 48"
        className="mx-auto block w-full max-w-[280px]"
        role="img"
        aria-label="The plate vial"
        data-plate={(seen.plate_div ?? 0).toFixed(2)}
      >
        <rect
          x={-half}
          y="-17"
          width={2 * half}
          height="34"
          rx="15"
          fill="var(--color-input)"
          stroke="var(--color-ink)"
          strokeWidth="2"
        />
        <rect
          x={at - 24}
          y="-12"
          width="48"
          height="24"
          rx="12"
          fill="var(--color-stone)"
          stroke="var(--color-ink)"
          strokeWidth="1.6"
        />
        {[-4, -3, -2, 2, 3, 4].map((line) => (
          <path
            key={line}
            d={`M${line * per} ${Math.abs(line) === 2 ? -17 : -11}V${Math.abs(line) === 2 ? 17 : 11}`}
            stroke="var(--color-ink)"
            strokeWidth="1.1"
          />
        ))}
        <circle cx={half - 4} cy="0" r="2.4" fill="var(--color-ink)" />
      </svg>
      <figcaption className="sub">Plate vial; the dot is its end in the drawing</figcaption>
    </figure>
  );
}

function Electronic({ seen }: { seen: Seen }) {
  const figure = (value: number | null | undefined) =>
    value === null || value === undefined ? "—" : written(`${value < 0 ? "−" : "+"}${Math.abs(value).toFixed(0)}″`);
  return (
    <dl
      className="m-0 grid grid-cols-[auto_minmax(0,1fr)] content-center items-baseline gap-x-2 rounded-md border border-line px-2 py-2 max-tab:grid-cols-1 max-tab:[&_dd]:!text-left tab:px-3"
      data-level={seen.level_lost ? "lost" : "on"}
    >
      <dt className="sub">along</dt>
      <dd className="m-0 text-right font-mono text-[18px] tab:text-[22px]" data-along>
        {figure(seen.along_arcsec)}
      </dd>
      <dt className="sub">across</dt>
      <dd className="m-0 text-right font-mono text-[18px] tab:text-[22px]" data-across>
        {figure(seen.across_arcsec)}
      </dd>
      <dd className="sub m-0 max-tab:text-[14px] tab:col-span-2">
        {seen.level_lost
          ? "Electronic level off: too far out of level."
          : seen.along_arcsec === null
            ? "Out of its range."
            : "Electronic level"}
      </dd>
    </dl>
  );
}

/** The ground under the instrument: the mark in the middle, and where plummet or bob points. */
function Ground({ seen, shows, onMove }: Props) {
  const [eye, setEye] = useState({ x: 0, y: 0 });
  const { optical } = seen;
  const spot = seen.spot ?? seen.bob;
  const far = spot ? Math.hypot(spot[0], spot[1]) : 0;
  const scale = 60 / FIELD_MM;
  const parallax = (optical?.parallax_mm ?? 0) * scale;
  const inField = spot && far <= FIELD_MM;
  const look = (event: PointerEvent<SVGSVGElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    setEye({
      x: ((event.clientX - box.left) / box.width - 0.5) * 2,
      y: ((event.clientY - box.top) / box.height - 0.5) * 2,
    });
  };
  const name = shows.includes("laser") ? "Laser plummet" : shows.includes("optical") ? "Optical plummet" : "Plumb bob";
  return (
    <figure className="m-0 text-center">
      <svg
        viewBox="-66 -66 132 132"
        className="mx-auto block w-full max-w-[190px] touch-none"
        role="img"
        aria-label={`${name}: ${spot ? `${far.toFixed(0)} mm off the mark` : "nothing to see"}`}
        data-spot={spot ? spot.map((each) => each.toFixed(2)).join(" ") : ""}
        onPointerMove={look}
        onPointerLeave={() => setEye({ x: 0, y: 0 })}
      >
        <defs>
          <filter id="ground-blur">
            <feGaussianBlur stdDeviation={(optical?.ground_blur ?? 0) * 9} />
          </filter>
          <filter id="index-blur">
            <feGaussianBlur stdDeviation={(optical?.index_blur ?? 0) * 6} />
          </filter>
        </defs>
        <circle r="60" fill="var(--color-input)" stroke="var(--color-ink)" strokeWidth="2.4" />
        <g filter={optical ? "url(#ground-blur)" : undefined}>
          <circle r="7" fill="none" stroke="var(--color-ink)" strokeWidth="2" />
          <circle r="1.6" fill="var(--color-ink)" />
          <circle r={5 * scale} fill="none" stroke="var(--color-line)" strokeWidth="1" />
        </g>
        {inField && (
          <g
            transform={`translate(${spot[0] * scale + eye.x * parallax} ${-spot[1] * scale + eye.y * parallax})`}
            filter={optical ? "url(#index-blur)" : undefined}
          >
            {optical ? (
              <path d="M-9 0H9M0 -9V9" stroke="var(--color-coral)" strokeWidth="1.8" />
            ) : (
              <circle r="4" fill="var(--color-coral)" />
            )}
          </g>
        )}
        {spot && !inField && (
          <path
            d="M0 -52l9 15h-18z"
            fill="var(--color-coral)"
            transform={`rotate(${(Math.atan2(spot[0], spot[1]) * 180) / Math.PI})`}
          />
        )}
      </svg>
      <figcaption className="sub">
        {name}
        {seen.plummet_off ? ": off, too far out of level" : spot && !inField ? `: ${far.toFixed(0)} mm off` : ""}
      </figcaption>
      {shows.includes("laser") && !seen.laser_on && (
        <button className="btn !min-h-[44px]" onClick={() => onMove({ do: "laser" })}>
          Switch laser on
        </button>
      )}
    </figure>
  );
}

/** The two focuses of an optical plummet. */
export function Focus({ onMove }: { onMove: Props["onMove"] }) {
  return (
    <div className="grid gap-x-4 gap-y-1 max-desk:grid-cols-2">
      {(["focus-index", "focus-ground"] as const).map((each) => (
        <label key={each} className="sub grid grid-cols-[60px_minmax(0,1fr)] items-center gap-2">
          {each === "focus-index" ? "Index" : "Ground"}
          <input
            type="range"
            min="0"
            max="100"
            defaultValue={each === "focus-index" ? 10 : 90}
            className="h-[32px] w-full accent-[var(--color-ink)]"
            aria-label={each === "focus-index" ? "Focus on the index" : "Focus on the ground"}
            onChange={(event) => onMove({ do: each, share: Number(event.target.value) / 100 })}
          />
        </label>
      ))}
    </div>
  );
}
