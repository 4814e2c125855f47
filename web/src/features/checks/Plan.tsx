// Before walking out: which targets for the two-face check, how steep they stand, what they can prove, and how often to point.
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate, useParams } from "react-router";
import type { Instrument, Kind } from "../../api/client";
import { instrumentQuery } from "../../api/queries";
import { usePerson } from "../../app/session";
import { advise, beginDocument } from "../../engine";
import { begin as newDraft } from "../../documents/draft";
import { withAt } from "../../documents/paths";
import { storeDraft } from "../../device/device";
import { useKind } from "../../hooks/useKinds";
import { Choice } from "../../ui/Choice";
import { Back, Head, Trouble, Waiting } from "../../ui/parts";
import { NO_CORE, useQuestion } from "../../hooks/useQuestion";
import { firmUnit, rememberedAngle, rememberedUnit, unitShown, withUnit } from "../../ui/units";
import { Named } from "../../ui/Named";
import { SideView, type PlannedTarget } from "./SideView";

type Typed = { name: string; distance_m: string; height_m: string; target_type: string };
type Answer = {
  result: { targets: PlannedTarget[]; take: number[]; least_deg: number; aim_deg: number };
  text: string[];
};
const EMPTY: Typed = { name: "", distance_m: "", height_m: "", target_type: "unknown" };
const KINDS = [
  { value: "plate", label: "Target plate" },
  { value: "sticker", label: "Reflective sticker" },
  { value: "prism", label: "Prism, by eye" },
  { value: "edge", label: "Edge, spire" },
  { value: "unknown", label: "Other" },
];
const GROUNDS = [
  { value: "grass", label: "Grass, soil" },
  { value: "asphalt", label: "Asphalt" },
  { value: "concrete", label: "Concrete, stone" },
];
const POINTINGS = ["1", "3", "5", "8"].map((value) => ({ value, label: value }));
const SUNS = [
  { value: "no", label: "Cool or cloudy" },
  { value: "yes", label: "Sun on the ground" },
];
const MAX_TARGETS = 6;

export function PlanPage() {
  const { tag = "" } = useParams();
  const instrument = useQuery(instrumentQuery(tag));
  const kind = useKind("two-face");
  if (!instrument.data || !kind)
    return instrument.error ? <Trouble error={instrument.error} /> : <Waiting what="Opening the plan…" />;
  return <Plan item={instrument.data} kind={kind} />;
}

/** The targets as typed, kept over a reload, and what the core says of them. */
function usePlan(instrument: Instrument) {
  const key = `plan-${instrument.tag}`;
  const [targets, setTargets] = useState<Typed[]>(
    () => JSON.parse(sessionStorage.getItem(key) ?? "null") ?? [EMPTY, EMPTY],
  );
  const [pointings, setPointings] = useState("5");
  const [ground, setGround] = useState("grass");
  const [sun, setSun] = useState("no");
  const keep = (next: Typed[]) => {
    sessionStorage.setItem(key, JSON.stringify(next));
    setTargets(next);
  };
  const there = targets.map((target, index) => ({ target, index })).filter(({ target }) => target.distance_m.trim());
  const stated = instrument.stated["angle_accuracy_arcsec"];
  const question = there.length
    ? {
        advice: "targets",
        units: { length: firmUnit() },
        targets: there.map(({ target }) => ({
          name: target.name,
          distance_m: target.distance_m,
          target_type: target.target_type,
          ...(target.height_m.trim() ? { height_m: target.height_m } : {}),
        })),
        pointings: Number(pointings),
        ground,
        sun: sun === "yes",
        ...(typeof stated === "number" ? { angle_accuracy_arcsec: stated } : {}),
      }
    : null;
  const query = useQuestion<Answer>(question, (marked) => advise<Answer>(marked));
  return {
    targets,
    keep,
    there,
    pointings,
    setPointings,
    ground,
    setGround,
    sun,
    setSun,
    ...query,
    seen: question ? query.answer : null,
  };
}

type Planning = ReturnType<typeof usePlan>;

function Plan({ item, kind }: { item: Instrument; kind: Kind }) {
  const plan = usePlan(item);
  return (
    <div className="grid gap-4">
      <Head
        title={
          <>
            Targets for the two-face check of <span className="tag">{item.tag}</span>
          </>
        }
        sub="Possible targets: distance, and height above the telescope (minus if lower)."
        actions={<Back to={`/bench/new/${item.tag}/two-face`}>Back to the two-face check</Back>}
      />
      <div className="grid items-start gap-4 desk:grid-cols-[440px_minmax(0,1fr)]">
        <section className="card grid gap-5 p-5" aria-label="Targets in sight">
          {plan.targets.map((target, i) => (
            <TargetFields key={i} target={target} index={i} plan={plan} />
          ))}
          {plan.targets.length < MAX_TARGETS && (
            <button
              className="link justify-self-start min-h-[48px]"
              onClick={() => plan.keep([...plan.targets, EMPTY])}
            >
              One more target
            </button>
          )}
          <span className="-mb-3 font-semibold">Pointings a face</span>
          <Choice label="Pointings a face" value={plan.pointings} options={POINTINGS} onChange={plan.setPointings} />
          <span className="-mb-3 font-semibold">Ground and air along the sights</span>
          <Choice label="Ground below the sights" value={plan.ground} options={GROUNDS} onChange={plan.setGround} />
          <Choice label="Sun" value={plan.sun} options={SUNS} onChange={plan.setSun} />
        </section>
        <Proved plan={plan} tag={item.tag} kind={kind} />
      </div>
    </div>
  );
}

function TargetFields({
  target,
  index: i,
  plan: { targets, keep, there, faults },
}: {
  target: Typed;
  index: number;
  plan: Planning;
}) {
  const path = `targets[${there.findIndex((each) => each.index === i)}]`;
  const put = (more: Partial<Typed>) => keep(targets.map((each, k) => (k === i ? { ...each, ...more } : each)));
  return (
    <fieldset className="m-0 grid gap-2 border-0 border-b border-line p-0 pb-4" data-target={i}>
      <legend className="flex w-full items-baseline justify-between p-0 font-semibold">
        Target {i + 1}
        {targets.length > 1 && (
          <button
            className="sub min-h-[44px] min-w-[44px] text-[20px]"
            aria-label={`Remove target ${i + 1}`}
            onClick={() => keep(targets.filter((_, k) => k !== i))}
          >
            ×
          </button>
        )}
      </legend>
      <label className="grid gap-1">
        <span className="sub font-semibold">What it is</span>
        <input
          className="field"
          maxLength={40}
          value={target.name}
          placeholder="Plate on the pump station"
          onChange={(event) => put({ name: event.target.value })}
        />
      </label>
      <div className="grid grid-cols-2 gap-3">
        <Named
          id={`target-${i}-distance`}
          label={`Distance, ${unitShown(firmUnit())}`}
          value={target.distance_m}
          onType={(text) => put({ distance_m: text })}
          faults={faults}
          path={`${path}.distance_m`}
        />
        <Named
          id={`target-${i}-height`}
          label={`Higher by, ${unitShown(firmUnit())}`}
          placeholder="0"
          value={target.height_m}
          onType={(text) => put({ height_m: text })}
          faults={faults}
          path={`${path}.height_m`}
        />
      </div>
      <label className="grid gap-1">
        <span className="sub font-semibold">Target type</span>
        <select
          className="field"
          value={target.target_type}
          onChange={(event) => put({ target_type: event.target.value })}
        >
          {KINDS.map((each) => (
            <option key={each.value} value={each.value}>
              {each.label}
            </option>
          ))}
        </select>
      </label>
    </fieldset>
  );
}

/** What the targets prove, target by target, and the way on to the sheet with the best of them. */
function Proved({ plan, tag, kind }: { plan: Planning; tag: string; kind: Kind }) {
  const { seen, noSignal, trouble } = plan;
  const begin = useBeginWith(plan, tag, kind);
  return (
    <section className="card grid gap-4 p-5" aria-label="Result" aria-live="polite">
      {noSignal && <p className="fault">{NO_CORE}</p>}
      <Trouble error={trouble} />
      {!seen && (
        <p className="text-[1.3rem] font-semibold leading-tight">
          Enter the distance of a target to see what it can show.
        </p>
      )}
      {seen && (
        <>
          <SideView
            targets={seen.result.targets}
            take={seen.result.take}
            lines={[seen.result.least_deg, seen.result.aim_deg]}
          />
          {seen.text.map((text, i) => (
            <p key={text} className={i === 0 ? "text-[1.3rem] font-semibold leading-tight" : ""} data-plan={i}>
              {text}
            </p>
          ))}
          <ul className="m-0 grid list-none gap-3 border-t border-line p-0 pt-3" aria-label="Target by target">
            {seen.result.targets.map((target, i) => (
              <li key={i} data-planned={target.name}>
                <b>{target.name}</b>. {target.text}
                {target.messages.map((each) => (
                  <span key={each.code} data-message={each.code} className="sub block">
                    {each.text}
                  </span>
                ))}
              </li>
            ))}
          </ul>
          <button className="btn now site justify-self-start" onClick={() => void begin()}>
            Begin with {seen.result.take.map((i) => seen.result.targets[i]?.name).join(" and ")}
          </button>
        </>
      )}
    </section>
  );
}

/** Opens a sheet with the targets that are worth taking. */
function useBeginWith({ seen, there }: Planning, tag: string, kind: Kind): () => Promise<void> {
  const person = usePerson();
  const navigate = useNavigate();
  return async () => {
    if (!seen) return;
    const unit = rememberedUnit();
    const begun = await beginDocument(
      kind.kind,
      seen.result.take.length > 1 ? "full" : "five",
      unit,
      rememberedAngle(),
    );
    const document = seen.result.take.reduce((grown, place, i) => {
      const target = there[place]?.target ?? EMPTY;
      const base = `observations.targets[${i}]`;
      const far = withAt(
        grown,
        `${base}.distance_m`,
        unit === firmUnit() ? target.distance_m : withUnit(target.distance_m, firmUnit()),
      );
      const named = target.name.trim() ? withAt(far, `${base}.name`, target.name.trim()) : far;
      return target.target_type === "unknown" ? named : withAt(named, `${base}.target_type`, target.target_type);
    }, begun);
    const draft = newDraft({
      kind: kind.kind,
      instrument: tag,
      owner: person.username,
      document,
      begun: begun.observations,
    });
    await storeDraft(draft);
    await navigate(`/bench/${draft.id}`);
  };
}
