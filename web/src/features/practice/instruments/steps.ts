// What somebody did with a simulated instrument, step by step: recorded while they do it, shown again afterwards.
import type { Draft } from "../../../documents/draft";
import type { Aim, InstrumentStep, Turns } from "../../../engine/practice";

const MAX_STEPS = 600;
type Now = { seconds: number; aim: Aim; turns: Turns };

const POINTING = new Set(["hz_arcsec", "v_arcsec", "zero_arcsec", "held_arcsec"]);

/** What an aim differs by: looked elsewhere, focused or pointed; nothing where only time went by. */
export function changeOf(before: Aim, after: Aim): InstrumentStep["do"] | null {
  const old = before as Record<string, unknown>;
  const changed = Object.entries(after).flatMap(([name, value]) =>
    old[name] === value || name === "since" ? [] : [name],
  );
  if (changed.some((name) => name !== "focus" && !POINTING.has(name))) return "look";
  if (changed.includes("focus")) return "focus";
  return changed.length ? "point" : null;
}

/** The cell that was typed into, and what stands there now. */
export function typedInto(before: unknown, after: unknown, path = ""): { label: string; typed: string } | null {
  if (before === after || typeof after === "boolean") return null;
  if (after === null || typeof after !== "object") return { label: path, typed: String(after ?? "") };
  const old = (before ?? {}) as Record<string, unknown>;
  for (const [name, value] of Object.entries(after)) {
    const found = typedInto(old[name], value, path ? `${path}.${name}` : name);
    if (found) return found;
  }
  return null;
}

/** One step more. A screw or a focus that is turned on, and a figure typed on in one cell, stay one step. */
export function withStep(
  steps: InstrumentStep[],
  what: Pick<InstrumentStep, "do" | "label" | "typed">,
  now: Now,
): InstrumentStep[] {
  const step: InstrumentStep = {
    ...what,
    seconds: now.seconds,
    aim: now.aim as Record<string, unknown>,
    turns: now.turns,
  };
  const last = steps.at(-1);
  const goesOn = last?.do === what.do && what.do !== "look" && what.do !== "again" && last.label === what.label;
  return [...(goesOn ? steps.slice(0, -1) : steps), step].slice(0, MAX_STEPS);
}

export const typedIn = (before: Draft, after: Draft) =>
  typedInto(before.document.observations, after.document.observations, "observations");
