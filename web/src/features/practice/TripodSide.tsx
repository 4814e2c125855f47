// The tripod as the person sees it who stands before it: each leg is lengthened by dragging it up, shortened by dragging
// it down.
import type { Move, Seen } from "../../engine/practice";
import { useDrag } from "./useDrag";

const WIDE = 820;
const TOP = 1760;
const DEEP = 190;
/** A hand slides a leg slower than it moves itself. */
const GEAR = 0.1;
type Props = {
  seen: Seen;
  can: string[];
  onMove: (move: Move) => void;
  onEnd: (what: { do: string; part: string; amount?: number }) => void;
};

export function TripodSide({ seen, can, onMove, onEnd }: Props) {
  const tops = seen.legs.map((leg) => ({ x: leg.top_right_mm, y: -leg.top_height_mm }));
  const left = tops.reduce((a, b) => (b.x < a.x ? b : a));
  const right = tops.reduce((a, b) => (b.x > a.x ? b : a));
  return (
    <svg
      viewBox={`${-WIDE} ${-TOP} ${2 * WIDE} ${TOP + DEEP}`}
      className="block w-full select-none"
      role="group"
      aria-label="The tripod from where you stand"
    >
      <path d={`M${-WIDE} 0H${WIDE}`} stroke="var(--color-line)" strokeWidth="8" />
      {seen.legs.map((leg) => (
        <Leg key={leg.leg} leg={leg} can={can} onMove={onMove} onEnd={onEnd} />
      ))}
      <path d={`M${left.x - 40} ${left.y}L${right.x + 40} ${right.y}`} stroke="var(--color-ink)" strokeWidth="34" />
      <path d={`M${seen.head_right_mm} ${-seen.head_height_mm - 20}v-150`} stroke="var(--color-ink)" strokeWidth="90" />
      {seen.bob && (
        <path
          d={`M${seen.head_right_mm} ${-seen.head_height_mm + 60}L${seen.bob[0]} -40l-18 -50h36z`}
          fill="var(--color-ink)"
          stroke="var(--color-ink)"
          strokeWidth="6"
        />
      )}
      <path d="M0 0v40" stroke="var(--color-ink)" strokeWidth="12" />
    </svg>
  );
}

/** What a hand does at each leg. */
export function LegRows({ seen, can, onMove, onEnd }: Props) {
  return (
    <div className="grid gap-1">
      {seen.legs.map((leg) => (
        <LegRow key={leg.leg} leg={leg} can={can} onMove={onMove} onEnd={onEnd} />
      ))}
    </div>
  );
}

function Leg({ leg, can, onMove, onEnd }: { leg: Seen["legs"][number] } & Omit<Props, "seen">) {
  const drag = useDrag({
    onStep: ({ x, y }) =>
      onMove({ do: "leg", leg: leg.leg, mm: (x - y) * (Math.abs(x) + Math.abs(y) > 20 ? GEAR : 0.1) }),
    onEnd: () => onEnd({ do: "leg", part: leg.leg }),
    keys: [20, 5],
  });
  const top = { x: leg.top_right_mm, y: -leg.top_height_mm };
  const foot = { x: leg.right_mm, y: -leg.foot_height_mm };
  const clamp = { x: top.x + (foot.x - top.x) * 0.45, y: top.y + (foot.y - top.y) * 0.45 };
  return (
    <g data-side={leg.leg}>
      <path d={`M${top.x} ${top.y}L${clamp.x} ${clamp.y}`} stroke="var(--color-ink)" strokeWidth="40" />
      <path
        d={`M${clamp.x} ${clamp.y}L${foot.x} ${foot.y}`}
        stroke="var(--color-ink)"
        strokeWidth="20"
        strokeDasharray={leg.open ? "30 18" : undefined}
      />
      <circle cx={clamp.x} cy={clamp.y} r="46" fill="var(--color-card)" stroke="var(--color-ink)" strokeWidth="9" />
      <text
        x={clamp.x}
        y={clamp.y + 24}
        textAnchor="middle"
        fontSize="66"
        fontWeight="700"
        fill="var(--color-ink)"
        pointerEvents="none"
      >
        {leg.leg}
      </text>
      {can.includes("legs") && (
        <circle
          cx={clamp.x}
          cy={clamp.y}
          r="110"
          fill="transparent"
          role="button"
          aria-label={`Leg ${leg.leg}: drag up for longer, down for shorter, or use the arrow keys`}
          data-clamp={leg.leg}
          {...drag}
        />
      )}
    </g>
  );
}

function LegRow({ leg, can, onMove, onEnd }: { leg: Seen["legs"][number] } & Omit<Props, "seen">) {
  const change = (mm: number) => {
    onMove({ do: "leg", leg: leg.leg, mm });
    onEnd({ do: "leg", part: leg.leg, amount: mm });
  };
  const once = (what: string) => {
    onMove({ do: what, leg: leg.leg });
    onEnd({ do: what, part: leg.leg });
  };
  return (
    <div
      className="flex flex-wrap items-center gap-1 [&_.btn]:!min-h-[44px] [&_.btn]:!px-3"
      role="group"
      aria-label={`Leg ${leg.leg}`}
    >
      <b className="w-[16px]">{leg.leg}</b>
      {[-5, -1, 1, 5].map((mm) => (
        <button
          key={mm}
          className="btn font-mono"
          aria-label={`Leg ${leg.leg} ${mm > 0 ? "longer" : "shorter"} by ${Math.abs(mm)} mm`}
          onClick={() => change(mm)}
        >
          {mm > 0 ? `+${mm}` : `−${-mm}`}
        </button>
      ))}
      {can.includes("press") && (
        <button className="btn" aria-pressed={leg.pressed} onClick={() => once("press")}>
          {leg.pressed ? "Pressed in" : "Press in"}
        </button>
      )}
      <button className="btn" aria-pressed={leg.open} onClick={() => once(leg.open ? "close" : "open")}>
        {leg.open ? "Close clamp" : "Open clamp"}
      </button>
    </div>
  );
}
