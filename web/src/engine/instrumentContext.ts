// What the server last said of every instrument, and what this device has made since and not yet sent: so that a check
// is calculated here as it will be on the server.
import type { Schemas } from "../api/client";
import type { OutboxItem } from "../device/device";

type Known = Schemas["InstrumentHistory"];
let fleet = new Map<string, Known>();
let pending: { instrument: string; entry: Record<string, unknown> }[] = [];

export function storeFleet(list: Known[]): void {
  fleet = new Map(list.map((each) => [each.tag, each]));
}

/** What waits in the outbox, in the order in which it was made. */
export function storeSince(items: OutboxItem[]): void {
  pending = items.flatMap((item) => {
    const happened = item.body as { event?: string; at?: string; record?: string };
    // Of an adjustment it is known what was adjusted while its check still waits here; otherwise it counts for everything.
    const kind = items.find((other) => other.id === happened.record)?.device_result?.result.kind;
    if (item.path.startsWith("/api/events/"))
      return [
        {
          instrument: item.instrument,
          entry: { what: "event", event: happened.event, at: happened.at, ...(kind ? { kind } : {}) },
        },
      ];
    return item.device_result?.history_entry
      ? [{ instrument: item.instrument, entry: item.device_result.history_entry }]
      : [];
  });
}

/** As a part of a question; null when this device does not know the instrument. */
export function instrumentContext(tag: string): { instrument: Known; pending: Record<string, unknown>[] } | null {
  const known = fleet.get(tag);
  return known
    ? { instrument: known, pending: pending.filter((each) => each.instrument === tag).map((each) => each.entry) }
    : null;
}
