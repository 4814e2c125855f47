import { firstScreen } from "./firstScreen";

const NEAR = "200px";
const TOUCHES = ["pointerdown", "keydown", "wheel", "touchstart", "scroll"] as const;

/** Runs once: when `element` is in view or nearly, when the person does anything, or when the first screen has had its time. Returns what calls it off. */
export function whenNear(element: Element, run: () => void): () => void {
  let off = false;
  const over = () => {
    off = true;
    seen.disconnect();
    for (const touch of TOUCHES) removeEventListener(touch, now);
  };
  const now = () => {
    if (off) return;
    over();
    run();
  };
  const seen = new IntersectionObserver((entries) => entries.some((entry) => entry.isIntersecting) && now(), {
    rootMargin: NEAR,
  });
  seen.observe(element);
  for (const touch of TOUCHES) addEventListener(touch, now, { passive: true });
  void firstScreen.then(now);
  return over;
}
