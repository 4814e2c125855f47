// Points on a circle: the centre is one thing, the radius the other. Marks of a plummet, bubbles of a vial, figures of
// an electronic level: what stays when it is turned, and what turns with it.
import { useNarrow } from "../../hooks/useNarrow";
import type { CirclePicture } from "./types";

const STEPS = [0.1, 0.2, 0.5, 1, 2, 5, 10, 20, 50, 100, 200, 500];
const BAR_PX = 70;

export function CircleDrawing({ picture }: { picture: CirclePicture }) {
  const { points, centre, radius, ring, unit } = picture;
  const narrow = useNarrow();
  // Wide, what the signs mean stands beside the drawing; narrow, below it.
  const W = narrow ? 370 : 1100;
  const H = narrow ? 424 : 296;
  const middle = { x: narrow ? 185 : 420, y: narrow ? 128 : 148 };
  const reach = narrow ? 98 : 118;
  // A vial is drawn about the middle of its ring, marks on a sheet about the middle of the marks.
  const about = ring !== null || picture.limit_about === "origin" ? { x: 0, y: 0 } : middleOf(points);
  const far =
    Math.max(
      ring ?? 0,
      ...points.map((p) => Math.hypot(p.x - about.x, p.y - about.y)),
      centre ? Math.hypot(centre.x - about.x, centre.y - about.y) + (radius ?? 0) : 0,
      (picture.limit ?? 0) * 1.2,
    ) || 1;
  const scale = reach / far;
  const at = (p: { x: number; y: number }) => ({
    x: middle.x + (p.x - about.x) * scale,
    y: middle.y - (p.y - about.y) * scale,
  });
  const origin = at({ x: 0, y: 0 });
  const mid = centre && at(centre);
  const bar = [...STEPS].reverse().find((each) => each * scale <= BAR_PX * 1.4) ?? 0.1;
  const written = unit === "arcsec" ? "″" : ` ${unit}`;
  const first = points[0] && at(points[0]);
  const limitAt = picture.limit_about === "centre" ? mid : origin;
  return (
    <svg
      viewBox={`0 0 ${W} ${H}`}
      role="img"
      aria-label={answer(picture)}
      className="block w-full"
      data-drawing="circle"
    >
      {picture.limit !== null && limitAt && (
        <circle
          cx={limitAt.x}
          cy={limitAt.y}
          r={picture.limit * scale}
          className="fill-band stroke-lichen"
          strokeWidth="1.6"
        />
      )}
      {ring !== null && (
        <g>
          <circle cx={origin.x} cy={origin.y} r={ring * scale} fill="none" className="stroke-ink" strokeWidth="2.4" />
          <circle
            cx={origin.x}
            cy={origin.y}
            r={ring * scale + 5}
            fill="none"
            className="stroke-lichen"
            strokeWidth="1"
          />
        </g>
      )}
      {picture.limit_about === "origin" && (
        <path
          d={`M${origin.x - 7} ${origin.y}h14M${origin.x} ${origin.y - 7}v14`}
          className="stroke-lichen"
          strokeWidth="1.4"
        />
      )}
      {mid && radius !== null && radius * scale > 2 && (
        <circle
          cx={mid.x}
          cy={mid.y}
          r={radius * scale}
          fill="none"
          className="stroke-ink"
          strokeWidth="1.2"
          strokeDasharray="5 4"
        />
      )}
      {mid && first && radius !== null && (
        <path d={`M${mid.x} ${mid.y}L${first.x} ${first.y}`} className="stroke-ink" strokeWidth="1.2" />
      )}
      {points.map((point, i) => {
        const p = at(point);
        const out = outward(p, mid ?? at(about));
        return (
          <g key={point.path + i} data-point={point.path}>
            <circle cx={p.x} cy={p.y} r="6" className="fill-card stroke-ink" strokeWidth="2" />
            {point.label && (
              <text
                x={p.x + out.x * 14}
                y={p.y + out.y * 14 + 5}
                textAnchor={out.x > 0.3 ? "start" : out.x < -0.3 ? "end" : "middle"}
                fontSize="16"
                className="fill-ink"
              >
                {point.label}
              </text>
            )}
          </g>
        );
      })}
      {mid && (
        <path
          d={`M${mid.x - 9} ${mid.y}h18M${mid.x} ${mid.y - 9}v18`}
          className="stroke-ink"
          strokeWidth="4.5"
          data-centre
        />
      )}
      <Legend picture={picture} shown={Boolean(mid)} x={narrow ? 16 : 720} y={narrow ? 288 : 44} />
      <g transform={narrow ? `translate(${W - 150} 262)` : `translate(720 ${H - 26})`}>
        <path d={`M0 0v-6M0 0h${bar * scale}v-6`} fill="none" className="stroke-ink" strokeWidth="1.6" />
        <text x={bar * scale + 10} y="3" fontSize="16" className="fill-ink">
          {bar}
          {written}
        </text>
      </g>
    </svg>
  );
}

function Legend({ picture, shown, x, y }: { picture: CirclePicture; shown: boolean; x: number; y: number }) {
  const rows: { mark: "cross" | "dash" | "dot" | "band"; text: string }[] = [
    { mark: "dot", text: picture.points.length > 1 ? "as read" : "read so far" },
  ];
  if (shown) rows.push({ mark: "cross", text: picture.centre_label });
  if (shown && picture.radius !== null) rows.push({ mark: "dash", text: picture.radius_label });
  if (picture.limit !== null) rows.push({ mark: "band", text: "limit" });
  return (
    <g transform={`translate(${x} ${y})`} fontSize="16">
      {rows.map((row, i) => (
        <g key={row.mark} transform={`translate(0 ${i * 27})`}>
          {row.mark === "dot" && <circle cx="9" cy="-5" r="6" className="fill-card stroke-ink" strokeWidth="2" />}
          {row.mark === "cross" && <path d="M0 -5h18M9 -14v18" className="stroke-ink" strokeWidth="4.5" />}
          {row.mark === "dash" && <path d="M0 -5h18" className="stroke-ink" strokeWidth="1.4" strokeDasharray="5 4" />}
          {row.mark === "band" && (
            <rect x="0" y="-14" width="18" height="18" className="fill-band stroke-lichen" strokeWidth="1.6" />
          )}
          <text x="30" className="fill-ink">
            {row.text}
          </text>
        </g>
      ))}
      <text x="0" y={rows.length * 27 + 8} className="fill-ink-2">
        {picture.view}
      </text>
    </g>
  );
}

const middleOf = (points: { x: number; y: number }[]) =>
  points.length
    ? { x: points.reduce((s, p) => s + p.x, 0) / points.length, y: points.reduce((s, p) => s + p.y, 0) / points.length }
    : { x: 0, y: 0 };

function outward(p: { x: number; y: number }, from: { x: number; y: number }): { x: number; y: number } {
  const size = Math.hypot(p.x - from.x, p.y - from.y);
  return size < 4 ? { x: 0, y: -1.4 } : { x: (p.x - from.x) / size, y: (p.y - from.y) / size };
}

function answer(picture: CirclePicture): string {
  const marks = `${picture.points.length} ${picture.points.length === 1 ? "mark" : "marks"}`;
  return picture.centre
    ? `${marks}; the cross is ${picture.centre_label}, the circle ${picture.radius_label}`
    : `${marks} so far`;
}
