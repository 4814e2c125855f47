// Seconds since a lesson was begun, to the second, while it runs.
import { useEffect, useState } from "react";
import { every } from "../../../timers";

export function useSeconds(running: boolean): number {
  const [seconds, setSeconds] = useState(0);
  useEffect(() => {
    if (!running) return;
    const begun = performance.now();
    return every("second", () => setSeconds(Math.round((performance.now() - begun) / 1000)));
  }, [running]);
  return seconds;
}
