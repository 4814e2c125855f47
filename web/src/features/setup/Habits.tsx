// How somebody works: the options inside every way. Chosen once, remembered on this device.
import type { LevelType, Options } from "../../documents/setUp";
import { Choice, type Option } from "../../ui/Choice";
import { Answered, Fold } from "../../ui/Fold";

const LEVEL_TYPES: Option<LevelType>[] = [
  { value: "electronic", label: "Electronic level" },
  { value: "plate", label: "One plate vial" },
  { value: "two-plates", label: "Two plate vials" },
];

type Props = {
  options: Options;
  cannot: (level_type: string) => string | null;
  trainee: boolean;
  level: boolean;
  onChange: (options: Options) => void;
};

export function Habits({ options, cannot, trainee, level, onChange }: Props) {
  const set = (change: Options) => onChange({ ...options, ...change });
  return (
    <div className="grid gap-3">
      {!level && (
        <Answered title="Fine level by">
          <Choice
            label="Fine level by"
            value={options.level_type ?? "electronic"}
            options={LEVEL_TYPES.filter((level) => !cannot(level.value))}
            onChange={(level_type) => set({ level_type })}
          />
          {LEVEL_TYPES.flatMap((level) => cannot(level.value) ?? []).map((why) => (
            <p key={why} className="sub">
              {why}
            </p>
          ))}
        </Answered>
      )}
      <Fold title="Legs, screws, where you stand">
        <Answered title="Legs">
          <Choice
            label="Legs"
            value={options.legs_may ?? "lower"}
            options={[
              { value: "lower", label: "Shorten only", hint: "the leg on the bubble's side" },
              { value: "either", label: "Shorten or lengthen", hint: "also lengthen the opposite leg" },
            ]}
            onChange={(legs_may) => set({ legs_may })}
          />
        </Answered>
        <Answered title="Foot screws">
          <Choice
            label="Foot screws"
            value={options.together === false ? "one" : "both"}
            options={[
              { value: "both", label: "Both of a pair together" },
              { value: "one", label: "One at a time" },
            ]}
            onChange={(value) => set({ together: value === "both" })}
          />
        </Answered>
        <Answered title="Tripod position">
          <Choice
            label="Tripod position"
            value={options.stands ?? "two-to-you"}
            options={[
              { value: "two-to-you", label: "Two legs towards you" },
              { value: "third-along", label: "One leg along the line of work" },
            ]}
            onChange={(stands) => set({ stands })}
          />
        </Answered>
        <label className="flex min-h-[48px] items-center gap-3">
          <input
            type="checkbox"
            className="size-6 accent-[var(--color-ink)]"
            checked={trainee || (options.strict ?? false)}
            disabled={trainee}
            onChange={(event) => set({ strict: event.target.checked })}
          />
          {trainee ? "In strict order (set by your chief)" : "In strict order: no step before the previous one"}
        </label>
      </Fold>
    </div>
  );
}
