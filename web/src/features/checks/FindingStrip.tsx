// On a phone: what the readings say so far in one line above the keypad; a touch leads to the whole finding.
import type { Preview } from "../../api/client";
import type { Answered } from "../../hooks/useQuestion";
import { GradeMark } from "../../ui/icons";

export function FindingStrip({ saying }: { saying: Answered<Preview> }) {
  const { answer } = saying;
  const result = answer?.complete ? answer.reduced : null;
  const faults = answer?.faults.length ?? 0;
  const first = result?.shown[0];
  const show = () => document.getElementById("finding")?.scrollIntoView({ block: "start", behavior: "smooth" });
  return (
    <button className="flex min-h-[50px] w-full items-center gap-3 border-t border-line bg-card px-4 text-left" data-strip={result?.verdict.grade ?? "open"} onPointerDown={(event) => event.preventDefault()} onClick={show}>
      {result && <GradeMark grade={result.verdict.grade} />}
      <span className="min-w-0 flex-1 truncate font-[600]">
        {first ? `${first.text}${first.plus_minus ? ` ± ${first.plus_minus}` : ""}` : faults ? `${faults === 1 ? "One entry needs" : `${faults} entries need`} correcting` : answer?.progress.next ? `Next: ${answer.progress.next.where}` : "Type the first reading"}
      </span>
      <span aria-hidden="true" className="sub">
        Finding
      </span>
    </button>
  );
}
