import { useEffect, useState } from "react";

const LEAVES_AFTER_MS = 300;

/**
 * Whether an input has the focus. Leaving it is given a moment later: what moves when the keypad goes (the bar, the
 * rail) must not move between a finger's touch and the click that comes of it.
 */
export function useTyping(): boolean {
  const [typing, setTyping] = useState(false);
  useEffect(() => {
    let later: ReturnType<typeof setTimeout> | undefined;
    const look = () => {
      clearTimeout(later);
      const here = document.activeElement?.classList.contains("number-field") === true;
      if (here) setTyping(true);
      else later = setTimeout(() => setTyping(false), LEAVES_AFTER_MS);
    };
    document.addEventListener("focusin", look);
    document.addEventListener("focusout", look);
    return () => {
      clearTimeout(later);
      document.removeEventListener("focusin", look);
      document.removeEventListener("focusout", look);
    };
  }, []);
  return typing;
}
