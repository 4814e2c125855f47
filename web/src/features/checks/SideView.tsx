// The targets from the side, to scale: how far, how high, against the steepness needed for the trunnion axis.
import { useNarrow } from "../../hooks/useNarrow";

export type PlannedTarget = {
  name: string;
  distance_m: number;
  height_m: number;
  elevation_deg: number;
  text: string;
  messages: { code: string; text: string }[];
};

const PAD = 26;
/** Room on the right for the degrees written at the end of a line. */
const ROOM = 44;

export function SideView({ targets, take, lines }: { targets: PlannedTarget[]; take: number[]; lines: number[] }) {
  const narrow = useNarrow();
  const W = narrow ? 360 : 720;
  const most = Math.max(...targets.map((target) => target.distance_m)) * 1.12;
  const scale = (W - PAD - ROOM) / most;
  const high = Math.min(Math.max(...targets.map((target) => target.height_m), most * 0.22), most * 0.62);
  const low = Math.min(0, ...targets.map((target) => target.height_m));
  const up = PAD + high * scale;
  const H = up + PAD + Math.min(-low, most * 0.3) * scale + 18;
  const x = (metres: number) => PAD + metres * scale;
  const y = (metres: number) => up - metres * scale;
  const ray = (deg: number) => {
    const tan = Math.tan((deg * Math.PI) / 180);
    const far = Math.min(most, high / tan);
    return { far, height: far * tan };
  };
  return (
    <svg
      viewBox={`0 0 ${W} ${H}`}
      role="img"
      aria-label={`${targets.length} targets from the side, to scale`}
      className="block w-full"
      data-drawing="side"
    >
      <path d={`M${x(0)} ${y(0)}H${x(most)}`} className="stroke-ink" strokeWidth="1.2" />
      {lines.map((deg) => {
        const { far, height } = ray(deg);
        return (
          <g key={deg}>
            <path d={`M${x(0)} ${y(0)}L${x(far)} ${y(height)}`} className="stroke-lichen" strokeWidth="1.6" />
            <text x={x(far) + 6} y={Math.max(14, y(height) + 4)} fontSize="14" className="fill-ink-2">
              {deg}°
            </text>
          </g>
        );
      })}
      <path
        d={`M${x(0) - 9} ${y(0) + 16}L${x(0)} ${y(0)}L${x(0) + 9} ${y(0) + 16}`}
        fill="none"
        className="stroke-ink"
        strokeWidth="2"
      />
      {targets.map((target, i) => {
        const taken = take.includes(i);
        return (
          <g key={i} data-point={target.name} data-taken={taken || undefined}>
            <path
              d={`M${x(0)} ${y(0)}L${x(target.distance_m)} ${y(target.height_m)}`}
              className="stroke-ink"
              strokeWidth={taken ? 2.4 : 0.8}
            />
            <path
              d={`M${x(target.distance_m)} ${y(0)}V${y(target.height_m)}`}
              className="stroke-ink-2"
              strokeWidth="0.8"
            />
            <path
              d={`M${x(target.distance_m) - 6} ${y(target.height_m)}h12M${x(target.distance_m)} ${y(target.height_m) - 6}v12`}
              className="stroke-ink"
              strokeWidth={taken ? 4 : 2}
            />
            <text
              x={x(target.distance_m)}
              y={y(target.height_m) - 11}
              fontSize="15"
              textAnchor={x(target.distance_m) > W * 0.7 ? "end" : "middle"}
              className={taken ? "fill-ink font-semibold" : "fill-ink-2"}
            >
              {target.name}
            </text>
          </g>
        );
      })}
    </svg>
  );
}
