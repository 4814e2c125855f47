// Where the bob hangs: both ends of its swing from two sides, or touched where it stands still.
import { useState } from "react";
import type { Guide } from "../../api/client";
import type { Saw, Spot, Swing } from "../../documents/setUp";
import { Choice } from "../../ui/Choice";
import { SpotAsk } from "./SpotInput";
import { Named } from "../../ui/Named";
import { Answered, focusOn } from "../../ui/Fold";

export function PlumbBobInput({
  guide,
  saw,
  onSee,
}: {
  guide: Guide;
  saw: Saw | undefined;
  onSee: (saw: Saw) => void;
}) {
  const [swings, setSwings] = useState(Boolean(saw?.swing));
  const still = (spot: Spot) => onSee({ spot });
  return (
    <div className="grid gap-3">
      <Choice
        label="Plumb bob"
        value={swings ? "swings" : "still"}
        options={[
          { value: "still", label: "Hanging still" },
          { value: "swings", label: "Swinging" },
        ]}
        onChange={(value) => setSwings(value === "swings")}
      />
      {swings ? (
        <Swung guide={guide} value={saw?.swing ?? {}} onSee={(swing) => onSee({ swing })} />
      ) : (
        <SpotAsk guide={guide} title="Touch where the bob hangs." value={saw?.spot ?? null} onSee={still} />
      )}
    </div>
  );
}

function Swung({ guide, value, onSee }: { guide: Guide; value: Swing; onSee: (swing: Swing) => void }) {
  const [ends, setEnds] = useState([
    value.here?.left ?? "",
    value.here?.right ?? "",
    value.round?.left ?? "",
    value.round?.right ?? "",
  ]);
  const type = (i: number) => (text: string) => setEnds(ends.map((end, j) => (j === i ? text : end)));
  const pair = (i: number) => ({
    ...(ends[i]?.trim() ? { left: ends[i] as string } : {}),
    ...(ends[i + 1]?.trim() ? { right: ends[i + 1] as string } : {}),
  });
  const notify = () => onSee({ here: pair(0), round: pair(2) });
  const input = (i: number, label: string) => (
    <Named
      id={`swing-${i}`}
      label={`${label}, mm`}
      value={ends[i] ?? ""}
      onType={type(i)}
      onNext={i < 3 ? focusOn(`swing-${i + 1}`) : notify}
    />
  );
  return (
    <div className="grid gap-3">
      <Answered title="From where you stand: both ends of the swing relative to the mark, right is plus">
        <div className="grid grid-cols-2 gap-3">
          {input(0, "Left end")}
          {input(1, "Right end")}
        </div>
      </Answered>
      <Answered title="90° to your right: the same again">
        <div className="grid grid-cols-2 gap-3">
          {input(2, "Left end")}
          {input(3, "Right end")}
        </div>
      </Answered>
      <button className="btn" onClick={notify} disabled={!ends[0]?.trim() || !ends[1]?.trim()}>
        Enter
      </button>
      {guide.advice?.understood && <p className="sub">Read as: {guide.advice.understood}.</p>}
    </div>
  );
}
