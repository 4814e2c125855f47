// Deviations along a line: each a needle off a plumb line, against the limit as a band.
import { fixed } from "../../api/writing";
import { useNarrow } from "../../hooks/useNarrow";
import type { DeviationsPicture } from "./types";

/** Room for each place: many are drawn closer, very many without their figures. */
const rowOf = (count: number): number => (count > 30 ? 9 : count > 16 ? 18 : 32);

export function DeviationsDrawing({ picture }: { picture: DeviationsPicture }) {
  const narrow = useNarrow();
  const W = narrow ? 400 : 1100;
  const LEFT = narrow ? 190 : 250;
  const RIGHT = narrow ? 94 : 96;
  const { points, limit, unit } = picture;
  const ROW = rowOf(points.length);
  const size = ROW < 32 && !narrow ? 14 : 16;
  const H = 30 + Math.max(1, points.length) * ROW + 34;
  const most = Math.max((limit ?? 0) * 1.25, ...points.map((point) => Math.abs(point.value ?? 0))) || 1;
  const mid = (LEFT + W - RIGHT) / 2;
  const x = (value: number) => mid + (value / most) * ((W - RIGHT - LEFT) / 2);
  const foot = 18 + points.length * ROW;
  const written = (value: number) =>
    `${value > 0 ? "+" : value < 0 ? "−" : ""}${fixed(Math.abs(value), unit === "arcsec" ? 1 : 2)}${unit === "arcsec" ? "″" : ` ${unit}`}`;
  return (
    <svg
      viewBox={`0 0 ${W} ${H}`}
      role="img"
      aria-label={`${points.length} points against ${picture.zero_label}`}
      className="block w-full"
      data-drawing="deviations"
    >
      {limit !== null && (
        <rect x={x(-limit)} y="12" width={x(limit) - x(-limit)} height={foot - 12} className="fill-band" />
      )}
      {limit !== null && (
        <path d={`M${x(-limit)} 12V${foot}M${x(limit)} 12V${foot}`} className="stroke-lichen" strokeWidth="2" />
      )}
      <path d={`M${mid} 6V${foot + 4}`} className="stroke-ink" strokeWidth="1.4" />
      <path d={`M${mid - 5} ${foot + 4}h10l-5 9z`} className="fill-ink" />
      {points.map((point, i) => {
        const y = 12 + i * ROW + ROW / 2;
        return (
          <g key={`${point.label}-${i}`} data-point={point.label}>
            <text x={LEFT - 14} y={y + 5} textAnchor="end" fontSize={size} className="fill-ink">
              {point.label}
            </text>
            {point.value !== null && (
              <>
                <path d={`M${mid} ${y}H${x(point.value)}`} className="stroke-ink" strokeWidth="1.4" />
                <path
                  d={`M${x(point.value)} ${y - Math.min(9, ROW * 0.4)}v${Math.min(18, ROW * 0.8)}`}
                  className="stroke-ink"
                  strokeWidth="4.5"
                />
                {ROW > 9 && (
                  <text x={W - RIGHT + 12} y={y + 5} fontSize={size} className="fill-ink">
                    {written(point.value)}
                  </text>
                )}
              </>
            )}
          </g>
        );
      })}
      <text x={mid} y={H - 6} textAnchor="middle" fontSize="16" className="fill-ink-2">
        {picture.zero_label}
      </text>
    </svg>
  );
}
