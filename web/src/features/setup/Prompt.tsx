// Question at an step: a touch on a drawing, two figures, or only that it is done.
import type { ReactNode } from "react";
import type { Fault, Guide } from "../../api/client";
import type { Conditions, Levelled, LogEntry, SetUpDocument } from "../../documents/setUp";
import { Choice } from "../../ui/Choice";
import { AsideAsk } from "./PromptAside";
import { PlumbBobInput } from "./PromptPlumbBob";
import { Level, Rounds } from "./PromptLevel";
import { MarkFields, Place, Tripod } from "./PromptTripod";
import { BubbleAsk } from "./BubbleInput";
import { SpotAsk } from "./SpotInput";
import { Named } from "../../ui/Named";
import { Answered, Fold, type Observed, type Part, focusOn } from "../../ui/Fold";

export type Notify = {
  see: (entry: Omit<LogEntry, "step" | "at">) => void;
  set: (change: Partial<Observed>) => void;
  place: (conditions: Conditions) => void;
};
type Props = {
  guide: Guide;
  live: Levelled | null;
  last: LogEntry | undefined;
  document: SetUpDocument;
  faults: Fault[];
  notify: Notify;
};

/** The same typed, for whoever would rather: below the steps, out of the way. */
export function AskTyped({ guide, last, faults, notify }: Pick<Props, "guide" | "last" | "faults" | "notify">) {
  const saw = last?.saw;
  if (guide.step.prompt === "bubble")
    return (
      <AsideAsk
        key={guide.step.name}
        what="where the bubble is"
        path="bubble_aside"
        value={saw?.bubble_aside}
        faults={faults}
        onNotify={(bubble_aside) => notify.see({ saw: { bubble_aside } })}
      />
    );
  if (guide.step.prompt === "spot")
    return (
      <AsideAsk
        key={guide.step.name}
        what="where it points, relative to the mark"
        path="spot_aside"
        value={saw?.spot_aside}
        faults={faults}
        onNotify={(spot_aside) => notify.see({ saw: { spot_aside } })}
      />
    );
  return null;
}

/** A drawing to touch, with what was understood beside it. */
function Touching({ title, guide, children }: { title: string; guide: Guide; children: ReactNode }) {
  return (
    <div
      className="grid grid-cols-[minmax(0,230px)_minmax(0,1fr)] items-center gap-4 max-tab:grid-cols-[minmax(0,200px)_minmax(0,1fr)]"
      data-touching
    >
      {children}
      <p>
        <b className="font-bold">{title}</b>
        {guide.advice?.understood && <span className="sub mt-1 block">Read as: {guide.advice.understood}.</span>}
      </p>
    </div>
  );
}

export function Ask({ guide, live, last, document, faults, notify }: Props) {
  const observed = document.observations;
  const saw = last?.saw;
  const prompt = guide.step.prompt;
  const part = { observed, faults, set: notify.set, usual: guide.usual, unit: guide.unit };
  if (prompt.startsWith("plate-"))
    return (
      <Level
        key={guide.step.name}
        prompt={prompt}
        value={saw?.level ?? {}}
        live={live}
        onSee={(level) => notify.see({ saw: { level } })}
        {...part}
      />
    );
  if (prompt.startsWith("rounds-")) return <Rounds prompt={prompt} {...part} />;
  switch (prompt) {
    case "place":
      return (
        <div className="grid gap-4">
          <Place conditions={document.conditions ?? {}} faults={faults} onChange={notify.place} />
          <MarkFields document={document} {...part} />
        </div>
      );
    case "bubble":
      return (
        <Touching title="Touch the position of the bubble." guide={guide}>
          <BubbleAsk
            guide={guide}
            value={saw?.bubble ?? (saw ? guide.site.bubble : null)}
            onSee={(bubble) => notify.see({ saw: { bubble } })}
          />
        </Touching>
      );
    case "spot":
      return (
        <SpotAsk
          key={guide.step.name}
          guide={guide}
          title="Touch where the plummet points."
          value={saw?.spot ?? (saw ? guide.site.spot : null)}
          onSee={(spot) => notify.see({ saw: { spot } })}
        />
      );
    case "bob":
      return (
        <PlumbBobInput key={guide.step.name} guide={guide} saw={saw} onSee={(answer) => notify.see({ saw: answer })} />
      );
    case "eye":
      return <Tripod {...part} />;
    case "heights":
      return <Heights {...part} />;
    case "look":
      return <FinalCheck {...part} />;
    case "zero":
      return <Zero {...part} />;
    default:
      return null;
  }
}

export function Heights({ observed, faults, set, unit }: Part & { unit: string }) {
  const height = observed.height ?? {};
  const readings = height.readings ?? [];
  const change = (i: number) => (value: string) => {
    const next = [readings[0] ?? "", readings[1] ?? ""];
    next[i] = value;
    set({ height: { ...height, readings: next } });
  };
  const along = (name: "radius_mm" | "constant_mm") => (value: string) => {
    const rest = Object.fromEntries(Object.entries(height).filter(([each]) => each !== name));
    set({ height: value.trim() ? { ...rest, [name]: value } : rest });
  };
  return (
    <Answered title="Mark to axis, twice">
      <div className="grid grid-cols-2 gap-3">
        <Named
          id="height-0"
          label={`First, ${unit}`}
          value={readings[0] ?? ""}
          onType={change(0)}
          faults={faults}
          path="observations.height.readings[0]"
          onNext={focusOn("height-1")}
        />
        <Named
          id="height-1"
          label={`Again, ${unit}`}
          value={readings[1] ?? ""}
          onType={change(1)}
          faults={faults}
          path="observations.height.readings[1]"
        />
      </div>
      <Fold title="Measured along a slope, or to another mark" open={Boolean(height.radius_mm ?? height.constant_mm)}>
        <div className="grid grid-cols-2 gap-3">
          <Named
            id="radius"
            label="Side of it to axis, mm"
            value={height.radius_mm ?? ""}
            placeholder="0"
            onType={along("radius_mm")}
            faults={faults}
            path="height.radius_mm"
          />
          <Named
            id="constant"
            label="Constant to add, mm"
            value={height.constant_mm ?? ""}
            placeholder="0"
            onType={along("constant_mm")}
            faults={faults}
            path="height.constant_mm"
          />
        </div>
      </Fold>
    </Answered>
  );
}

export function FinalCheck({ observed, faults, set }: Part) {
  return (
    <div className="grid gap-3">
      <Named
        id="centring"
        label="Off the mark now, mm"
        value={observed.centring_mm ?? ""}
        onType={(centring_mm) => set({ centring_mm })}
        faults={faults}
        path="observations.centring_mm"
      />
      <label className="flex min-h-[64px] items-center gap-3 font-semibold">
        <input
          type="checkbox"
          className="size-7 accent-[var(--color-ink)]"
          checked={observed.final_check_done ?? false}
          onChange={(event) => set({ final_check_done: event.target.checked })}
        />
        I checked bubble and mark together without touching anything
      </label>
    </div>
  );
}

const DIRECTIONS = [
  { value: "point", label: "To a control point" },
  { value: "compass", label: "By compass" },
  { value: "arbitrary", label: "Arbitrary" },
  { value: "earlier-job", label: "As in an earlier job" },
];

export function Zero({ observed, faults, set }: Part) {
  const zero = observed.zero ?? {};
  return (
    <div className="grid gap-3">
      <label className="grid gap-1" htmlFor="zero-target">
        <span className="font-semibold">Sighted</span>
        <input
          id="zero-target"
          className="field !min-h-[64px]"
          value={zero.target ?? ""}
          onChange={(event) => set({ zero: { ...zero, target: event.target.value } })}
        />
      </label>
      <Named
        id="zero-reading"
        label="The circle reads"
        value={zero.reading ?? ""}
        onType={(reading) => set({ zero: { ...zero, reading } })}
        faults={faults}
        path="observations.zero.reading"
      />
      <Choice
        label="The direction is"
        value={zero.direction ?? ""}
        options={DIRECTIONS}
        onChange={(direction) => set({ zero: { ...zero, direction } })}
      />
      <Choice
        label="Circle counts"
        value={zero.counts ?? "clockwise"}
        options={[
          { value: "clockwise", label: "Clockwise" },
          { value: "anticlockwise", label: "Anticlockwise" },
        ]}
        onChange={(counts) => set({ zero: { ...zero, counts } })}
      />
    </div>
  );
}

/** Does the bubble stay in its ring when the instrument is turned? For levels. */
export function Ring({ observed, set }: Omit<Part, "faults">) {
  return (
    <Answered title="When turned through a full circle, the bubble">
      <Choice
        label="The circular bubble when turned"
        value={observed.ring_holds ?? "not-looked"}
        options={[
          { value: "yes", label: "stays in its ring" },
          { value: "no", label: "leaves it" },
        ]}
        onChange={(ring_holds) => set({ ring_holds })}
      />
    </Answered>
  );
}
