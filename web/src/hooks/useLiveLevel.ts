// Both figures of an electronic level that sends all the time, as they are now; null when none came for a while.
import { useEffect, useState } from "react";
import type { Levelled } from "../documents/setUp";
import { hasWaiting } from "../device/link";
import { useReadings } from "./useLink";
import { every } from "../timers";

export function useLiveLevel(): Levelled | null {
  const [level, setLevel] = useState<Levelled>({});
  useReadings(({ live }) => {
    const sent = Object.fromEntries(
      live
        .filter((line) => line.quantity === "along" || line.quantity === "across")
        .map((line) => [line.quantity, line.value]),
    );
    if (Object.keys(sent).length) setLevel((before) => ({ ...before, ...sent }));
  });
  useEffect(() => {
    // On a slow device a reading may still wait to be read: the level is not gone.
    return every("levelGone", () => !hasWaiting() && setLevel({}));
  }, [level]);
  return level.along && level.across ? level : null;
}
