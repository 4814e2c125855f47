// Bubble and spot now (full) and as they would be (hollow), the person at the lower edge.
import type { Guide, WhatIf } from "../../api/client";
import { at } from "./plan";

const SIZE = 190;
const C = { x: SIZE / 2, y: SIZE / 2 };
const R = 70;
const WALL_MM = 5;
const BUBBLE = 20;

type Sight = NonNullable<WhatIf["result"]["now"]>;

export function TryDrawing({
  site,
  answer,
  bubble,
}: {
  site: Guide["site"];
  answer: WhatIf["result"];
  bubble: boolean;
}) {
  if (!answer.now || !answer.then) return null;
  const stand = site.stand_bearing_deg;
  const spots = [answer.now.spot, answer.then.spot].flatMap((each) => (each ? [each.distance_mm] : []));
  const span = [4, 12, 40, 120].find((each) => Math.max(0, ...spots) <= each) ?? 120;
  const inVial = (sight: Sight) =>
    at(C, sight.bubble.bearing_deg, stand, (Math.min(sight.bubble.offset_mm, WALL_MM) / WALL_MM) * (R - BUBBLE));
  const onGround = (sight: Sight) =>
    sight.spot ? at(C, sight.spot.bearing_deg, stand, (sight.spot.distance_mm / span) * R) : C;
  const place = bubble ? inVial : onGround;
  const now = place(answer.now);
  const then = place(answer.then);
  const size = bubble ? BUBBLE : 7;
  if (!bubble && !spots.length) return null;
  return (
    <svg
      viewBox={`0 0 ${SIZE} ${SIZE}`}
      className="block w-full max-w-[190px]"
      role="img"
      aria-label={
        bubble
          ? "The circular vial: the bubble now, and as it would be"
          : "The ground round the mark: where the plummet points now, and as it would"
      }
    >
      <circle cx={C.x} cy={C.y} r={R} fill="var(--color-input)" stroke="var(--color-ink)" strokeWidth="2.4" />
      {bubble ? (
        <circle
          cx={C.x}
          cy={C.y}
          r={BUBBLE + (R - BUBBLE) / WALL_MM}
          fill="none"
          stroke="var(--color-ink)"
          strokeWidth="1.4"
          strokeDasharray="4 4"
        />
      ) : (
        <>
          <circle cx={C.x} cy={C.y} r="4" fill="none" stroke="var(--color-ink)" strokeWidth="2" />
          <text x={C.x} y={C.y + R - 8} textAnchor="middle" fontSize="16" fill="var(--color-ink-2)">
            {span} mm
          </text>
        </>
      )}
      {site.legs.map((leg) => {
        const p = at(C, leg.bearing_deg, stand, R + 14);
        return (
          <text
            key={leg.leg}
            x={p.x}
            y={p.y + 6}
            textAnchor="middle"
            fontSize="17"
            fontWeight="700"
            fill="var(--color-ink)"
          >
            {leg.leg}
          </text>
        );
      })}
      <path d={`M${now.x} ${now.y}L${then.x} ${then.y}`} stroke="var(--color-stroke)" strokeWidth="1.6" />
      <circle
        cx={now.x}
        cy={now.y}
        r={size}
        fill={bubble ? "none" : "var(--color-ink)"}
        stroke="var(--color-ink)"
        strokeWidth="2.4"
      />
      <circle
        cx={then.x}
        cy={then.y}
        r={size}
        fill="none"
        stroke="var(--color-ink)"
        strokeWidth="2"
        strokeDasharray="3 3"
        data-then
      />
    </svg>
  );
}
