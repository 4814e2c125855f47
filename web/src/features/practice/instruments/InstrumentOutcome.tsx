// How it went with an instrument: what was hidden, what was found, how it was left, the one thing to do otherwise.
import { written } from "../../../api/writing";
import type { InstrumentJudged, InstrumentLesson, InstrumentStep } from "../../../engine/practice";
import { Head } from "../../../ui/parts";
import { AgainActions } from "../AgainActions";
import { Otherwise } from "../Otherwise";
import { BesideShortest } from "./BesideShortest";
import { InstrumentReplay } from "./InstrumentReplay";
import { clockOf } from "../clock";

type Props = {
  judged: InstrumentJudged;
  lesson: Pick<InstrumentLesson, "title" | "good_enough"> | InstrumentLesson;
  steps?: InstrumentStep[];
  seed: number;
  onAgain?: (seed: number) => void;
  who?: string;
};

export function InstrumentOutcome({ judged, lesson, steps = [], seed, onAgain, who }: Props) {
  return (
    <div className="grid gap-4" data-passed={judged.passed}>
      <Head
        title={judged.headline}
        sub={`${lesson.title}, situation ${seed}${who ? `, ${who}` : ""}. ${clockOf(judged.seconds)} in all. Good enough: ${lesson.good_enough}.`}
        actions={onAgain && <AgainActions seed={seed} another="Another instrument" onAgain={onAgain} />}
      />
      {judged.errors.map((error) => (
        <ErrorScale key={error.label} error={error} />
      ))}
      <Otherwise text={judged.otherwise} habits={judged.habits} />
      {(judged.checks ?? []).length > 0 && <ChecksRun checks={judged.checks ?? []} />}
      {steps.length > 0 && "view" in lesson && (
        <InstrumentReplay lesson={lesson} seed={seed} steps={steps} counts={judged.counts ?? []} />
      )}
    </div>
  );
}

/** Where a fault was looked for: which checks were run, in which order, beside the shortest way. */
function ChecksRun({ checks }: { checks: NonNullable<InstrumentJudged["checks"]> }) {
  const place = (order: number) => (order ? (ORDER[order - 1] ?? String(order)) : "–");
  return (
    <section className="card p-4 tab:p-5" aria-label="The way taken">
      <h2>The checks run, beside the shortest way</h2>
      <BesideShortest
        of="Check"
        rows={checks.map((check) => ({
          name: check.title,
          label: check.title,
          taken: place(check.taken),
          shortest: place(check.shortest),
        }))}
      />
    </section>
  );
}

const ORDER = ["first", "second", "third", "fourth"];

/** One error on a scale with nought in its middle: hidden, found, left. */
function ErrorScale({ error }: { error: InstrumentJudged["errors"][number] }) {
  const rows = [
    ["Hidden in it", error.truth, error.truth_text],
    ["Found by you", error.found, error.found_text],
    ["Left in it", error.left, error.left_text],
  ] as const;
  return (
    <section className="card grid gap-3 p-4 tab:p-5" aria-label={`${error.label}: hidden, found, left`}>
      <h2>{error.label}</h2>
      <ul className="m-0 grid list-none gap-3 p-0">
        {rows.map(([label, value, text]) => (
          <li key={label} className="grid grid-cols-[112px_minmax(0,1fr)_92px] items-center gap-3">
            <span>{label}</span>
            <span aria-hidden="true" className="relative h-[22px] border-b-[1.5px] border-ink">
              <i className="absolute inset-y-0 left-1/2 w-[1.5px] bg-ink" />
              <i
                className="absolute bottom-0 top-[4px] w-[4px] -translate-x-1/2 bg-ink"
                style={{ left: `${50 + (value / error.most) * 48}%` }}
              />
            </span>
            <b className="text-right font-mono">{written(text)}</b>
          </li>
        ))}
      </ul>
    </section>
  );
}
