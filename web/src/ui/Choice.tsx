import { RadioGroup } from "radix-ui";

export type Option<T extends string> = { value: T; label: string; hint?: string };

/** One of a few, in a row of outlined touches; the chosen one is filled with ink. */
export function Choice<T extends string>({
  label,
  value,
  options,
  onChange,
  stacked = false,
  columns = false,
}: {
  label: string;
  value: T;
  options: Option<T>[];
  onChange: (value: T) => void;
  stacked?: boolean;
  columns?: boolean;
}) {
  return (
    <RadioGroup.Root
      aria-label={label}
      value={value}
      onValueChange={(v) => onChange(v as T)}
      className={columns ? "grid grid-cols-2 gap-2" : `flex flex-wrap gap-2 ${stacked ? "flex-col" : ""}`}
    >
      {options.map((option) => (
        <RadioGroup.Item
          key={option.value}
          value={option.value}
          className={`rounded-md min-h-[48px] px-4 py-2 text-left font-semibold shadow-[inset_0_0_0_1.5px_var(--color-ink)] data-[state=checked]:bg-ink data-[state=checked]:text-card`}
        >
          {option.label}
          {option.hint && <span className="block font-normal text-[15px]">{option.hint}</span>}
        </RadioGroup.Item>
      ))}
    </RadioGroup.Root>
  );
}
