// A mark out of plumb: how far its head is from its foot, measured or from its angle, and what it adds to a direction.
import { useState } from "react";
import type { Fault, Schemas } from "../../api/client";
import type { SetUpDocument } from "../../documents/setUp";
import { advise } from "../../engine";
import { useQuestion } from "../../hooks/useQuestion";
import { focusOn } from "../../ui/Fold";
import { Named } from "../../ui/Named";

type Answer = Schemas["Advice"];
type Props = { document: SetUpDocument; faults: Fault[]; value: string; onChange: (mm: string) => void };

export function OutOfPlumb({ document, faults, value, onChange }: Props) {
  const [angle, setAngle] = useState("");
  const [length, setLength] = useState("");
  const measured = value.trim() ? { offset_mm: value } : null;
  const turned = angle.trim() && length.trim() ? { lean_deg: angle, stands_out_mm: length } : null;
  const known = measured ?? turned;
  const sight = document.work?.sight_m;
  const question = known && {
    advice: "lean",
    units: { length: document.units?.length ?? "m" },
    ...known,
    ...(sight ? { sight_m: sight } : {}),
  };
  const { answer, fresh, faults: refused } = useQuestion<Answer>(question, (query) => advise<Answer>(query));
  const off = !measured && fresh && answer ? String((answer.result as { offset_mm: number }).offset_mm) : null;
  return (
    <div className="grid gap-3">
      <Named
        id="out-of-plumb"
        label="Its head is off where it enters the ground by, mm"
        value={value}
        onType={onChange}
        faults={faults}
        path="observations.mark.lean_mm"
      />
      {!measured && (
        <div className="grid grid-cols-2 items-end gap-3">
          <Named
            id="tilt-angle"
            label="Or: tilted by, °"
            value={angle}
            onType={setAngle}
            onNext={focusOn("tilt-length")}
            faults={refused}
            path="lean_deg"
          />
          <Named
            id="tilt-length"
            label="And stands out by, mm"
            value={length}
            onType={setLength}
            faults={refused}
            path="stands_out_mm"
          />
        </div>
      )}
      {question && answer && !refused.length && <p data-out-of-plumb>{answer.text.join(" ")}</p>}
      {off && (
        <button className="btn justify-self-start" onClick={() => onChange(off)}>
          Note {off} mm
        </button>
      )}
    </div>
  );
}
