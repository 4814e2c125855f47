// The site in plan: ground, legs with their clamps, what is to be moved at double weight, the mark, the spot, the person.
import type { Guide } from "../../api/client";
import { at } from "./plan";

type Site = Guide["site"];
const SIZE = 520;
const C = { x: SIZE / 2, y: SIZE / 2 - 10 };
const REACH = 178;
const HEAD = 46;

export function SiteDrawing({ site, onTurn }: { site: Site; onTurn: () => void }) {
  const stand = site.stand_bearing_deg;
  const longest = Math.max(...site.legs.map((leg) => Math.hypot(leg.x_m, leg.y_m)));
  const label = `The tripod from above. You stand ${site.you}. ${site.legs
    .filter((leg) => leg.moves)
    .map((each) => `Leg ${each.leg} is to be moved.`)
    .join(" ")}`;
  return (
    <figure className="m-0 grid max-tab:grid-cols-[minmax(0,220px)_minmax(0,1fr)] max-tab:items-center">
      <svg viewBox={`0 0 ${SIZE} ${SIZE}`} className="block w-full" role="img" aria-label={label}>
        <defs>
          <pattern id="ground" width="9" height="9" patternUnits="userSpaceOnUse" patternTransform="rotate(35)">
            <path d="M0 0v9" stroke="var(--color-line)" strokeWidth="1.3" />
          </pattern>
        </defs>
        <rect width={SIZE} height={SIZE} fill="url(#ground)" />
        {site.legs.map((leg) => (
          <Leg key={leg.leg} leg={leg} stand={stand} reach={(REACH * Math.hypot(leg.x_m, leg.y_m)) / longest} />
        ))}
        <circle cx={C.x} cy={C.y} r={HEAD} fill="var(--color-card)" stroke="var(--color-ink)" strokeWidth="2" />
        {site.screws.map((each) => (
          <Screw key={each.screw} screw={each} stand={stand} />
        ))}
        {site.over_point && <Mark site={site} />}
        <path d={`M${C.x - 38} ${SIZE - 34}q38 -26 76 0`} fill="none" stroke="var(--color-ink)" strokeWidth="3" />
      </svg>
      <figcaption className="flex flex-wrap items-center justify-between gap-2 px-4 pb-2 max-tab:px-3">
        <span className="font-semibold">You: {site.you}</span>
        <button className="btn" onClick={onTurn}>
          I stand elsewhere
        </button>
      </figcaption>
    </figure>
  );
}

function Leg({ leg, stand, reach }: { leg: Site["legs"][number]; stand: number; reach: number }) {
  const from = at(C, leg.bearing_deg, stand, HEAD);
  const clamp = at(C, leg.bearing_deg, stand, HEAD + (reach - HEAD) * 0.5);
  const foot = at(C, leg.bearing_deg, stand, reach);
  const name = at(C, leg.bearing_deg, stand, reach + 26);
  const note = at({ x: clamp.x, y: clamp.y - 12 }, leg.bearing_deg + 90, stand, 30);
  const heavy = leg.moves;
  const across = Math.atan2(foot.y - from.y, foot.x - from.x);
  const side = { x: -Math.sin(across), y: Math.cos(across) };
  const hull = [
    `${from.x + side.x * 8},${from.y + side.y * 8}`,
    `${foot.x + side.x * 4},${foot.y + side.y * 4}`,
    `${foot.x - side.x * 4},${foot.y - side.y * 4}`,
    `${from.x - side.x * 8},${from.y - side.y * 8}`,
  ].join(" ");
  return (
    <g data-leg={leg.leg} data-moves={heavy || undefined}>
      <polygon points={hull} fill="var(--color-card)" stroke="var(--color-ink)" strokeWidth={heavy ? 4.4 : 2} />
      <rect
        x={clamp.x - 10}
        y={clamp.y - 15}
        width="20"
        height="30"
        transform={`rotate(${(across * 180) / Math.PI} ${clamp.x} ${clamp.y})`}
        fill={leg.first ? "var(--color-ink)" : "var(--color-card)"}
        stroke="var(--color-ink)"
        strokeWidth="2"
      />
      <circle cx={foot.x} cy={foot.y} r="6" fill="var(--color-ink)" />
      <text
        x={name.x}
        y={name.y + 10}
        textAnchor="middle"
        fontSize="30"
        fontWeight={heavy ? 700 : 600}
        fill="var(--color-ink)"
      >
        {leg.leg}
      </text>
      {leg.left_mm !== null && (
        <text x={note.x} y={note.y} textAnchor="middle" fontSize="25" fill="var(--color-ink-2)">
          {leg.left_mm} mm left
        </text>
      )}
    </g>
  );
}

function Screw({ screw, stand }: { screw: Site["screws"][number]; stand: number }) {
  const p = at(C, screw.bearing_deg, stand, HEAD + 2);
  const turns = screw.turns ?? 0;
  const moved = Math.abs(turns) >= 0.01;
  return (
    <g data-screw={screw.screw}>
      <circle
        cx={p.x}
        cy={p.y}
        r="18"
        fill="var(--color-card)"
        stroke="var(--color-ink)"
        strokeWidth={moved ? 4.4 : 2}
      />
      {moved && (
        <path d={turns > 0 ? arc(p, 25, 1) : arc(p, 25, 0)} fill="none" stroke="var(--color-ink)" strokeWidth="3" />
      )}
      <text x={p.x} y={p.y + 8} textAnchor="middle" fontSize="23" fontWeight="600" fill="var(--color-ink)">
        {screw.screw}
      </text>
    </g>
  );
}

/** Three quarters of a turn round a screw, with an open head: clockwise or against it. */
function arc(p: { x: number; y: number }, r: number, clockwise: 0 | 1): string {
  const end = clockwise ? { x: p.x - r, y: p.y } : { x: p.x + r, y: p.y };
  return `M${p.x} ${p.y - r}A${r} ${r} 0 1 ${clockwise} ${end.x} ${end.y}m-7 5l7 -8l7 8`;
}

/** The nail in the middle, and where the plummet points, exaggerated so that a millimetre can be seen. */
function Mark({ site }: { site: Site }) {
  const spot = site.spot;
  const far = spot ? Math.min(HEAD - 8, 8 + spot.distance_mm * 1.6) : 0;
  const p = spot && spot.distance_mm > 0.2 ? at(C, spot.bearing_deg, site.stand_bearing_deg, far) : null;
  return (
    <g>
      <circle cx={C.x} cy={C.y} r="4.5" fill="none" stroke="var(--color-ink)" strokeWidth="2" />
      {p && <circle cx={p.x} cy={p.y} r="4" fill="var(--color-ink)" />}
    </g>
  );
}
