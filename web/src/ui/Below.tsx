// What stands below the first screen of a visit is drawn after it, in slices and once it is wanted, so that a slow device
// answers meanwhile.
import { type ReactNode, Suspense, startTransition, useEffect, useRef, useState } from "react";
import { afterPaint } from "../hooks/afterPaint";
import { whenNear } from "../hooks/whenNear";

/** Later pages of the same visit are drawn whole: a way back finds the place where it was left. */
let stands = false;

/** `tall`: about how high it will be, so that nothing moves when it comes. What is out of view is not laid out. */
export function Below({ tall, children }: { tall: number; children: ReactNode }) {
  const [drawn, setDrawn] = useState(stands);
  const place = useRef<HTMLDivElement>(null);
  useEffect(() => {
    stands = true;
    let off = (): void => undefined;
    const early = afterPaint(() => {
      if (place.current) off = whenNear(place.current, () => startTransition(() => setDrawn(true)));
    });
    return () => {
      early();
      off();
    };
  }, []);
  return (
    <div
      ref={place}
      className="below"
      data-drawn={drawn || undefined}
      style={drawn ? { containIntrinsicHeight: `auto ${tall}px` } : { minHeight: tall }}
    >
      {drawn && <Suspense fallback={<div style={{ minHeight: tall }} />}>{children}</Suspense>}
    </div>
  );
}
