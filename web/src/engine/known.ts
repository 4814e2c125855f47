// What the house last said of every instrument, and what this device has made since and not yet sent: so that a check
// is reckoned here as it will be at home.
import type { Schemas } from "../api/client";
import type { Parcel } from "../device/device";

type Known = Schemas["KnownInstrument"];
let fleet = new Map<string, Known>();
let pending: { instrument: string; entry: Record<string, unknown> }[] = [];

export function keepKnown(list: Known[]): void {
  fleet = new Map(list.map((one) => [one.tag, one]));
}

/** What waits in the outbox, in the order in which it was made. */
export function keepSince(parcels: Parcel[]): void {
  pending = parcels.flatMap((one) => {
    const happened = one.body as { event?: string; at?: string; record?: string };
    // Of an adjustment it is known what was adjusted while its check still waits here; otherwise it counts for everything.
    const kind = parcels.find((other) => other.id === happened.record)?.reckoned?.result.kind;
    if (one.path.startsWith("/api/events/")) return [{ instrument: one.instrument, entry: { what: "event", event: happened.event, at: happened.at, ...(kind ? { kind } : {}) } }];
    return one.reckoned?.history_entry ? [{ instrument: one.instrument, entry: one.reckoned.history_entry }] : [];
  });
}

/** As a part of a question; null when this device does not know the instrument. */
export function knowing(tag: string): { instrument: Known; pending: Record<string, unknown>[] } | null {
  const known = fleet.get(tag);
  return known ? { instrument: known, pending: pending.filter((one) => one.instrument === tag).map((one) => one.entry) } : null;
}
