// Turning the reticle: the target, the tool, the caution at the act, and "it reads now" as often as wanted.
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import type { Kind, RecordOut } from "../../api/client";
import { instrumentQuery } from "../../api/queries";
import { useHappening } from "../../app/acts";
import { useHere, usePerson } from "../../app/session";
import { adjusting } from "../../core";
import { keepDraft } from "../../store/device";
import { type CheckDocument, type Draft, begin, emptySetUp } from "../../sheet/draft";
import { Cautions, Trouble } from "../../ui/parts";
import { Well } from "../../ui/Well";
import { distancePath } from "../../sheet/entry";

/** Readings since the first turn, kept over a reload. */
function useReadsNow(id: string): [string[], (next: string[]) => void] {
  const key = `adjusting-${id}`;
  const [list, setList] = useState<string[]>(() => JSON.parse(sessionStorage.getItem(key) ?? "[]") as string[]);
  return [
    list,
    (next) => {
      sessionStorage.setItem(key, JSON.stringify(next));
      setList(next);
    },
  ];
}

/** The same test again: the same distances and way of reading, every reading still to come. */
export function asLeft(record: Pick<RecordOut, "id" | "kind" | "instrument">, document: CheckDocument, owner: string): Draft {
  const filled: string[] = [];
  const setups = (document.observations.setups ?? []).slice(0, 2).map((setup, i) => {
    const fresh = emptySetUp();
    for (const staff of ["a", "b"] as const) {
      if (setup[staff].wires?.length) fresh[staff] = { wires: [] };
      const distance = setup[staff].distance;
      if (distance === undefined || distance === "") continue;
      fresh[staff].distance = String(distance);
      filled.push(distancePath(i, staff));
    }
    return fresh;
  });
  const { layout, looks, curvature } = document.observations;
  const observations = { setups, ...(layout ? { layout } : {}), ...(looks ? { looks } : {}), ...(curvature === undefined ? {} : { curvature }) };
  return begin({ kind: record.kind, instrument: record.instrument, owner, stage: "as-left", pair: record.id, filled, document: { kind: record.kind, units: { length: document.units?.length ?? "m" }, observations } });
}

export function Adjusting({ record, document, kind }: { record: RecordOut; document: CheckDocument; kind: Kind }) {
  const person = usePerson();
  const { may } = useHere();
  const navigate = useNavigate();
  const happened = useHappening();
  const instrument = useQuery(instrumentQuery(record.instrument));
  const [readsNow, setReadsNow] = useReadsNow(record.id);
  const [typed, setTyped] = useState("");
  const guide = useQuery({
    queryKey: ["adjusting", record.id, readsNow],
    queryFn: () => adjusting(record.instrument, record.document, readsNow),
    placeholderData: (before) => before,
    staleTime: Infinity,
  });
  const mine = kind.who_adjusts.includes(person.role);
  const right = may("adjust");
  const told = guide.data;
  const again = async () => {
    if (readsNow.length) await happened({ instrument: record.instrument, event: "adjusted", record: record.id, steps: readsNow, note: "" }, `Adjustment of ${record.instrument}`);
    const draft = asLeft(record, document, person.username);
    await keepDraft(draft);
    await navigate(`/bench/${draft.id}`);
  };
  if (!told) return <Trouble error={guide.error} />;
  if (!told.allowed) return <p>These readings do not prove the error well enough to turn a screw by. Run it again from the other end first, or with more readings.</p>;
  if (!mine || !right.allowed) return <p className="sub">{right.text || "This adjustment is not yours to make: ask the equipment manager."}</p>;
  const enter = () => {
    if (!typed.trim()) return;
    setReadsNow([...readsNow, typed.trim()]);
    setTyped("");
  };
  const last = told.steps[told.steps.length - 1];
  return (
    <div className="grid gap-3">
      <p className="text-[1.35rem] font-[660] leading-tight">{told.text}</p>
      <p>{instrument.data?.hints || `${told.screw} ${told.tool}`}</p>
      <Cautions cautions={kind.cautions["adjusting"] ?? []} />
      <label className="font-[600]" htmlFor="reads-now">
        Staff {told.staff} reads now, {told.unit}
      </label>
      <div className="grid grid-cols-[minmax(0,1fr)_auto] gap-2">
        <Well id="reads-now" label={`Staff ${told.staff} reads now`} value={typed} onType={setTyped} onKey={(key) => (key === "next" ? enter() : undefined)} onHere={() => undefined} />
        <button className="btn site" onClick={enter}>
          Enter
        </button>
      </div>
      <Trouble error={guide.error} />
      {guide.error && readsNow.length > 0 && (
        <button className="btn" onClick={() => setReadsNow(readsNow.slice(0, -1))}>
          Take {readsNow[readsNow.length - 1]} away
        </button>
      )}
      <ol className="m-0 grid list-none gap-1 p-0" aria-label="Readings since the first turn" aria-live="polite">
        {told.steps.map((step, i) => (
          <li key={i} data-done={step.done || undefined} className={i === told.steps.length - 1 ? "font-[640]" : "sub"}>
            <span className="font-mono">{step.given}</span>: {step.text}
            {i === told.steps.length - 1 && (
              <button className="ml-2 min-h-[44px] underline underline-offset-4 font-[440]" onClick={() => setReadsNow(readsNow.slice(0, -1))}>
                take away
              </button>
            )}
          </li>
        ))}
      </ol>
      <button className={`btn site ${last?.done || record.as_left === null ? "now" : ""}`} onClick={() => void again()}>
        {readsNow.length ? "Run the test again, as left" : "It is adjusted: run the test again"}
      </button>
      {record.as_left && <p className="sub">It was adjusted and left; this would be one more.</p>}
    </div>
  );
}
