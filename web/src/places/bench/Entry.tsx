// The bench: a field sheet, the drawing that grows with it, and the finding beside it.
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useParams } from "react-router";
import { instrumentQuery } from "../../api/queries";
import { useTell } from "../../app/notices";
import { type Draft, looksFinished } from "../../sheet/draft";
import { CheckPicture } from "../../ui/CheckPicture";
import { Reckoned } from "../../ui/Reckoned";
import { useKind } from "../../ui/kinds";
import { Back, Dialog, Head, Waiting } from "../../ui/parts";
import { FileActs } from "./FileActs";
import { FindingPanel } from "./FindingPanel";
import { KeyBar } from "./KeyBar";
import { LayoutDialog } from "./LayoutDialog";
import { Looks, looksInWords } from "./Looks";
import { NoRoomLine } from "./NoRoomLine";
import { RowsEntry } from "./RowsEntry";
import { Sheet } from "./Sheet";
import { addSetUp, fromOtherEnd, removeSetUp } from "../../sheet/entry";
import { useDraft } from "../../ui/useDraft";
import { useDiscard } from "./useDiscard";
import { useKeys } from "./useKeys";
import { usePreview } from "./usePreview";
import { useSave } from "./useSave";

export function Entry() {
  const { id = "" } = useParams();
  const { draft, change, room } = useDraft(id);
  if (draft === undefined) return <Waiting what="Opening the field sheet…" />;
  if (draft === null)
    return <Head title="This field sheet is not on this device" sub={<Back to="/bench">It was saved, discarded, begun on another device, or this device's storage was cleared. To the bench</Back>} />;
  return <OfKind key={draft.id} draft={draft} change={change} room={room} />;
}

/** A two-peg test has a page of its own; every other check is rows. */
function OfKind(props: { draft: Draft; change: ReturnType<typeof useDraft>["change"]; room: boolean }) {
  const kind = useKind(props.draft.kind);
  if (props.draft.kind === "two-peg") return <Open {...props} />;
  if (!kind) return <Waiting what="Opening the field sheet…" />;
  return <RowsEntry {...props} kind={kind} />;
}

function Open({ draft, change, room }: { draft: Draft; change: ReturnType<typeof useDraft>["change"]; room: boolean }) {
  const { document, instrument: tag } = draft;
  const instrument = useQuery(instrumentQuery(tag));
  const kind = useKind(draft.kind);
  const saying = usePreview(draft);
  const save = useSave(draft, "Two-peg test", looksFinished(document));
  const { keys, indexOf, bar, focused } = useKeys(draft, change, save.act);
  const [dialog, setDialog] = useState<"layout" | "looks" | "file" | null>(null);
  const tell = useTell();
  const { said } = saying;
  const layout = kind?.layouts.find((one) => one.name === document.observations.layout);
  const set = (next: Partial<Pick<Draft, "document" | "filled">>) => change((one) => ({ ...one, ...next }));
  const remove = (index: number) => {
    const before = { document, filled: draft.filled };
    set(removeSetUp(document, draft.filled, index));
    tell({ text: "Set-up removed.", undo: () => set(before) });
  };
  const discard = useDiscard(draft, "Test");
  return (
    <div className="grid gap-4 text-[16px]">
      <Head
        title={
          <>
            {kind?.title ?? "Check"} of <span className="tag">{tag}</span>
            {draft.stage === "as-left" ? ", as left" : ""}
          </>
        }
        sub={
          <>
            {instrument.data ? `${instrument.data.model}. ` : ""}
            {draft.stage === "as-left" ? "After adjusting. " : ""}
            {layout ? `${layout.title}. ` : ""}
            <button className="inline min-h-[32px] underline underline-offset-4" onClick={() => setDialog("looks")}>
              {looksInWords(document.observations.looks ?? {})}
            </button>
          </>
        }
        acts={
          <>
            {draft.round && <Back to={`/bench/round/${draft.round}`}>Back to the round</Back>}
            <button className="btn" onClick={() => setDialog("layout")}>
              Layout and units
            </button>
            <button className="btn" onClick={() => setDialog("file")}>
              File
            </button>
          </>
        }
      />
      {!room && <NoRoomLine />}
      <section className="card px-3 pt-2 tab:px-5" aria-label="Drawing">
        <CheckPicture picture={said?.picture} />
      </section>
      <div className="grid items-start gap-4 desk:grid-cols-[minmax(0,1fr)_410px]">
        <Sheet
          draft={draft}
          said={said}
          indexOf={indexOf}
          keys={keys}
          onAdd={() => set({ document: addSetUp(document) })}
          onRemove={remove}
        />
        <FindingPanel draft={draft} saying={saying} kind={kind} save={save} again={{ word: "Run it again from the other end", act: () => set(fromOtherEnd(document, draft.filled)), shown: (document.observations.setups?.length ?? 0) < 4 }} />
      </div>
      {said?.reduced && <Reckoned result={said.reduced} />}
      <KeyBar shown={focused} onKey={bar} />
      {kind && <LayoutDialog draft={draft} kind={kind} change={change} faults={said?.faults ?? []} open={dialog === "layout"} onClose={() => setDialog(null)} />}
      <Dialog title="The two looks" open={dialog === "looks"} onClose={() => setDialog(null)}>
        <Looks value={document.observations.looks ?? {}} onChange={(looks) => set({ document: { ...document, observations: { ...document.observations, looks } } })} />
      </Dialog>
      <Dialog title="This field sheet" open={dialog === "file"} onClose={() => setDialog(null)}>
        <FileActs draft={draft} onDiscard={() => void discard()} />
      </Dialog>
    </div>
  );
}
