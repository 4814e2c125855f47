// Both figures of an electronic level that sends all the time, as they are now; null when none came for a while.
import { useEffect, useState } from "react";
import type { Levelled } from "../documents/setUp";
import { useReadings } from "./useLink";

const GONE_AFTER_MS = 2_000;

export function useLiveLevel(): Levelled | null {
  const [level, setLevel] = useState<Levelled>({});
  useReadings(({ live }) => {
    const sent = Object.fromEntries(live.filter((line) => line.quantity === "along" || line.quantity === "across").map((line) => [line.quantity, line.value]));
    if (Object.keys(sent).length) setLevel((before) => ({ ...before, ...sent }));
  });
  useEffect(() => {
    const timer = setTimeout(() => setLevel({}), GONE_AFTER_MS);
    return () => clearTimeout(timer);
  }, [level]);
  return level.along && level.across ? level : null;
}
