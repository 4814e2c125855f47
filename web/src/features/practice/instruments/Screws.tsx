// Screws of a simulated instrument: each turned by a slider or a little at a time.
import type { InstrumentLesson, Turns } from "../../../engine/practice";

type Screw = InstrumentLesson["screws"][number];
const STEPS = [-0.125, -0.02, 0.02, 0.125];
const inWords = (turns: number): string => `${turns > 0 ? "+" : turns < 0 ? "−" : ""}${Math.abs(turns).toFixed(2)}`;

export function Screws({ screws, turns, onTurn }: { screws: Screw[]; turns: Turns; onTurn: (turns: Turns) => void }) {
  return (
    <>
      {screws.map((screw) => (
        <Turned key={screw.name} screw={screw} turned={turns[screw.name] ?? 0} onTurn={(turned) => onTurn({ ...turns, [screw.name]: turned })} />
      ))}
    </>
  );
}

function Turned({ screw, turned, onTurn }: { screw: Screw; turned: number; onTurn: (turned: number) => void }) {
  const to = (turns: number) => onTurn(Math.max(-screw.most, Math.min(screw.most, Math.round(turns * 1000) / 1000)));
  return (
    <div role="group" aria-label={screw.label} className="grid gap-1" data-turned={turned}>
      <label className="grid grid-cols-[minmax(0,1fr)_84px] items-center gap-x-3">
        <span className="font-[560]">{screw.label}</span>
        <b className="text-right font-mono">{inWords(turned)}</b>
        <input type="range" min={-screw.most} max={screw.most} step="0.005" value={turned} className="col-span-2 h-[32px] w-full accent-[var(--color-ink)]" aria-label={`Turns of the ${screw.label.charAt(0).toLowerCase()}${screw.label.slice(1)}`} onChange={(event) => to(Number(event.target.value))} />
      </label>
      <div className="grid grid-cols-4 gap-2">
        {STEPS.map((step) => (
          <button key={step} className="btn !min-h-[44px] !px-1 text-[15px]" aria-label={`${screw.label}: ${step < 0 ? "anticlockwise" : "clockwise"}, ${Math.abs(step) < 0.1 ? "a little" : "an eighth"}`} onClick={() => to(turned + step)}>
            {step < 0 ? "↺" : "↻"} {Math.abs(step) < 0.1 ? "a little" : "⅛"}
          </button>
        ))}
      </div>
    </div>
  );
}
