// A level vial: its bubble between the divisions, and the instrument turned round.
import { Choice } from "../../../ui/Choice";
import { type ViewProps, headingsOf } from "./views";

const DIV = 24;
const TALL = 64;

export function VialView({ lesson, look, aim, onAim }: ViewProps<"vial">) {
  const wide = (look.end_div + look.half_div) * DIV;
  const divisions = Array.from({ length: 2 * look.end_div + 1 }, (_, i) => i - look.end_div);
  return (
    <>
      <svg
        viewBox={`${-wide - 4} -58 ${2 * wide + 8} 116`}
        className="block w-full"
        role="img"
        aria-label={look.at_end ? "Level vial: the bubble is at its end" : "Level vial"}
      >
        <rect
          x={-wide}
          y={-TALL / 2}
          width={2 * wide}
          height={TALL}
          rx={TALL / 2}
          fill="var(--color-input)"
          stroke="var(--color-ink)"
          strokeWidth="4"
        />
        <g data-bubble={(look.bubble_div * DIV).toFixed(2)}>
          <rect
            x={(look.bubble_div - look.half_div) * DIV}
            y={-TALL / 2 + 9}
            width={2 * look.half_div * DIV}
            height={TALL - 18}
            rx={(TALL - 18) / 2}
            fill="var(--color-stone)"
            stroke="var(--color-ink)"
            strokeWidth="2"
          />
        </g>
        {divisions.map((each) => (
          <g key={each} data-division={each} data-x={each * DIV}>
            <path
              d={`M${each * DIV} ${-TALL / 2 + 2}v${each % 2 ? 12 : 18}M${each * DIV} ${TALL / 2 - 2}v${each % 2 ? -12 : -18}`}
              stroke="var(--color-ink)"
              strokeWidth={each === 0 ? 4 : 1.8}
            />
            {each % 2 === 0 && (
              <text
                x={each * DIV}
                y={TALL / 2 + 22}
                textAnchor="middle"
                fontSize="18"
                fontWeight="600"
                fill="var(--color-ink)"
              >
                {Math.abs(each)}
              </text>
            )}
          </g>
        ))}
        <text
          x={wide - 4}
          y={-TALL / 2 - 9}
          textAnchor="end"
          fontSize="18"
          fill="var(--color-ink)"
        >{`right-hand end at ${look.heading_deg}°`}</text>
      </svg>
      <Choice
        label="Turn the instrument to"
        value={String(aim.heading_deg)}
        options={headingsOf(lesson)}
        onChange={(heading) => onAim({ heading_deg: Number(heading) })}
      />
    </>
  );
}
