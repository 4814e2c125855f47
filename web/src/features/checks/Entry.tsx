// A check in hand: the sheet, the drawing that grows with it, and the finding beside it.
import { useQuery } from "@tanstack/react-query";
import { type ReactNode, useEffect, useState } from "react";
import { useParams } from "react-router";
import type { Kind, Preview } from "../../api/client";
import { instrumentQuery } from "../../api/queries";
import { useNotify } from "../../app/notices";
import { repeatDocument } from "../../engine";
import { type Draft, toSend } from "../../documents/draft";
import { quantitiesOf } from "../../documents/cells";
import { type Entry as ListEntry, type Placed, finished, formOf, methodOf } from "../../documents/form";
import { withAt } from "../../documents/paths";
import type { Work } from "../../documents/work";
import { removeEntry, removeRow } from "../../documents/typing";
import { CheckPicture, somethingDrawn } from "../../ui/CheckPicture";
import { Calculation } from "../../ui/Calculation";
import { NarrowColumn } from "../../hooks/useNarrow";
import { useKind } from "../../hooks/useKinds";
import { Back, Dialog, Head, Waiting } from "../../ui/parts";
import { usePreview } from "../../hooks/useQuestion";
import { type Change, useDraft } from "../../hooks/useDraft";
import { useOnce } from "../../hooks/useOnce";
import { lowered } from "../../ui/words";
import { Circumstances } from "./Circumstances";
import { FileActions } from "./FileActions";
import { FindingPanel, SaveAction } from "./FindingPanel";
import { FindingStrip } from "./FindingStrip";
import { KeyBar } from "./KeyBar";
import { ConnectChip } from "../../ui/ConnectChip";
import { WorkChip } from "../../ui/WorkChip";
import { NoRoomLine } from "../../ui/NoRoomLine";
import { Sheet } from "./Sheet";
import { SheetDialog } from "./SheetDialog";
import { ArrivingStrip } from "./ArrivingStrip";
import { useArriving } from "./useArriving";
import { useDiscard } from "../../app/useDiscard";
import { useFirstReading, useKeys } from "./useKeys";
import { usePages } from "./usePages";
import { useSave } from "./useSave";
import { type Delay, after } from "../../timers";

export function Entry() {
  const { id = "" } = useParams();
  const { draft, change, room } = useDraft(id);
  const kind = useKind(draft?.kind);
  if (draft === null)
    return (
      <Head
        title="This field sheet is not on this device"
        sub={
          <Back to="/bench">
            It was saved, discarded, started on another device, or the storage was cleared. To the bench
          </Back>
        }
      />
    );
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
    removeEntry: (entry: ListEntry) =>
      withUndo(
        removeEntry(draft.document, entry),
        `${entry.each.noun.charAt(0).toUpperCase()}${entry.each.noun.slice(1)} removed.`,
      ),
    fix: ({ text, edits }: Fix) =>
      withUndo(
        edits.reduce((grown, edit) => withAt(grown, edit.path, edit.value), draft.document),
        `Done: ${lowered(text)}`,
      ),
    again: async () => {
      const grown = await repeatDocument(draft.document);
      withUndo(grown, "Rows for one more run added.");
      return grown;
    },
  };
}

/** Whether so long has gone by since the page was opened. */
function useLate(delay: Delay): boolean {
  const [late, setLate] = useState(false);
  useEffect(() => {
    return after(delay, () => setLate(true));
  }, [delay]);
  return late;
}

function Open({ draft, kind, change, room }: { draft: Draft; kind: Kind; change: Change; room: boolean }) {
  const { document, instrument: tag } = draft;
  const form = formOf(kind, document);
  const instrument = useQuery(instrumentQuery(tag));
  const saying = usePreview<Preview>(tag, toSend(document));
  const answer = saying.answer;
  const save = useSave(draft, kind.title, finished(document, form));
  const pages = usePages(document, form);
  const { keys, at, focused, bar } = useKeys(draft, form, change, save.press, pages.reveal);
  const changes = useChanges(draft, change);
  const arriving = useArriving(draft, form, at, change, pages.reveal);
  const [dialog, setDialog] = useState<"steps" | "file" | null>(null);
  const discard = useDiscard(draft, `${kind.title} of ${draft.instrument} discarded.`, `/bench/${draft.id}`);
  const late = useLate("firstAnswer");
  // On an upright tablet the finding stands above the readings: a touch before the first answer would miss its cell. Once
  // open it stays: without signal the next question has no answer yet either, and what is typed would go nowhere.
  const opened = useOnce(Boolean(answer) || Boolean(saying.wrong) || late);
  useFirstReading(opened, keys);
  if (!opened) return <Waiting what="Opening the sheet…" />;
  return (
    <div className="grid gap-3 text-[16px] max-tab:pb-[60px] desk:gap-2">
      <Title draft={draft} kind={kind} onOpen={setDialog}>
        <WorkChip
          work={(document.work ?? {}) as Work}
          unit={document.units?.length ?? "m"}
          faults={answer?.faults ?? []}
          onChange={(work) => changes.set({ ...document, work })}
        />
        <Circumstances
          kind={kind}
          focus={instrument.data?.adjusting_tips["telescope-focus"]}
          photograph={instrument.data?.photograph}
          value={document.conditions ?? {}}
          ticked={document.checked_off ?? []}
          faults={answer?.faults ?? []}
          onChange={(conditions) => changes.set({ ...document, conditions })}
          onTick={(checked_off) => changes.set({ ...document, checked_off })}
        />
        {quantitiesOf(document, form).length > 0 && <ConnectChip />}
      </Title>
      {!room && <NoRoomLine />}
      {quantitiesOf(document, form).length > 0 && <ArrivingStrip arriving={arriving} />}
      <div className="grid items-start gap-4 desk:grid-cols-[minmax(0,1fr)_400px]">
        <Sheet
          document={document}
          form={form}
          pages={pages}
          preview={answer}
          keys={keys}
          at={at}
          onRemove={changes.removeRow}
          onRemoveEntry={changes.removeEntry}
        />
        <Beside
          picture={answer?.picture}
          folded={focused && isUprightTablet()}
          strip={
            <FindingStrip saying={saying} alone>
              {answer?.complete && save.allowed && <SaveAction draft={draft} save={save} />}
            </FindingStrip>
          }
        >
          <FindingPanel
            draft={draft}
            saying={saying}
            kind={kind}
            save={save}
            onAgain={() => void changes.again().then(keys.first)}
            onFix={changes.fix}
          />
        </Beside>
      </div>
      {answer?.reduced && <Calculation result={answer.reduced} />}
      <KeyBar shown={focused} onKey={bar} strip={<FindingStrip saying={saying} />} />
      <SheetDialog
        draft={draft}
        kind={kind}
        form={form}
        change={change}
        open={dialog === "steps"}
        onClose={() => setDialog(null)}
      />
      <Dialog title="This field sheet" open={dialog === "file"} onClose={() => setDialog(null)}>
        <FileActions draft={draft} onDiscard={() => void discard()} />
      </Dialog>
    </div>
  );
}

/** A touch screen with room above its sheet, and with a keypad that takes half of it while one types. */
const isUprightTablet = (): boolean =>
  matchMedia("(pointer: coarse) and (min-width: 760px) and (max-width: 1079px)").matches;

/** Finding and drawing beside the sheet; on an upright tablet above it, at a height of its own, and one strip while typing. */
function Beside({
  picture,
  folded,
  strip,
  children,
}: {
  picture: Preview["picture"] | undefined;
  folded: boolean;
  strip: ReactNode;
  children: ReactNode;
}) {
  const drawn = picture && somethingDrawn(picture);
  if (folded) return <div className="sticky top-0 z-20 order-first -mx-4 border-b border-line">{strip}</div>;
  return (
    <div
      className={`grid min-w-0 gap-4 tab:max-desk:order-first tab:max-desk:h-[320px] desk:sticky desk:top-4 desk:max-h-[calc(100dvh-32px)] desk:overflow-y-auto ${drawn ? "tab:max-desk:grid-cols-2" : ""}`}
    >
      <div className="min-w-0 tab:max-desk:h-[320px] tab:max-desk:overflow-y-auto">{children}</div>
      {drawn && (
        <section
          className="card min-w-0 overflow-hidden px-3 pt-2 tab:max-desk:h-[320px] tab:max-desk:overflow-y-auto"
          aria-label="Drawing"
        >
          <NarrowColumn.Provider value>
            <CheckPicture picture={picture} />
          </NarrowColumn.Provider>
        </section>
      )}
    </div>
  );
}

function Title({
  draft,
  kind,
  onOpen,
  children,
}: {
  draft: Draft;
  kind: Kind;
  onOpen: (dialog: "steps" | "file") => void;
  children: ReactNode;
}) {
  const instrument = useQuery(instrumentQuery(draft.instrument));
  const method = methodOf(kind, draft.document);
  const title = (
    <>
      {kind.title} of <span className="tag">{draft.instrument}</span>
      {draft.stage === "as-left" ? ", as left" : ""}
    </>
  );
  const button = "btn !px-4 desk:!min-h-[36px]";
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] gap-2 desk:gap-1">
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1 desk:flex-nowrap">
        <h1 className="shrink-0 desk:text-[1.4rem] max-tab:shrink">{title}</h1>
        <p className="sub min-w-0 flex-1 desk:truncate max-desk:basis-full">{`${instrument.data ? `${instrument.data.model}. ` : ""}${draft.stage === "as-left" ? "After adjusting. " : ""}${method ? `${method.title}.` : ""}`}</p>
        <div className="flex gap-2 no-print">
          {draft.round && <Back to={`/bench/readiness/${draft.round}`}>Back to the pre-work check</Back>}
          <button className={button} onClick={() => onOpen("steps")}>
            Steps and method
          </button>
          <button className={button} onClick={() => onOpen("file")}>
            File
          </button>
        </div>
      </div>
      <div className="flex min-w-0 gap-2 no-print max-tab:-mx-4 max-tab:overflow-x-auto max-tab:px-4 tab:flex-wrap">
        {children}
      </div>
    </div>
  );
}
