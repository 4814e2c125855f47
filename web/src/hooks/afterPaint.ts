/** Runs once the frame being drawn is shown: what a page does first is seen first. Returns what calls it off. */
export function afterPaint(run: () => void): () => void {
  let timer = 0;
  const frame = requestAnimationFrame(() => (timer = window.setTimeout(run)));
  return () => {
    cancelAnimationFrame(frame);
    clearTimeout(timer);
  };
}
