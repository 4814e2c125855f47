// What is done between one set of readings and the next, where a check repeats them.
import type { InstrumentLesson } from "../../../engine/practice";

export function BetweenSets({
  lesson,
  again,
  onAgain,
}: {
  lesson: InstrumentLesson;
  again: number;
  onAgain: (again: number) => void;
}) {
  const sets = lesson.set_again;
  if (!sets) return null;
  const last = again >= sets.most - 1;
  return (
    <div className="flex flex-wrap items-center gap-x-4 gap-y-2" data-set={again + 1}>
      <b>
        {sets.each} {again + 1} of {sets.most}
      </b>
      <button className="btn" onClick={() => onAgain(last ? 0 : again + 1)}>
        {last ? `Back to ${sets.each.toLowerCase()} 1` : sets.label}
      </button>
    </div>
  );
}
