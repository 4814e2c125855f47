// On a phone: what the readings say so far in one line above the keypad; a touch leads to the whole finding.
import type { ReactNode } from "react";
import type { Preview } from "../../api/client";
import type { Answered } from "../../hooks/useQuestion";
import { GradeMark } from "../../ui/icons";
import { after } from "../../timers";

/** `alone`: in the place of the finding, not beside it; with the action that matters now. A touch opens the rest: the keypad goes, and the finding is shown whole. */
export function FindingStrip({
  saying,
  alone = false,
  children,
}: {
  saying: Answered<Preview>;
  alone?: boolean;
  children?: ReactNode;
}) {
  const { answer } = saying;
  const result = answer?.complete ? answer.reduced : null;
  const faults = answer?.faults.length ?? 0;
  const first = result?.shown[0];
  const show = () => {
    (document.activeElement as HTMLElement | null)?.blur();
    // Where it was folded it is there again once the keypad has gone.
    after("unfold", () => document.getElementById("finding")?.scrollIntoView({ block: "start", behavior: "smooth" }));
  };
  const strip = (
    <button
      className="flex min-h-[50px] w-full min-w-0 items-center gap-3 border-t border-line bg-card px-4 text-left"
      data-strip={result?.verdict.grade ?? "open"}
      {...(alone ? { "data-complete": Boolean(result), "data-fresh": saying.fresh } : {})}
      onPointerDown={(event) => event.preventDefault()}
      onClick={show}
    >
      {result && <GradeMark grade={result.verdict.grade} />}
      <span
        className="min-w-0 flex-1 truncate font-semibold"
        {...(alone && result ? { "data-finding": result.verdict.grade } : {})}
      >
        {first
          ? `${first.text}${first.plus_minus ? ` ±\u00a0${first.plus_minus}` : ""}`
          : faults
            ? `${faults === 1 ? "One entry needs" : `${faults} entries need`} correcting`
            : answer?.progress.next
              ? `Next: ${answer.progress.next.where}`
              : "Type the first reading"}
      </span>
      <span aria-hidden="true" className="sub">
        Finding
      </span>
    </button>
  );
  if (!children) return strip;
  return (
    <div className="flex items-center gap-3 border-t border-line bg-card pr-4">
      <div className="min-w-0 flex-1">{strip}</div>
      <div className="w-[220px]">{children}</div>
    </div>
  );
}
