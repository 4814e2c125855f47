// A move tried before anybody makes it: legs, screws or a slide, and where bubble and plummet would then be.
import { fixed } from "../../api/writing";
import { useState } from "react";
import type { Guide, WhatIf } from "../../api/client";
import { advise } from "../../engine";
import { Trouble } from "../../ui/parts";
import { NO_CORE, useQuestion } from "../../hooks/useQuestion";
import { Fold } from "../../ui/Fold";
import { TryDrawing } from "./TrialDrawing";

type Trial = NonNullable<Guide["trial"]>;
type Moves = Record<string, number>;
const SLIDES = [
  { name: "away", label: "Away from you" },
  { name: "right", label: "To your right" },
];

/** Keyed by what was given: once something else is seen, what was tried before means nothing. */
export function TryFirst({ guide, trial }: { guide: Guide; trial: Trial }) {
  return (
    <Fold title="Try a move before you make it">
      <Trying key={JSON.stringify(trial.question)} guide={guide} trial={trial} />
    </Fold>
  );
}

function Trying({ guide, trial }: { guide: Guide; trial: Trial }) {
  const [moves, setMoves] = useState<Moves>({});
  const { answer, faults, trouble, noSignal } = useQuestion<WhatIf>(
    questionOf(trial, moves),
    (query) => advise<WhatIf>(query),
    "now",
  );
  const advised = advisedOf(guide, trial.by);
  const step = (name: string, by: number) =>
    setMoves({ ...moves, [name]: Math.round(((moves[name] ?? 0) + by * trial.step) * 1000) / 1000 });
  const names =
    trial.by === "legs"
      ? guide.site.legs.map((each) => ({ name: each.leg, label: `Leg ${each.leg}` }))
      : trial.by === "screws"
        ? guide.site.screws.map((each) => ({ name: each.screw, label: `Screw ${each.screw}` }))
        : SLIDES;
  return (
    <div className="grid gap-3" data-trying={trial.by}>
      <div className="grid items-center gap-4 tab:grid-cols-[minmax(0,1fr)_190px]">
        <div className="grid gap-2">
          <p className="sub">{PLUS[trial.by]}</p>
          {names.map((each) => (
            <div
              key={each.name}
              className="grid grid-cols-[minmax(24px,1fr)_56px_64px_56px] items-center gap-2"
              data-move={each.name}
            >
              <span className="font-bold">{trial.by === "slide" ? each.label : each.name}</span>
              <button
                className="btn !min-h-[48px] !px-0 text-[22px]"
                aria-label={`${each.label} less`}
                onClick={() => step(each.name, -1)}
              >
                −
              </button>
              <span className="text-center font-mono">{preview(trial.by, moves[each.name] ?? 0)}</span>
              <button
                className="btn !min-h-[48px] !px-0 text-[22px]"
                aria-label={`${each.label} more`}
                onClick={() => step(each.name, 1)}
              >
                +
              </button>
            </div>
          ))}
        </div>
        {answer && <TryDrawing site={guide.site} answer={answer.result} bubble={Boolean(trial.question["bubble"])} />}
      </div>
      <div aria-live="polite" data-foretold>
        {answer?.text.map((line) => (
          <p key={line} className="font-semibold">
            {line}
          </p>
        ))}
      </div>
      {faults.map((fault) => (
        <p key={fault.path} className="fault" role="alert">
          Not possible; allowed: {fault.wanted}.
        </p>
      ))}
      {noSignal && <p className="fault">{NO_CORE}</p>}
      <Trouble error={trouble} />
      <div className="flex flex-wrap gap-3">
        {advised && (
          <button className="btn" onClick={() => setMoves(advised)}>
            As advised
          </button>
        )}
        <button
          className="btn"
          disabled={Object.values(moves).every((move) => move === 0)}
          onClick={() => setMoves({})}
        >
          Reset
        </button>
      </div>
    </div>
  );
}

const PLUS: Record<string, string> = {
  legs: "Millimetres; plus lengthens, minus shortens.",
  screws: "Turns; plus is clockwise from above.",
  slide: "Millimetres, slid without turning.",
};
function preview(by: string, move: number): string {
  return `${move > 0 ? "+" : move < 0 ? "−" : ""}${fixed(Math.abs(move), by === "screws" ? 2 : 1)}`;
}

/** The advised move in the same hand. */
function advisedOf(guide: Guide, by: string): Moves | null {
  const result = guide.advice?.result;
  const moves = by === "legs" ? result?.["legs"] : by === "screws" ? result?.["turns"] : null;
  return moves ? (moves as Moves) : null;
}

function questionOf(trial: Trial, moves: Moves): Record<string, unknown> {
  const created = Object.fromEntries(Object.entries(moves).filter(([, each]) => each !== 0));
  if (trial.by === "legs") return { ...trial.question, legs_mm: created };
  if (trial.by === "screws") return { ...trial.question, turns: created };
  return { ...trial.question, slide_right_mm: created["right"] ?? 0, slide_away_mm: created["away"] ?? 0 };
}
