// The link to devices as it is now, and what comes over it.
import { useEffect, useRef, useSyncExternalStore } from "react";
import { type Link, type Readings, linkNow, onReadings, watchLink } from "../device/link";

export const useLink = (): Link => useSyncExternalStore(watchLink, linkNow);

/** What comes while this is on the page, one after the other. */
export function useReadings(take: (readings: Readings) => Promise<void> | void): void {
  const taking = useRef(take);
  useEffect(() => {
    taking.current = take;
  });
  useEffect(() => {
    let last: Promise<void> = Promise.resolve();
    return onReadings((readings) => {
      last = last.then(() => taking.current(readings)).catch(() => undefined);
    });
  }, []);
}
