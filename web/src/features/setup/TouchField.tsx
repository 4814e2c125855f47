// A round field to touch: where the bubble is, where the plummet points. By finger, by mouse, and by the arrow keys.
import { type KeyboardEvent, type PointerEvent, type ReactNode, useRef } from "react";
import { at, bearingOf } from "./plan";

export const FIELD = 280;
export const CENTRE = { x: FIELD / 2, y: FIELD / 2 };
export const RADIUS = 108;

type Touched = { bearing: number; share: number };
type Props = {
  label: string;
  stand: number;
  /** Where it was given to be, as a share of the field's radius; null before. */
  value: Touched | null;
  onTouch: (touched: Touched) => void;
  legs: { leg: string; bearing_deg: number }[];
  children: ReactNode;
  /** What is drawn where the value is. */
  piece: (x: number, y: number) => ReactNode;
  most?: number;
};
const STEPS: Record<string, [number, number]> = {
  ArrowUp: [0, -0.05],
  ArrowDown: [0, 0.05],
  ArrowLeft: [-0.05, 0],
  ArrowRight: [0.05, 0],
};

export function TouchField({ label, stand, value, onTouch, legs, children, piece, most = 1 }: Props) {
  const field = useRef<SVGSVGElement>(null);
  const say = (x: number, y: number) => {
    const { bearing, length } = bearingOf({ x, y }, stand);
    onTouch({ bearing: Math.round(bearing), share: Math.min(most, length) });
  };
  const touched = (event: PointerEvent) => {
    const box = field.current?.getBoundingClientRect();
    if (!box) return;
    const scale = FIELD / box.width;
    say(
      ((event.clientX - box.left) * scale - CENTRE.x) / RADIUS,
      ((event.clientY - box.top) * scale - CENTRE.y) / RADIUS,
    );
  };
  const here = value ? at(CENTRE, value.bearing, stand, value.share * RADIUS) : null;
  const keyed = (event: KeyboardEvent) => {
    const step = STEPS[event.key];
    if (!step) return;
    event.preventDefault();
    const from = here ?? CENTRE;
    say((from.x - CENTRE.x) / RADIUS + step[0], (from.y - CENTRE.y) / RADIUS + step[1]);
  };
  return (
    <svg
      ref={field}
      viewBox={`0 0 ${FIELD} ${FIELD}`}
      className="block w-full max-w-[300px] cursor-crosshair touch-none select-none"
      role="application"
      aria-label={`${label}. Touch, or use the arrow keys.`}
      tabIndex={0}
      onPointerDown={touched}
      onPointerMove={(event) => event.buttons === 1 && touched(event)}
      onKeyDown={keyed}
      data-field
    >
      {children}
      {legs.map((each) => {
        const p = at(CENTRE, each.bearing_deg, stand, RADIUS + 18);
        return (
          <text
            key={each.leg}
            x={p.x}
            y={p.y + 8}
            textAnchor="middle"
            fontSize="23"
            fontWeight="700"
            fill="var(--color-ink)"
          >
            {each.leg}
          </text>
        );
      })}
      {here && piece(here.x, here.y)}
    </svg>
  );
}
