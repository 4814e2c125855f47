// One quantity's budget as a bar: each part with its own value, the limit as a post, the total in words.
import { useNarrow } from "../hooks/useNarrow";

export type BudgetPart = {
  name: string;
  label: string;
  value: number;
  systematic: boolean;
  share: number;
  text: string;
};
export type BudgetGiven = {
  quantity: string;
  parts: BudgetPart[];
  total95: number;
  total_text: string;
  allowed: number | null;
  allowed_text: string | null;
  enough: boolean | null;
  text: string;
};

const TITLES: Record<string, string> = { angle: "An angle", position: "A point set out", height: "A height" };
const MIN_SHARE = 0.015;

export function BudgetBar({ answer }: { answer: BudgetGiven }) {
  const W = useNarrow() ? 330 : 600;
  const reach = Math.max(answer.total95, answer.allowed ?? 0) * 1.06 || 1;
  const long = (answer.total95 / reach) * W;
  const seen = answer.parts.filter((part) => part.share > MIN_SHARE);
  const pieces = seen.map((each, i) => ({
    ...each,
    x: long * seen.slice(0, i).reduce((sum, before) => sum + before.share, 0),
    w: each.share * long,
  }));
  const post = answer.allowed === null ? null : (answer.allowed / reach) * W;
  return (
    <section
      className="card grid gap-3 p-5"
      aria-label={TITLES[answer.quantity]}
      data-budget={answer.quantity}
      data-enough={answer.enough ?? undefined}
    >
      <div className="flex flex-wrap items-baseline justify-between gap-x-4">
        <h2>{TITLES[answer.quantity]}</h2>
        <span>
          <b className="text-[1.3rem] font-bold">{answer.total_text}</b>{" "}
          {answer.allowed_text && <span className="sub">of {answer.allowed_text} allowed</span>}
        </span>
      </div>
      <svg
        viewBox={`0 -8 ${W + 4} 58`}
        className="block w-full"
        role="img"
        aria-label={`${answer.total_text} in all. ${answer.parts.map((part) => `${part.label} ${part.text}`).join(", ")}.`}
      >
        <defs>
          <pattern id="systematic" width="7" height="7" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
            <rect width="7" height="7" fill="var(--color-card)" />
            <path d="M0 0v7" stroke="var(--color-ink)" strokeWidth="3" />
          </pattern>
        </defs>
        {pieces.map((piece, i) => (
          <g key={piece.name}>
            <rect
              x={piece.x + 1}
              y="6"
              width={Math.max(1, piece.w - 1.5)}
              height="30"
              fill={piece.systematic ? "url(#systematic)" : i === 0 ? "var(--color-ink)" : "var(--color-band)"}
              stroke="var(--color-ink)"
              strokeWidth="1.4"
            />
            {piece.w > 26 && (
              <text
                x={piece.x + piece.w / 2}
                y="27"
                textAnchor="middle"
                fontSize="17"
                fontWeight="700"
                fill={i === 0 && !piece.systematic ? "var(--color-card)" : "var(--color-ink)"}
                stroke={piece.systematic ? "var(--color-card)" : "none"}
                strokeWidth="5"
                paintOrder="stroke"
              >
                {i + 1}
              </text>
            )}
          </g>
        ))}
        {post !== null && <path d={`M${post} -4v52`} stroke="var(--color-ink)" strokeWidth="5" />}
      </svg>
      <ol className="m-0 grid list-none gap-x-6 gap-y-1 p-0 tab:grid-cols-2">
        {answer.parts
          .filter((part) => part.value !== 0)
          .map((part, i) => (
            <li key={part.name} className="flex justify-between gap-3" data-part={part.name}>
              <span>
                <b className="inline-block w-6">{part.share > MIN_SHARE ? i + 1 : ""}</b>
                {part.label}
                {part.systematic && <span className="sub"> (one-sided)</span>}
              </span>
              <span className="font-mono whitespace-nowrap">{part.text}</span>
            </li>
          ))}
      </ol>
      <p className="font-semibold">{answer.text}</p>
    </section>
  );
}
