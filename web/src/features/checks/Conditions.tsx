// The circumstances a kind asks for: how long it was on, what it stands on, wind, temperature.
import type { Fault, Kind } from "../../api/client";
import type { CheckDocument } from "../../documents/draft";
import { Choice, FaultLine } from "../../ui/parts";

type Entered = NonNullable<CheckDocument["conditions"]>;
const WINDS = [
  { value: "calm", label: "Calm" },
  { value: "breeze", label: "Breeze" },
  { value: "strong", label: "Strong wind" },
];
const STANDS = [
  { value: "tripod", label: "Tripod" },
  { value: "pillar", label: "Pillar" },
  { value: "floor", label: "Floor" },
];

export function Conditions({ required, value, onChange, faults }: { required: Kind["required_conditions"]; value: Entered; onChange: (value: Entered) => void; faults: Fault[] }) {
  const set = (more: Entered) => onChange(Object.fromEntries(Object.entries({ ...value, ...more }).filter(([, each]) => each !== "")));
  return (
    <div className="flex flex-wrap items-start gap-x-8 gap-y-4" role="group" aria-label="Conditions">
      {required.minutes_on && <Figure label="Warm-up, minutes" path="conditions.minutes_on" value={value.minutes_on ?? ""} faults={faults} onType={(minutes_on) => set({ minutes_on })} />}
      {required.temperature && <Figure label="Temperature, °C" path="conditions.temperature_c" value={value.temperature_c ?? ""} faults={faults} onType={(temperature_c) => set({ temperature_c })} />}
      {required.support && (
        <div className="grid gap-1">
          <span className="font-[600]">Set up on</span>
          <Choice label="Set up on" value={value.support ?? ""} options={STANDS} onChange={(support) => set({ support })} />
        </div>
      )}
      {required.wind && (
        <div className="grid gap-1">
          <span className="font-[600]">Wind</span>
          <Choice label="Wind" value={value.wind ?? ""} options={WINDS} onChange={(wind) => set({ wind })} />
        </div>
      )}
    </div>
  );
}

function Figure({ label, path, value, faults, onType }: { label: string; path: string; value: string; faults: Fault[]; onType: (value: string) => void }) {
  const fault = faults.find((fault) => fault.path === path);
  return (
    <label className="grid gap-1 font-[600]">
      {label}
      <input className="field !w-[140px] font-mono" inputMode="decimal" autoComplete="off" aria-invalid={Boolean(fault)} value={value} onChange={(event) => onType(event.target.value)} />
      {fault && <FaultLine fault={fault} beside />}
    </label>
  );
}
