// The site in plan, to scale: control points, the stand, a ray for each sight, and what does not fit, enlarged and said so.
import type { Plan } from "../../api/client";
import { useNarrow } from "../../hooks/useNarrow";

const WIDE = { W: 560, H: 480, EDGE: 84 };
const NARROW = { W: 360, H: 330, EDGE: 74 };
const STEPS = [1, 2, 5, 10, 20, 50, 100, 200, 500, 1000, 2000, 5000];
const MAX_ARROW = 46;
const FACTORS = [10, 20, 50, 100, 200, 500, 1000, 2000, 5000];

type At = { x: number; y: number };

export function PlanDrawing({ plan }: { plan: Plan }) {
  const { W, H, EDGE } = useNarrow() ? NARROW : WIDE;
  const shown = plan.points.filter((point) => point.used);
  const framed = shown.length >= 2 || plan.station ? shown : plan.points;
  const all = [...framed, ...(plan.station ? [plan.station] : [])];
  if (!all.length) return null;
  const east = all.map((each) => each.e_m);
  const north = all.map((each) => each.n_m);
  const wide = Math.max(...east) - Math.min(...east);
  const high = Math.max(...north) - Math.min(...north);
  const scale = Math.min((W - 2 * EDGE) / Math.max(wide, 4), (H - 2 * EDGE) / Math.max(high, 4));
  const mid = { e: (Math.max(...east) + Math.min(...east)) / 2, n: (Math.max(...north) + Math.min(...north)) / 2 };
  const at = (each: { e_m: number; n_m: number }): At => ({
    x: W / 2 + (each.e_m - mid.e) * scale,
    y: H / 2 - (each.n_m - mid.n) * scale,
  });
  const inside = plan.points.filter((point) => {
    const p = at(point);
    return point.used || (p.x > 14 && p.x < W - 14 && p.y > 14 && p.y < H - 30);
  });
  const stand = plan.station ? at(plan.station) : null;
  const sure = plan.ellipse?.longest_m ?? 0;
  const largest = Math.max(sure, ...plan.points.map((point) => Math.hypot(point.along_m ?? 0, point.across_m ?? 0)));
  const factor = [...FACTORS].reverse().find((each) => largest * each * scale <= MAX_ARROW) ?? 10;
  const bar = [...STEPS].reverse().find((each) => each * scale <= 150) ?? 1;
  const answer = `Plan of ${inside.length} control points${stand ? " and the station" : ""}. ${plan.points
    .filter((point) => point.suspect)
    .map((point) => `${point.name} is suspect.`)
    .join(" ")}`;
  return (
    <figure className="m-0">
      <svg viewBox={`0 0 ${W} ${H}`} className="block w-full" role="img" aria-label={answer}>
        {stand &&
          shown.map((each) => (
            <path
              key={each.name}
              d={`M${stand.x} ${stand.y}L${at(each).x} ${at(each).y}`}
              stroke="var(--color-stroke)"
              strokeWidth="1.6"
              strokeDasharray={each.suspect ? "3 6" : undefined}
            />
          ))}
        {stand &&
          largest > 0 &&
          shown.map((each) => (
            <Misfit key={each.name} from={at(each)} stand={stand} item={each} size={factor * scale} />
          ))}
        {inside.map((each) => (
          <DrawnPoint key={each.name} p={at(each)} item={each} away={stand} />
        ))}
        {stand && plan.ellipse && (
          <ellipse
            cx={stand.x}
            cy={stand.y}
            rx={Math.max(1, plan.ellipse.longest_m * factor * scale)}
            ry={Math.max(1, plan.ellipse.shortest_m * factor * scale)}
            transform={`rotate(${plan.ellipse.bearing_deg - 90} ${stand.x} ${stand.y})`}
            fill="none"
            stroke="var(--color-ink)"
            strokeWidth="1.6"
            strokeDasharray="6 4"
            data-ellipse
          />
        )}
        {stand && <Station at={stand} />}
        <path d={`M${W - 30} 58V20m-7 11l7 -12l7 12`} fill="none" stroke="var(--color-ink)" strokeWidth="2.4" />
        <path
          d={`M24 ${H - 18}v-8m0 4h${bar * scale}m0 -4v8`}
          fill="none"
          stroke="var(--color-ink)"
          strokeWidth="2.4"
        />
        <text x={34 + bar * scale} y={H - 16} fontSize="17" fill="var(--color-ink)">
          {bar} m
        </text>
      </svg>
      {stand && largest > 0 && (
        <figcaption className="sub px-4 pb-3">
          Residuals{plan.ellipse ? " and the 95 % ellipse of the station" : ""} are drawn {factor} times as large.
        </figcaption>
      )}
    </figure>
  );
}

function Station({ at }: { at: At }) {
  return (
    <g>
      <path
        d={`M${at.x} ${at.y - 13}l12 21h-24z`}
        fill="var(--color-card)"
        stroke="var(--color-ink)"
        strokeWidth="3"
        strokeLinejoin="round"
      />
      <circle cx={at.x} cy={at.y} r="2.5" fill="var(--color-ink)" />
    </g>
  );
}

type PlanPoint = Plan["points"][number];

/** Its name stands beyond it, seen from the stand: never on its own ray. What is not sighted is a dot among others. */
function DrawnPoint({ p, item, away }: { p: At; item: PlanPoint; away: At | null }) {
  const far = away ? Math.hypot(p.x - away.x, p.y - away.y) || 1 : 1;
  const out = away ? { x: (p.x - away.x) / far, y: (p.y - away.y) / far } : { x: 0.8, y: -0.6 };
  const reach = item.suspect || (item.along_m ?? 0) > 0 ? 26 : 16;
  const anchor = out.x > 0.35 ? "start" : out.x < -0.35 ? "end" : "middle";
  return (
    <g data-plan-point={item.name} data-suspect={item.suspect || undefined}>
      {item.used ? (
        <path
          d={`M${p.x - 8} ${p.y}h16M${p.x} ${p.y - 8}v16`}
          stroke="var(--color-ink)"
          strokeWidth={item.suspect ? 5 : 3}
        />
      ) : (
        <circle cx={p.x} cy={p.y} r="4" fill="none" stroke="var(--color-field)" strokeWidth="2" />
      )}
      {item.suspect && (
        <circle
          cx={p.x}
          cy={p.y}
          r="17"
          fill="none"
          stroke="var(--color-ink)"
          strokeWidth="2.4"
          strokeDasharray="5 4"
        />
      )}
      {item.used || !away ? (
        <text
          x={p.x + out.x * reach}
          y={p.y + out.y * (reach + 6) + 6}
          textAnchor={anchor}
          fontSize="19"
          fontWeight={item.used ? 700 : 400}
          fill="var(--color-ink)"
          // Clear of the ray to a point beyond it.
          stroke="var(--color-card)"
          strokeWidth="6"
          paintOrder="stroke"
          className="tag"
        >
          {item.name}
        </text>
      ) : (
        <title>{item.name}</title>
      )}
    </g>
  );
}

/** Along the ray outwards what was measured too long, across it clockwise what was read too large. */
function Misfit({ from, stand, item, size }: { from: At; stand: At; item: PlanPoint; size: number }) {
  const far = Math.hypot(from.x - stand.x, from.y - stand.y) || 1;
  const out = { x: (from.x - stand.x) / far, y: (from.y - stand.y) / far };
  const side = { x: -out.y, y: out.x };
  const along = (item.along_m ?? 0) * size;
  const across = (item.across_m ?? 0) * size;
  if (Math.hypot(along, across) < 1.5) return null;
  const to = { x: from.x + out.x * along + side.x * across, y: from.y + out.y * along + side.y * across };
  return (
    <g>
      <path d={`M${from.x} ${from.y}L${to.x} ${to.y}`} stroke="var(--color-ink)" strokeWidth="4.4" />
      <circle cx={to.x} cy={to.y} r="4.5" fill="var(--color-card)" stroke="var(--color-ink)" strokeWidth="2.4" />
    </g>
  );
}
