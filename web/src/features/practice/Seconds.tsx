// The last runs of a lesson, the oldest first: how long each took, filled where it was good enough.
import type { Schemas } from "../../api/client";
import { clockOf } from "./clock";

const W = 150;
const H = 36;

export function Seconds({ runs }: { runs: Schemas["RunRow"][] }) {
  if (!runs.length) return <span className="max-tab:hidden" />;
  const most = Math.max(...runs.map((run) => run.seconds));
  const wide = W / 10;
  return (
    <svg
      viewBox={`0 0 ${W} ${H}`}
      className="block h-[36px] w-[150px]"
      role="img"
      aria-label={`The last ${runs.length} runs: ${[...runs]
        .reverse()
        .map((run) => `${clockOf(run.seconds)}${run.passed ? "" : ", not yet good"}`)
        .join("; ")}`}
    >
      {[...runs].reverse().map((run, i) => {
        const high = Math.max(3, (run.seconds / most) * (H - 4));
        return (
          <rect
            key={run.id}
            x={i * wide + 2}
            y={H - high - 1}
            width={wide - 4}
            height={high}
            fill={run.passed ? "var(--color-ink)" : "var(--color-card)"}
            stroke="var(--color-ink)"
            strokeWidth="1.4"
          />
        );
      })}
    </svg>
  );
}
