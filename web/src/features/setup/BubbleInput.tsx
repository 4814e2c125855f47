// Where the bubble is: touched in a vial as large as a hand. Where it will be after each step is drawn beside it, hollow.
import type { Guide } from "../../api/client";
import type { Bubble } from "../../documents/setUp";
import { CENTRE, RADIUS, TouchField } from "./TouchField";
import { at } from "./plan";

const BUBBLE = 30;
/** The vial's own measure: the bubble touches the wall 5 mm from the middle; 1 mm is its ring. */
const WALL_MM = 5;
const RING_MM = 1;
const MAX_SHARE = (RADIUS - BUBBLE) / RADIUS;

export function BubbleAsk({
  guide,
  value,
  onSee,
}: {
  guide: Guide;
  value: { bearing_deg: number; offset_mm?: number | null; at_wall?: boolean } | null;
  onSee: (bubble: Bubble) => void;
}) {
  const stand = guide.site.stand_bearing_deg;
  const share = value ? (value.at_wall ? MAX_SHARE : ((value.offset_mm ?? 0) / WALL_MM) * MAX_SHARE) : 0;
  const answer = (touched: { bearing: number; share: number }) => {
    if (touched.share >= MAX_SHARE - 0.02) return onSee({ bearing_deg: touched.bearing, at_wall: true });
    onSee({ bearing_deg: touched.bearing, offset_mm: Math.round((touched.share / MAX_SHARE) * WALL_MM * 10) / 10 });
  };
  const seen = ((guide.advice?.result?.["bubbles"] ?? []) as { bearing_deg: number; offset_mm: number | null }[]).slice(
    1,
  );
  return (
    <TouchField
      label="The circular vial"
      stand={stand}
      legs={guide.site.legs}
      value={value && { bearing: value.bearing_deg, share }}
      most={MAX_SHARE}
      onTouch={answer}
      piece={(x, y) => (
        <circle cx={x} cy={y} r={BUBBLE} fill="url(#bubble)" stroke="var(--color-ink)" strokeWidth="2.6" />
      )}
    >
      <defs>
        <pattern id="bubble" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <path d="M0 0v6" stroke="var(--color-ink)" strokeWidth="1.2" />
        </pattern>
      </defs>
      <circle
        cx={CENTRE.x}
        cy={CENTRE.y}
        r={RADIUS}
        fill="var(--color-input)"
        stroke="var(--color-ink)"
        strokeWidth="3"
      />
      <circle
        cx={CENTRE.x}
        cy={CENTRE.y}
        r={BUBBLE + (RING_MM / WALL_MM) * (RADIUS - BUBBLE)}
        fill="none"
        stroke="var(--color-ink)"
        strokeWidth="1.6"
        strokeDasharray="5 4"
      />
      {seen.map((each, i) => {
        const p = at(CENTRE, each.bearing_deg, stand, ((each.offset_mm ?? 0) / WALL_MM) * MAX_SHARE * RADIUS);
        return (
          <circle
            key={i}
            cx={p.x}
            cy={p.y}
            r={BUBBLE}
            fill="none"
            stroke="var(--color-stroke)"
            strokeWidth="1.6"
            strokeDasharray="2 4"
            data-then={i + 1}
          />
        );
      })}
    </TouchField>
  );
}
