// "Already set up: record it": what an experienced hand says in half a minute, judged and kept like any other.
import type { ReactNode } from "react";
import type { Fault } from "../../api/client";
import type { SetUpDraft } from "../../documents/setUp";
import { Heights, FinalCheck, Ring } from "./Prompt";
import { Rounds } from "./PromptLevel";
import type { Observed } from "../../ui/Fold";
import type { GuidedPreview } from "./useGuide";

export function Quick({
  draft,
  guided,
  set,
  keep,
  refused,
}: {
  draft: SetUpDraft;
  guided: GuidedPreview;
  set: (change: Partial<Observed>) => void;
  keep: ReactNode;
  refused: Fault[];
}) {
  const observed = draft.document.observations;
  const faults = [...guided.preview.faults, ...refused];
  const point = guided.guide.site.over_point;
  const level_type = `rounds-${observed.options?.level_type ?? "electronic"}`;
  return (
    <div className="grid items-start gap-4 tab:grid-cols-2">
      <section className="card grid gap-5 p-5" aria-label="Set-up state">
        {observed.method === "no-point" ? (
          <Ring observed={observed} set={set} />
        ) : (
          <Rounds prompt={level_type} observed={observed} faults={faults} set={set} usual={guided.guide.usual} />
        )}
        {point && <FinalCheck observed={observed} faults={faults} set={set} />}
        {point && <Heights observed={observed} faults={faults} set={set} unit={guided.guide.unit} />}
      </section>
      {keep}
    </div>
  );
}
