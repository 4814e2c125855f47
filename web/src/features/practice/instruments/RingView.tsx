// A circular level from above: its bubble in the ring over millimetres, and the instrument turned round.
import { Choice } from "../../../ui/Choice";
import { MIDDLE, SIZE } from "./Eyepiece";
import { type ViewProps, headingsOf } from "./views";

const NUMBERED = 2;
const signed = (mm: number): string => (mm > 0 ? `+${mm}` : mm < 0 ? `−${-mm}` : "0");

export function RingView({ lesson, look, aim, onAim, small }: ViewProps<"ring">) {
  const scale = MIDDLE / (look.end_mm + look.bubble_mm + 0.4);
  const whole = Math.floor(look.end_mm);
  const marks = Array.from({ length: 2 * whole + 1 }, (_, i) => i - whole);
  return (
    <>
      <svg
        viewBox={`0 0 ${SIZE} ${SIZE}`}
        className={`mx-auto block w-full max-tab:max-w-[270px] ${small ? "max-w-[270px]" : "max-w-[360px]"}`}
        role="img"
        aria-label={look.at_end ? "Circular level: the bubble is at the wall" : "Circular level"}
      >
        <circle
          cx={MIDDLE}
          cy={MIDDLE}
          r={MIDDLE - 3}
          fill="var(--color-input)"
          stroke="var(--color-ink)"
          strokeWidth="5"
        />
        <g data-bubble={`${(MIDDLE + look.x_mm * scale).toFixed(2)} ${(MIDDLE - look.y_mm * scale).toFixed(2)}`}>
          <circle
            cx={MIDDLE + look.x_mm * scale}
            cy={MIDDLE - look.y_mm * scale}
            r={look.bubble_mm * scale}
            fill="var(--color-stone)"
            stroke="var(--color-ink)"
            strokeWidth="2"
          />
          <path
            d={`M${MIDDLE + look.x_mm * scale - 7} ${MIDDLE - look.y_mm * scale}h14m-7 -7v14`}
            stroke="var(--color-ink)"
            strokeWidth="1.4"
          />
        </g>
        <circle
          cx={MIDDLE}
          cy={MIDDLE}
          r={look.ring_mm * scale}
          fill="none"
          stroke="var(--color-coral)"
          strokeWidth="2.5"
        />
        {marks.map((mm) => (
          <Mark key={mm} mm={mm} scale={scale} />
        ))}
      </svg>
      <p className="sub text-center">
        Numbers across: millimetres right; up: away from you. Read the cross in the bubble.
      </p>
      <Choice
        label="Turn to"
        value={String(aim.heading_deg)}
        options={headingsOf(lesson)}
        onChange={(heading) => onAim({ heading_deg: Number(heading) })}
      />
    </>
  );
}

/** A millimetre of both axes; every other one is numbered. */
function Mark({ mm, scale }: { mm: number; scale: number }) {
  const at = mm * scale;
  const tall = mm % NUMBERED ? 6 : 11;
  return (
    <g
      stroke="var(--color-ink)"
      strokeWidth={mm === 0 ? 2 : 1.2}
      data-mm={mm}
      data-x={(MIDDLE + at).toFixed(2)}
      data-y={(MIDDLE - at).toFixed(2)}
    >
      <path d={`M${MIDDLE + at} ${MIDDLE - tall}v${2 * tall}M${MIDDLE - tall} ${MIDDLE - at}h${2 * tall}`} />
      {mm !== 0 && mm % NUMBERED === 0 && (
        <g
          fontSize="18"
          fontWeight="600"
          fill="var(--color-ink)"
          stroke="var(--color-input)"
          strokeWidth="5"
          paintOrder="stroke"
        >
          <text x={MIDDLE + at} y={MIDDLE + 32} textAnchor="middle">
            {signed(mm)}
          </text>
          <text x={MIDDLE - 16} y={MIDDLE - at + 6} textAnchor="end">
            {signed(mm)}
          </text>
        </g>
      )}
    </g>
  );
}
