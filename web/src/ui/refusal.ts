// Scroll to the first fault after a refused save and focus its input. A fault is an alert, so screen readers announce it.
import { type Dispatch, type SetStateAction, useEffect, useState } from "react";
import { Problem } from "../api/client";

/** The first of these that is found is shown: in an open dialog before the page under it, of a field before a whole form. */
const FAULTS = ["[role=dialog] [data-fault]", "[role=dialog] .fault[role=alert]", "[data-fault]", ".fault[role=alert]"];
const INPUTS = "input:not([disabled]), select:not([disabled]), textarea:not([disabled]), [role=combobox]";
/** Number of parent elements searched for the input of a fault. */
const LEVELS = 4;

/** Return the input of a fault: the one named by its path, else the last one before it in the nearest group. */
function inputOf(fault: HTMLElement): HTMLElement | null {
  const path = fault.dataset.fault ?? "";
  const named = document.getElementById(path) ?? document.querySelector(`[data-field="${CSS.escape(path)}"] button`);
  if (named instanceof HTMLElement) return named;
  let group = fault.parentElement;
  for (let level = 0; group && level < LEVELS; level += 1) {
    const inputs = [...group.querySelectorAll<HTMLElement>(INPUTS)];
    const before = inputs.filter((each) => each.compareDocumentPosition(fault) & Node.DOCUMENT_POSITION_FOLLOWING);
    const input = before.at(-1) ?? inputs[0];
    if (input) return input;
    group = group.parentElement;
  }
  return null;
}

/** Show the first fault of the page after the next draw. */
export function showRefusal(): void {
  requestAnimationFrame(() => {
    const found = FAULTS.map((each) => document.querySelector<HTMLElement>(each));
    const fault = found.find((each) => each !== null);
    if (!fault) return;
    if (fault.dataset.fault !== undefined) inputOf(fault)?.focus({ preventScroll: true });
    fault.scrollIntoView({ block: "center" });
  });
}

/** What stood in the way of something somebody pressed: shown each time it is set. */
export function useTrouble(): [unknown, Dispatch<SetStateAction<unknown>>] {
  const [trouble, setTrouble] = useState<unknown>(null);
  useEffect(() => {
    if (trouble) showRefusal();
  }, [trouble]);
  return [trouble, setTrouble];
}

/** Show the first fault each time the server refuses fields. */
export function useRefusal(trouble: unknown): void {
  useEffect(() => {
    if (trouble instanceof Problem && trouble.faults.length > 0) showRefusal();
  }, [trouble]);
}
