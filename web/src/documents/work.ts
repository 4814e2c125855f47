// What the work is: sights, balance, steepness, faces, how well an angle is wanted. Asked once and remembered per job; a
// document carries it, so that effects, limits and the tolerance of centring follow from it.

export type Work = {
  sight_m?: string | number;
  sight_imbalance_m?: string | number;
  balanced_sights?: boolean;
  elevation_deg?: string | number;
  both_faces?: boolean;
  angle_wanted_arcsec?: string | number;
  class_of_work?: string;
};
export type Job = { name: string; work: Work };

const JOBS = "naveta-jobs";
const CURRENT = "naveta-job";
const MAX_JOBS = 12;

export function jobs(): Job[] {
  try {
    const held = JSON.parse(localStorage.getItem(JOBS) ?? "[]") as Job[];
    return Array.isArray(held) ? held : [];
  } catch {
    return [];
  }
}

export const currentJob = (): string => localStorage.getItem(CURRENT) ?? "";

/** The work of the job at hand; what it does not say, the firm does. */
export function workAtHand(firm: Work): Work {
  return known({ ...firm, ...jobs().find((job) => job.name === currentJob())?.work });
}

/** Without empty entries: what nobody stated the core has its own value for. */
export const known = (work: Work): Work =>
  Object.fromEntries(Object.entries(work).filter(([, value]) => value !== "" && value !== undefined)) as Work;

/** Lengths typed without a unit with the unit they were typed in: a job outlives a sheet in metres or feet. */
export function withUnit(work: Work, unit: string): Work {
  const length = (value: string | number | undefined) =>
    typeof value === "string" && /^[\d.,\s]+$/.test(value.trim()) ? `${value.trim()} ${unit}` : value;
  return known({
    ...work,
    sight_m: length(work.sight_m) ?? "",
    sight_imbalance_m: length(work.sight_imbalance_m) ?? "",
  });
}

/** A job with its work, remembered on this device and at hand from now on; the latest first. An empty name: no job. */
export function rememberJob(name: string, work: Work): void {
  const job = name.trim();
  localStorage.setItem(CURRENT, job);
  if (!job) return;
  localStorage.setItem(
    JOBS,
    JSON.stringify(
      [{ name: job, work: known(work) }, ...jobs().filter((each) => each.name !== job)].slice(0, MAX_JOBS),
    ),
  );
}

/** A length as a field shows it: a plain number is metres, whatever the sheet is typed in. */
export const lengthText = (value: string | number | undefined, unit: string): string =>
  typeof value === "number" && unit !== "m" ? `${value} m` : String(value ?? "");

/** In a few words: "45 m sights, balanced, both faces". `unit` for plain metres. */
export function workInWords(work: Work, unit: string): string {
  const { sight_m: sight = 30 } = work;
  const far = typeof sight === "number" ? `${sight} m` : /[a-z'"]/i.test(sight) ? sight : `${sight} ${unit}`;
  return [
    `${far} sights`,
    work.balanced_sights ? "balanced" : "",
    work.both_faces ? "both faces" : "",
    work.class_of_work ?? "",
  ]
    .filter(Boolean)
    .join(", ");
}
