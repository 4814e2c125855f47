// Our own bar above the keypad of a touch screen: what the keys do on a keyboard.
import { type ReactNode, useEffect, useState } from "react";
import { useNarrow } from "../../hooks/useNarrow";
import type { InputKey } from "../../ui/NumberField";

const KEYS: { key: InputKey; word: string; label?: string }[] = [
  { key: "back", word: "Back" },
  { key: "sign", word: "±", label: "Other sign" },
  { key: "same", word: "Same again" },
  { key: "more", word: "One more" },
  { key: "next", word: "Next" },
];

/** How far the keypad reaches up over the page, where the browser lays it over instead of shrinking the page. */
function useKeypadHeight(): number {
  const [height, setHeight] = useState(0);
  useEffect(() => {
    const view = window.visualViewport;
    if (!view) return;
    const look = () => setHeight(Math.max(0, window.innerHeight - view.height - view.offsetTop));
    look();
    view.addEventListener("resize", look);
    view.addEventListener("scroll", look);
    return () => {
      view.removeEventListener("resize", look);
      view.removeEventListener("scroll", look);
    };
  }, []);
  return height;
}

/** `strip`: what the readings say so far, on a phone above the keys, or above the places while nobody types. */
export function KeyBar({ shown, onKey, strip }: { shown: boolean; onKey: (key: InputKey) => void; strip: ReactNode }) {
  const bottom = useKeypadHeight();
  const narrow = useNarrow();
  if (!shown || !window.matchMedia("(pointer: coarse)").matches)
    return narrow ? <div className="no-print fixed inset-x-0 bottom-[58px] z-30">{strip}</div> : null;
  return (
    <div className="no-print fixed inset-x-0 z-40" style={{ bottom }}>
      {narrow && strip}
      <div
        role="toolbar"
        aria-label="Keys for readings"
        className="hand-row flex gap-1 border-t-2 border-ink bg-card p-1"
      >
        {KEYS.map(({ key, word, label }) => (
          <button
            key={key}
            aria-label={label}
            // Keeps the focus, and so the keypad, where it is.
            onPointerDown={(event) => event.preventDefault()}
            onClick={() => onKey(key)}
            className="min-h-[56px] flex-1 rounded-md px-1 text-[16px] font-semibold leading-tight shadow-[inset_0_0_0_1.5px_var(--color-ink)]"
          >
            {word}
          </button>
        ))}
      </div>
    </div>
  );
}
