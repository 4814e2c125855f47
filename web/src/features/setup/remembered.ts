// How somebody likes to work, remembered on this device for the next set-up.
import type { Options } from "../../documents/setUp";

/** By which level is no habit until somebody chose one: the instrument's usual one is taken. */
const STANDARD: Options = { together: true, legs_may: "lower", stands: "two-to-you" };

export function habitsOf(username: string): Options {
  try {
    return { ...STANDARD, ...(JSON.parse(localStorage.getItem(`naveta.habits.${username}`) ?? "{}") as Options) };
  } catch {
    return STANDARD;
  }
}

export function storeHabits(username: string, options: Options): void {
  localStorage.setItem(`naveta.habits.${username}`, JSON.stringify({ ...options, strict: false }));
}
