// What is seen, asked again and again: an eye sways, warm air shimmers, a screw is turned.
import { useEffect, useRef, useState } from "react";
import { type Aim, type Look, type Situation, type Turns, practiceLook } from "../../../engine/practice";
import { after } from "../../../timers";

/** `fresh`: what is seen is what aim and screws are now. */
export type Looking = { look: Look | null; fresh: boolean; seconds: number; error: unknown };
type Shown = { look: Look; seconds: number; aim: Aim; turns: Turns };

export function useLook(of: Situation, aim: Aim, turns: Turns, running: boolean): Looking {
  const now = useRef({ aim, turns });
  const [shown, setShown] = useState<Shown | null>(null);
  const [error, setError] = useState<unknown>(null);
  const { lesson, seed } = of;
  useEffect(() => {
    now.current = { aim, turns };
  });
  useEffect(() => {
    if (!running) return;
    const begun = performance.now();
    let over = false;
    let callOff = (): void => undefined;
    const again = async () => {
      const seconds = (performance.now() - begun) / 1000;
      const query = now.current;
      try {
        const look = await practiceLook({ lesson, seed }, query.aim, query.turns, seconds);
        if (over) return;
        setShown({ look, seconds, ...query });
      } catch (wrong) {
        if (!over) setError(wrong);
        return;
      }
      callOff = after("look", () => void again());
    };
    void again();
    return () => {
      over = true;
      callOff();
    };
  }, [lesson, seed, running]);
  return {
    look: shown?.look ?? null,
    fresh: shown?.aim === aim && shown.turns === turns,
    seconds: shown?.seconds ?? 0,
    error,
  };
}
