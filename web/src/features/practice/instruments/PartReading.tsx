// One check that was chosen while looking for a fault: its sheet and its instrument, without adjusting.
import { useCallback, useState } from "react";
import type { Kind, Preview } from "../../../api/client";
import { type CheckDocument, type Draft, begin } from "../../../documents/draft";
import type { Aim, FaultSituation, Turns } from "../../../engine/practice";
import { useKind } from "../../../hooks/useKinds";
import { FindingView } from "../../../ui/FindingView";
import { Cautions, Trouble, Waiting } from "../../../ui/parts";
import { LooseSheet } from "../../checks";
import { Screws } from "./Screws";
import { View } from "./View";
import { useLook } from "./useLook";
import { VIEW_TITLES, firstAim } from "./views";

type Chosen = FaultSituation["parts"][number];
type Props = {
  part: Chosen;
  draft: Draft | null;
  onChange: (draft: Draft, blur: number | null) => void;
  onPreview: (preview: Preview | null) => void;
};

export function PartReading(props: Props) {
  const kind = useKind(props.part.lesson.check);
  return kind ? <Reading {...props} kind={kind} /> : <Waiting what="Setting the instrument up…" />;
}

function Reading({ part, draft, onChange, onPreview, kind }: Props & { kind: Kind }) {
  const { lesson, seed } = part;
  const [aim, setAim] = useState<Aim>(() => firstAim(lesson));
  const [turns, setTurns] = useState<Turns>({});
  const [preview, setPreview] = useState<Preview | null>(null);
  const [empty] = useState(() => {
    const document = lesson.document as CheckDocument;
    return begin({ kind: kind.kind, instrument: "", owner: "", document, begun: document.observations });
  });
  const { look, fresh, seconds, error } = useLook({ lesson: lesson.name, seed }, aim, turns, true);
  const shown = draft ?? empty;
  const change = (how: (draft: Draft) => Draft) => onChange(how(shown), look && "blur" in look ? look.blur : null);
  const take = useCallback(
    (next: Preview | null) => {
      setPreview(next);
      onPreview(next);
    },
    // What is asked of the sheet does not depend on who takes the answer.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [],
  );
  const result = preview?.complete ? preview.reduced : null;
  return (
    <div className="grid items-start gap-4 desk:grid-cols-[minmax(0,1fr)_440px]">
      <div className="grid min-w-0 gap-4 max-desk:order-last">
        <Trouble error={error} />
        <LooseSheet kind={kind} draft={shown} onChange={change} onDone={() => undefined} onPreview={take} />
        {result && (
          <section className="card grid gap-3 p-4" aria-label="Finding">
            <FindingView result={result} />
          </section>
        )}
        <Cautions cautions={lesson.cautions} />
      </div>
      <section
        className="card grid gap-3 p-4 max-desk:order-first"
        aria-label={VIEW_TITLES[lesson.view]}
        data-looking
        data-fresh={fresh}
      >
        <View lesson={lesson} look={look} aim={aim} onAim={setAim} small={false} seconds={seconds} />
        <Screws screws={lesson.screws.filter((screw) => !screw.adjusting)} turns={turns} onTurn={setTurns} />
      </section>
    </div>
  );
}
