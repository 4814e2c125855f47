// The sequence as a plumb string with knots. Nothing is locked: each can be taken; what was skipped stays open.
import { useEffect, useRef } from "react";
import type { Guide } from "../../api/client";

const DOT: Record<string, string> = {
  done: "size-[11px] ml-[4.5px] bg-ink",
  now: "size-5 border-[5px] bg-card",
  open: "size-[11px] ml-[4.5px] bg-card",
  passed: "size-[11px] ml-[4.5px] bg-card",
};
const SAID: Record<string, string> = { done: "done", now: "now", open: "to come", passed: "skipped" };

export function PlumbLine({ knots, onTake }: { knots: Guide["knots"]; onTake: (act: string) => void }) {
  const now = knots.find((one) => one.state === "now")?.act;
  const line = useRef<HTMLOListElement>(null);
  // On a phone the string runs sideways: the knot at hand is brought into sight, the page stays where it is.
  useEffect(() => {
    const knot = line.current?.querySelector<HTMLElement>(`[data-knot="${now}"]`)?.parentElement;
    if (line.current && knot) line.current.scrollTo({ left: knot.offsetLeft - (line.current.clientWidth - knot.clientWidth) / 2 });
  }, [now]);
  return (
    <nav aria-label="Steps" className="min-w-0 tab:col-span-2 desk:col-span-1">
      <ol ref={line} className="relative m-0 flex list-none gap-1 overflow-x-auto p-0 desk:grid desk:gap-0 desk:overflow-visible">
        <span aria-hidden="true" className="absolute -bottom-2 left-[9px] top-4 hidden w-[2px] bg-ink desk:block" />
        {knots.map((knot) => (
          <li key={knot.act} className="shrink-0">
            <button
              aria-current={knot.state === "now" ? "step" : undefined}
              aria-label={`${knot.knot}, ${SAID[knot.state]}`}
              data-knot={knot.act}
              data-state={knot.state}
              disabled={!knot.may_take}
              onClick={() => onTake(knot.act)}
              className={`relative flex min-h-[48px] items-center disabled:cursor-not-allowed whitespace-nowrap pl-8 pr-3 text-left desk:min-h-[38px] ${knot.state === "now" ? "text-[1.06rem] font-[700]" : knot.state === "done" ? "font-[560]" : "sub"}`}
            >
              <span aria-hidden="true" className={`absolute left-0 top-1/2 -translate-y-1/2 rounded-full border-2 border-ink ${DOT[knot.state]}`} />
              {knot.knot}
              {knot.state === "passed" && <span className="ml-1">(open)</span>}
            </button>
          </li>
        ))}
        <span aria-hidden="true" className="absolute -bottom-5 left-[3px] hidden h-6 w-[14px] bg-ink [clip-path:polygon(0_0,100%_0,50%_100%)] desk:block" />
      </ol>
    </nav>
  );
}
