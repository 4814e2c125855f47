// How long the laser plummet has been on: it may have switched itself off, and it empties the battery.
import { useEffect, useState } from "react";
import type { LogEntry } from "../../sheet/setUp";

const SAID_FROM_MIN = 3;

export function LaserOn({ log, now }: { log: LogEntry[]; now: string | undefined }) {
  const [time, setTime] = useState(() => Date.now());
  useEffect(() => {
    const tick = setInterval(() => setTime(Date.now()), 15_000);
    return () => clearInterval(tick);
  }, []);
  const last = [...log].reverse().find((one) => one.confirmed && (one.act === "laser-on" || one.act === "laser-off"));
  if (last?.act !== "laser-on" || !last.at || now === "laser-off") return null;
  const minutes = Math.floor((time - new Date(last.at).getTime()) / 60_000);
  if (minutes < SAID_FROM_MIN) return null;
  return (
    <p className="caution" role="status" data-laser-on={minutes}>
      The laser plummet has been on for {minutes} minutes. No spot? It may have switched itself off. Off when you are done.
    </p>
  );
}
