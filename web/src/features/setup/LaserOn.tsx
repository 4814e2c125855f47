// How long the laser plummet has been on, counted here; what is stated of it is the core's.
import { useEffect, useState } from "react";
import type { Guide } from "../../api/client";

export function LaserOn({ laser }: { laser: NonNullable<Guide["laser"]> }) {
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => {
    const tick = setInterval(() => setNow(Date.now()), 15_000);
    return () => clearInterval(tick);
  }, []);
  const minutes = Math.floor((now - new Date(laser.since).getTime()) / 60_000);
  if (minutes < laser.after_minutes) return null;
  return (
    <p className="caution" role="status" data-laser-on={minutes}>
      {minutes} minutes: {laser.text}
    </p>
  );
}
