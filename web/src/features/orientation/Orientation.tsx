// One orientation in hand: the plan, the sights as they are read, and what they say together.
import { useState } from "react";
import { useNavigate, useParams, useSearchParams } from "react-router";
import type { Fault, OrientationPreview } from "../../api/client";
import { useSaving } from "../../app/saving";
import { useNotify } from "../../app/notices";
import { useHere } from "../../app/session";
import {
  COUNTS,
  type OrientationDocument,
  type OrientationDraft,
  asDraft,
  asOrientation,
  observing,
  orientationToSend,
  type Write,
} from "../../documents/orientation";
import { dropDraft, storeDraft } from "../../device/device";
import { FindingView, NextSteps } from "../../ui/FindingView";
import { Choice } from "../../ui/Choice";
import { Back, FaultLine, Head, Trouble, Waiting } from "../../ui/parts";
import { SheetFiles } from "../../ui/SheetFiles";
import { ShownRows } from "../../ui/ShownRows";
import { NO_CORE, usePreview } from "../../hooks/useQuestion";
import { useDraft } from "../../hooks/useDraft";
import { Named } from "../../ui/Named";
import { Fold } from "../../ui/Fold";
import { Closing } from "./Closing";
import { PlanDrawing } from "../../ui/drawings/PlanDrawing";
import { Sights } from "./Sights";

export function OrientationPage() {
  const { id = "" } = useParams();
  const { draft, change } = useDraft(id);
  if (draft === undefined) return <Waiting what="Opening the sights…" />;
  const held = draft && asOrientation(draft);
  if (!held)
    return (
      <Head
        title="These sights are not on this device"
        sub={
          <Back to="/set-up">
            They were saved, discarded, started on another device, or the storage was cleared. To the set-ups
          </Back>
        }
      />
    );
  const write: Write = (next) => change((each) => asDraft(next(asOrientation(each) ?? held)));
  return <Open key={held.id} draft={held} write={write} />;
}

function Open({ draft, write }: { draft: OrientationDraft; write: Write }) {
  const {
    answer: answer,
    fresh,
    faults: refusals,
    trouble,
    noSignal,
  } = usePreview<OrientationPreview>(draft.instrument, orientationToSend(draft.document), "question");
  const navigate = useNavigate();
  const [query] = useSearchParams();
  const notify = useNotify();
  const observed = draft.document.observations;
  const refused = refusals.map((refusal) => ({ ...refusal, path: refusal.path.replace(/^document\./, "") }));
  const faults = [...(answer?.faults ?? []), ...refused];
  const over = draft.document.kind === "backsight" ? `over ${observed.station?.name ?? "…"}` : "free station";
  const discard = async () => {
    await dropDraft(draft.id);
    await navigate("/set-up");
    notify({
      text: "Sights discarded.",
      undo: async () => {
        await storeDraft(asDraft(draft));
        await navigate(`/orientation/${draft.id}`);
      },
    });
  };
  return (
    <div className="grid gap-4">
      <Head
        title={
          <>
            <span className="tag">{draft.instrument}</span> {over}
          </>
        }
        sub="Sight control points and type the readings."
        actions={
          <button className="btn" onClick={() => void discard()}>
            Discard
          </button>
        }
      />
      {noSignal && <p className="fault">{NO_CORE}</p>}
      <Trouble error={trouble} />
      <div
        className="grid grid-cols-[minmax(0,1fr)] items-start gap-4 desk:grid-cols-[minmax(0,1fr)_minmax(0,1fr)]"
        data-fresh={fresh}
        data-complete={answer?.complete}
      >
        <div className="grid gap-4">
          <section className="card grid gap-4 p-5" aria-label="Sights">
            <HeightAndCircle draft={draft} faults={faults} write={write} />
            <Sights draft={draft} preview={answer} faults={faults} write={write} />
          </section>
          <section className="card px-5 py-2" aria-label="Closing sight">
            <Fold title="Closing sight at the reference" open={Boolean(observed.closing) || query.has("closing")}>
              <Closing draft={draft} advice={answer?.closing ?? ""} faults={faults} write={write} />
            </Fold>
          </section>
          <section className="card px-5 py-2 no-print" aria-label="As a file">
            <Fold title="The sights as a file">
              <SheetFiles
                name={`${draft.instrument}-${draft.kind}-${draft.startedAt.slice(0, 10)}`}
                kind={draft.kind}
                content={orientationToSend(draft.document)}
              />
            </Fold>
          </section>
        </div>
        <div className="grid gap-4 desk:sticky desk:top-4">
          {answer && (answer.plan.points.length > 0 || answer.plan.station) && (
            <section className="card overflow-hidden" aria-label="Plan">
              <PlanDrawing plan={answer.plan} />
            </section>
          )}
          {answer && <Judged draft={draft} preview={answer} fresh={fresh} refused={refused.length} write={write} />}
        </div>
      </div>
    </div>
  );
}

function HeightAndCircle({ draft, faults, write }: { draft: OrientationDraft; faults: Fault[]; write: Write }) {
  const { observations, units, kind } = draft.document;
  return (
    <div className="flex flex-wrap items-end gap-x-6 gap-y-3">
      <div className="w-[220px]">
        <Named
          id="instrument-height"
          label={`Height of instrument, ${units.length}`}
          value={observations.instrument_height ?? ""}
          placeholder={kind === "free-station" ? "0" : ""}
          onType={(text) => write((now) => withHeight(now, text))}
          faults={faults}
          path="observations.instrument_height"
        />
      </div>
      <div className="grid gap-1">
        <span className="font-semibold">The circle counts</span>
        <Choice
          label="The circle counts"
          value={observations.counts ?? "clockwise"}
          options={COUNTS}
          onChange={(counts) => write((now) => observing(now, { counts }))}
        />
      </div>
    </div>
  );
}

function withHeight(draft: OrientationDraft, text: string): OrientationDraft {
  const { document } = draft;
  const rest = Object.fromEntries(
    Object.entries(document.observations).filter(([name]) => name !== "instrument_height"),
  ) as OrientationDocument["observations"];
  return { ...draft, document: { ...document, observations: text ? { ...rest, instrument_height: text } : rest } };
}

type Suspect = { kind: string; names: string[] };

/** One touch fixes what was named: two names given each other's place, or a point left out to see the rest agree. */
function SuspectFix({
  draft,
  suspect,
  reasons,
  write,
}: {
  draft: OrientationDraft;
  suspect: Suspect | null;
  reasons: { code: string }[];
  write: Write;
}) {
  const { shots, counts } = draft.document.observations;
  const [each, two] = suspect?.names ?? [];
  if (suspect?.kind === "swapped" && each && two) {
    const other: Record<string, string> = { [each]: two, [two]: each };
    return (
      <button
        className="btn now site"
        onClick={() =>
          write((held) =>
            observing(held, {
              shots: shots.map((shot) =>
                shot.point && other[shot.point] ? { ...shot, point: other[shot.point] ?? shot.point } : shot,
              ),
            }),
          )
        }
      >
        Give {each} and {two} each other's name
      </button>
    );
  }
  if (suspect?.kind === "point" && each)
    return (
      <button
        className="btn now site"
        onClick={() =>
          write((held) =>
            observing(held, { shots: shots.map((shot) => (shot.point === each ? { ...shot, left_out: true } : shot)) }),
          )
        }
      >
        Leave {each} out
      </button>
    );
  if (reasons.some((reason) => reason.code === "counts-otherwise")) {
    const other = counts === "anticlockwise" ? "clockwise" : "anticlockwise";
    return (
      <button className="btn now site" onClick={() => write((held) => observing(held, { counts: other }))}>
        The circle counts {other}
      </button>
    );
  }
  return null;
}

function Judged({
  draft,
  preview,
  fresh,
  refused,
  write,
}: {
  draft: OrientationDraft;
  preview: OrientationPreview;
  fresh: boolean;
  refused: number;
  write: Write;
}) {
  const { may } = useHere();
  const keep = useSaving();
  const [busy, setBusy] = useState(false);
  const right = may("save-check");
  const { reduced } = preview;
  const done = async () => {
    setBusy(true);
    const sent: OrientationDocument = orientationToSend(draft.document);
    await keep(asDraft({ ...draft, document: sent }), `Orientation of ${draft.instrument}`);
    setBusy(false);
  };
  return (
    <section className="card grid gap-4 p-5" aria-label="Finding" data-answered={fresh}>
      {reduced ? (
        <>
          <FindingView result={reduced} />
          <SuspectFix
            draft={draft}
            suspect={reduced.result["suspect"] as Suspect | null}
            reasons={reduced.verdict.reasons}
            write={write}
          />
          <NextSteps result={reduced} />
          <dl className="m-0 grid grid-cols-[1fr_auto] gap-x-6 gap-y-1">
            <ShownRows shown={reduced.shown} />
          </dl>
        </>
      ) : (
        <p className="sub">
          {preview.faults.length
            ? "One value is incomplete."
            : preview.wanted[0]
              ? `Next reading: ${preview.wanted[0].where}.`
              : ""}
        </p>
      )}
      {preview.faults
        .filter(
          (fault) =>
            !fault.path.includes("shots[") &&
            !fault.path.includes("closing") &&
            !fault.path.includes("instrument_height"),
        )
        .map((each) => (
          <FaultLine key={each.path} fault={each} />
        ))}
      <button
        className={`btn site ${reduced?.verdict.grade === "repeat" ? "" : "now"}`}
        disabled={!reduced || refused > 0 || !right.allowed || busy}
        onClick={() => void done()}
      >
        Keep this
      </button>
      {!right.allowed && <p className="sub">{right.text}</p>}
    </section>
  );
}
