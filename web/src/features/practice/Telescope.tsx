// A staff seen through a telescope: its graduation, three hairs over it, blurred until it is in focus.
import type { Look } from "../../engine/practice";

const SIZE = 420;
const CENTIMETRE = 0.01;
const CLOSER = 3;

/** `closer`: the middle of the picture, three times as large; `small` while a screw is turned below it. */
export function Telescope({ look, closer, small }: { look: Look; closer: boolean; small: boolean }) {
  const half = (look.highest_m - look.lowest_m) / 2 / (closer ? CLOSER : 1);
  const middle = (look.highest_m + look.lowest_m) / 2;
  const y = (metres: number) => SIZE / 2 - ((metres - middle) / half) * (SIZE / 2);
  const first = Math.floor((middle - half) / CENTIMETRE);
  const count = Math.ceil((2 * half) / CENTIMETRE) + 2;
  const hairs = [
    ["upper", look.upper_m, 60],
    ["middle", look.middle_m, SIZE / 2 - 8],
    ["lower", look.lower_m, 60],
  ] as const;
  return (
    <svg viewBox={`0 0 ${SIZE} ${SIZE}`} className={`mx-auto block w-full max-tab:max-w-[270px] ${small ? "max-w-[290px]" : "max-w-[420px]"}`} role="img" aria-label={`Staff ${look.distance_m.toFixed(0)} m away, through the telescope`} data-blur={look.blur.toFixed(2)}>
      <defs>
        <clipPath id="telescope-field">
          <circle cx={SIZE / 2} cy={SIZE / 2} r={SIZE / 2 - 3} />
        </clipPath>
        <filter id="telescope-blur" x="-20%" y="-20%" width="140%" height="140%">
          <feGaussianBlur stdDeviation={look.blur} />
        </filter>
      </defs>
      <g clipPath="url(#telescope-field)">
        <rect width={SIZE} height={SIZE} fill="var(--color-stone)" />
        <g filter={look.blur > 0.05 ? "url(#telescope-blur)" : undefined}>
          <rect x={SIZE / 2 - 66} width="132" y="-20" height={SIZE + 40} fill="var(--color-input)" stroke="var(--color-line)" />
          {Array.from({ length: count }, (_, i) => (
            <Centimetre key={first + i} number={first + i} y={y} />
          ))}
        </g>
        {hairs.map(([name, at, wide]) => (
          <path key={name} data-hair={name} data-y={y(at).toFixed(2)} d={`M${SIZE / 2 - wide} ${y(at)}H${SIZE / 2 + wide}`} stroke="var(--color-coral)" strokeWidth="1.6" />
        ))}
        <path d={`M${SIZE / 2} 8V${SIZE - 8}`} stroke="var(--color-coral)" strokeWidth="1.2" />
      </g>
      <circle cx={SIZE / 2} cy={SIZE / 2} r={SIZE / 2 - 3} fill="none" stroke="var(--color-ink)" strokeWidth="5" />
    </svg>
  );
}

/** A centimetre of the staff: every other one dark; each fifth line is drawn out and numbered, in metres or decimetres. */
function Centimetre({ number, y }: { number: number; y: (metres: number) => number }) {
  const top = y((number + 1) * CENTIMETRE);
  const bottom = y(number * CENTIMETRE);
  const left = SIZE / 2 - 62;
  const decimetre = ((number % 10) + 10) % 10 === 0;
  const five = ((number % 5) + 5) % 5 === 0;
  return (
    <g data-line={number} data-y={bottom.toFixed(2)}>
      {number % 2 === 0 && <path d={`M${left} ${top}h34v${bottom - top}h-34z`} fill="var(--color-ink)" />}
      {five && <path d={`M${left} ${bottom}H${left + (decimetre ? 124 : 80)}`} stroke="var(--color-ink)" strokeWidth={decimetre ? 2 : 1.4} />}
      {five && (
        <text x={left + 78} y={bottom - 4} fontSize={decimetre ? 26 : 16} fontWeight="640" fill="var(--color-ink)">
          {decimetre ? number / 10 : (number / 100).toFixed(2)}
        </text>
      )}
    </g>
  );
}
