// Screws of a simulated instrument: each turned by a slider or a little at a time; a stored value is entered.
import { useState } from "react";
import type { InstrumentLesson, Turns } from "../../../engine/practice";
import { turnedTo } from "./turnedTo";

type Screw = InstrumentLesson["screws"][number];
const STEPS = [-0.125, -0.02, 0.02, 0.125];
const inWords = (turns: number): string => `${turns > 0 ? "+" : turns < 0 ? "−" : ""}${Math.abs(turns).toFixed(2)}`;

export function Screws({ screws, turns, onTurn }: { screws: Screw[]; turns: Turns; onTurn: (turns: Turns) => void }) {
  return (
    <>
      {screws.map((screw) => (
        <One
          key={screw.name}
          screw={screw}
          path={turns[screw.name] ?? []}
          onTurn={(path) => onTurn({ ...turns, [screw.name]: path })}
        />
      ))}
    </>
  );
}

function One({ screw, path, onTurn }: { screw: Screw; path: number[]; onTurn: (path: number[]) => void }) {
  const at = path.at(-1) ?? 0;
  if (screw.stores) return <Stored screw={screw} stored={at} onStore={(value) => onTurn([value])} />;
  return <Turned screw={screw} turned={at} onTurn={(to) => onTurn(turnedTo(path, to))} />;
}

/** A value that the instrument keeps: entered, as its own program asks for it. */
function Stored({ screw, stored, onStore }: { screw: Screw; stored: number; onStore: (value: number) => void }) {
  const [text, setText] = useState(stored ? String(stored) : "");
  const value = Number(text.replace("−", "-").replace(",", "."));
  const wrong = text.trim() !== "" && !(Math.abs(value) <= screw.most);
  return (
    <form
      aria-label={screw.label}
      className="grid gap-1"
      data-turned={stored}
      onSubmit={(event) => {
        event.preventDefault();
        if (!wrong) onStore(value);
      }}
    >
      <label className="grid grid-cols-[minmax(0,1fr)_110px_auto] items-center gap-x-3">
        <span className="font-semibold">{screw.label}</span>
        <span className="flex items-center gap-1">
          <input
            className="field !min-h-[44px] min-w-0 text-right font-mono"
            inputMode="text"
            autoComplete="off"
            aria-label={screw.label}
            aria-invalid={wrong}
            value={text}
            onChange={(event) => setText(event.target.value)}
          />
          {screw.stores}
        </span>
        <button className="btn !min-h-[44px]" disabled={wrong || value === stored}>
          {value === stored && stored !== 0 ? "Entered" : "Enter"}
        </button>
      </label>
      {wrong && (
        <p className="fault">
          {screw.label}: given {text}, wanted a number from −{screw.most} to {screw.most}.
        </p>
      )}
    </form>
  );
}

function Turned({ screw, turned, onTurn }: { screw: Screw; turned: number; onTurn: (turned: number) => void }) {
  const to = (turns: number) => onTurn(Math.max(-screw.most, Math.min(screw.most, Math.round(turns * 1000) / 1000)));
  return (
    <div role="group" aria-label={screw.label} className="grid gap-1" data-turned={turned}>
      <label className="grid grid-cols-[minmax(0,1fr)_84px] items-center gap-x-3">
        <span className="font-semibold">{screw.label}</span>
        <b className="text-right font-mono">{inWords(turned)}</b>
        <input
          type="range"
          min={-screw.most}
          max={screw.most}
          step="0.005"
          value={turned}
          className="col-span-2 h-[32px] w-full accent-[var(--color-ink)]"
          aria-label={`Turns of the ${screw.label.charAt(0).toLowerCase()}${screw.label.slice(1)}`}
          onChange={(event) => to(Number(event.target.value))}
        />
      </label>
      <div className="grid grid-cols-4 gap-2">
        {STEPS.map((step) => (
          <button
            key={step}
            className="btn !min-h-[44px] !px-1 text-[15px]"
            aria-label={`${screw.label}: ${step < 0 ? "anticlockwise" : "clockwise"}, ${Math.abs(step) < 0.1 ? "a little" : "an eighth"}`}
            onClick={() => to(turned + step)}
          >
            {step < 0 ? "↺" : "↻"} {Math.abs(step) < 0.1 ? "a little" : "⅛"}
          </button>
        ))}
      </div>
    </div>
  );
}
