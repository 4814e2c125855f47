// Beside the sheet: what can be said already, then the finding, then the one action that matters now.
import { type Kind, NoSignal, type Preview, type Result } from "../../api/client";
import type { Draft } from "../../documents/draft";
import { FindingView, NextSteps } from "../../ui/FindingView";
import { Cautions, Trouble } from "../../ui/parts";
import type { Save } from "./useSave";
import type { Answered } from "../../hooks/useQuestion";

type Fix = Preview["progress"]["fixes"][number];
/** `onAgain`: taking it once more before anything is turned; `onFix`: a slip of entry put right by one touch. */
type Props = {
  draft: Draft;
  saying: Answered<Preview>;
  kind: Kind;
  save: Save;
  onAgain: () => void;
  onFix: (fix: Fix) => void;
};

export function FindingPanel({ draft, saying, kind, save, onAgain, onFix }: Props) {
  const { answer: answer, wrong } = saying;
  const noSignal = wrong instanceof NoSignal;
  const result = answer?.complete ? answer.reduced : null;
  return (
    <section
      className="card grid gap-3 p-4"
      id="finding"
      aria-label="Finding"
      aria-live="polite"
      data-complete={Boolean(result)}
      data-fresh={saying.fresh}
    >
      {result ? <FindingView result={result} /> : <SoFar preview={answer} />}
      {answer?.progress.fixes.map((fix) => (
        <button key={fix.text} className="btn site" data-fix={fix.code} onClick={() => onFix(fix)}>
          {fix.text}
        </button>
      ))}
      {noSignal && (
        <p className="font-semibold" data-no-signal>
          Offline. Your readings are stored on this device.
          {save.finished
            ? " Save it now; the verdict follows when you are online."
            : " The finding follows when you are online."}
        </p>
      )}
      {!noSignal && wrong !== null && <Trouble error={wrong} />}
      {(result || (noSignal && save.finished)) && <SaveAction draft={draft} save={save} />}
      {result && <Guided result={result} kind={kind} onAgain={onAgain} />}
      {!result && <Cautions cautions={kind.cautions["reading"] ?? []} />}
    </section>
  );
}

/** While it grows: differences so far, what this can prove, what is read next. */
function SoFar({ preview }: { preview: Preview | null }) {
  const progress = preview?.progress;
  const next = progress?.next;
  return (
    <div className="grid gap-3">
      {preview && preview.faults.length > 0 ? (
        <p className="text-[1.3rem] font-semibold leading-tight">
          {preview.faults.length === 1
            ? "One entry needs correcting"
            : `${preview.faults.length} entries need correcting`}
          ; see the note beside it.
        </p>
      ) : (
        <p className="text-[1.3rem] font-semibold leading-tight">
          {next ? `Next: ${next.where}` : "Type the first reading"}
        </p>
      )}
      {progress?.looks.map((look) => (
        <p key={look.code} data-message={look.code} className="caution">
          {look.text}
        </p>
      ))}
      {progress?.messages.map((message) => (
        <p key={message.code + message.text} data-message={message.code}>
          {message.text}
        </p>
      ))}
    </div>
  );
}

/** A finding that is not good is led through: real first, then kept; the rest comes once it is on record. */
function Guided({ result, kind, onAgain }: { result: Result; kind: Kind; onAgain: () => void }) {
  const bad = ["adjust", "service", "repeat"].includes(result.verdict.grade);
  const real = kind.when_bad.find((each) => each.code === "real");
  if (!bad || !real) return <NextSteps result={result} />;
  return (
    <>
      <div className="grid gap-2 border-t border-line pt-3" data-led="real">
        <p>
          <b>{real.title}.</b> {real.text}
        </p>
        <button className="btn" onClick={onAgain}>
          {kind.repeat_label}
        </button>
      </div>
      <NextSteps result={result} />
    </>
  );
}

/** Saving, in the word of what it saves; for whoever may not, why, and to whom it is left. */
export function SaveAction({ draft, save }: { draft: Draft; save: Save }) {
  const word = draft.amends ? "Save the correction" : draft.stage === "as-left" ? "Save as left" : "Save as found";
  if (!save.allowed)
    return (
      <div className="grid gap-2">
        <button id="save-now" className="btn site" aria-disabled="true" onClick={(e) => e.preventDefault()}>
          {word}
        </button>
        <p className="sub">{save.why}</p>
        {!draft.left && (
          <button className="btn site" onClick={save.leave}>
            Leave it for my crew chief
          </button>
        )}
      </div>
    );
  return (
    <div className="no-print">
      <button id="save-now" className="btn now site w-full" disabled={save.busy} onClick={save.press}>
        {save.busy ? "Saving…" : word}
      </button>
    </div>
  );
}
