// Small drawings for the glossary: one idea each, in ink, the part that is meant in sea.
import type { ReactNode } from "react";

const INK = { fill: "none", stroke: "var(--color-ink)", strokeWidth: 2 } as const;
const SEA = { fill: "none", stroke: "var(--color-sea)", strokeWidth: 2.6 } as const;

const DRAWN: Record<string, ReactNode> = {
  peg: (
    <>
      <path d="M4 54H116M20 54V14M100 54V14" {...INK} />
      <path d="M60 54V34M54 54l6-20 6 20" {...INK} />
      <path d="M20 22L60 32L100 22" {...SEA} strokeDasharray="4 3" />
    </>
  ),
  staff: (
    <>
      <path d="M50 58V6h20v52z" {...INK} />
      <path d="M50 14h10M50 22h14M50 30h10M50 38h14M50 46h10" {...INK} />
      <path d="M6 30H50" {...SEA} />
    </>
  ),
  faces: (
    <>
      <circle cx="30" cy="32" r="18" {...INK} />
      <circle cx="90" cy="32" r="18" {...INK} />
      <path d="M30 32L56 22M90 32L64 22" {...SEA} />
      <path d="M14 32v-6M106 32v-6" {...INK} />
    </>
  ),
  collimation: (
    <>
      <path d="M60 6V58" {...INK} strokeDasharray="5 4" />
      <path d="M30 34H90" {...INK} />
      <path d="M60 34L76 6" {...SEA} />
      <path d="M60 14q6 -2 11 1" {...INK} />
    </>
  ),
  trunnion: (
    <>
      <path d="M22 32H98" {...INK} strokeDasharray="5 4" />
      <path d="M22 40L98 24" {...SEA} />
      <path d="M60 6V58" {...INK} />
    </>
  ),
  vial: (
    <>
      <rect x="14" y="22" width="92" height="20" rx="10" {...INK} />
      <ellipse cx="66" cy="32" rx="13" ry="7" {...SEA} />
      <path d="M50 22v20M70 22v20" {...INK} />
    </>
  ),
  circular: (
    <>
      <circle cx="60" cy="32" r="24" {...INK} />
      <circle cx="60" cy="32" r="11" {...INK} />
      <circle cx="66" cy="27" r="8" {...SEA} />
    </>
  ),
  reversal: (
    <>
      <rect x="14" y="8" width="92" height="16" rx="8" {...INK} />
      <ellipse cx="72" cy="16" rx="10" ry="5" {...INK} />
      <rect x="14" y="40" width="92" height="16" rx="8" {...INK} />
      <ellipse cx="56" cy="48" rx="10" ry="5" {...INK} />
      <path d="M64 4V60" {...SEA} strokeDasharray="4 3" />
    </>
  ),
  plummet: (
    <>
      <path d="M40 12h40l-6 8H46z" {...INK} />
      <path d="M46 20L30 56M74 20l16 36M60 20v38" {...INK} />
      <path d="M60 20V54" {...SEA} strokeDasharray="4 3" />
      <circle cx="60" cy="56" r="3" {...SEA} />
    </>
  ),
  tribrach: (
    <>
      <path d="M24 22h72l-6 8H30z" {...SEA} />
      <path d="M38 30v14M60 30v14M82 30v14M30 50h60" {...INK} />
      <path d="M34 44h8M56 44h8M78 44h8" {...INK} />
    </>
  ),
};

export function TermDrawing({ name }: { name: string | null | undefined }) {
  const drawn = name ? DRAWN[name] : null;
  if (!drawn) return null;
  return (
    <svg viewBox="0 0 120 64" className="h-[72px] w-[135px] shrink-0" aria-hidden="true">
      {drawn}
    </svg>
  );
}
