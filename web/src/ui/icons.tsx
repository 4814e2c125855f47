// Two signs that are one: the limit bar, and the grade mark, a limit bar made small. Ink, with the word beside it.
import type { Grade } from "../api/client";

const WORDS: Record<Grade, string> = {
  use: "Use",
  watch: "Watch",
  adjust: "Adjust",
  service: "Service",
  repeat: "Repeat",
};
const RULE: Record<Grade, string> = {
  use: "border-sea",
  watch: "border-sea",
  adjust: "border-coral",
  service: "border-coral",
  repeat: "border-ink",
};

function Needle({ grade }: { grade: Grade }) {
  switch (grade) {
    case "use":
      return <path d="M20 1v16" strokeWidth="4" />;
    case "watch":
      return (
        <>
          <path d="M26 1v16" strokeWidth="4" />
          <path d="M20 9h14" strokeWidth="1.6" />
        </>
      );
    case "adjust":
      return (
        <>
          <path d="M39 1v16" strokeWidth="4" />
          <path d="M33 9h6" strokeWidth="1.4" strokeDasharray="1.6 1.6" />
        </>
      );
    case "service":
      return <path d="M13 16l8-14M19 16l8-14" strokeWidth="2" />;
    case "repeat":
      return <rect x="18" y="2" width="5" height="14" strokeWidth="1.8" />;
  }
}

/** The grade as a shape and a word; both hold in black print. */
export function GradeMark({ grade, quiet = false }: { grade: Grade; quiet?: boolean }) {
  return (
    <span
      data-grade={grade}
      className={`inline-flex items-center gap-2 font-bold text-[17px] ${quiet ? "" : `border-b-[3px] ${RULE[grade]}`}`}
    >
      <svg
        viewBox="0 0 44 18"
        width="44"
        height="18"
        fill="none"
        stroke="currentColor"
        strokeWidth="2"
        aria-hidden="true"
      >
        <path d="M8 3v12M32 3v12" />
        <path d="M8 9h24" strokeDasharray={grade === "repeat" ? "4 3" : undefined} />
        <Needle grade={grade} />
      </svg>
      {WORDS[grade]}
    </span>
  );
}

const BREAK = 1.5;

/** Where a value lies on the bar, 0 to 1, and whether the axis had to break: posts at the limit, ends at 1.5 times it. */
export function placeOnBar(value: number, limit: number): { at: number; broken: boolean } {
  const share = value / limit;
  const held = Math.max(-BREAK, Math.min(BREAK, share));
  return { at: (held + BREAK) / (2 * BREAK), broken: Math.abs(share) > BREAK };
}

/** An error with its uncertainty as a whisker, on a band between two posts. Beyond 1.5 times the limit the axis breaks. */
export function LimitBar({
  value,
  u95,
  limit,
  label,
  width = 240,
}: {
  value: number;
  u95: number;
  limit: number;
  label: string;
  width?: number;
}) {
  const inner = width - 24;
  const x = (v: number) => 12 + inner * placeOnBar(v, limit).at;
  const { broken } = placeOnBar(value, limit);
  const needle = x(value);
  const breakAt = (needle + x(value > 0 ? limit : -limit)) / 2;
  return (
    <svg role="img" aria-label={label} viewBox={`0 0 ${width} 26`} width={width} height={26} className="max-w-full">
      <rect x={x(-limit)} y="8" width={x(limit) - x(-limit)} height="10" className="fill-band" />
      <path
        d={`M${x(-limit)} 8h${x(limit) - x(-limit)}M${x(-limit)} 18h${x(limit) - x(-limit)}`}
        className="stroke-lichen"
        strokeWidth="0.9"
      />
      <path d={`M${x(-limit)} 3v20M${x(limit)} 3v20`} className="stroke-lichen" strokeWidth="2.4" />
      <path d={`M${x(0)} 10v6`} className="stroke-lichen" strokeWidth="1.2" />
      {broken ? (
        <path d={`M${breakAt - 4} 18l3-10M${breakAt} 18l3-10`} className="stroke-ink" strokeWidth="1.6" />
      ) : (
        <path d={`M${x(value - u95)} 13H${x(value + u95)}`} className="stroke-ink" strokeWidth="2" />
      )}
      <path d={`M${needle} 4v18`} className="stroke-ink" strokeWidth="4.5" />
    </svg>
  );
}
