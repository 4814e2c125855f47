// How long the laser plummet has been on, counted here; what is stated of it is the core's.
import { useEffect, useState } from "react";
import type { Guide } from "../../api/client";
import { every } from "../../timers";

export function LaserOn({ laser }: { laser: NonNullable<Guide["laser"]> }) {
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => {
    return every("laserOn", () => setNow(Date.now()));
  }, []);
  const minutes = Math.floor((now - new Date(laser.since).getTime()) / 60_000);
  if (minutes < laser.after_minutes) return null;
  return (
    <p className="caution" role="status" data-laser-on={minutes}>
      {minutes} minutes: {laser.text}
    </p>
  );
}
