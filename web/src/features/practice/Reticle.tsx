// The reticle screw of a simulated level, and what its core says of adjusting: the reading to turn to.
import { useQuery } from "@tanstack/react-query";
import type { Kind } from "../../api/client";
import type { CheckDocument } from "../../documents/draft";
import { practiceAdjusting } from "../../engine";
import { Cautions } from "../../ui/parts";

const MOST = 2;
const STEPS = [-0.02, 0.02, -0.125, 0.125];
const inWords = (turns: number): string => `${turns > 0 ? "+" : turns < 0 ? "−" : ""}${Math.abs(turns).toFixed(2)}`;

type Props = { kind: Kind; document: CheckDocument; turned: number; onTurn: (turned: number) => void; onAgain: () => void };

export function Reticle({ kind, document, turned, onTurn, onAgain }: Props) {
  const target = useQuery({ queryKey: ["practice-adjusting", JSON.stringify(document)], queryFn: () => practiceAdjusting(document), staleTime: Infinity });
  const to = (turns: number) => onTurn(Math.max(-MOST, Math.min(MOST, Math.round(turns * 1000) / 1000)));
  return (
    <div className="grid gap-2 border-t-2 border-ink pt-3" data-turned={turned}>
      <h2>The reticle screw</h2>
      {target.data && <p>{target.data.text}</p>}
      <label className="grid grid-cols-[minmax(0,1fr)_84px] items-center gap-3">
        <input type="range" min={-MOST} max={MOST} step="0.005" value={turned} className="h-[40px] w-full accent-[var(--color-ink)]" aria-label="Turns of the reticle screw" onChange={(event) => to(Number(event.target.value))} />
        <b className="text-right font-mono">{inWords(turned)}</b>
      </label>
      <div className="grid grid-cols-2 gap-2">
        {STEPS.map((step) => (
          <button key={step} className="btn !min-h-[44px]" onClick={() => to(turned + step)}>
            {step < 0 ? "Anticlockwise" : "Clockwise"}, {Math.abs(step) < 0.1 ? "a little" : "an eighth"}
          </button>
        ))}
      </div>
      <Cautions cautions={kind.cautions["adjusting"] ?? []} />
      {turned !== 0 && (
        <button className="btn now" onClick={onAgain}>
          Test again, as left
        </button>
      )}
    </div>
  );
}
