// The round field of a telescope or a plummet: what is seen through it, blurred until it is in focus, and the hairs over it.
import type { ReactNode, SVGProps } from "react";

export const SIZE = 420;
export const MIDDLE = SIZE / 2;

type Props = {
  blur: number;
  small: boolean;
  most?: string;
  label: string;
  picture: ReactNode;
  hairs: ReactNode;
  over?: SVGProps<SVGCircleElement>;
};

/** `small` while something is turned below it, else `most` wide; `over`: what the field itself answers to. */
export function Eyepiece({ blur, small, most = "max-w-[400px]", label, picture, hairs, over }: Props) {
  return (
    <svg
      viewBox={`0 0 ${SIZE} ${SIZE}`}
      className={`mx-auto block w-full max-tab:max-w-[270px] ${small ? "max-w-[270px]" : most}`}
      role={over ? "group" : "img"}
      aria-label={label}
      data-blur={blur.toFixed(2)}
    >
      <defs>
        <clipPath id="eyepiece-field">
          <circle cx={MIDDLE} cy={MIDDLE} r={MIDDLE - 3} />
        </clipPath>
        <filter id="eyepiece-blur" x="-20%" y="-20%" width="140%" height="140%">
          <feGaussianBlur stdDeviation={blur} />
        </filter>
      </defs>
      <g clipPath="url(#eyepiece-field)">
        <rect width={SIZE} height={SIZE} fill="var(--color-stone)" />
        <g filter={blur > 0.05 ? "url(#eyepiece-blur)" : undefined}>{picture}</g>
        {hairs}
      </g>
      <circle
        cx={MIDDLE}
        cy={MIDDLE}
        r={MIDDLE - 3}
        fill={over ? "transparent" : "none"}
        stroke="var(--color-ink)"
        strokeWidth="5"
        {...over}
      />
    </svg>
  );
}

export function FocusScrew({ focus, onFocus }: { focus: number; onFocus: (focus: number) => void }) {
  return (
    <label className="by-hand grid grid-cols-[64px_minmax(0,1fr)] items-center gap-3">
      <span className="font-semibold">Focus</span>
      <input
        type="range"
        min="0"
        max="100"
        step="0.5"
        value={focus * 100}
        className="h-[40px] w-full accent-[var(--color-ink)]"
        aria-label="Focus"
        onChange={(event) => onFocus(Number(event.target.value) / 100)}
      />
    </label>
  );
}

export function LookCloser({ closer, onChange }: { closer: boolean; onChange: (closer: boolean) => void }) {
  return (
    <button className="by-hand btn" aria-pressed={closer} onClick={() => onChange(!closer)}>
      {closer ? "Whole field" : "Look closer"}
    </button>
  );
}
