// The place and the tripod: what hints and later advice depend on. None of it need be given.
import type { Fault } from "../../api/client";
import type { Conditions, SetUpDocument, Tripod as TripodTyped } from "../../documents/setUp";
import { filled } from "../../documents/setUp";
import { Choice } from "../../ui/Choice";
import { Named } from "../../ui/Named";
import { Answered, Fold, type Part, type Usual, focusOn } from "../../ui/Fold";
import { OutOfPlumb } from "./OutOfPlumb";

const GROUNDS = [
  { value: "earth", label: "Earth" },
  { value: "grass", label: "Grass" },
  { value: "gravel", label: "Gravel" },
  { value: "asphalt", label: "Asphalt" },
  { value: "stone", label: "Concrete, stone" },
  { value: "floor", label: "Floor" },
  { value: "frozen", label: "Frozen" },
];
const WINDS = [
  { value: "calm", label: "Calm" },
  { value: "breeze", label: "Breeze" },
  { value: "strong", label: "Strong wind" },
];
const MATERIALS = [
  { value: "wood" as const, label: "Wood" },
  { value: "aluminium" as const, label: "Aluminium" },
  { value: "composite" as const, label: "Composite" },
];

const MARKS = [
  { value: "nail", label: "Nail" },
  { value: "tack", label: "Tack in a peg" },
  { value: "cross", label: "Cut cross" },
  { value: "bolt", label: "Bolt" },
  { value: "pipe", label: "Pipe" },
  { value: "other", label: "Other" },
];
const MARK_CONDITIONS = [
  { value: "good", label: "Good" },
  { value: "loose", label: "Loose" },
  { value: "leaning", label: "Out of plumb" },
  { value: "damaged", label: "Damaged" },
];

/** The mark below: kind and condition; of one out of plumb, how far its head is from the ground point. */
export function MarkFields({ observed, faults, set, document }: Part & { document: SetUpDocument }) {
  const mark = observed.mark ?? {};
  const change = (more: Partial<typeof mark>) => set({ mark: filled({ ...mark, ...more }) });
  if (mark.free) return null;
  return (
    <Fold title="The mark: kind and condition" open={Boolean(mark.kind ?? mark.condition)}>
      <Choice label="Mark" value={mark.kind ?? ""} options={MARKS} onChange={(kind) => change({ kind })} />
      <Choice
        label="Condition of the mark"
        value={mark.condition ?? ""}
        options={MARK_CONDITIONS}
        onChange={(condition) => change({ condition })}
      />
      {mark.condition === "leaning" && (
        <OutOfPlumb
          document={document}
          faults={faults}
          value={mark.lean_mm ?? ""}
          onChange={(lean_mm) => change({ lean_mm })}
        />
      )}
    </Fold>
  );
}

type PlaceProps = { conditions: Conditions; faults: Fault[]; onChange: (conditions: Conditions) => void };

/** Ground, wind, temperature: a touch each. */
export function Place({ conditions, faults, onChange }: PlaceProps) {
  const change = (each: Conditions) => onChange(filled({ ...conditions, ...each }));
  return (
    <div className="grid gap-4">
      <Answered title="Ground">
        <Choice
          label="Ground"
          value={conditions.ground ?? ""}
          options={GROUNDS}
          onChange={(ground) => change({ ground })}
        />
      </Answered>
      <div className="flex flex-wrap items-end gap-4">
        <Answered title="Wind">
          <Choice label="Wind" value={conditions.wind ?? ""} options={WINDS} onChange={(wind) => change({ wind })} />
        </Answered>
        <div className="w-[112px]">
          <Named
            id="warm"
            label="Air, °C"
            value={conditions.temperature_c ?? ""}
            onType={(temperature_c) => change({ temperature_c })}
            faults={faults}
            path="conditions.temperature_c"
          />
        </div>
      </div>
    </div>
  );
}

/** For whom it stands, and its own measures. */
export function Tripod({ observed, faults, set, usual, unit }: Part & { usual: Usual; unit: string }) {
  const tripod = observed.tripod ?? {};
  const measure = (name: "foot_spacing_m" | "head_height_m" | "slope_deg") => (value: string) =>
    set({ tripod: filled({ ...tripod, [name]: value }) });
  return (
    <div className="grid gap-1">
      <Answered title="Your eye height and the tripod dimensions, measured once: used for later advice.">
        <div className="grid grid-cols-3 gap-3">
          <Named
            id="eye"
            label={`Your eye, ${unit}`}
            value={observed.eye_height ?? ""}
            onType={(eye_height) => set({ eye_height })}
            faults={faults}
            path="observations.eye_height"
            onNext={focusOn("feet")}
          />
          <Named
            id="feet"
            label={`Feet apart, ${unit}`}
            value={tripod.foot_spacing_m ?? ""}
            placeholder={usual["foot_spacing_m"] ?? ""}
            onType={measure("foot_spacing_m")}
            onNext={focusOn("head")}
            faults={faults}
            path="tripod.foot_spacing_m"
          />
          <Named
            id="head"
            label={`Head, ${unit}`}
            value={tripod.head_height_m ?? ""}
            placeholder={usual["head_height_m"] ?? ""}
            onType={measure("head_height_m")}
            faults={faults}
            path="tripod.head_height_m"
          />
        </div>
      </Answered>
      {faults
        .filter((fault) => fault.path.endsWith("observations.tripod"))
        .map((fault) => (
          <p key={fault.path} className="fault" role="alert" data-fault={fault.path}>
            Wanted: {fault.wanted}.
          </p>
        ))}
      <Fold title="Slope, material, leg travel">
        <div className="grid grid-cols-[112px_minmax(0,1fr)] items-end gap-4">
          <Named
            id="slope"
            label="Slope, °"
            value={tripod.slope_deg ?? ""}
            placeholder={usual["slope_deg"] ?? ""}
            onType={measure("slope_deg")}
            faults={faults}
            path="tripod.slope_deg"
          />
          <Choice
            label="Legs of"
            value={observed.tripod_material ?? ""}
            options={MATERIALS}
            onChange={(tripod_material) => tripod_material && set({ tripod_material })}
          />
        </div>
        <Left
          title="Can still be shortened, mm"
          name="shorten_mm"
          tripod={tripod}
          onChange={(next) => set({ tripod: next })}
        />
        <Left
          title="Can still be lengthened, mm"
          name="lengthen_mm"
          tripod={tripod}
          onChange={(next) => set({ tripod: next })}
        />
      </Fold>
    </div>
  );
}

function Left({
  title,
  name,
  tripod,
  onChange,
}: {
  title: string;
  name: "shorten_mm" | "lengthen_mm";
  tripod: TripodTyped;
  onChange: (tripod: TripodTyped) => void;
}) {
  const left = tripod[name] ?? {};
  const change = (leg: string) => (text: string) => {
    const next = filled({ ...left, [leg]: text });
    onChange(
      Object.keys(next).length
        ? { ...tripod, [name]: next }
        : Object.fromEntries(Object.entries(tripod).filter(([each]) => each !== name)),
    );
  };
  return (
    <Answered title={title}>
      <div className="grid grid-cols-3 gap-3">
        {["A", "B", "C"].map((leg) => (
          <Named key={leg} id={`${name}-${leg}`} label={leg} value={left[leg] ?? ""} onType={change(leg)} />
        ))}
      </div>
    </Answered>
  );
}
