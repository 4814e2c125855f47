// A field sheet that belongs to no instrument and is kept nowhere: what is typed goes to whoever shows it.
import { useEffect } from "react";
import type { Kind, Preview } from "../../api/client";
import { type CheckDocument, type Draft, toSend } from "../../documents/draft";
import { type Entry as ListEntry, type Placed, formOf } from "../../documents/form";
import { removeEntry, removeRow } from "../../documents/typing";
import { usePreview } from "../../hooks/useQuestion";
import { FindingStrip } from "./FindingStrip";
import { KeyBar } from "./KeyBar";
import { Sheet } from "./Sheet";
import { useKeys } from "./useKeys";
import { usePages } from "./usePages";

type Props = {
  kind: Kind;
  draft: Draft;
  onChange: (change: (draft: Draft) => Draft) => void;
  onDone: () => void;
  onPreview: (preview: Preview | null) => void;
};

export function LooseSheet({ kind, draft, onChange, onDone, onPreview }: Props) {
  const form = formOf(kind, draft.document);
  const saying = usePreview<Preview>(null, toSend(draft.document));
  const pages = usePages(draft.document, form);
  const { keys, at, focused, bar } = useKeys(draft, form, onChange, onDone, pages.reveal);
  const set = (document: CheckDocument) => onChange((each) => ({ ...each, document }));
  const current = saying.fresh ? saying.answer : null;
  useEffect(() => onPreview(current), [current, onPreview]);
  return (
    <>
      <Sheet
        document={draft.document}
        form={form}
        pages={pages}
        preview={saying.answer}
        keys={keys}
        at={at}
        onRemove={(group: Placed, row: number) => set(removeRow(draft.document, group, row))}
        onRemoveEntry={(entry: ListEntry) => set(removeEntry(draft.document, entry))}
      />
      <KeyBar shown={focused} onKey={bar} strip={focused ? <FindingStrip saying={saying} /> : null} />
    </>
  );
}
