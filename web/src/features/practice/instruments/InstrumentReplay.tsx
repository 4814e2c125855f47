// The way somebody took with an instrument: what was seen at each step, and how often each thing was done beside the shortest way.
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import {
  type Aim,
  type InstrumentJudged,
  type InstrumentLesson,
  type InstrumentStep,
  practiceLook,
} from "../../../engine/practice";
import { useNarrow } from "../../../hooks/useNarrow";
import { clockOf } from "../clock";
import { lowered } from "../../../ui/words";
import { BesideShortest } from "./BesideShortest";
import { View } from "./View";

type Counts = NonNullable<InstrumentJudged["counts"]>;
type Props = { lesson: InstrumentLesson; seed: number; steps: InstrumentStep[]; counts: Counts };

export function InstrumentReplay({ lesson, seed, steps, counts }: Props) {
  const [at, setAt] = useState(steps.length - 1);
  const step = steps[at];
  const seen = useQuery({
    queryKey: ["practice-replay", lesson.name, seed, at, steps.length],
    queryFn: () =>
      practiceLook({ lesson: lesson.name, seed }, (step?.aim ?? {}) as Aim, step?.turns ?? {}, step?.seconds ?? 0),
    enabled: step !== undefined,
    placeholderData: (before) => before,
    staleTime: Infinity,
  });
  if (!step) return null;
  return (
    <section className="card grid gap-3 p-4 tab:p-5" aria-label="The way taken" data-replay={at + 1}>
      <h2>The way taken, beside the shortest</h2>
      <div className="grid items-start gap-5 desk:grid-cols-[minmax(0,1fr)_440px]">
        <div className="grid gap-4">
          <BesideShortest of="What was done" rows={counts.map((count) => ({ ...count, name: count.do }))} />
          <Strip steps={steps} counts={counts} at={at} onAt={setAt} />
          <div className="no-print flex flex-wrap items-center gap-3">
            <button className="btn" disabled={at === 0} onClick={() => setAt(at - 1)}>
              Step before
            </button>
            <button className="btn" disabled={at === steps.length - 1} onClick={() => setAt(at + 1)}>
              Next step
            </button>
            <input
              type="range"
              className="h-[44px] min-w-[160px] flex-1 accent-[var(--color-ink)]"
              min="0"
              max={steps.length - 1}
              value={at}
              aria-label="Step"
              onChange={(event) => setAt(Number(event.target.value))}
            />
          </div>
          <p role="status">
            {at + 1} of {steps.length}, {clockOf(step.seconds)}: {labelOf(counts, step.do)}
            {step.typed && <b className="font-mono"> {step.typed}</b>}
          </p>
        </div>
        <div inert className="still grid gap-3" aria-label="What was seen">
          <View
            lesson={lesson}
            look={seen.data ?? null}
            aim={step.aim as Aim}
            onAim={() => undefined}
            small
            seconds={step.seconds}
          />
          {typeof step.aim?.face === "string" && <p className="sub text-center">Face {step.aim.face}</p>}
        </div>
      </div>
    </section>
  );
}

/** As the core names what was done. */
const labelOf = (counts: Counts, what: InstrumentStep["do"]) =>
  lowered(counts.find((count) => count.do === what)?.label ?? what);
const ROWS: InstrumentStep["do"][] = ["look", "focus", "point", "read", "turn", "again"];

/** Every step at its second, a line of marks for each kind of step that was done. */
function Strip({
  steps,
  counts,
  at,
  onAt,
}: {
  steps: InstrumentStep[];
  counts: Counts;
  at: number;
  onAt: (at: number) => void;
}) {
  const W = useNarrow() ? 340 : 560;
  const rows = ROWS.filter((row) => steps.some((step) => step.do === row));
  const most = Math.max(1, steps.at(-1)?.seconds ?? 1);
  const x = (seconds: number) => 128 + (seconds / most) * (W - 140);
  return (
    <svg
      viewBox={`0 0 ${W} ${rows.length * 26 + 8}`}
      className="block w-full"
      role="img"
      aria-label={`${steps.length} steps in ${clockOf(most)}`}
    >
      {rows.map((row, i) => (
        <g key={row}>
          <text x="0" y={i * 26 + 20} fontSize="15" fill="var(--color-ink-2)">
            {labelOf(counts, row)}
          </text>
          <path d={`M128 ${i * 26 + 25}H${W - 8}`} stroke="var(--color-line)" />
        </g>
      ))}
      {steps.map((step, i) => {
        const y = rows.indexOf(step.do) * 26 + 6;
        return (
          <path
            key={i}
            d={`M${x(step.seconds).toFixed(1)} ${y}v16`}
            stroke={i === at ? "var(--color-coral)" : "var(--color-ink)"}
            strokeWidth={i === at ? 5 : 2.5}
            onClick={() => onAt(i)}
          />
        );
      })}
    </svg>
  );
}
