// The tripod from above, to the millimetre: feet are dragged, the head carries the whole tripod with it.
import type { Move, Seen } from "../../engine/practice";
import { useDrag } from "./useDrag";

const HALF = 820;
const HEAD = 120;
type Props = {
  seen: Seen;
  can: string[];
  onMove: (move: Move) => void;
  onEnd: (what: { do: string; part: string }) => void;
};

export function TripodPlan({ seen, can, onMove, onEnd }: Props) {
  const carry = useDrag({
    onStep: ({ x, y }) => onMove({ do: "carry", right_mm: x, away_mm: -y }),
    onEnd: () => onEnd({ do: "carry", part: "" }),
    keys: [10, 1],
  });
  const head = { x: seen.head_right_mm, y: -seen.head_away_mm };
  return (
    <svg
      viewBox={`${-HALF} ${-HALF} ${2 * HALF} ${2 * HALF}`}
      className="block w-full select-none"
      role="group"
      aria-label="The tripod from above"
    >
      <defs>
        <pattern id="soil" width="28" height="28" patternUnits="userSpaceOnUse" patternTransform="rotate(35)">
          <path d="M0 0v28" stroke="var(--color-line)" strokeWidth="4" />
        </pattern>
      </defs>
      <rect x={-HALF} y={-HALF} width={2 * HALF} height={2 * HALF} fill="url(#soil)" />
      <path d={`M-120 ${HALF - 40}q120 -80 240 0`} fill="none" stroke="var(--color-ink)" strokeWidth="9" />
      <text x="0" y={HALF - 90} textAnchor="middle" fontSize="52" fill="var(--color-ink-2)">
        you
      </text>
      {seen.legs.map((leg) => (
        <Leg key={leg.leg} leg={leg} can={can} onMove={onMove} onEnd={onEnd} />
      ))}
      <circle
        cx={head.x}
        cy={head.y}
        r={HEAD}
        fill="var(--color-card)"
        stroke="var(--color-ink)"
        strokeWidth="7"
        fillOpacity="0.85"
      />
      {can.includes("carry") && (
        <circle
          cx={head.x}
          cy={head.y}
          r={HEAD}
          fill="transparent"
          role="button"
          aria-label="Carry the whole tripod: drag, or use the arrow keys"
          data-carry
          {...carry}
        />
      )}
      <circle r="13" fill="none" stroke="var(--color-ink)" strokeWidth="6" pointerEvents="none" />
      <circle r="3.5" fill="var(--color-ink)" pointerEvents="none" />
    </svg>
  );
}

function Leg({
  leg,
  can,
  onMove,
  onEnd,
}: {
  leg: Seen["legs"][number];
  can: string[];
  onMove: Props["onMove"];
  onEnd: Props["onEnd"];
}) {
  const drag = useDrag({
    onStep: ({ x, y }) => onMove({ do: "foot", leg: leg.leg, right_mm: x, away_mm: -y }),
    onEnd: () => onEnd({ do: "foot", part: leg.leg }),
    keys: [10, 2],
  });
  const foot = { x: leg.right_mm, y: -leg.away_mm };
  const top = { x: leg.top_right_mm, y: -leg.top_away_mm };
  const out = { x: foot.x - top.x, y: foot.y - top.y };
  const far = Math.hypot(out.x, out.y) || 1;
  return (
    <g data-leg={leg.leg}>
      <path
        d={`M${top.x} ${top.y}L${foot.x} ${foot.y}`}
        stroke="var(--color-ink)"
        strokeWidth={leg.open ? 10 : 22}
        strokeDasharray={leg.open ? "26 18" : undefined}
      />
      <circle
        cx={foot.x}
        cy={foot.y}
        r="30"
        fill={leg.pressed ? "var(--color-ink)" : "var(--color-card)"}
        stroke="var(--color-ink)"
        strokeWidth="8"
      />
      {leg.sinking && (
        <circle
          cx={foot.x}
          cy={foot.y}
          r="48"
          fill="none"
          stroke="var(--color-ink)"
          strokeWidth="4"
          strokeDasharray="10 12"
        />
      )}
      <text
        x={foot.x + (out.x / far) * 92}
        y={foot.y + (out.y / far) * 92 + 24}
        textAnchor="middle"
        fontSize="74"
        fontWeight="700"
        fill="var(--color-ink)"
      >
        {leg.leg}
      </text>
      {can.includes("feet") && (
        <circle
          cx={foot.x}
          cy={foot.y}
          r="86"
          fill="transparent"
          role="button"
          aria-label={`Foot ${leg.leg}: drag, or use the arrow keys`}
          data-foot={leg.leg}
          {...drag}
        />
      )}
    </g>
  );
}
