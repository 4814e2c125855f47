// A theodolite and a target plate: the field of the telescope, both circles, the slow-motion screws, and turning over.
import { type ReactNode, useState } from "react";
import { Choice } from "../../../ui/Choice";
import { BetweenSets } from "./BetweenSets";
import { useDrag } from "../useDrag";
import { Eyepiece, FocusScrew, LookCloser, MIDDLE, SIZE } from "./Eyepiece";
import { type ViewProps, placesOf, pointingOf } from "./views";

const CLOSER = 6;
const STEPS = [
  { value: "60", label: "1′" },
  { value: "10", label: "10″" },
  { value: "1", label: "1″" },
];
const ARROWS = [
  ["Left", -1, 0, "←"],
  ["Right", 1, 0, "→"],
  ["Up", 0, 1, "↑"],
  ["Down", 0, -1, "↓"],
] as const;

export function CirclesView({ lesson, look, aim, onAim, small }: ViewProps<"circles">) {
  const [closer, setCloser] = useState(false);
  const [step, setStep] = useState("60");
  const scale = (SIZE / look.field_arcsec) * (closer ? CLOSER : 1);
  /** The line of sight moved right and up by so many seconds. */
  const move = (right: number, up: number) =>
    onAim((before) => ({
      ...before,
      hz_arcsec: (before.hz_arcsec ?? look.hz_arcsec) + right,
      v_arcsec: (before.v_arcsec ?? look.v_arcsec) - (before.face === "left" ? up : -up),
    }));
  const drag = useDrag({
    onStep: ({ x, y }) => move(-x / scale, y / scale),
    onEnd: () => undefined,
    keys: [Number(step) * scale, scale],
  });
  const turnOver = () =>
    onAim({ ...aim, face: aim.face === "left" ? "right" : "left", hz_arcsec: null, v_arcsec: null });
  const hold = () =>
    onAim(
      aim.held_arcsec === null
        ? { ...aim, held_arcsec: look.hz_arcsec }
        : { ...aim, held_arcsec: null, zero_arcsec: aim.zero_arcsec + look.hz_arcsec - aim.held_arcsec },
    );
  const sightAt = (target: string) => onAim({ ...aim, target, hz_arcsec: null, v_arcsec: null });
  return (
    <>
      {lesson.places.length > 1 && (
        <Choice label="Sight at" value={aim.target} options={placesOf(lesson)} onChange={sightAt} />
      )}
      <BetweenSets lesson={lesson} again={aim.again} onAgain={(again) => onAim({ ...aim, again })} />
      {lesson.pointing.length > 0 && (
        <Choice
          label="Points"
          value={aim.how}
          options={pointingOf(lesson)}
          onChange={(how) => onAim({ ...aim, how, hz_arcsec: null, v_arcsec: null })}
        />
      )}
      <Eyepiece
        blur={look.blur}
        small={small}
        most="max-w-[330px]"
        label="Target, through the telescope. Drag it on to the hairs, or use the arrow keys"
        picture={
          <Plate
            x={MIDDLE + look.right_arcsec * scale}
            y={MIDDLE - look.up_arcsec * scale}
            half={(look.plate_arcsec / 2) * scale}
          />
        }
        hairs={
          <path d={`M8 ${MIDDLE}H${SIZE - 8}M${MIDDLE} 8V${SIZE - 8}`} stroke="var(--color-coral)" strokeWidth="1.4" />
        }
        over={drag}
      />
      <dl
        className="m-0 grid grid-cols-[auto_minmax(0,1fr)] items-baseline gap-x-4 rounded-md border-[1.5px] border-ink px-4 py-1"
        aria-label="Circles"
      >
        <Circle label={aim.held_arcsec === null ? "Horizontal" : "Horizontal, held"} name="hz">
          {look.hz_text}
        </Circle>
        <Circle label="Vertical" name="v">
          {look.v_text}
        </Circle>
      </dl>
      {look.counts === "anticlockwise" && <p className="sub">The horizontal circle counts anticlockwise.</p>}
      <FocusScrew focus={aim.focus} onFocus={(focus) => onAim({ ...aim, focus })} />
      <div className="by-hand flex flex-wrap items-center gap-2">
        <Choice label="One step" value={step} options={STEPS} onChange={setStep} />
        <div className="grid grid-cols-4 gap-2 max-tab:w-full">
          {ARROWS.map(([name, right, up, arrow]) => (
            <button
              key={name}
              className="btn !min-w-[48px] !px-2"
              aria-label={name}
              onClick={() => move(right * Number(step), up * Number(step))}
            >
              {arrow}
            </button>
          ))}
        </div>
      </div>
      <div className="by-hand flex flex-wrap gap-2">
        <button className="btn !px-3" onClick={turnOver}>
          Turn over <span className="sub">face {aim.face}</span>
        </button>
        <LookCloser closer={closer} onChange={setCloser} />
        <button className="btn !px-3" onClick={() => onAim({ ...aim, held_arcsec: null, zero_arcsec: look.hz_arcsec })}>
          Set to zero
        </button>
        <button className="btn !px-3" aria-pressed={aim.held_arcsec !== null} onClick={hold}>
          {aim.held_arcsec === null ? "Hold" : "Release"}
        </button>
      </div>
    </>
  );
}

function Circle({ label, name, children }: { label: string; name: string; children: ReactNode }) {
  return (
    <>
      <dt>{label}</dt>
      <dd className="m-0 text-right font-mono text-[20px] font-semibold" data-circle={name}>
        {children}
      </dd>
    </>
  );
}

/** A square plate whose quarters are dark in turn: its middle can be halved by both hairs. */
function Plate({ x, y, half }: { x: number; y: number; half: number }) {
  return (
    <g transform={`translate(${x} ${y})`} data-target={`${x.toFixed(2)} ${y.toFixed(2)}`}>
      <path d={`M0 ${half}V${half + SIZE}`} stroke="var(--color-line)" strokeWidth={Math.max(6, half / 6)} />
      <rect
        x={-half}
        y={-half}
        width={2 * half}
        height={2 * half}
        fill="var(--color-input)"
        stroke="var(--color-ink)"
        strokeWidth="1.5"
      />
      <path d={`M0 0V${-half}H${half}V0zM0 0V${half}H${-half}V0z`} fill="var(--color-ink)" />
    </g>
  );
}
