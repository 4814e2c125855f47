// The tribrach from above: a screw is turned by dragging round it, alone or with its partner the other way, as two thumbs do.
import { useState } from "react";
import type { Move, Seen } from "../../engine/practice";
import { useDrag } from "./useDrag";

const RING = 62;
const SCREW = 25;
const SLIDE_GEAR = 0.15;
/** Turns for a step of an arrow key. */
const KEY_TURNS = 0.02;
const FINE_TURNS = 0.004;
type Pair = [string, string] | null;
type Props = {
  seen: Seen;
  can: string[];
  onMove: (move: Move) => void;
  onEnd: (what: { do: string; part: string }) => void;
};
const place = (bearing: number, far: number) => ({
  x: Math.sin((bearing * Math.PI) / 180) * far,
  y: -Math.cos((bearing * Math.PI) / 180) * far,
});
const pairsOf = (screws: Seen["screws"]): Pair[] =>
  screws.length === 4
    ? [
        ["1", "3"],
        ["2", "4"],
      ]
    : [
        ["2", "3"],
        ["1", "2"],
        ["3", "1"],
      ];

export function TribrachTop({ seen, can, onMove, onEnd }: Props) {
  const [pair, setPair] = useState<Pair>(pairsOf(seen.screws)[0] ?? null);
  const slide = useDrag({
    onStep: ({ x, y }) => onMove({ do: "slide", right_mm: x * SLIDE_GEAR, away_mm: -y * SLIDE_GEAR }),
    onEnd: () => onEnd({ do: "slide", part: "" }),
    keys: [0.5 / SLIDE_GEAR, 0.1 / SLIDE_GEAR],
  });
  const turn = (screw: string, turns: number) => {
    const partner = pair?.find((each) => each !== screw);
    const both = pair?.includes(screw) && partner;
    onMove({ do: "screws", turns: both ? { [screw]: turns, [partner]: -turns } : { [screw]: turns } });
  };
  const right = place(seen.heading_deg + 90, 34);
  return (
    <div className="grid gap-2">
      <svg
        viewBox="-104 -104 208 208"
        className="block w-full select-none"
        role="group"
        aria-label="The tribrach from above"
      >
        <circle r="92" fill="none" stroke="var(--color-line)" strokeWidth="1.5" />
        <path d="M-16 101q16 -10 32 0" fill="none" stroke="var(--color-ink)" strokeWidth="1.6" />
        <circle r="40" fill="var(--color-card)" stroke="var(--color-ink)" strokeWidth="1.2" />
        {seen.plate_end_div > 0 && (
          <g data-vial-axis>
            <path
              d={`M${-right.x} ${-right.y}L${right.x} ${right.y}`}
              stroke="var(--color-ink)"
              strokeWidth="7"
              strokeLinecap="round"
            />
            <path
              d={`M${-right.x} ${-right.y}L${right.x} ${right.y}`}
              stroke="var(--color-card)"
              strokeWidth="4.4"
              strokeLinecap="round"
            />
            <circle cx={right.x} cy={right.y} r="2.6" fill="var(--color-ink)" />
          </g>
        )}
        {can.includes("slide") && (
          <circle
            r="38"
            fill="transparent"
            role="button"
            aria-label="Slide the tribrach: drag, or use the arrow keys"
            data-slide
            {...slide}
          />
        )}
        {seen.screws.map((screw) => (
          <Screw
            key={screw.screw}
            screw={screw}
            held={Boolean(pair?.includes(screw.screw))}
            may={can.includes("screws")}
            onTurn={(turns) => turn(screw.screw, turns)}
            onEnd={() => onEnd({ do: "screws", part: pair?.includes(screw.screw) ? pair.join(" ") : screw.screw })}
          />
        ))}
      </svg>
      {can.includes("screws") && <Thumbs pairs={pairsOf(seen.screws)} pair={pair} onPair={setPair} />}
      {can.includes("heading") && <Turning heading={seen.heading_deg} onMove={onMove} onEnd={onEnd} />}
    </div>
  );
}

function Screw({
  screw,
  held,
  may,
  onTurn,
  onEnd,
}: {
  screw: Seen["screws"][number];
  held: boolean;
  may: boolean;
  onTurn: (turns: number) => void;
  onEnd: () => void;
}) {
  const at = place(screw.bearing_deg, RING);
  const drag = useDrag({
    onStep: (step, now) => {
      if (Number.isNaN(now.x))
        return onTurn((step.x || -step.y) > 0 ? Math.hypot(step.x, step.y) : -Math.hypot(step.x, step.y));
      const [a, b] = [Math.atan2(now.y - step.y - at.y, now.x - step.x - at.x), Math.atan2(now.y - at.y, now.x - at.x)];
      const turned = ((b - a + 3 * Math.PI) % (2 * Math.PI)) - Math.PI;
      onTurn(turned / (2 * Math.PI));
    },
    onEnd,
    keys: [KEY_TURNS, FINE_TURNS],
  });
  const mark = place(screw.turned_deg, SCREW - 5);
  const stop = Math.abs(screw.at_mm) > screw.most_mm - 0.05;
  const thumb = place(screw.bearing_deg, RING + SCREW + 5);
  return (
    <g data-screw={screw.screw} data-at={screw.at_mm.toFixed(3)}>
      <circle
        cx={at.x}
        cy={at.y}
        r={SCREW}
        fill="var(--color-card)"
        stroke="var(--color-ink)"
        strokeWidth={held ? 3.4 : 1.8}
        strokeDasharray="3.4 1.6"
      />
      <path
        d={`M${at.x + mark.x * 0.55} ${at.y + mark.y * 0.55}L${at.x + mark.x} ${at.y + mark.y}`}
        stroke="var(--color-ink)"
        strokeWidth="2.4"
      />
      <text
        x={at.x}
        y={at.y + 5}
        textAnchor="middle"
        fontSize="15"
        fontWeight="700"
        fill="var(--color-ink)"
        pointerEvents="none"
      >
        {screw.screw}
      </text>
      {held && (
        <ellipse
          cx={thumb.x}
          cy={thumb.y}
          rx="9"
          ry="6"
          transform={`rotate(${screw.bearing_deg} ${thumb.x} ${thumb.y})`}
          fill="var(--color-stone)"
          stroke="var(--color-ink)"
          strokeWidth="1.4"
          pointerEvents="none"
        />
      )}
      {stop && (
        <text x={at.x} y={at.y + 17} textAnchor="middle" fontSize="8.5" fill="var(--color-coral)" pointerEvents="none">
          at its stop
        </text>
      )}
      {may && (
        <circle
          cx={at.x}
          cy={at.y}
          r={SCREW + 6}
          fill="transparent"
          role="button"
          aria-label={`Foot screw ${screw.screw}: drag round it, or use the arrow keys; right is clockwise`}
          data-turn={screw.screw}
          {...drag}
        />
      )}
    </g>
  );
}

function Thumbs({ pairs, pair, onPair }: { pairs: Pair[]; pair: Pair; onPair: (pair: Pair) => void }) {
  const name = (each: Pair) => (each ? each.join(" and ") : "One alone");
  return (
    <div
      className="flex flex-wrap gap-1 [&_.btn]:!min-h-[44px] [&_.btn]:!px-3"
      role="group"
      aria-label="Which screws turn together"
    >
      {[...pairs, null].map((each) => (
        <button
          key={name(each)}
          className="btn aria-pressed:!bg-ink aria-pressed:!text-card"
          aria-pressed={name(each) === name(pair)}
          onClick={() => onPair(each)}
        >
          {name(each)}
        </button>
      ))}
    </div>
  );
}

function Turning({ heading, onMove, onEnd }: { heading: number; onMove: Props["onMove"]; onEnd: Props["onEnd"] }) {
  const turn = (by: number) => {
    onMove({ do: "heading", turn_deg: by });
    onEnd({ do: "heading", part: String(by) });
  };
  return (
    <div
      className="flex flex-wrap items-center gap-1 [&_.btn]:!min-h-[44px] [&_.btn]:!px-3"
      role="group"
      aria-label="Turn the instrument"
    >
      {[90, 180].map((by) => (
        <button key={by} className="btn" onClick={() => turn(by)}>
          Turn by {by}°
        </button>
      ))}
      <span className="sub" data-heading={Math.round(heading)}>
        turned {Math.round(heading)}°
      </span>
    </div>
  );
}
