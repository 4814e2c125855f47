// What is seen, asked again and again: an eye sways, warm air shimmers, a screw is turned.
import { useEffect, useRef, useState } from "react";
import { type Aim, type Look, type Situation, type Turns, practiceLook } from "../../../engine/practice";

const EVERY_MS = 50;

export function useLook(of: Situation, aim: Aim, turns: Turns, running: boolean): { look: Look | null; seconds: number; error: unknown } {
  const now = useRef({ aim, turns });
  const [shown, setShown] = useState<{ look: Look; seconds: number } | null>(null);
  const [error, setError] = useState<unknown>(null);
  const { lesson, seed } = of;
  useEffect(() => {
    now.current = { aim, turns };
  });
  useEffect(() => {
    if (!running) return;
    const begun = performance.now();
    let over = false;
    let timer: ReturnType<typeof setTimeout> | undefined;
    const again = async () => {
      const seconds = (performance.now() - begun) / 1000;
      try {
        const look = await practiceLook({ lesson, seed }, now.current.aim, now.current.turns, seconds);
        if (over) return;
        setShown({ look, seconds });
      } catch (wrong) {
        if (!over) setError(wrong);
        return;
      }
      timer = setTimeout(() => void again(), EVERY_MS);
    };
    void again();
    return () => {
      over = true;
      clearTimeout(timer);
    };
  }, [lesson, seed, running]);
  return { look: shown?.look ?? null, seconds: shown?.seconds ?? 0, error };
}
