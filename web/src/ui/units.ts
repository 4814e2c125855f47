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

export const rememberedUnit = (): Length => UNITS.find((one) => one.value === localStorage.getItem("unit"))?.value ?? "m";
export const rememberedAngle = (): string => localStorage.getItem("angle") ?? "dms";
export const rememberedMethod = (kind: string): string => localStorage.getItem(`method-${kind}`) ?? "";

export function remember(told: { unit?: Length | undefined; angle?: string | undefined; method?: { kind: string; name: string } | undefined }): void {
  if (told.unit) localStorage.setItem("unit", told.unit);
  if (told.angle) localStorage.setItem("angle", told.angle);
  if (told.method) localStorage.setItem(`method-${told.method.kind}`, told.method.name);
}
