// Layout, units and circumstances of a test: changed at any time, nothing typed is lost.
import { useState } from "react";
import type { Fault, Kind } from "../../api/client";
import type { CheckDocument, Draft, Length } from "../../sheet/draft";
import { Choice, Dialog, FaultLine } from "../../ui/parts";
import { takeLayout } from "../../sheet/entry";
import type { Change } from "../../ui/useDraft";

export const UNITS: { value: Length; label: string }[] = [
  { value: "m", label: "Metres" },
  { value: "ft", label: "Feet" },
  { value: "usft", label: "US survey feet" },
];
const WINDS = [
  { value: "calm", label: "Calm" },
  { value: "breeze", label: "Breeze" },
  { value: "strong", label: "Strong wind" },
] as const;

/** How this crew worked last time, so that it is not asked for again. */
export function rememberedWay(): { layout: string; unit: Length } {
  const unit = UNITS.find((one) => one.value === localStorage.getItem("unit"))?.value ?? "m";
  return { layout: localStorage.getItem("layout") ?? "middle-then-near", unit };
}
export function rememberWay(layout: string, unit: Length): void {
  localStorage.setItem("layout", layout);
  localStorage.setItem("unit", unit);
}

export function LayoutChoice({ kind, value, onChange }: { kind: Kind; value: string; onChange: (name: string) => void }) {
  return <Choice label="Layout" stacked value={value} onChange={onChange} options={kind.layouts.map((one) => ({ value: one.name, label: one.title, hint: one.good_for }))} />;
}

export function LayoutDialog({ draft, kind, change, faults, open, onClose }: { draft: Draft; kind: Kind; change: Change; faults: Fault[]; open: boolean; onClose: () => void }) {
  const { document } = draft;
  const unit = document.units?.length ?? "m";
  const chosen = document.observations.layout ?? "free";
  const take = (name: string, inUnit: Length) => {
    const layout = kind.layouts.find((one) => one.name === name);
    if (!layout) return;
    rememberWay(name, inUnit);
    change((one) => ({ ...one, ...takeLayout(one.document, one.filled, layout, inUnit) }));
  };
  const observe = (more: Partial<CheckDocument["observations"]>) => change((one) => ({ ...one, document: { ...one.document, observations: { ...one.document.observations, ...more } } }));
  return (
    <Dialog title="Layout, units and weather" open={open} onClose={onClose} wide>
      <div className="grid gap-5">
        <div className="grid gap-2">
          <h2>Readings and distances typed in</h2>
          <Choice label="Unit of what is typed" value={unit} options={UNITS} onChange={(value) => take(chosen, value)} />
          <p className="sub">A number may also end in its own unit: 330 ft, 5'3 1/4". It then wins.</p>
        </div>
        <div className="grid gap-2">
          <h2>Layout</h2>
          <LayoutChoice kind={kind} value={chosen} onChange={(name) => take(name, unit)} />
        </div>
        <Circumstances document={document} faults={faults} change={change} />
        <label className="flex min-h-[48px] items-center gap-3">
          <input type="checkbox" className="size-6 accent-[var(--color-ink)]" checked={document.observations.curvature ?? true} onChange={(e) => observe({ curvature: e.target.checked })} />
          Take the earth's curvature and refraction into account
        </label>
      </div>
    </Dialog>
  );
}

export function Circumstances({ document, faults, change }: { document: CheckDocument; faults: Fault[]; change: Change }) {
  const [temperature, setTemperature] = useState(() => String(document.conditions?.temperature_c ?? ""));
  const set = (more: NonNullable<CheckDocument["conditions"]>) =>
    change((one) => {
      const conditions = Object.fromEntries(Object.entries({ ...one.document.conditions, ...more }).filter(([, value]) => value !== ""));
      return { ...one, document: { ...one.document, conditions } };
    });
  const fault = faults.find((one) => one.path === "conditions.temperature_c");
  return (
    <div className="grid gap-3">
      <h2>Weather</h2>
      <div className="flex flex-wrap items-end gap-4">
        <Choice label="Wind" value={(document.conditions?.wind ?? "") as "calm"} options={[...WINDS]} onChange={(wind) => set({ wind })} />
        <label className="grid gap-1 font-[600]">
          Temperature, °C
          <input
            className="field !w-[120px] font-mono"
            inputMode="decimal"
            autoComplete="off"
            value={temperature}
            onChange={(e) => {
              setTemperature(e.target.value);
              set({ temperature_c: e.target.value.trim() });
            }}
          />
        </label>
      </div>
      {fault && <FaultLine fault={fault} />}
      <label className="grid gap-1 font-[600]">
        Remark
        <textarea
          className="field"
          rows={2}
          maxLength={2000}
          value={document.remark ?? ""}
          onChange={(e) => change((one) => ({ ...one, document: { ...one.document, remark: e.target.value } }))}
        />
      </label>
    </div>
  );
}
