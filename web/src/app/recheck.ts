// A set-up on soft ground is checked again: when, stored on this device, and shown on every page once it is time.
import { useEffect, useState } from "react";
import { every } from "../timers";

export type Recheck = { id: string; title: string; minutes: number; at: number };
const KEY = "naveta-recheck";
/** What stood longer than this is not out there any more. */
const FORGOTTEN_MS = 6 * 3_600_000;

export function held(): Recheck[] {
  try {
    const found = JSON.parse(localStorage.getItem(KEY) ?? "[]") as Recheck[];
    return Array.isArray(found) ? found.filter((each) => Date.now() - each.at < FORGOTTEN_MS) : [];
  } catch {
    return [];
  }
}

const store = (list: Recheck[]): void => localStorage.setItem(KEY, JSON.stringify(list));
export const remindOf = (id: string, title: string, minutes: number): void =>
  store([...held().filter((each) => each.id !== id), { id, title, minutes, at: Date.now() + minutes * 60_000 }]);
/** Looked at: again after as long, or not any more. */
export const again = (entry: Recheck): void => remindOf(entry.id, entry.title, entry.minutes);
export const done = (id: string): void => store(held().filter((each) => each.id !== id));

const dueNow = (): Recheck[] => held().filter((each) => each.at <= Date.now());

/** What is due to be looked at now. */
export function useDueRechecks(): [Recheck[], () => void] {
  const [due, setDue] = useState(dueNow);
  const look = () => setDue(dueNow());
  useEffect(() => {
    return every("recheck", () => setDue(dueNow()));
  }, []);
  return [due, look];
}
