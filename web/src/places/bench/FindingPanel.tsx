// Beside the sheet: what can be said already, then the finding, then the one act that matters now.
import type { Kind } from "../../api/client";
import type { Draft } from "../../sheet/draft";
import { FindingView, NextSteps } from "../../ui/FindingView";
import { Cautions, Trouble } from "../../ui/parts";
import type { Save } from "./useSave";
import type { Saying } from "./usePreview";

type Mend = NonNullable<Saying["said"]>["partial"]["mends"][number];
type Props = { draft: Draft; saying: Saying; kind: Kind | undefined; save: Save; again: Again; onMend?: (mend: Mend) => void };
/** Taking it once more before anything is turned: what the act is called, and whether there is room for it. */
export type Again = { word: string; act: () => void; shown: boolean };

export function FindingPanel({ draft, saying, kind, save, again, onMend }: Props) {
  const { said, trouble } = saying;
  const result = said?.complete ? said.reduced : null;
  return (
    <section className="card grid gap-4 p-5 desk:sticky desk:top-5" aria-label="Finding" aria-live="polite" data-complete={Boolean(result)} data-fresh={saying.fresh}>
      {result ? <FindingView result={result} /> : <SoFar saying={saying} />}
      {onMend &&
        said?.partial.mends.map((mend) => (
          <button key={mend.text} className="btn site" data-mend={mend.code} onClick={() => onMend(mend)}>
            {mend.text}
          </button>
        ))}
      {trouble === "no-signal" && (
        <p className="font-[600]" data-no-signal>
          No signal. Your readings are kept here.{save.finished ? " Save it now; the verdict comes with the signal." : " The finding comes with the signal."}
        </p>
      )}
      {trouble !== "no-signal" && trouble !== null && <Trouble error={trouble} />}
      {result && <Led result={result} kind={kind} again={again} />}
      {(result || (trouble === "no-signal" && save.finished)) && <SaveAct draft={draft} save={save} />}
      {!result && <Cautions cautions={kind?.cautions["reading"] ?? []} />}
    </section>
  );
}

/** While it grows: differences so far, what this can prove, what is read next. */
function SoFar({ saying: { said } }: { saying: Saying }) {
  const partial = said?.partial;
  const next = partial?.next;
  return (
    <div className="grid gap-3">
      {said && said.faults.length > 0 ? (
        <p className="text-[1.3rem] font-[660] leading-tight">{said.faults.length === 1 ? "One entry is to be mended" : `${said.faults.length} entries are to be mended`}; it says beside it what is wanted.</p>
      ) : (
        <p className="text-[1.3rem] font-[660] leading-tight">{next ? `Next: ${next.where}` : "Type the first reading"}</p>
      )}
      {partial?.looks.map((one) => (
        <p key={one.code} data-said={one.code} className="caution">
          {one.text}
        </p>
      ))}
      {partial?.said.map((one) => (
        <p key={one.code} data-said={one.code}>
          {one.text}
        </p>
      ))}
      {partial?.setups.map((one) => <p key={one.index}>{one.text}</p>)}
      {partial?.expected && (
        <p className="sub">
          {partial.expected.text} {partial.expected.advice}
        </p>
      )}
    </div>
  );
}

/** A finding that is not good is led through: real first, then kept; the rest comes once it is on record. */
function Led({ result, kind, again }: { result: NonNullable<NonNullable<Saying["said"]>["reduced"]>; kind: Kind | undefined; again: Again }) {
  const bad = ["adjust", "service", "repeat"].includes(result.verdict.grade);
  const real = kind?.when_bad.find((one) => one.code === "real");
  if (!bad || !real) return <NextSteps result={result} />;
  return (
    <>
      {again.shown && (
        <div className="grid gap-2 border-t border-line pt-3" data-led="real">
          <p>
            <b>{real.title}</b> {real.text}
          </p>
          <button className="btn" onClick={again.act}>
            {again.word}
          </button>
        </div>
      )}
      <NextSteps result={result} />
    </>
  );
}

function SaveAct({ draft, save }: { draft: Draft; save: Save }) {
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
    <div className="stuck no-print">
      <button id="save-now" className="btn now site w-full" disabled={save.busy} onClick={save.act}>
        {save.busy ? "Saving…" : word}
      </button>
    </div>
  );
}
