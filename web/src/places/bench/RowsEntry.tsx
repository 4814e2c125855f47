// A check of rows in hand: the sheet, the drawing that grows with it, and the finding beside it.
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { Kind } from "../../api/client";
import { instrumentQuery } from "../../api/queries";
import { useTell } from "../../app/notices";
import type { Draft } from "../../sheet/draft";
import { type Group, type Way, fittingWay, onceMore, removeRow, rowsFinished, withAt } from "../../sheet/rows";
import { CheckPicture } from "../../ui/CheckPicture";
import { Reckoned } from "../../ui/Reckoned";
import { Back, Choice, Dialog, Head } from "../../ui/parts";
import type { Change } from "../../ui/useDraft";
import { lowered } from "../../ui/words";
import { ANGLES, Steps } from "./BeginRows";
import { Conditions } from "./Conditions";
import { FileActs } from "./FileActs";
import { FindingPanel } from "./FindingPanel";
import { KeyBar } from "./KeyBar";
import { UNITS } from "./LayoutDialog";
import { NoRoomLine } from "./NoRoomLine";
import { RowsSheet } from "./RowsSheet";
import { useDiscard } from "./useDiscard";
import { usePreview } from "./usePreview";
import { useRowKeys } from "./useRowKeys";
import { useSave } from "./useSave";

export function RowsEntry({ draft, kind, change, room }: { draft: Draft; kind: Kind; change: Change; room: boolean }) {
  const { document, instrument: tag } = draft;
  const way = fittingWay(kind, document, draft.way) as Way;
  const instrument = useQuery(instrumentQuery(tag));
  const saying = usePreview(draft);
  const save = useSave(draft, kind.title, rowsFinished(document, way));
  const { keys, focused, bar } = useRowKeys(draft, way, change, save.act);
  const [dialog, setDialog] = useState<"round" | "file" | null>(null);
  const tell = useTell();
  const { said } = saying;
  const set = (next: Draft["document"]) => change((one) => ({ ...one, document: next }));
  const remove = (group: Group, row: number) => {
    const before = document;
    set(removeRow(document, group, row));
    tell({ text: "Row removed.", undo: () => set(before) });
  };
  const mend = ({ text, puts }: { text: string; puts: { path: string; value: unknown }[] }) => {
    const before = document;
    set(puts.reduce((grown, put) => withAt(grown, put.path, put.value), document));
    tell({ text: `Done: ${lowered(text)}`, undo: () => set(before) });
  };
  const discard = useDiscard(draft, kind.title);
  return (
    <div className="grid gap-4 text-[16px]">
      <Head
        title={
          <>
            {kind.title} of <span className="tag">{tag}</span>
            {draft.stage === "as-left" ? ", as left" : ""}
          </>
        }
        sub={`${instrument.data ? `${instrument.data.model}. ` : ""}${draft.stage === "as-left" ? "After adjusting. " : ""}${way.title}.`}
        acts={
          <>
            {draft.round && <Back to={`/bench/round/${draft.round}`}>Back to the round</Back>}
            <button className="btn" onClick={() => setDialog("round")}>
              Steps and circumstances
            </button>
            <button className="btn" onClick={() => setDialog("file")}>
              File
            </button>
          </>
        }
      />
      {!room && <NoRoomLine />}
      <section className="card px-3 pt-2 tab:px-5" aria-label="Drawing">
        <CheckPicture picture={said?.picture} waits="The drawing appears here as soon as there is enough to draw." />
      </section>
      <div className="grid items-start gap-4 desk:grid-cols-[minmax(0,1fr)_410px]">
        <RowsSheet document={document} way={way} said={said} keys={keys} onRemove={remove} />
        <FindingPanel draft={draft} saying={saying} kind={kind} save={save} again={{ word: "Take it once more", act: () => set(onceMore(document, way)), shown: true }} onMend={mend} />
      </div>
      {said?.reduced && <Reckoned result={said.reduced} />}
      <KeyBar shown={focused} onKey={bar} />
      <Dialog title="Steps and circumstances" open={dialog === "round"} onClose={() => setDialog(null)} wide>
        <div className="grid gap-5">
          <Steps kind={kind} way={way} />
          <Conditions asks={kind.asks} value={document.conditions ?? {}} faults={said?.faults ?? []} onChange={(conditions) => set({ ...document, conditions })} />
          {way.groups.some((group) => group.fields.some((field) => field.kind === "length")) && (
            <Choice label="Unit of what is typed" value={document.units?.length ?? "m"} options={UNITS} onChange={(length) => set({ ...document, units: { ...document.units, length } })} />
          )}
          {way.groups.some((group) => group.fields.some((field) => field.kind === "angle")) && (
            <Choice label="Angles are typed in" value={document.units?.angle ?? "dms"} options={ANGLES} onChange={(angle) => set({ ...document, units: { ...document.units, angle } })} />
          )}
          <label className="grid gap-1 font-[600]">
            Remark
            <textarea className="field" rows={2} maxLength={2000} value={document.remark ?? ""} onChange={(event) => set({ ...document, remark: event.target.value })} />
          </label>
        </div>
      </Dialog>
      <Dialog title="This field sheet" open={dialog === "file"} onClose={() => setDialog(null)}>
        <FileActs draft={draft} onDiscard={() => void discard()} />
      </Dialog>
    </div>
  );
}
