// The stand: go on with a set-up, or begin one: which instrument, over which point, by which method.
import { useEffect, useState } from "react";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { NoSignal, type SetUpMethod, send } from "../../api/client";
import { deviceQuery, pointsQuery } from "../../api/queries";
import { useNotify } from "../../app/notices";
import { useHere, usePerson } from "../../app/session";
import { nearMisses } from "../../engine";
import type { Draft } from "../../documents/draft";
import { ORIENTATION_KINDS, asOrientation } from "../../documents/orientation";
import { asSetUp } from "../../documents/setUp";
import { OpenWork, useOpenWork } from "../../ui/OpenWork";
import { PickInstrument, useFleetHere } from "../../ui/PickInstrument";
import { Dialog, Head, Lacking, Waiting } from "../../ui/parts";
import { STAND_KINDS } from "../../documents/instrumentKinds";
import { SetUpTabs } from "../../ui/Tabs";
import { firmUnit } from "../../ui/units";
import { WorkChip } from "../../ui/WorkChip";
import { Habits } from "./Habits";
import { LoadSetUp } from "./LoadSetUp";
import { type NewSetUpState, useNewSetUp } from "./useNewSetUp";
import { after } from "../../timers";

const ofTheStand = (draft: Draft) => draft.kind === "set-up" || ORIENTATION_KINDS.includes(draft.kind);

export function NewSetUp() {
  const open = useOpenWork(ofTheStand);
  const fleet = useFleetHere();
  const [loading, setLoading] = useState(false);
  const begun = useNewSetUp();
  if (!open || !fleet) return <Waiting what="Opening the set-ups…" />;
  return (
    <div className="grid gap-4">
      <SetUpTabs />
      <StandHead onLoad={() => setLoading(true)} />
      <OpenWork label="Open set-ups" drafts={open} title={calledOf} />
      <div className="grid items-start gap-4 desk:grid-cols-2">
        <InstrumentAndPoint begun={begun} />
        <HowYouWork begun={begun} />
      </div>
      <Dialog title="Load a set-up from a file" open={loading} onClose={() => setLoading(false)}>
        <LoadSetUp />
      </Dialog>
    </div>
  );
}

function InstrumentAndPoint({ begun }: { begun: NewSetUpState }) {
  const { tag, level, pressed, lacking, trainee } = begun;
  return (
    <section className="card grid gap-5 p-5" aria-label="Instrument and point">
      <PickInstrument value={tag} missing={pressed && !tag} kinds={STAND_KINDS} onChange={begun.setTag} />
      {!level && (
        <WhichPoint
          mark={begun.mark}
          onMark={begun.setMark}
          free={begun.free}
          onFree={begun.setFree}
          lacking={pressed && tag ? lacking : null}
        />
      )}
      <div>
        <WorkChip work={begun.work} unit={firmUnit()} faults={[]} onChange={begun.setWork} />
      </div>
      {tag && (
        <Stands
          tripod={begun.tripod}
          tribrach={begun.tribrach}
          onTripod={begun.setTripod}
          onTribrach={begun.setTribrach}
          level={level}
        />
      )}
      {tag && (
        <Habits
          options={begun.options}
          cannot={begun.lacks}
          trainee={trainee}
          level={level}
          onChange={begun.setOptions}
        />
      )}
    </section>
  );
}

function HowYouWork({ begun }: { begun: NewSetUpState }) {
  const { tag, level, chosen, list, coming, trouble, begin } = begun;
  const { session } = useHere();
  const { role } = usePerson();
  return (
    <section className="card grid gap-4 p-5" aria-label="Method">
      <h2>How do you work?</h2>
      {!tag && <p className="sub">Choose the instrument to see suitable methods.</p>}
      {trouble && <p className="fault">{trouble}</p>}
      <SetUpMethodList list={list} chosen={chosen} server={session.preferred_method} onTake={begun.setMethod} />
      <div className="stuck grid gap-3 tab:grid-cols-2">
        {/* Whether a point is asked for is known with the methods: a press before them would be answered wrongly. */}
        <button className="btn now site" disabled={coming} onClick={() => void begin(false)}>
          Guide me
        </button>
        <button className="btn site" disabled={coming} onClick={() => void begin(true)}>
          Already set up: record it
        </button>
      </div>
      {role === "manager" && tag && !level && <PreferredMethod chosen={chosen} />}
    </section>
  );
}

function StandHead({ onLoad }: { onLoad: () => void }) {
  return (
    <Head
      title="Set up over a point"
      sub="Guided step by step, or recorded in half a minute."
      actions={
        <>
          <button className="btn" onClick={onLoad}>
            Load from a file
          </button>
        </>
      }
    />
  );
}

type WhichPointProps = {
  mark: string;
  onMark: (mark: string) => void;
  free: boolean;
  onFree: (free: boolean) => void;
  lacking: string | null;
};

/** The mark below, by its name; or none. */
function WhichPoint({ mark, onMark, free, onFree, lacking }: WhichPointProps) {
  return (
    <div className="grid gap-2">
      <label htmlFor="mark" className="font-semibold">
        Point, as painted at the mark
      </label>
      <input
        id="mark"
        className="field !min-h-[64px] font-mono !text-[24px]"
        value={mark}
        disabled={free}
        maxLength={40}
        onChange={(event) => onMark(event.target.value)}
        autoCapitalize="characters"
        autoComplete="off"
      />
      <NearMark mark={mark} onTake={onMark} />
      <label className="flex min-h-[48px] items-center gap-3">
        <input
          type="checkbox"
          className="size-6 accent-[var(--color-ink)]"
          checked={free}
          onChange={(event) => onFree(event.target.checked)}
        />
        Free station (no ground mark)
      </label>
      {lacking && <Lacking at="mark">{lacking}</Lacking>}
    </div>
  );
}

/** A number that is not on the list of control points, and one that is nearly it. */
function NearMark({ mark, onTake }: { mark: string; onTake: (name: string) => void }) {
  const points = useQuery(pointsQuery);
  const [answer, setAnswer] = useState<{ of: string; near: { name: string; why: string }[] }>({ of: "", near: [] });
  const names = (points.data?.points ?? []).map((point) => point.name);
  const sought = mark.trim().toUpperCase();
  const known = names.some((name) => name.toUpperCase() === sought);
  const list = names.join(" ");
  useEffect(() => {
    if (sought.length < 3 || known || !list) return;
    let here = true;
    const callOff = after(
      "nearNames",
      () =>
        void nearMisses(sought, list.split(" ")).then(
          (near) => here && setAnswer({ of: sought, near: near.slice(0, 2) }),
          () => undefined,
        ),
    );
    return () => {
      here = false;
      callOff();
    };
  }, [sought, known, list]);
  if (known || answer.of !== sought) return null;
  return (
    <>
      {answer.near.map((each) => (
        <button
          key={each.name}
          className="btn justify-start text-left"
          data-near={each.name}
          onClick={() => onTake(each.name)}
        >
          Not on the list. {each.why}
        </button>
      ))}
    </>
  );
}

type StandsProps = {
  tripod: string;
  tribrach: string;
  onTripod: (tag: string) => void;
  onTribrach: (tag: string) => void;
  level: boolean;
};

/** On which tripod and tribrach, by their tags; those of the fleet are offered. */
function Stands({ tripod, tribrach, onTripod, onTribrach, level }: StandsProps) {
  const rows = useQuery(deviceQuery).data ?? [];
  const input = (id: string, label: string, kind: string, value: string, onType: (tag: string) => void) => (
    <label className="grid gap-1" htmlFor={id}>
      <span className="font-semibold">{label}</span>
      <input
        id={id}
        className="field font-mono"
        list={`${id}-list`}
        maxLength={20}
        value={value}
        onChange={(event) => onType(event.target.value)}
        autoCapitalize="characters"
        autoComplete="off"
      />
      <datalist id={`${id}-list`}>
        {rows
          .filter((row) => row.kind === kind)
          .map((row) => (
            <option key={row.tag} value={row.tag} />
          ))}
      </datalist>
    </label>
  );
  return (
    <div className="grid grid-cols-2 gap-3">
      {input("tripod-tag", "Tripod", "tripod", tripod, onTripod)}
      {!level && input("tribrach-tag", "Tribrach", "tribrach", tribrach, onTribrach)}
    </div>
  );
}

/** The manager sets which method everybody is offered first. */
function PreferredMethod({ chosen }: { chosen: string | null }) {
  const { session } = useHere();
  const client = useQueryClient();
  const notify = useNotify();
  const preferred = session.preferred_method === chosen && chosen !== null;
  const flush = async (method: string | null) => {
    try {
      await send("PUT", "/api/organisation", { preferred_method: method ?? "" });
      client.setQueryData(["session"], { ...session, preferred_method: method });
      notify({ text: method ? "Now offered first to everyone." : "No method is preferred now." });
    } catch (error) {
      notify({ text: error instanceof NoSignal ? "This needs a connection." : "Not saved. Try again." });
    }
  };
  return (
    <button className="link justify-self-start min-h-[48px]" onClick={() => void flush(preferred ? null : chosen)}>
      {preferred ? "Remove as firm's method" : "Make this the firm's method"}
    </button>
  );
}

function SetUpMethodList({
  list,
  chosen,
  server,
  onTake,
}: {
  list: SetUpMethod[];
  chosen: string | null;
  server: string | null;
  onTake: (method: string) => void;
}) {
  return (
    <div role="radiogroup" aria-label="Method" className="grid gap-2">
      {list.map((each) => (
        <button
          key={each.method}
          role="radio"
          aria-checked={each.method === chosen}
          disabled={each.cannot !== null}
          data-method={each.method}
          onClick={() => onTake(each.method)}
          className="rounded-md px-4 py-3 text-left shadow-[inset_0_0_0_1.5px_var(--color-ink)] disabled:shadow-[inset_0_0_0_1.5px_var(--color-line)] aria-checked:bg-ink aria-checked:text-card"
        >
          <b className="block font-semibold">
            {each.title}
            {each.method === server && <span className="font-normal"> · the firm's method</span>}
          </b>
          {each.cannot ?? each.good_for}
        </button>
      ))}
    </div>
  );
}

function calledOf(draft: Draft): string {
  const mark = asSetUp(draft)?.document.observations.mark?.name;
  if (draft.kind === "set-up") return mark ? `over ${mark}` : "set-up";
  return draft.kind === "backsight"
    ? `backsight at ${asOrientation(draft)?.document.observations.station?.name ?? "a point"}`
    : "free station";
}
