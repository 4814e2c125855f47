// Seconds since a lesson was begun, to the second, while it runs.
import { useEffect, useState } from "react";

export function useSeconds(running: boolean): number {
  const [seconds, setSeconds] = useState(0);
  useEffect(() => {
    if (!running) return;
    const begun = performance.now();
    const timer = setInterval(() => setSeconds(Math.round((performance.now() - begun) / 1000)), 1000);
    return () => clearInterval(timer);
  }, [running]);
  return seconds;
}
