// What a press was refused for: brought into view, with the focus where it is put right. It is an alert, so it is said.
import { useEffect } from "react";
import { Problem } from "../api/client";

const FAULTS = "[data-fault]";
const INPUTS = "input:not([disabled]), select:not([disabled]), textarea:not([disabled]), [role=combobox]";
/** So far up from a fault its input is looked for. */
const LEVELS = 4;

/** The input a fault stands beside. */
function inputOf(fault: Element): HTMLElement | null {
  let around = fault.parentElement;
  for (let level = 0; around && level < LEVELS; level += 1) {
    const found = around.querySelector<HTMLElement>(INPUTS);
    if (found) return found;
    around = around.parentElement;
  }
  return null;
}

/** Leads to the first fault on the page, once it is drawn. */
export function showRefusal(): void {
  requestAnimationFrame(() => {
    const fault = document.querySelector(FAULTS);
    if (!fault) return;
    inputOf(fault)?.focus({ preventScroll: true });
    fault.scrollIntoView({ block: "center" });
  });
}

/** The same each time an answer refuses what was sent: one that names fields. */
export function useRefusal(trouble: unknown): void {
  useEffect(() => {
    if (trouble instanceof Problem && trouble.faults.length > 0) showRefusal();
  }, [trouble]);
}
