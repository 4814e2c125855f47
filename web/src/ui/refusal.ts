// Scroll to the first fault after a refused save and focus its input. A fault is an alert, so screen readers announce it.
import { useEffect } from "react";
import { Problem } from "../api/client";

const FAULTS = "[data-fault]";
const INPUTS = "input:not([disabled]), select:not([disabled]), textarea:not([disabled]), [role=combobox]";
/** Number of parent elements searched for the input of a fault. */
const LEVELS = 4;

/** Return the input next to a fault, or null. */
function inputOf(fault: Element): HTMLElement | null {
  let around = fault.parentElement;
  for (let level = 0; around && level < LEVELS; level += 1) {
    const found = around.querySelector<HTMLElement>(INPUTS);
    if (found) return found;
    around = around.parentElement;
  }
  return null;
}

/** Show the first fault of the page after the next draw. */
export function showRefusal(): void {
  requestAnimationFrame(() => {
    const fault = document.querySelector(FAULTS);
    if (!fault) return;
    inputOf(fault)?.focus({ preventScroll: true });
    fault.scrollIntoView({ block: "center" });
  });
}

/** Show the first fault each time the server refuses fields. */
export function useRefusal(trouble: unknown): void {
  useEffect(() => {
    if (trouble instanceof Problem && trouble.faults.length > 0) showRefusal();
  }, [trouble]);
}
