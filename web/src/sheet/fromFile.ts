// A document from a file as a field sheet: what the house states of an instrument is left to the house, and plain
// numbers, which are metres whatever the sheet's unit, are written as somebody would type them.
import type { CheckDocument, Sight, Wires } from "./draft";
import { emptySetUp } from "./draft";

type Loose = string | number | undefined;

function typed(value: Loose, unit: string): string {
  if (typeof value !== "number") return value ?? "";
  return unit === "m" ? String(value) : `${value} m`;
}

function sight(from: Sight, unit: string): Sight {
  const distance = typed(from.distance as Loose, unit);
  const struck = (from.struck ?? []).map((one) => typed(one as Loose, unit));
  const kept = { distance, ...(struck.length ? { struck } : {}) };
  if (from.wires?.length) return { ...kept, wires: from.wires.map((one) => Object.fromEntries(Object.entries(one).map(([name, value]) => [name, typed(value as Loose, unit)])) as Wires) };
  const readings = (from.readings ?? []).map((one) => typed(one as Loose, unit));
  return { ...kept, readings: readings.length ? readings : [""] };
}

export function fromFile(from: CheckDocument): CheckDocument {
  const unit = from.units?.length ?? "m";
  const setups = (from.observations.setups ?? []).map((one) => ({ a: sight(one.a ?? {}, unit), b: sight(one.b ?? {}, unit) }));
  while (setups.length < 2) setups.push(emptySetUp());
  const document: CheckDocument = { kind: from.kind, units: { ...from.units, length: unit }, observations: { ...from.observations, setups } };
  if (from.conditions) document.conditions = from.conditions;
  if (from.remark) document.remark = from.remark;
  return document;
}
