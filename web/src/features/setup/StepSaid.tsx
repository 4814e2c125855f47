// What is said of the step at hand: the one thing to do, how and why, and what to press when it is done.
import type { Guide } from "../../api/client";
import { Cautions } from "../../ui/parts";

/** What is asked by a drawing to touch. */
export const TOUCHED = ["bubble", "spot", "bob"];

/** The one thing to do, large, and what could hurt in doing it. */
export function Headline({ guide, advice, seen }: { guide: Guide; advice: Guide["advice"]; seen: boolean }) {
  const { step } = guide;
  const headline = advice ? advice.headline : seen && guide.within_tolerance ? "Good enough." : step.title;
  return (
    <div className="grid gap-3 max-tab:gap-2">
      {advice?.understood && !TOUCHED.includes(step.prompt) && <p className="sub">Read as: {advice.understood}.</p>}
      <p
        className="text-[1.85rem] font-bold leading-[1.14] tracking-[-0.012em] text-pretty max-tab:text-[1.5rem]"
        data-headline
      >
        {headline}
      </p>
      <Cautions cautions={step.cautions} />
    </div>
  );
}

/** How, why, and what usually goes wrong. */
export function Reasons({ guide, advice }: { guide: Guide; advice: Guide["advice"] }) {
  const { step } = guide;
  return (
    <div className="grid gap-3">
      {advice ? (
        advice.lines.map((line) => <p key={line}>{line}</p>)
      ) : (
        <>
          <p>{step.do}</p>
          <p className="sub">{step.why}</p>
        </>
      )}
      {guide.tips.map((tip) => (
        <p key={tip.code} data-hint={tip.code} className="border-l-[3px] border-ink pl-3">
          {tip.text}
        </p>
      ))}
      {guide.converges && <p className="caution">{guide.converges}</p>}
    </div>
  );
}

/** For whoever wants more of it. */
export function More({ step, tips }: { step: Guide["step"]; tips?: string | undefined }) {
  return (
    <details open={Boolean(tips)} className="fold">
      <summary>What to check, why, common mistakes</summary>
      <div className="grid gap-2 pb-2">
        {tips && <p className="font-semibold">{tips}</p>}
        <p>{step.look}</p>
        <p>{step.why}</p>
        <p>{step.wrong}</p>
      </div>
    </details>
  );
}

type ButtonsProps = {
  guide: Guide;
  live: boolean;
  advice: boolean;
  seen: boolean;
  onConfirm: () => void;
  onAgain: () => void;
  onNext: () => void;
  onWrongWay: () => void;
  ready: React.ReactNode;
};

/** At most one filled step: confirm, look again, or go on; at the end, keep it. */
export function Buttons({ guide, live, advice, seen, onConfirm, onAgain, onNext, onWrongWay, ready }: ButtonsProps) {
  const confirms = ["confirm", "place", "eye"].includes(guide.step.prompt);
  const toNext = guide.next_title ? `Next: ${guide.next_title}` : null;
  if (confirms && guide.step.name !== "ring-round")
    return (
      <button className="btn now site" onClick={onConfirm}>
        Done{toNext ? `. ${toNext}` : ""}
      </button>
    );
  // A level that is followed needs no second look.
  if (advice && live)
    return toNext && guide.may_skip ? (
      <button className="btn" onClick={onNext}>
        Leave it. {toNext}
      </button>
    ) : null;
  if (advice)
    return (
      <div className="grid gap-3">
        <button className="btn now site" onClick={onAgain}>
          {guide.step.name === "slide" || guide.step.name === "shift" ? `Done. ${toNext ?? ""}` : "Done, look again"}
        </button>
        <div className="grid grid-cols-2 gap-3">
          {seen && (
            <button className="btn" onClick={onWrongWay}>
              Wrong direction
            </button>
          )}
          {toNext && guide.may_skip && (
            <button className="btn" onClick={onNext}>
              Leave it. {toNext}
            </button>
          )}
        </div>
      </div>
    );
  if (!guide.next) return <>{ready}</>;
  if (!guide.may_skip) return <p className="sub">Strict order: this first, then {guide.next_title}.</p>;
  return (
    <button className={`btn site ${seen || guide.within_tolerance ? "now" : ""}`} onClick={onNext}>
      {toNext}
    </button>
  );
}
