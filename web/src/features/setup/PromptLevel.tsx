// The level given: two figures to step on, or four to judge by. Electronic, one vial read twice, or two vials.
import { useEffect, useState } from "react";
import type { Levelled } from "../../documents/setUp";
import { ConnectChip } from "../../ui/ConnectChip";
import { Named } from "../../ui/Named";
import { Answered, Fold, type Part, type Usual, focusOn } from "../../ui/Fold";
import { after } from "../../timers";

type Asking = Part & { usual: Usual };
type Words = { title: string; first: string; second: string; unit: string };
const WORDS: Record<string, Words> = {
  electronic: {
    title: "Electronic level readings, telescope pointing away from you.",
    first: "Along",
    second: "Across",
    unit: "″",
  },
  plate: {
    title:
      "Divisions off the middle, telescope pointing away from you: your right is plus. Then turned clockwise by 90°: towards you is plus.",
    first: "As it points",
    second: "Turned by 90°",
    unit: "div",
  },
  "two-plates": {
    title: "Divisions off the middle, telescope pointing away from you: your right is plus, and towards you is plus.",
    first: "Across the sight",
    second: "Along the sight",
    unit: "div",
  },
};
const PAUSE_S = 15;

function wordsOf(prompt: string): Words {
  return WORDS[prompt.replace(/^(plate|rounds)-/, "")] ?? (WORDS["electronic"] as Words);
}

type LevelProps = { prompt: string; value: Levelled; live: Levelled | null; onSee: (level: Levelled) => void } & Asking;

/** Two figures of the level, given together; of one that sends its readings, as they are now. */
export function Level(props: LevelProps) {
  return props.live ? <Live live={props.live} onSee={props.onSee} /> : <Typed {...props} />;
}

function Live({ live, onSee }: { live: Levelled; onSee: (level: Levelled) => void }) {
  return (
    <Answered title="The electronic level as it is now. Turn the screws as shown below, and watch.">
      <dl className="grid grid-cols-2 gap-3" data-live>
        {(["along", "across"] as const).map((axis) => (
          <div key={axis}>
            <dt className="sub">{axis === "along" ? "Along" : "Across"}</dt>
            <dd className="font-mono text-[28px] font-semibold">{(live[axis] ?? "").replace("-", "−")}″</dd>
          </div>
        ))}
      </dl>
      <div className="flex flex-wrap gap-3">
        <button className="btn" onClick={() => onSee(live)}>
          Take this reading
        </button>
        <ConnectChip />
      </div>
    </Answered>
  );
}

function Typed({ prompt, value, onSee, observed, faults, set, usual }: LevelProps) {
  const [along, setAlong] = useState(value.along ?? "");
  const [across, setAcross] = useState(value.across ?? "");
  const words = wordsOf(prompt);
  const answer = () => onSee({ ...(along.trim() ? { along } : {}), ...(across.trim() ? { across } : {}) });
  return (
    <Answered title={words.title}>
      <div className="grid grid-cols-2 gap-3">
        <Named
          id="level-along"
          label={`${words.first}, ${words.unit}`}
          value={along}
          onType={setAlong}
          onNext={focusOn("level-across")}
          faults={faults}
          path="saw.level.along"
        />
        <Named
          id="level-across"
          label={`${words.second}, ${words.unit}`}
          value={across}
          onType={setAcross}
          onNext={answer}
          faults={faults}
          path="saw.level.across"
        />
      </div>
      <div className="flex flex-wrap gap-3">
        <button className="btn" onClick={answer} disabled={!along.trim()}>
          Enter
        </button>
        {words.unit === "div" ? <Pause /> : <ConnectChip />}
      </div>
      {words.unit === "div" && <Vial observed={observed} faults={faults} set={set} usual={usual} />}
    </Answered>
  );
}

/** A vial is slow: counting down until it may be read. */
function Pause() {
  const [left, setLeft] = useState<number | null>(null);
  useEffect(() => {
    if (!left) return;
    return after("second", () => setLeft(left - 1));
  }, [left]);
  return (
    <button className="btn" onClick={() => setLeft(PAUSE_S)} disabled={Boolean(left)}>
      {left ? `Wait: ${left} s` : left === 0 ? "Settled. Again" : `Wait ${PAUSE_S} s`}
    </button>
  );
}

/** Input of the vial: a division in seconds, and where its bubble rests. */
function Vial({ observed, faults, set, usual }: Asking) {
  const level = observed.level ?? {};
  return (
    <Fold title="This vial" open={faults.length > 0}>
      <div className="grid grid-cols-2 gap-3">
        <Named
          id="vial-scale"
          label="A division, ″"
          value={level.sensitivity_arcsec_per_div ?? ""}
          placeholder={usual["sensitivity_arcsec_per_div"] ?? ""}
          onType={(text) => set({ level: without({ ...level, sensitivity_arcsec_per_div: text }) })}
          faults={faults}
          path="level.sensitivity_arcsec_per_div"
        />
        <Named
          id="vial-rest"
          label="Reversing point, div"
          value={level.rest_div ?? ""}
          onType={(rest_div) => set({ level: without({ ...level, rest_div }) })}
          faults={faults}
          path="level.rest_div"
        />
      </div>
    </Fold>
  );
}

function without<T extends object>(level: T): T {
  return Object.fromEntries(Object.entries(level).filter(([, each]) => each !== "")) as T;
}

/** Two positions: four figures. */
export function Rounds({ prompt, observed, faults, set, usual }: Asking & { prompt: string }) {
  const level = observed.level ?? {};
  const words = wordsOf(prompt);
  const by = words.unit === "div" ? "plate" : "electronic";
  const change = (turn: "first" | "turned", axis: "along" | "across") => (value: string) =>
    set({ level: { ...level, by, [turn]: { ...level[turn], [axis]: value } } });
  const names = ["round-0", "round-1", "round-2", "round-3"];
  const input = (i: number, turn: "first" | "turned", axis: "along" | "across", label: string) => (
    <Named
      id={names[i] ?? ""}
      label={`${label}, ${words.unit}`}
      value={level[turn]?.[axis] ?? ""}
      onType={change(turn, axis)}
      faults={faults}
      path={`observations.level.${turn}.${axis}`}
      onNext={focusOn(names[i + 1] ?? "")}
    />
  );
  // One vial is read in four directions, a quarter turn at a time: each pair is half a turn apart.
  const four = prompt.endsWith("-plate");
  return (
    <div className="grid gap-3">
      <Answered
        title={
          four
            ? "You behind the telescope, your right is plus; then turned clockwise by 90°, you behind it again"
            : words.unit === "div"
              ? "You behind the telescope: your right is plus, towards you is plus"
              : "Telescope away from you"
        }
      >
        <div className="grid grid-cols-2 gap-3">
          {input(0, "first", "along", four ? "At 0°" : words.first)}
          {input(1, "first", "across", four ? "At 90°" : words.second)}
        </div>
      </Answered>
      <Answered
        title={
          four
            ? "Turned by 180° from each, you behind it again"
            : words.unit === "div"
              ? "Turned by 180°, you behind it again"
              : "Turned by 180°, as it reads then"
        }
      >
        <div className="grid grid-cols-2 gap-3">
          {input(2, "turned", "along", four ? "At 180°" : words.first)}
          {input(3, "turned", "across", four ? "At 270°" : words.second)}
        </div>
      </Answered>
      {words.unit === "div" && <Vial observed={observed} faults={faults} set={set} usual={usual} />}
    </div>
  );
}
