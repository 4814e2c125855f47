// What the house last said of every instrument, so that a check can be reckoned here as it would be at home.
import type { Schemas } from "../api/client";

type Known = Schemas["KnownInstrument"]["known"];
let fleet = new Map<string, Known>();

export function keepKnown(list: Schemas["KnownInstrument"][]): void {
  fleet = new Map(list.map((one) => [one.tag, one.known]));
}

export function knownOf(tag: string): Known | undefined {
  return fleet.get(tag);
}
