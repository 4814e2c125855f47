// Where the plummet points, seen from the mark: touched on rings that are labelled in millimetres, or typed.
import { useState } from "react";
import type { Guide } from "../../api/client";
import type { Spot } from "../../documents/setUp";
import { CENTRE, RADIUS, TouchField } from "./TouchField";

const SPANS = [4, 12, 40] as const;

export function SpotAsk({
  guide,
  title,
  value,
  onSee,
}: {
  guide: Guide;
  title: string;
  value: Spot | null;
  onSee: (spot: Spot) => void;
}) {
  const coarse = guide.step.name === "near" || guide.step.name === "over" || guide.step.name === "back-on";
  const [span, setSpan] = useState<number>(coarse ? 40 : 12);
  const stand = guide.site.stand_bearing_deg;
  const outside = value !== null && value.distance_mm > span;
  return (
    <div className="grid gap-3">
      <div className="grid grid-cols-[minmax(0,230px)_minmax(0,1fr)] items-center gap-4 max-tab:grid-cols-[minmax(0,200px)_minmax(0,1fr)]">
        <TouchField
          label="The ground round the mark"
          stand={stand}
          legs={guide.site.legs}
          value={value && { bearing: value.bearing_deg, share: Math.min(1, value.distance_mm / span) }}
          onTouch={(touched) =>
            onSee({ bearing_deg: touched.bearing, distance_mm: Math.round(touched.share * span * 10) / 10 })
          }
          piece={(x, y) => (
            <circle
              cx={x}
              cy={y}
              r="8"
              fill={outside ? "none" : "var(--color-ink)"}
              stroke="var(--color-ink)"
              strokeWidth="3"
            />
          )}
        >
          <circle
            cx={CENTRE.x}
            cy={CENTRE.y}
            r={RADIUS}
            fill="var(--color-input)"
            stroke="var(--color-ink)"
            strokeWidth="2.4"
          />
          <circle
            cx={CENTRE.x}
            cy={CENTRE.y}
            r={RADIUS / 2}
            fill="none"
            stroke="var(--color-stroke)"
            strokeWidth="1.4"
          />
          <text x={CENTRE.x} y={CENTRE.y + RADIUS / 2 + 22} textAnchor="middle" fontSize="21" fill="var(--color-ink-2)">
            {span / 2} mm
          </text>
          <text x={CENTRE.x} y={CENTRE.y - RADIUS + 22} textAnchor="middle" fontSize="21" fill="var(--color-ink-2)">
            {span} mm
          </text>
          <circle cx={CENTRE.x} cy={CENTRE.y} r="5" fill="none" stroke="var(--color-ink)" strokeWidth="2" />
          <path
            d={`M${CENTRE.x - 11} ${CENTRE.y}h6m10 0h6M${CENTRE.x} ${CENTRE.y - 11}v6m0 10v6`}
            stroke="var(--color-ink)"
            strokeWidth="2"
          />
        </TouchField>
        <p>
          <b className="font-bold">{title}</b>
          {guide.advice?.understood && <span className="sub mt-1 block">Read as: {guide.advice.understood}.</span>}
        </p>
      </div>
      <div className="flex flex-wrap items-center gap-2 max-tab:gap-[5px]" role="group" aria-label="Ground shown">
        {SPANS.map((each) => (
          <button
            key={each}
            className="btn max-tab:!px-[9px] aria-pressed:!bg-ink aria-pressed:!text-card"
            aria-pressed={span === each}
            onClick={() => setSpan(each)}
          >
            {each} mm
          </button>
        ))}
        <button
          className="btn max-tab:!px-[9px]"
          onClick={() => onSee({ bearing_deg: value?.bearing_deg ?? 0, distance_mm: 0 })}
        >
          On the mark
        </button>
      </div>
    </div>
  );
}
