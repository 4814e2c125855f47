// The field sheet as a file, and the way to be rid of it.
import { type Draft, toSend } from "../../documents/draft";
import { SheetFiles } from "../../ui/SheetFiles";

export function FileActions({ draft, onDiscard }: { draft: Draft; onDiscard: () => void }) {
  return (
    <div className="grid gap-3">
      <SheetFiles
        name={`${draft.instrument}-${draft.kind}-${draft.startedAt.slice(0, 10)}`}
        kind={draft.kind}
        content={toSend(draft.document)}
      />
      <p className="sub">It remains on this device until it is saved as a record or discarded.</p>
      <button className="btn site" onClick={onDiscard}>
        Discard this field sheet
      </button>
    </div>
  );
}
