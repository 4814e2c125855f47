// A check in hand: the sheet, the drawing that grows with it, and the finding beside it.
import { useQuery } from "@tanstack/react-query";
import { type ReactNode, useEffect, useState } from "react";
import { useParams } from "react-router";
import type { Kind, Preview } from "../../api/client";
import { instrumentQuery } from "../../api/queries";
import { useNotify } from "../../app/notices";
import { repeatDocument } from "../../engine";
import { type Draft, toSend } from "../../documents/draft";
import { type Entry as ListEntry, type Placed, finished, formOf, methodOf } from "../../documents/form";
import { withAt } from "../../documents/paths";
import { removeEntry, removeRow } from "../../documents/typing";
import { CheckPicture, somethingDrawn } from "../../ui/CheckPicture";
import { Calculation } from "../../ui/Calculation";
import { NarrowColumn } from "../../hooks/useNarrow";
import { useKind } from "../../hooks/useKinds";
import { Back, Dialog, Head, Waiting } from "../../ui/parts";
import { usePreview } from "../../hooks/useQuestion";
import { type Change, useDraft } from "../../hooks/useDraft";
import { lowered } from "../../ui/words";
import { FileActions } from "./FileActions";
import { FindingPanel } from "./FindingPanel";
import { FindingStrip } from "./FindingStrip";
import { KeyBar } from "./KeyBar";
import { NoRoomLine } from "../../ui/NoRoomLine";
import { Sheet } from "./Sheet";
import { SheetDialog } from "./SheetDialog";
import { useDiscard } from "../../app/useDiscard";
import { useKeys } from "./useKeys";
import { useSave } from "./useSave";

export function Entry() {
  const { id = "" } = useParams();
  const { draft, change, room } = useDraft(id);
  const kind = useKind(draft?.kind);
  if (draft === null)
    return <Head title="This field sheet is not on this device" sub={<Back to="/bench">It was saved, discarded, started on another device, or the storage was cleared. To the bench</Back>} />;
  if (!draft || !kind) return <Waiting what="Opening the field sheet…" />;
  return <Open key={draft.id} draft={draft} kind={kind} change={change} room={room} />;
}

type Fix = Preview["progress"]["fixes"][number];

/** Changes of the whole document, each with its way back. */
function useChanges(draft: Draft, change: Change) {
  const notify = useNotify();
  const set = (document: Draft["document"]) => change((each) => ({ ...each, document }));
  const withUndo = (next: Draft["document"], text: string) => {
    const before = draft.document;
    set(next);
    notify({ text, undo: () => set(before) });
  };
  return {
    set,
    removeRow: (group: Placed, row: number) => withUndo(removeRow(draft.document, group, row), "Row removed."),
    removeEntry: (entry: ListEntry) => withUndo(removeEntry(draft.document, entry), `${entry.each.noun.charAt(0).toUpperCase()}${entry.each.noun.slice(1)} removed.`),
    fix: ({ text, edits }: Fix) => withUndo(edits.reduce((grown, edit) => withAt(grown, edit.path, edit.value), draft.document), `Done: ${lowered(text)}`),
    again: async () => withUndo(await repeatDocument(draft.document), "Rows for one more run added."),
  };
}

const FIRST_ANSWER_MS = 2_000;

/** Whether so long has gone by since the page was opened. */
function useLate(ms: number): boolean {
  const [late, setLate] = useState(false);
  useEffect(() => {
    const timer = setTimeout(() => setLate(true), ms);
    return () => clearTimeout(timer);
  }, [ms]);
  return late;
}

function Open({ draft, kind, change, room }: { draft: Draft; kind: Kind; change: Change; room: boolean }) {
  const { document, instrument: tag } = draft;
  const form = formOf(kind, document);
  const saying = usePreview<Preview>(tag, toSend(document));
  const answer = saying.answer;
  const save = useSave(draft, kind.title, finished(document, form));
  const { keys, at, focused, bar } = useKeys(draft, form, change, save.press);
  const changes = useChanges(draft, change);
  const [dialog, setDialog] = useState<"steps" | "file" | null>(null);
  const discard = useDiscard(draft, `${kind.title} of ${draft.instrument} discarded.`, `/bench/${draft.id}`);
  const late = useLate(FIRST_ANSWER_MS);
  // On an upright tablet the finding stands above the readings: a touch before the first answer would miss its cell.
  if (!answer && !saying.wrong && !late) return <Waiting what="Opening the sheet…" />;
  return (
    <div className="grid gap-3 text-[16px] max-tab:pb-[60px]">
      <Title draft={draft} kind={kind} onOpen={setDialog} />
      {!room && <NoRoomLine />}
      <div className="grid items-start gap-4 desk:grid-cols-[minmax(0,1fr)_400px]">
        <Sheet document={document} form={form} preview={answer} keys={keys} at={at} onRemove={changes.removeRow} onRemoveEntry={changes.removeEntry} />
        <Beside picture={answer?.picture}>
          <FindingPanel draft={draft} saying={saying} kind={kind} save={save} onAgain={() => void changes.again()} onFix={changes.fix} />
        </Beside>
      </div>
      {answer?.reduced && <Calculation result={answer.reduced} />}
      <KeyBar shown={focused} onKey={bar} strip={<FindingStrip saying={saying} />} />
      <SheetDialog draft={draft} kind={kind} form={form} change={change} faults={answer?.faults ?? []} open={dialog === "steps"} onClose={() => setDialog(null)} />
      <Dialog title="This field sheet" open={dialog === "file"} onClose={() => setDialog(null)}>
        <FileActions draft={draft} onDiscard={() => void discard()} />
      </Dialog>
    </div>
  );
}

/** Finding and drawing beside the sheet; on an upright tablet above it, at a height of its own, so that nothing moves below. */
function Beside({ picture, children }: { picture: Preview["picture"] | undefined; children: ReactNode }) {
  const drawn = picture && somethingDrawn(picture);
  return (
    <div className={`grid min-w-0 gap-4 tab:max-desk:order-first tab:max-desk:h-[320px] desk:sticky desk:top-4 desk:max-h-[calc(100dvh-32px)] desk:overflow-y-auto ${drawn ? "tab:max-desk:grid-cols-2" : ""}`}>
      <div className="min-w-0 tab:max-desk:h-[320px] tab:max-desk:overflow-y-auto">{children}</div>
      {drawn && (
        <section className="card min-w-0 overflow-hidden px-3 pt-2 tab:max-desk:h-[320px] tab:max-desk:overflow-y-auto" aria-label="Drawing">
          <NarrowColumn.Provider value>
            <CheckPicture picture={picture} />
          </NarrowColumn.Provider>
        </section>
      )}
    </div>
  );
}

function Title({ draft, kind, onOpen }: { draft: Draft; kind: Kind; onOpen: (dialog: "steps" | "file") => void }) {
  const instrument = useQuery(instrumentQuery(draft.instrument));
  const method = methodOf(kind, draft.document);
  return (
    <Head
      low
      title={
        <>
          {kind.title} of <span className="tag">{draft.instrument}</span>
          {draft.stage === "as-left" ? ", as left" : ""}
        </>
      }
      sub={`${instrument.data ? `${instrument.data.model}. ` : ""}${draft.stage === "as-left" ? "After adjusting. " : ""}${method ? `${method.title}.` : ""}`}
      actions={
        <>
          {draft.round && <Back to={`/bench/readiness/${draft.round}`}>Back to the pre-work check</Back>}
          <button className="btn desk:!min-h-[44px]" onClick={() => onOpen("steps")}>
            Steps and conditions
          </button>
          <button className="btn desk:!min-h-[44px]" onClick={() => onOpen("file")}>
            File
          </button>
        </>
      }
    />
  );
}
