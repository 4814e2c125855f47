// The reviews at the reference at the end: did the stand move?
import type { Fault } from "../../api/client";
import { type OrientationDraft, observing, type Write } from "../../documents/orientation";
import { Named } from "../../ui/Named";

export function Closing({
  draft,
  advice,
  faults,
  write,
}: {
  draft: OrientationDraft;
  advice: string;
  faults: Fault[];
  write: Write;
}) {
  const { shots, closing } = draft.document.observations;
  const names = [...new Set(shots.flatMap((shot) => (shot.point ? [shot.point] : [])))];
  const point = closing?.point ?? names[0] ?? "";
  return (
    <div className="grid gap-3">
      <p>{advice}</p>
      <div className="flex flex-wrap gap-2">
        {names.map((name) => (
          <button
            key={name}
            className="btn tag aria-pressed:!bg-ink aria-pressed:!text-card"
            aria-pressed={name === point}
            onClick={() => write((each) => observing(each, { closing: { ...closing, point: name } }))}
          >
            {name}
          </button>
        ))}
      </div>
      <div className="max-w-[260px]">
        <Named
          id="closing-hz"
          label="Circle now reads"
          value={closing?.hz ?? ""}
          onType={(hz) => write((each) => observing(each, { closing: { point, hz } }))}
          faults={faults}
          path="observations.closing.hz"
        />
      </div>
    </div>
  );
}
