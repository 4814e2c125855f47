import { useEffect, useState } from "react";
import { after } from "../timers";

/**
 * Whether an input has the focus. Leaving it is given a moment later: what moves when the keypad goes (the bar, the
 * rail) must not move between a finger's touch and the click that comes of it.
 */
export function useTyping(): boolean {
  const [typing, setTyping] = useState(false);
  useEffect(() => {
    let callOff = (): void => undefined;
    const look = () => {
      callOff();
      const here = document.activeElement?.classList.contains("number-field") === true;
      if (here) setTyping(true);
      else callOff = after("typingEnds", () => setTyping(false));
    };
    document.addEventListener("focusin", look);
    document.addEventListener("focusout", look);
    return () => {
      callOff();
      document.removeEventListener("focusin", look);
      document.removeEventListener("focusout", look);
    };
  }, []);
  return typing;
}
