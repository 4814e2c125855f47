// A worn screw has play: what it moves depends on where it was turned round.

const MAX_PATH = 400;

/** The places where a screw was turned round, and where it is now, after it is turned to another place. */
export function turnedTo(path: number[], to: number): number[] {
  const at = path.at(-1) ?? 0;
  if (to === at) return path;
  const before = path.at(-2) ?? 0;
  const onward = path.length > 0 && Math.sign(to - at) === Math.sign(at - before);
  return [...(onward ? path.slice(0, -1) : path), to].slice(-MAX_PATH);
}
