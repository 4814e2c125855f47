// Millimetre paper through an optical plummet: the lines of the paper, the plummet's index over it, and the instrument turned round.
import { useState } from "react";
import { Choice } from "../../../ui/Choice";
import { Eyepiece, FocusScrew, LookCloser, MIDDLE, SIZE } from "./Eyepiece";
import { type ViewProps, headingsOf } from "./views";

const CLOSER = 2.5;
const NUMBERED = 5;
const signed = (mm: number): string => (mm > 0 ? `+${mm}` : mm < 0 ? `−${-mm}` : "0");

export function PaperView({ lesson, look, aim, onAim, small }: ViewProps<"paper">) {
  const [closer, setCloser] = useState(false);
  const field = look.field_mm / (closer ? CLOSER : 1);
  const scale = SIZE / field;
  const x = (mm: number) => MIDDLE + (mm - look.x_mm) * scale;
  const y = (mm: number) => MIDDLE - (mm - look.y_mm) * scale;
  const top = { x: MIDDLE, y: MIDDLE - 0.62 * MIDDLE };
  const side = { x: MIDDLE - 0.68 * MIDDLE, y: MIDDLE };
  /** Only what stands in the field as a whole is numbered. */
  const whole = (at: { x: number; y: number }) => Math.hypot(at.x - MIDDLE, at.y - MIDDLE) < MIDDLE - 24;
  const lines = (middle: number) =>
    Array.from({ length: Math.ceil(field) + 3 }, (_, i) => Math.floor(middle - field / 2) - 1 + i);
  return (
    <>
      <Eyepiece
        blur={look.blur}
        small={small}
        label="Millimetre paper, through the plummet"
        picture={
          <>
            <rect width={SIZE} height={SIZE} fill="var(--color-input)" />
            {lines(look.x_mm).map((mm) => (
              <path
                key={mm}
                data-right={mm}
                data-x={x(mm).toFixed(2)}
                d={`M${x(mm)} 0V${SIZE}`}
                stroke="var(--color-ink)"
                strokeWidth={mm % NUMBERED ? 0.6 : 2}
                opacity={mm % NUMBERED ? 0.55 : 1}
              />
            ))}
            {lines(look.y_mm).map((mm) => (
              <path
                key={mm}
                data-away={mm}
                data-y={y(mm).toFixed(2)}
                d={`M0 ${y(mm)}H${SIZE}`}
                stroke="var(--color-ink)"
                strokeWidth={mm % NUMBERED ? 0.6 : 2}
                opacity={mm % NUMBERED ? 0.55 : 1}
              />
            ))}
            {lines(look.x_mm)
              .filter((mm) => mm % NUMBERED === 0 && whole({ ...top, x: x(mm) }))
              .map((mm) => (
                <Numbered key={mm} x={x(mm)} y={top.y} text={signed(mm)} />
              ))}
            {lines(look.y_mm)
              .filter((mm) => mm % NUMBERED === 0 && whole({ ...side, y: y(mm) }))
              .map((mm) => (
                <Numbered key={mm} x={side.x} y={y(mm)} text={signed(mm)} />
              ))}
          </>
        }
        hairs={
          <>
            <circle cx={MIDDLE} cy={MIDDLE} r="26" fill="none" stroke="var(--color-coral)" strokeWidth="2" />
            <path
              d={`M${MIDDLE - 44} ${MIDDLE}h88M${MIDDLE} ${MIDDLE - 44}v88`}
              stroke="var(--color-coral)"
              strokeWidth="1.6"
            />
          </>
        }
      />
      <p className="sub text-center">Numbers along the top: millimetres right; along the side: away from you.</p>
      <FocusScrew focus={aim.focus} onFocus={(focus) => onAim({ ...aim, focus })} />
      <div className="flex flex-wrap gap-2">
        <Choice
          label="Turn the instrument to"
          value={String(aim.heading_deg)}
          options={headingsOf(lesson)}
          onChange={(heading) => onAim({ ...aim, heading_deg: Number(heading) })}
        />
        <LookCloser closer={closer} onChange={setCloser} />
      </div>
    </>
  );
}

function Numbered({ x, y, text }: { x: number; y: number; text: string }) {
  return (
    <g>
      <rect x={x - 20} y={y - 13} width="40" height="26" rx="3" fill="var(--color-input)" />
      <text x={x} y={y + 7} textAnchor="middle" fontSize="20" fontWeight="600" fill="var(--color-ink)">
        {text}
      </text>
    </g>
  );
}
