// What can happen to an instrument, in the core's words: it comes with the session, so that it is there without signal.
import type { Session } from "../api/client";
import { useHere } from "./session";

export type EventKind = Session["events"][number];

export function useEventKind(): (name: string) => EventKind | undefined {
  const { events } = useHere().session;
  return (name) => events.find((each) => each.name === name);
}

/** What an event is called. */
export function useEventName(): (name: string) => string {
  const kind = useEventKind();
  return (name) => kind(name)?.label ?? name;
}
