// A tape or a scale read by eye: millimetres, each centimetre numbered, and the line of a mark or a hair over it.
import { useState } from "react";
import { Choice } from "../../../ui/Choice";
import { BetweenSets } from "./BetweenSets";
import { LookCloser } from "./Eyepiece";
import { type ViewProps, placesOf } from "./views";

const WIDE = 440;
const TALL = 130;
const CLOSER = 3;
const MM = 0.001;

export function ScaleView({ lesson, look, aim, onAim }: ViewProps<"scale">) {
  const [closer, setCloser] = useState(false);
  const shownPlace = placesOf(lesson).find((place) => place.value === look.place)?.label;
  const whole = look.highest_m - look.lowest_m;
  const shown = closer ? whole / CLOSER : whole;
  const lowest = closer ? look.mark_m - shown / 2 : look.lowest_m;
  const x = (metres: number) => ((metres - lowest) / shown) * WIDE;
  const first = Math.ceil(lowest / MM - 1e-6);
  const lines = Array.from({ length: Math.floor(shown / MM) + 1 }, (_, i) => first + i);
  return (
    <>
      <svg viewBox={`0 0 ${WIDE} ${TALL}`} className="block w-full" role="img" aria-label={`The scale: ${shownPlace}`}>
        <rect
          x="0"
          y="34"
          width={WIDE}
          height="84"
          fill="var(--color-input)"
          stroke="var(--color-ink)"
          strokeWidth="2"
        />
        {lines.map((mm) => (
          <Line key={mm} mm={mm} x={x(mm * MM)} />
        ))}
        <path
          data-mark={x(look.mark_m).toFixed(2)}
          d={`M${x(look.mark_m)} 0V92`}
          stroke="var(--color-coral)"
          strokeWidth="2"
        />
        <path d={`M${x(look.mark_m) - 7} 0h14l-7 12z`} fill="var(--color-coral)" />
      </svg>
      <p className="sub">{lesson.reads}</p>
      <div className="flex flex-wrap gap-2">
        <Choice
          label="Where"
          value={look.place}
          options={placesOf(lesson)}
          onChange={(place) => onAim({ ...aim, place })}
        />
        <LookCloser closer={closer} onChange={setCloser} />
      </div>
      <BetweenSets lesson={lesson} again={aim.again} onAgain={(again) => onAim({ ...aim, again })} />
    </>
  );
}

/** A millimetre of the tape: each fifth longer, each tenth numbered in centimetres. */
function Line({ mm, x }: { mm: number; x: number }) {
  const long = mm % 10 === 0 ? 46 : mm % 5 === 0 ? 34 : 22;
  return (
    <g data-line={mm} data-x={x.toFixed(2)}>
      <path d={`M${x} 34v${long}`} stroke="var(--color-ink)" strokeWidth={mm % 10 === 0 ? 2 : 1.2} />
      {mm % 10 === 0 && x > 26 && x < WIDE - 26 && (
        <text x={x} y="108" textAnchor="middle" fontSize="20" fontWeight="600" fill="var(--color-ink)">
          {mm / 10}
        </text>
      )}
    </g>
  );
}
