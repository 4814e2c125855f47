// Bearings of the ground on the screen: the person stands at the lower edge, whichever way they look.

export type Point = { x: number; y: number };

/** Where a bearing points on the screen for somebody who stands at `set-up`: a unit step, y downwards. */
export function toward(bearing: number, stand: number): Point {
  const angle = ((bearing - stand - 180) * Math.PI) / 180;
  return { x: Math.sin(angle), y: -Math.cos(angle) };
}

/** The bearing of a step on the screen, and its length. */
export function bearingOf(step: Point, stand: number): { bearing: number; length: number } {
  const bearing = ((Math.atan2(step.x, -step.y) * 180) / Math.PI + stand + 180 + 720) % 360;
  return { bearing, length: Math.hypot(step.x, step.y) };
}

export function at(centre: Point, bearing: number, stand: number, length: number): Point {
  const step = toward(bearing, stand);
  return { x: centre.x + step.x * length, y: centre.y + step.y * length };
}
