// A tubular vial, once a heading: where the bubble stood, its reversing point, and the tilt's share.
import { useNarrow } from "../../hooks/useNarrow";
import type { TubePicture } from "./types";

const ROW = 50;
const BUBBLE_DIV = 1.6;

export function TubeDrawing({ picture }: { picture: TubePicture }) {
  const { rows, rest_div: rest, half_div: half } = picture;
  const narrow = useNarrow();
  const W = narrow ? 370 : 1100;
  const LEFT = narrow ? 118 : 170;
  const RIGHT = narrow ? 6 : 40;
  const top = 34;
  const H = top + Math.max(1, rows.length) * ROW + 44;
  const mid = (LEFT + W - RIGHT) / 2;
  const scale = (W - RIGHT - LEFT) / 2 / (half + 0.8);
  const x = (div: number) => mid + div * scale;
  const ticks = Array.from({ length: Math.floor(half) * 2 + 1 }, (_, i) => i - Math.floor(half));
  const shown = rows.length ? rows : [{ label: "", bubble_div: 0, path: "none", tilt_div: null }];
  return (
    <svg
      viewBox={`0 0 ${W} ${H}`}
      role="img"
      aria-label={`${rows.length} readings of the vial${rest === null ? "" : "; the mark is the reversing point"}`}
      className="block w-full"
      data-drawing="tube"
    >
      {shown.map((row, i) => {
        const y = top + i * ROW;
        return (
          <g key={row.path} data-point={row.path}>
            <text x={LEFT - 14} y={y + 25} textAnchor="end" fontSize="16" className="fill-ink">
              {row.label}
            </text>
            <rect
              x={LEFT}
              y={y}
              width={W - RIGHT - LEFT}
              height="38"
              rx="19"
              fill="none"
              className="stroke-ink"
              strokeWidth="2"
            />
            {ticks.map((tick) => (
              <path
                key={tick}
                d={`M${x(tick)} ${y + 3}v${tick === 0 ? 32 : 8}`}
                className={tick === 0 ? "stroke-lichen" : "stroke-ink"}
                strokeWidth={tick === 0 ? 2 : 1.2}
              />
            ))}
            {rows.length > 0 && (
              <rect
                x={x(row.bubble_div) - BUBBLE_DIV * scale * 0.5}
                y={y + 9}
                width={BUBBLE_DIV * scale}
                height="20"
                rx="10"
                className="fill-card stroke-ink"
                strokeWidth="2"
              />
            )}
            {rows.length > 0 && (
              <path d={`M${x(row.bubble_div)} ${y + 11}v16`} className="stroke-ink" strokeWidth="3" />
            )}
            {rest !== null && row.tilt_div !== null && Math.abs(row.tilt_div) * scale > 5 && (
              <path
                d={`M${x(rest)} ${y + 33}H${x(rest + row.tilt_div)}`}
                className="stroke-ink"
                strokeWidth="3"
                strokeDasharray="4 3"
              />
            )}
          </g>
        );
      })}
      {rest !== null && (
        <g data-rest>
          <path
            d={`M${x(rest)} ${top - 8}V${top + shown.length * ROW - 14}`}
            className="stroke-ink"
            strokeWidth="1.4"
            strokeDasharray="2 4"
          />
          <path d={`M${x(rest) - 8} ${top - 20}h16l-8 12z`} className="fill-ink" />
          <text
            x={x(rest) + (rest > half / 2 ? -14 : 14)}
            y={top - 10}
            textAnchor={rest > half / 2 ? "end" : "start"}
            fontSize="16"
            fontWeight="600"
            className="fill-ink"
          >
            {narrow ? "reversing point" : "reversing point"}
          </text>
        </g>
      )}
      <text x={narrow ? 6 : LEFT} y={H - 14} fontSize="16" className="fill-ink-2">
        {rest === null
          ? "In divisions; right is plus."
          : narrow
            ? "From mark to bubble: tilt."
            : "From the mark to the bubble: tilt of the axis. From the middle to the mark: level vial error."}
      </text>
    </svg>
  );
}
