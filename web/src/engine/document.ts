// A check's document as it is typed, and the moment it is typed at.

export type Length = "m" | "mm" | "cm" | "ft" | "usft" | "in";
export type Conditions = {
  staff_held?: string;
  distances_by?: string;
  triggered?: string;
  prism?: string;
  regained?: string;
  temperature_c?: string;
  wind?: string;
  minutes_on?: string;
  support?: string;
  sky?: string;
  ground?: string;
  shimmer?: string;
};

/** A check's document as typed; how its observations are laid out, the core's form says. */
export type CheckDocument = {
  kind: string;
  method?: string;
  units?: { length?: Length; angle?: string };
  conditions?: Conditions;
  work?: Record<string, unknown>;
  checked_off?: string[];
  /** Moment of the record that this one replaces. */
  in_place_of?: string;
  remark?: string;
  observations: Record<string, unknown>;
};

/** The present moment with the device's own offset, as records keep it. */
export function nowWithOffset(date: Date = new Date()): string {
  const minutes = -date.getTimezoneOffset();
  const sign = minutes < 0 ? "-" : "+";
  const pad = (n: number) => String(Math.trunc(Math.abs(n))).padStart(2, "0");
  const local = new Date(date.getTime() + minutes * 60_000).toISOString().slice(0, 19);
  return `${local}${sign}${pad(minutes / 60)}:${pad(minutes % 60)}`;
}
