// A move tried before anybody makes it: legs, screws or a slide, and where bubble and plummet would then be.
import { useState } from "react";
import type { Guide, WhatIf } from "../../api/client";
import { advise } from "../../engine";
import { Trouble } from "../../ui/parts";
import { NO_CORE, useAsked } from "../../hooks/useAsked";
import { Fold } from "../../ui/Fold";
import { TryDrawing } from "./TryDrawing";

type Tries = NonNullable<Guide["tries"]>;
type Moves = Record<string, number>;
const SLIDES = [
  { name: "away", label: "Away from you" },
  { name: "right", label: "To your right" },
];

/** Keyed by what was told: once something else is seen, what was tried before means nothing. */
export function TryFirst({ guide, tries }: { guide: Guide; tries: Tries }) {
  return (
    <Fold title="Try a move before you make it">
      <Trying key={JSON.stringify(tries.question)} guide={guide} tries={tries} />
    </Fold>
  );
}

function Trying({ guide, tries }: { guide: Guide; tries: Tries }) {
  const [moves, setMoves] = useState<Moves>({});
  const { told, faults, trouble, noSignal } = useAsked<WhatIf>(questionOf(tries, moves), (asked) => advise<WhatIf>(asked), 0);
  const advised = advisedOf(guide, tries.by);
  const step = (name: string, by: number) => setMoves({ ...moves, [name]: Math.round(((moves[name] ?? 0) + by * tries.step) * 1000) / 1000 });
  const names = tries.by === "legs" ? guide.site.legs.map((one) => ({ name: one.leg, label: `Leg ${one.leg}` })) : tries.by === "screws" ? guide.site.screws.map((one) => ({ name: one.screw, label: `Screw ${one.screw}` })) : SLIDES;
  return (
    <div className="grid gap-3" data-trying={tries.by}>
      <div className="grid items-center gap-4 tab:grid-cols-[minmax(0,1fr)_190px]">
        <div className="grid gap-2">
          <p className="sub">{PLUS[tries.by]}</p>
          {names.map((one) => (
            <div key={one.name} className="grid grid-cols-[minmax(24px,1fr)_56px_64px_56px] items-center gap-2" data-move={one.name}>
              <span className="font-[680]">{tries.by === "slide" ? one.label : one.name}</span>
              <button className="btn !min-h-[48px] !px-0 text-[22px]" aria-label={`${one.label} less`} onClick={() => step(one.name, -1)}>
                −
              </button>
              <span className="text-center font-mono">{said(tries.by, moves[one.name] ?? 0)}</span>
              <button className="btn !min-h-[48px] !px-0 text-[22px]" aria-label={`${one.label} more`} onClick={() => step(one.name, 1)}>
                +
              </button>
            </div>
          ))}
        </div>
        {told && <TryDrawing site={guide.site} told={told.result} bubble={Boolean(tries.question["bubble"])} />}
      </div>
      <div aria-live="polite" data-foretold>
        {told?.text.map((line) => (
          <p key={line} className="font-[600]">
            {line}
          </p>
        ))}
      </div>
      {faults.map((one) => (
        <p key={one.path} className="fault" role="alert">
          Not possible; allowed: {one.wanted}.
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
        <button className="btn" disabled={Object.values(moves).every((one) => one === 0)} onClick={() => setMoves({})}>
          Reset
        </button>
      </div>
    </div>
  );
}

const PLUS: Record<string, string> = { legs: "Millimetres; plus lengthens, minus shortens.", screws: "Turns; plus is clockwise from above.", slide: "Millimetres, slid without turning." };
function said(by: string, move: number): string {
  return `${move > 0 ? "+" : move < 0 ? "−" : ""}${Math.abs(move).toFixed(by === "screws" ? 2 : 1)}`;
}

/** The advised move in the same hand. */
function advisedOf(guide: Guide, by: string): Moves | null {
  const result = guide.advice?.result;
  const moves = by === "legs" ? result?.["legs"] : by === "screws" ? result?.["turns"] : null;
  return moves ? (moves as Moves) : null;
}

function questionOf(tries: Tries, moves: Moves): Record<string, unknown> {
  const made = Object.fromEntries(Object.entries(moves).filter(([, one]) => one !== 0));
  if (tries.by === "legs") return { ...tries.question, legs_mm: made };
  if (tries.by === "screws") return { ...tries.question, turns: made };
  return { ...tries.question, slide_right_mm: made["right"] ?? 0, slide_away_mm: made["away"] ?? 0 };
}
