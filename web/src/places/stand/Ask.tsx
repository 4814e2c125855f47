// What is asked at an act: a touch on a drawing, two figures, or only that it is done.
import { type ReactNode, useState } from "react";
import type { Fault, Guide } from "../../api/client";
import type { Levelled, LogEntry, SetUpDocument } from "../../sheet/setUp";
import { Choice, FaultLine } from "../../ui/parts";
import { Well } from "../../ui/Well";
import { BubbleAsk } from "./BubbleAsk";
import { SpotAsk } from "./SpotAsk";

type Observed = SetUpDocument["observations"];
export type Tell = { see: (entry: Omit<LogEntry, "act" | "at">) => void; set: (change: Partial<Observed>) => void };
type Props = { guide: Guide; last: LogEntry | undefined; observed: Observed; faults: Fault[]; tell: Tell };

/** A drawing to touch, with what was understood beside it. */
function Touching({ title, guide, children }: { title: string; guide: Guide; children: ReactNode }) {
  return (
    <div className="grid grid-cols-[minmax(0,230px)_minmax(0,1fr)] items-center gap-4" data-touching>
      {children}
      <p>
        <b className="font-[680]">{title}</b>
        {guide.advice?.understood && <span className="sub mt-1 block">Understood: {guide.advice.understood}.</span>}
      </p>
    </div>
  );
}

export function Ask({ guide, last, observed, faults, tell }: Props) {
  const saw = last?.saw;
  switch (guide.act.asks) {
    case "bubble":
      return (
        <Touching title="Touch where the bubble is." guide={guide}>
          <BubbleAsk guide={guide} value={saw?.bubble ?? null} onSee={(bubble) => tell.see({ saw: { bubble } })} />
        </Touching>
      );
    case "spot":
    case "bob":
      return (
        <SpotAsk
          key={guide.act.name}
          guide={guide}
          title={guide.act.asks === "bob" ? "Touch where the bob hangs: the middle of its swing." : "Touch where the plummet points."}
          value={saw?.spot ?? null}
          onSee={(spot) => tell.see({ saw: { spot } })}
        />
      );
    case "plate-electronic":
    case "plate-plate":
      return <Level key={guide.act.name} by={guide.act.asks} value={saw?.level ?? {}} onSee={(level) => tell.see({ saw: { level } })} />;
    case "rounds-electronic":
    case "rounds-plate":
      return <Rounds by={guide.act.asks} observed={observed} faults={faults} set={tell.set} />;
    case "eye":
      return <Tripod observed={observed} faults={faults} set={tell.set} />;
    case "heights":
      return <Heights observed={observed} faults={faults} set={tell.set} />;
    case "look":
      return <LastLook observed={observed} faults={faults} set={tell.set} />;
    case "zero":
      return <Zero observed={observed} faults={faults} set={tell.set} />;
    default:
      return null;
  }
}

export function Asked({ title, children }: { title: string; children: ReactNode }) {
  return (
    <div className="grid gap-2">
      <p className="font-[680]">{title}</p>
      {children}
    </div>
  );
}

/** A well with its name above it and its fault below. */
export function Named({ id, label, value, onType, faults, path, onNext }: { id: string; label: string; value: string; onType: (value: string) => void; faults?: Fault[]; path?: string; onNext?: () => void }) {
  const own = (faults ?? []).filter((one) => path !== undefined && one.path === path);
  return (
    <label className="grid min-w-0 gap-1" htmlFor={id}>
      <span className="font-[560]">{label}</span>
      <Well id={id} label={label} value={value} faults={own} onType={onType} onKey={(key) => key === "next" && onNext?.()} onHere={() => undefined} />
      {own.map((fault) => (
        <FaultLine key={fault.path} id={`${id}-fault`} fault={fault} beside />
      ))}
    </label>
  );
}

const focusOn = (id: string) => () => document.getElementById(id)?.focus();

/** Two figures of the level, told together. */
function Level({ by, value, onSee }: { by: string; value: Levelled; onSee: (level: Levelled) => void }) {
  const [along, setAlong] = useState(value.along ?? "");
  const [across, setAcross] = useState(value.across ?? "");
  const electronic = by === "plate-electronic";
  const told = () => onSee({ ...(along.trim() ? { along } : {}), ...(across.trim() ? { across } : {}) });
  return (
    <Asked title={electronic ? "What the electronic level shows, telescope pointing away from you." : "Divisions off the middle, towards your right positive."}>
      <div className="grid grid-cols-2 gap-3">
        <Named id="level-along" label={electronic ? "Along, ″" : "Along the pair, div"} value={along} onType={setAlong} onNext={focusOn("level-across")} />
        <Named id="level-across" label={electronic ? "Across, ″" : "Turned by 90°, div"} value={across} onType={setAcross} onNext={told} />
      </div>
      <button className="btn" onClick={told} disabled={!along.trim()}>
        Tell
      </button>
    </Asked>
  );
}

type Part = { observed: Observed; faults: Fault[]; set: (change: Partial<Observed>) => void };

/** Both ways round: four figures. */
export function Rounds({ by, observed, faults, set }: Part & { by: string }) {
  const level = observed.level ?? {};
  const unit = by === "rounds-electronic" ? "″" : "div";
  const change = (turn: "first" | "turned", axis: "along" | "across") => (value: string) =>
    set({ level: { ...level, by: by === "rounds-electronic" ? "electronic" : "plate", [turn]: { ...level[turn], [axis]: value } } });
  const names = ["round-0", "round-1", "round-2", "round-3"];
  const well = (i: number, turn: "first" | "turned", axis: "along" | "across", label: string) => (
    <Named id={names[i] ?? ""} label={`${label}, ${unit}`} value={level[turn]?.[axis] ?? ""} onType={change(turn, axis)} faults={faults} path={`observations.level.${turn}.${axis}`} onNext={focusOn(names[i + 1] ?? "")} />
  );
  return (
    <div className="grid gap-3">
      <Asked title="As it points now">
        <div className="grid grid-cols-2 gap-3">
          {well(0, "first", "along", "Along")}
          {well(1, "first", "across", "Across")}
        </div>
      </Asked>
      <Asked title="Turned half round, as it reads then">
        <div className="grid grid-cols-2 gap-3">
          {well(2, "turned", "along", "Along")}
          {well(3, "turned", "across", "Across")}
        </div>
      </Asked>
    </div>
  );
}

/** For whom it stands, and its own measures: what later advice is reckoned with. None of it need be told. */
function Tripod({ observed, faults, set }: Part) {
  const tripod = observed.tripod ?? {};
  const measure = (name: "foot_spacing_m" | "head_height_m") => (value: string) => {
    const next = Object.fromEntries(Object.entries({ ...tripod, [name]: value }).filter(([, one]) => one.trim()));
    set({ tripod: next });
  };
  return (
    <Asked title="Tell your eye's height, and measure the tripod once: later advice is reckoned with it.">
      <div className="grid grid-cols-3 gap-3">
        <Named id="eye" label="Your eye, m" value={observed.eye_height ?? ""} onType={(eye_height) => set({ eye_height })} faults={faults} path="observations.eye_height" onNext={focusOn("feet")} />
        <Named id="feet" label="Feet apart, m" value={tripod.foot_spacing_m ?? ""} onType={measure("foot_spacing_m")} onNext={focusOn("head")} />
        <Named id="head" label="Head, m" value={tripod.head_height_m ?? ""} onType={measure("head_height_m")} />
      </div>
    </Asked>
  );
}

export function Heights({ observed, faults, set }: Part) {
  const readings = observed.height?.readings ?? [];
  const change = (i: number) => (value: string) => {
    const next = [readings[0] ?? "", readings[1] ?? ""];
    next[i] = value;
    set({ height: { readings: next } });
  };
  return (
    <Asked title="Mark to axis, twice, in metres or with its own unit">
      <div className="grid grid-cols-2 gap-3">
        <Named id="height-0" label="First" value={readings[0] ?? ""} onType={change(0)} faults={faults} path="observations.height.readings[0]" onNext={focusOn("height-1")} />
        <Named id="height-1" label="Again" value={readings[1] ?? ""} onType={change(1)} faults={faults} path="observations.height.readings[1]" />
      </div>
    </Asked>
  );
}

export function LastLook({ observed, faults, set }: Part) {
  return (
    <div className="grid gap-3">
      <Named id="centring" label="Off the mark now, mm" value={observed.centring_mm ?? ""} onType={(centring_mm) => set({ centring_mm })} faults={faults} path="observations.centring_mm" />
      <label className="flex min-h-[64px] items-center gap-3 font-[600]">
        <input type="checkbox" className="size-7 accent-[var(--color-ink)]" checked={observed.looked_last ?? false} onChange={(event) => set({ looked_last: event.target.checked })} />
        I looked at bubble and mark together, and touched nothing
      </label>
    </div>
  );
}

export function Zero({ observed, faults, set }: Part) {
  const zero = observed.zero ?? {};
  return (
    <div className="grid gap-3">
      <label className="grid gap-1" htmlFor="zero-target">
        <span className="font-[560]">Sighted</span>
        <input id="zero-target" className="field !min-h-[64px]" value={zero.target ?? ""} onChange={(event) => set({ zero: { ...zero, target: event.target.value } })} />
      </label>
      <Named id="zero-reading" label="The circle reads" value={zero.reading ?? ""} onType={(reading) => set({ zero: { ...zero, reading } })} faults={faults} path="observations.zero.reading" />
    </div>
  );
}

/** Does the bubble stay in its ring when the instrument is turned? For levels. */
export function Ring({ observed, set }: Omit<Part, "faults">) {
  return (
    <Asked title="Turned all the way round, the bubble">
      <Choice
        label="The circular bubble when turned"
        value={observed.ring_holds ?? "not-looked"}
        options={[
          { value: "yes", label: "stays in its ring" },
          { value: "no", label: "leaves it" },
        ]}
        onChange={(ring_holds) => set({ ring_holds })}
      />
    </Asked>
  );
}
