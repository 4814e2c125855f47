// The head's tilt as a phone or a small level shows it: do the foot screws reach, or do the legs come first?
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { useQuestion } from "../../hooks/useQuestion";
import { advise } from "../../engine";
import { Fold } from "../../ui/Fold";
import { Named } from "../../ui/Named";

type Answer = Schemas["Advice"];

export function HeadTilt() {
  const [tilt, setTilt] = useState("");
  const question = tilt.trim() ? { advice: "head-tilt", tilt_deg: tilt } : null;
  const { answer, faults } = useQuestion<Answer>(question, (query) => advise<Answer>(query));
  return (
    <Fold title="Head tilt, by a phone or a small level">
      <Named
        id="head-tilt"
        label="Largest tilt of the head, °"
        value={tilt}
        onType={setTilt}
        faults={faults}
        path="tilt_deg"
      />
      {question && answer && !faults.length && (
        <p data-head-tilt={String((answer.result as { enough?: boolean }).enough)}>{answer.text.join(" ")}</p>
      )}
    </Fold>
  );
}
