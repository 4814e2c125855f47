// The adjusting screws of a simulated instrument, and what to do with them: by the check itself, or by the lesson.
import { useQuery } from "@tanstack/react-query";
import type { Kind } from "../../../api/client";
import type { CheckDocument } from "../../../documents/draft";
import { practiceAdjusting } from "../../../engine";
import type { InstrumentLesson, Turns } from "../../../engine/practice";
import { Cautions } from "../../../ui/parts";
import { Screws } from "./Screws";

/** `tested`: what was turned when the sheet was begun. */
type Props = {
  kind: Kind;
  lesson: InstrumentLesson;
  document: CheckDocument;
  turns: Turns;
  tested: Turns;
  onTurn: (turns: Turns) => void;
  onAgain: () => void;
};

export function AdjustingScrews({ kind, lesson, document, turns, tested, onTurn, onAgain }: Props) {
  const target = useQuery({
    queryKey: ["practice-adjusting", JSON.stringify(document)],
    queryFn: () => practiceAdjusting(document),
    staleTime: Infinity,
    enabled: !lesson.to_adjust,
  });
  const screws = lesson.screws.filter((screw) => screw.adjusting);
  if (!screws.length) return null;
  const text = lesson.to_adjust || target.data?.text;
  return (
    <div className="grid gap-2 border-t-2 border-ink pt-3">
      <h2>Adjusting</h2>
      {text && <p>{text}</p>}
      <Screws screws={screws} turns={turns} onTurn={onTurn} />
      <Cautions cautions={kind.cautions["adjusting"] ?? []} />
      {screws.some((screw) => turns[screw.name] !== tested[screw.name]) && (
        <button className="btn now" onClick={onAgain}>
          Test again, as left
        </button>
      )}
    </div>
  );
}
