// A level and two staffs: the staff through the telescope with three hairs over it, and where one looks.
import { useState } from "react";
import { Choice } from "../../../ui/Choice";
import { BetweenSets } from "./BetweenSets";
import { Eyepiece, FocusScrew, LookCloser, MIDDLE, SIZE } from "./Eyepiece";
import { type ViewProps, placesOf } from "./views";

const CENTIMETRE = 0.01;
const CLOSER = 3;

export function StaffView({ lesson, look, aim, onAim, small, seconds }: ViewProps<"staff">) {
  const [closer, setCloser] = useState(false);
  // With one staff the level stays where it is, and its bubble is run to the sides.
  const moves = lesson.staffs > 1;
  const half = (look.highest_m - look.lowest_m) / 2 / (closer ? CLOSER : 1);
  const middle = (look.highest_m + look.lowest_m) / 2;
  const y = (metres: number) => MIDDLE - ((metres - middle) / half) * MIDDLE;
  const first = Math.floor((middle - half) / CENTIMETRE);
  const count = Math.ceil((2 * half) / CENTIMETRE) + 2;
  const hairs = [
    ["upper", look.upper_m, 60],
    ["middle", look.middle_m, MIDDLE - 8],
    ["lower", look.lower_m, 60],
  ] as const;
  return (
    <>
      <Eyepiece
        blur={look.blur}
        small={small}
        label={`Staff ${look.distance_m.toFixed(0)} m away, through the telescope`}
        picture={
          <>
            <rect
              x={MIDDLE - 66}
              width="132"
              y="-20"
              height={SIZE + 40}
              fill="var(--color-input)"
              stroke="var(--color-line)"
            />
            {Array.from({ length: count }, (_, i) => (
              <Centimetre key={first + i} number={first + i} y={y} />
            ))}
          </>
        }
        hairs={
          <>
            {hairs.map(([name, at, wide]) => (
              <path
                key={name}
                data-hair={name}
                data-y={y(at).toFixed(2)}
                d={`M${MIDDLE - wide} ${y(at)}H${MIDDLE + wide}`}
                stroke="var(--color-coral)"
                strokeWidth="1.6"
              />
            ))}
            <path d={`M${MIDDLE} 8V${SIZE - 8}`} stroke="var(--color-coral)" strokeWidth="1.2" />
          </>
        }
      />
      <FocusScrew focus={aim.focus} onFocus={(focus) => onAim({ ...aim, focus })} />
      <div className="flex flex-wrap gap-x-4 gap-y-2">
        {moves && (
          <Choice
            label="Staff"
            value={aim.staff}
            options={[
              { value: "a", label: "Staff A" },
              { value: "b", label: "Staff B" },
            ]}
            onChange={(staff) => onAim({ ...aim, staff })}
          />
        )}
        <Choice
          label={moves ? "The level stands" : "The bubble is run"}
          value={aim.place}
          options={placesOf(lesson)}
          onChange={(place) => onAim({ ...aim, place, ...(moves ? { since: seconds, again: 0 } : {}) })}
        />
        <LookCloser closer={closer} onChange={setCloser} />
      </div>
      <BetweenSets lesson={lesson} again={aim.again} onAgain={(again) => onAim({ ...aim, again, since: seconds })} />
      {look.ground && <p className="sub">{look.ground}</p>}
    </>
  );
}

/** A centimetre of the staff: every other one dark; each fifth line is drawn out and numbered, in metres or decimetres. */
function Centimetre({ number, y }: { number: number; y: (metres: number) => number }) {
  const top = y((number + 1) * CENTIMETRE);
  const bottom = y(number * CENTIMETRE);
  const left = MIDDLE - 62;
  const decimetre = ((number % 10) + 10) % 10 === 0;
  const five = ((number % 5) + 5) % 5 === 0;
  return (
    <g data-line={number} data-y={bottom.toFixed(2)}>
      {number % 2 === 0 && <path d={`M${left} ${top}h34v${bottom - top}h-34z`} fill="var(--color-ink)" />}
      {five && (
        <path
          d={`M${left} ${bottom}H${left + (decimetre ? 124 : 80)}`}
          stroke="var(--color-ink)"
          strokeWidth={decimetre ? 2 : 1.4}
        />
      )}
      {five && (
        <text x={left + 78} y={bottom - 4} fontSize={decimetre ? 26 : 16} fontWeight="600" fill="var(--color-ink)">
          {decimetre ? number / 10 : (number / 100).toFixed(2)}
        </text>
      )}
    </g>
  );
}
