// The two looks before any reading: does the bubble hold, does the line come back.
import type { Look } from "../../sheet/draft";
import { Choice } from "../../ui/parts";

export type LooksValue = { bubble_holds?: Look; line_returns?: Look };
const ANSWERS = (yes: string, no: string): { value: Look; label: string }[] => [
  { value: "yes", label: yes },
  { value: "no", label: no },
  { value: "not-looked", label: "Not looked" },
];

export function Looks({ value, onChange }: { value: LooksValue; onChange: (value: LooksValue) => void }) {
  return (
    <div className="grid gap-5">
      <div className="grid gap-2" data-look="bubble">
        <p className="text-[17px]">
          <b>Turn the level once round.</b> Does the circular bubble stay in its ring?
        </p>
        <Choice label="Bubble" value={value.bubble_holds ?? ("" as Look)} options={ANSWERS("It stays", "It leaves")} onChange={(bubble_holds) => onChange({ ...value, bubble_holds })} />
      </div>
      <div className="grid gap-2" data-look="tap">
        <p className="text-[17px]">
          <b>Sight a staff, tap the tripod lightly.</b> Does the line come back to the same reading?
        </p>
        <Choice label="Tap" value={value.line_returns ?? ("" as Look)} options={ANSWERS("It comes back", "It does not")} onChange={(line_returns) => onChange({ ...value, line_returns })} />
      </div>
    </div>
  );
}

/** The looks as a phrase for the line under the title. */
export function looksInWords({ bubble_holds, line_returns }: LooksValue): string {
  if (bubble_holds === "yes" && line_returns === "yes") return "Bubble and tap: good.";
  const parts = [bubble_holds === "no" && "the bubble leaves its ring", line_returns === "no" && "the line does not come back"].filter(Boolean);
  if (parts.length) return `${String(parts[0]).charAt(0).toUpperCase()}${String(parts.join(", ")).slice(1)}.`;
  return "Bubble and tap: not both looked at.";
}
