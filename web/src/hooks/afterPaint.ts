import { nextTask } from "../timers";

/** Runs once the frame being drawn is shown: what a page does first is seen first. Returns what calls it off. */
export function afterPaint(run: () => void): () => void {
  let off = false;
  const frame = requestAnimationFrame(() => void nextTask().then(() => off || run()));
  return () => {
    cancelAnimationFrame(frame);
    off = true;
  };
}
