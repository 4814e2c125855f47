// What stands below the first screen of a visit is drawn after it, in slices, so that a slow device answers meanwhile.
import { type ReactNode, startTransition, useEffect, useState } from "react";

/** Later pages of the same visit are drawn whole: a way back finds the place where it was left. */
let stands = false;

/** `tall`: about how high it will be, so that nothing moves when it comes. What is out of view is not laid out. */
export function Below({ tall, children }: { tall: number; children: ReactNode }) {
  const [drawn, setDrawn] = useState(stands);
  useEffect(() => {
    stands = true;
    // After the frame that shows the first screen, not before it.
    const frame = requestAnimationFrame(() => setTimeout(() => startTransition(() => setDrawn(true))));
    return () => cancelAnimationFrame(frame);
  }, []);
  return (
    <div className="below" data-drawn={drawn || undefined} style={drawn ? { containIntrinsicHeight: `auto ${tall}px` } : { minHeight: tall }}>
      {drawn && children}
    </div>
  );
}
