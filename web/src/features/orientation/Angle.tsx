// Angles: what was turned, what to turn to, and a right angle by three lengths.
import { useState } from "react";
import type { Fault } from "../../api/client";
import { advise } from "../../engine";
import type { Angle as Unit } from "../../documents/orientation";
import { Choice } from "../../ui/Choice";
import { Head } from "../../ui/parts";
import { SetUpTabs } from "../../ui/Tabs";
import { NO_CORE, useQuestion } from "../../hooks/useQuestion";
import { Named } from "../../ui/Named";
import { focusOn } from "../../ui/Fold";
import { firmUnit, unitShown } from "../../ui/units";

type Answer = { text: string[] };
type Sense = "clockwise" | "anticlockwise";
const SENSES: { value: Sense; label: string }[] = [
  { value: "clockwise", label: "Clockwise" },
  { value: "anticlockwise", label: "Anticlockwise" },
];

export function AnglePage() {
  return (
    <div className="grid gap-4">
      <SetUpTabs />
      <Head title="Angles" sub="Any start reading is fine if you note it." />
      <div className="grid items-start gap-4 tab:grid-cols-2">
        <Turned />
        <Square />
      </div>
    </div>
  );
}

function Turned() {
  const [unit, setUnit] = useState<Unit>(() => (localStorage.getItem("naveta.angle") as Unit | null) ?? "dms");
  const [what, setWhat] = useState<"turned" | "turn-to">("turned");
  const [start, setStart] = useState("");
  const [other, setOther] = useState("");
  const [sense, setSense] = useState<Sense>("clockwise");
  const [counts, setCounts] = useState<Sense>("clockwise");
  const fields =
    start.trim() && other.trim()
      ? {
          advice: "turned-angle",
          units: { angle: unit },
          start,
          [what === "turned" ? "end" : "turn"]: other,
          sense,
          counts,
        }
      : null;
  const { answer, faults, trouble } = useAdvice(fields);
  return (
    <section className="card grid gap-4 p-5" aria-label="Turned angle">
      <Choice
        label="Question"
        value={what}
        options={[
          { value: "turned", label: "Angle turned" },
          { value: "turn-to", label: "Reading to turn to" },
        ]}
        onChange={setWhat}
      />
      <Choice
        label="Unit of angles"
        value={unit}
        options={[
          { value: "dms", label: "° ′ ″" },
          { value: "gon", label: "gon" },
          { value: "deg", label: "decimal °" },
        ]}
        onChange={setUnit}
      />
      <div className="grid grid-cols-2 gap-3">
        <Named
          id="angle-start"
          label="Reading at start"
          value={start}
          onType={setStart}
          faults={faults}
          path="start"
          onNext={focusOn("angle-other")}
        />
        <Named
          id="angle-other"
          label={what === "turned" ? "Reading at end" : "Angle to turn"}
          value={other}
          onType={setOther}
          faults={faults}
          path={what === "turned" ? "end" : "turn"}
        />
      </div>
      {what === "turn-to" && (
        <button className="btn justify-self-start" onClick={() => setOther("90°")}>
          A right angle
        </button>
      )}
      <div className="grid gap-2">
        <p className="font-semibold">Turned</p>
        <Choice label="Turned" value={sense} options={SENSES} onChange={setSense} />
        <p className="font-semibold">The circle counts</p>
        <Choice label="The circle counts" value={counts} options={SENSES} onChange={setCounts} />
      </div>
      <Entered answer={answer} trouble={trouble} />
    </section>
  );
}

function Square() {
  const [sides, setSides] = useState({ one_m: "3", two_m: "4", diagonal_m: "" });
  const set = (name: keyof typeof sides) => (text: string) => setSides({ ...sides, [name]: text });
  const found = Object.fromEntries(Object.entries(sides).filter(([, each]) => each.trim()));
  const { answer, faults, trouble } = useAdvice(
    sides.one_m.trim() && sides.two_m.trim() ? { advice: "square", units: { length: firmUnit() }, ...found } : null,
  );
  const whole = faults.filter((fault) => fault.path === "$");
  return (
    <section className="card grid gap-4 p-5" aria-label="Right angle by tape">
      <h2>A right angle by tape</h2>
      <div className="grid grid-cols-3 gap-3">
        <Named
          id="side-one"
          label={`One side, ${unitShown(firmUnit())}`}
          value={sides.one_m}
          onType={set("one_m")}
          faults={faults}
          path="one_m"
          onNext={focusOn("side-two")}
        />
        <Named
          id="side-two"
          label={`The other, ${unitShown(firmUnit())}`}
          value={sides.two_m}
          onType={set("two_m")}
          faults={faults}
          path="two_m"
          onNext={focusOn("diagonal")}
        />
        <Named
          id="diagonal"
          label={`Diagonal, ${unitShown(firmUnit())}`}
          value={sides.diagonal_m}
          onType={set("diagonal_m")}
          faults={faults}
          path="diagonal_m"
        />
      </div>
      {whole.map((each) => (
        <p key={each.wanted} className="fault" role="alert">
          Wanted: {each.wanted}.
        </p>
      ))}
      <Entered answer={answer} trouble={trouble} />
    </section>
  );
}

function Entered({ answer, trouble }: { answer: Answer | null; trouble: string | null }) {
  if (trouble) return <p className="fault">{trouble}</p>;
  return (
    <div aria-live="polite" className="grid gap-1" data-answer>
      {answer?.text.map((line, i) => (
        <p key={line} className={i === 0 ? "text-[1.5rem] font-bold leading-tight" : "sub"}>
          {line}
        </p>
      ))}
    </div>
  );
}

function useAdvice(question: Record<string, unknown> | null): {
  answer: Answer | null;
  faults: Fault[];
  trouble: string | null;
} {
  const { answer, fresh, faults, trouble, noSignal } = useQuestion<Answer>(
    question,
    (query) => advise<Answer>(query),
    "now",
  );
  return {
    answer: fresh ? answer : null,
    faults,
    trouble: noSignal ? NO_CORE : trouble ? "It could not be calculated. Try again." : null,
  };
}
