// The sequence as a plumb string with steps. Nothing is locked: each can be taken; what was skipped stays open.
import { useEffect, useRef } from "react";
import type { Guide } from "../../api/client";

const DOT: Record<string, string> = {
  done: "size-[11px] ml-[4.5px] bg-ink",
  now: "size-5 border-[5px] bg-card",
  open: "size-[11px] ml-[4.5px] bg-card",
  passed: "size-[11px] ml-[4.5px] bg-card",
};
const REPORTED: Record<string, string> = { done: "done", now: "now", open: "to come", passed: "skipped" };

export function PlumbLine({ steps, onTake }: { steps: Guide["steps"]; onTake: (step: string) => void }) {
  const now = steps.find((step) => step.state === "now")?.step;
  const line = useRef<HTMLOListElement>(null);
  // On a phone the string runs sideways: the step at hand is brought into sight, the page stays where it is.
  useEffect(() => {
    const short_title = line.current?.querySelector<HTMLElement>(`[data-step="${now}"]`)?.parentElement;
    if (line.current && short_title)
      line.current.scrollTo({
        left: short_title.offsetLeft - (line.current.clientWidth - short_title.clientWidth) / 2,
      });
  }, [now]);
  return (
    <nav aria-label="Steps" className="min-w-0 tab:col-span-2 desk:col-span-1">
      <ol
        ref={line}
        className="relative m-0 flex list-none gap-1 overflow-x-auto p-0 desk:grid desk:gap-0 desk:overflow-visible"
      >
        <span aria-hidden="true" className="absolute -bottom-2 left-[9px] top-4 hidden w-[2px] bg-ink desk:block" />
        {steps.map((short_title) => (
          <li key={short_title.step} className="shrink-0">
            <button
              aria-current={short_title.state === "now" ? "step" : undefined}
              aria-label={`${short_title.short_title}, ${REPORTED[short_title.state]}`}
              data-step={short_title.step}
              data-state={short_title.state}
              disabled={!short_title.may_take}
              onClick={() => onTake(short_title.step)}
              className={`relative flex min-h-[48px] items-center disabled:cursor-not-allowed whitespace-nowrap pl-8 pr-3 text-left desk:min-h-[38px] ${short_title.state === "now" ? "text-[1.06rem] font-bold" : short_title.state === "done" ? "font-semibold" : "sub"}`}
            >
              <span
                aria-hidden="true"
                className={`absolute left-0 top-1/2 -translate-y-1/2 rounded-full border-2 border-ink ${DOT[short_title.state]}`}
              />
              {short_title.short_title}
              {short_title.state === "passed" && <span className="ml-1">(open)</span>}
            </button>
          </li>
        ))}
        <span
          aria-hidden="true"
          className="absolute -bottom-5 left-[3px] hidden h-6 w-[14px] bg-ink [clip-path:polygon(0_0,100%_0,50%_100%)] desk:block"
        />
      </ol>
    </nav>
  );
}
