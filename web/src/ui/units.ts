// How this crew worked last time, so that it is not asked for again.
import type { Length } from "../documents/draft";

export const UNITS: { value: Length; label: string }[] = [
  { value: "m", label: "Metres" },
  { value: "ft", label: "Feet" },
  { value: "usft", label: "US survey feet" },
];
export const ANGLES = [
  { value: "dms", label: "Degrees, minutes, seconds", hint: "102.4305 is 102°43′05″" },
  { value: "deg", label: "Decimal degrees" },
  { value: "gon", label: "Gon" },
];

let firm = { length_unit: "m", angle_unit: "dms" };

/** The firm's units: what a document begins in where nobody here chose another. */
export function setFirmUnits(units: { length_unit: string; angle_unit: string } | undefined): void {
  if (units) firm = units;
}

export const firmUnit = (): Length => UNITS.find((each) => each.value === firm.length_unit)?.value ?? "m";
/** The unit small lengths are typed in: millimetres, or the firm's feet. */
export const smallUnit = (): string => (firmUnit() === "m" ? "mm" : firmUnit());
/** A unit as it is written behind a number. */
export const unitShown = (unit: string): string => (unit === "usft" ? "US ft" : unit);

/** What was typed as a plain number, with the unit its field is labelled with; a unit typed with it stays. */
export const withUnit = (text: string, unit: string): string =>
  /^[\s\d.,+\-−]*\d[\s\d.,]*$/.test(text) ? `${text.trim()} ${unit}` : text;

export const rememberedUnit = (): Length =>
  UNITS.find((each) => each.value === localStorage.getItem("unit"))?.value ?? firmUnit();
export const rememberedAngle = (): string => localStorage.getItem("angle") ?? firm.angle_unit;
export const rememberedMethod = (kind: string): string => localStorage.getItem(`method-${kind}`) ?? "";

export function remember(answer: {
  unit?: Length | undefined;
  angle?: string | undefined;
  method?: { kind: string; name: string } | undefined;
}): void {
  if (answer.unit) localStorage.setItem("unit", answer.unit);
  if (answer.angle) localStorage.setItem("angle", answer.angle);
  if (answer.method) localStorage.setItem(`method-${answer.method.kind}`, answer.method.name);
}
