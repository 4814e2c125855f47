// Before a check: by which method, the looks that come first, what to bring and to watch.
import { useQuery } from "@tanstack/react-query";
import { type ReactNode, useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import type { Instrument, Kind, Preview } from "../../api/client";
import type { Draft } from "../../documents/draft";
import { instrumentQuery } from "../../api/queries";
import { useHappening } from "../../app/events";
import { useHere } from "../../app/session";
import { type Method, hasField } from "../../documents/form";
import { useKind } from "../../hooks/useKinds";
import { Choice } from "../../ui/Choice";
import { Back, Cautions, Head, Trouble, Waiting } from "../../ui/parts";
import { Terms } from "../../ui/Terms";
import { usePreview } from "../../hooks/useQuestion";
import { GoOn, useUnfinished } from "../../ui/GoOn";
import { Raw } from "./Raw";
import { ANGLES, UNITS } from "../../ui/units";
import { useBegun } from "./useBegun";

export function Begin() {
  const { tag = "", kind: name = "" } = useParams();
  const instrument = useQuery(instrumentQuery(tag));
  const kind = useKind(name);
  const open = useUnfinished(tag, name);
  if (instrument.isPending || !kind || open === undefined)
    return instrument.error ? <Trouble error={instrument.error} /> : <Waiting what="Opening the bench…" />;
  if (!instrument.data) return <Trouble error={instrument.error} />;
  if (!instrument.data.checks.includes(name))
    return (
      <Head
        title={`${instrument.data.tag} does not have this check`}
        sub={<Back to={`/bench/new/${instrument.data.tag}`}>Its checks</Back>}
      />
    );
  return <Prepare item={instrument.data} kind={kind} open={open} />;
}

type Begun = ReturnType<typeof useBegun>;

function Prepare({ item, kind, open }: { item: Instrument; kind: Kind; open: Draft | null }) {
  const begun = useBegun(item, kind);
  const { method, round, document } = begun;
  const { answer: answer } = usePreview<Preview>(item.tag, document ?? null);
  return (
    <div className="grid gap-4">
      <Head
        title={
          <>
            {kind.title} of <span className="tag">{item.tag}</span>
          </>
        }
        sub={`${item.model}. About ${kind.minutes} minutes.`}
        actions={
          round ? (
            <Back to={`/bench/readiness/${round}`}>Back to the pre-work check</Back>
          ) : (
            <Back to={`/bench/new/${item.tag}`}>Other checks of {item.tag}</Back>
          )
        }
      />
      <GoOn tag={item.tag} open={open} />
      <div className="grid items-start gap-4 desk:grid-cols-[minmax(0,1fr)_400px]">
        <section className="card grid gap-6 p-5" aria-label="Before the first reading">
          <QuickChecksFirst begun={begun} />
          <QuickCheckMessages progress={answer?.progress} tag={item.tag} />
          <HowTaken kind={kind} begun={begun} />
          {kind.kind === "two-face" && <OfTwoFaces tag={item.tag} />}
          <Typed begun={begun} />
          <Messages progress={answer?.progress} />
        </section>
        <aside className="card grid gap-4 p-5">
          <List title="Bring" items={kind.bring} />
          {item.tips && <p className="sub">{item.tips}</p>}
          <Cautions cautions={method.caution} />
          <Trouble error={begun.error} />
          <button className="btn now site" disabled={!document} onClick={() => void begun.start()}>
            Start reading
          </button>
          <h2>Step by step</h2>
          <Steps kind={kind} method={method} />
        </aside>
      </div>
    </div>
  );
}

function List({ title, items }: { title: string; items: string[] }) {
  return (
    <div>
      <h2>{title}</h2>
      <ul className="m-0 mt-1 grid list-none gap-1 p-0">
        {items.map((each) => (
          <li key={each}>{each}</li>
        ))}
      </ul>
    </div>
  );
}

/** Looks that come before any reading. */
function QuickChecksFirst({ begun: { method, looks, setLooks } }: { begun: Begun }) {
  const groups = method.groups.filter((group) => group.before);
  if (!groups.length) return null;
  return (
    <div className="grid gap-5">
      {groups.flatMap((group) =>
        group.fields.map((field) => {
          const path = `${group.path}.${field.name}`;
          return (
            <div key={path} className="grid gap-2" data-look={field.name}>
              <p className="text-[17px] font-semibold">{field.label}</p>
              <Choice
                label={field.label}
                value={String(looks[path] ?? "")}
                options={field.options}
                onChange={(value) => setLooks({ ...looks, [path]: value })}
              />
            </div>
          );
        }),
      )}
    </div>
  );
}

type Progress = Preview["progress"] | undefined;

/** What a look just answered says, in the core's words, and the action that belongs to it. */
function QuickCheckMessages({ progress, tag }: { progress: Progress; tag: string }) {
  if (!progress?.looks.length) return null;
  return (
    <div className="grid justify-items-start gap-3" data-circumstances>
      {progress.looks.map((each) => (
        <p key={each.code} data-message={each.code} className="caution">
          {each.text}
        </p>
      ))}
      {progress.looks.some((each) => each.code === "sticking") && <Hold tag={tag} />}
    </div>
  );
}

/** What the method shows; circumstances are entered on the sheet, and said there. It comes on its own, so it stands last: nothing moves under the finger. */
const ASKED_ON_THE_SHEET = ["warm-up-not-entered"];

function Messages({ progress }: { progress: Progress }) {
  return progress?.messages
    .filter((each) => !ASKED_ON_THE_SHEET.includes(each.code))
    .map((each) => (
      <p key={each.code + each.text} data-message={each.code}>
        {each.text}
      </p>
    ));
}

function Hold({ tag }: { tag: string }) {
  const happened = useHappening();
  const { may } = useHere();
  const navigate = useNavigate();
  const right = may("hold");
  const hold = async () => {
    await happened(
      { instrument: tag, event: "held", note: "The line does not come back after a tap." },
      `Hold on ${tag}`,
    );
    await navigate(`/instruments/${tag}`);
  };
  return (
    <>
      <button className="btn site" aria-disabled={!right.allowed} onClick={() => right.allowed && void hold()}>
        Hold {tag}
      </button>
      {!right.allowed && <p className="sub">{right.text}</p>}
    </>
  );
}

const SHOWN_AT_ONCE = 4;

/** The method: the chosen one with the way to others where there are many, else all of them. */
function HowTaken({ kind, begun: { methods, method, setMethod } }: { kind: Kind; begun: Begun }) {
  const many = methods.length > SHOWN_AT_ONCE;
  const [choosing, setChoosing] = useState(false);
  const options = methods.map((each) => ({ value: each.name, label: each.title, hint: each.good_for }));
  const take = (name: string) => {
    setMethod(name);
    setChoosing(false);
  };
  return (
    <div className="grid gap-2">
      <p>
        <Terms text={kind.why} />
      </p>
      <h2 className="pt-2">Method</h2>
      {many && (
        <div className="flex flex-wrap items-center justify-between gap-3">
          <p className="min-w-0 flex-1 text-[17px]">
            <b>{method.title}.</b> <span className="sub">{method.good_for}</span>
          </p>
          <button className="btn" aria-expanded={choosing} onClick={() => setChoosing(!choosing)}>
            Other method
          </button>
        </div>
      )}
      {(!many || choosing) && <Choice label="Method" stacked value={method.name} onChange={take} options={options} />}
    </div>
  );
}

const READ = [
  { value: "own", label: "Single readings", hint: "one, or more" },
  { value: "instead", label: "", hint: "" },
];

/** In what is typed: units, angles, single readings or what may be filled instead. */
function Typed({ begun: { method, unit, setUnit, angle, setAngle, other, instead, setInstead } }: { begun: Begun }) {
  const parts: ReactNode[] = [];
  if (other)
    parts.push(
      <Choice
        key="read"
        label="Readings per sight"
        value={instead ? "instead" : "own"}
        options={READ.map((each) => (each.value === "own" ? each : { ...each, label: other }))}
        onChange={(value) => setInstead(value === "instead")}
      />,
    );
  if (hasField(method.groups, "length") && !method.unit)
    parts.push(<Choice key="unit" label="Units" value={unit} options={UNITS} onChange={setUnit} />);
  if (hasField(method.groups, "angle"))
    parts.push(<Choice key="angle" label="Angle format" value={angle} options={ANGLES} onChange={setAngle} />);
  return parts.length ? <div className="flex flex-wrap gap-x-8 gap-y-4">{parts}</div> : null;
}

function OfTwoFaces({ tag }: { tag: string }) {
  return (
    <div className="grid">
      <Link className="link inline-flex min-h-[48px] items-center justify-self-start" to={`/bench/plan/${tag}`}>
        Plan targets first
      </Link>
      <Raw />
    </div>
  );
}

/** What is done with the hands, in order. */
export function Steps({ kind, method }: { kind: Kind; method: Method | undefined }) {
  return (
    <ol className="m-0 grid list-decimal gap-2 pl-6">
      {[...kind.before_you_start, ...(method?.steps ?? [])].map((each) => (
        <li key={each}>{each}</li>
      ))}
    </ol>
  );
}
