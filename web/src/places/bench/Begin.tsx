// Before a check. Of a two-peg test: the two looks, the layout, what to bring and mind. Then the first reading.
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate, useParams, useSearchParams } from "react-router";
import { instrumentQuery } from "../../api/queries";
import { useHappening } from "../../app/acts";
import { useHere, usePerson } from "../../app/session";
import { keepDraft } from "../../store/device";
import { type Draft, type Length, begin } from "../../sheet/draft";
import { Back, Cautions, Choice, Head, Trouble, Waiting } from "../../ui/parts";
import { useKind } from "../../ui/kinds";
import { LayoutChoice, UNITS, rememberWay, rememberedWay } from "./LayoutDialog";
import { BeginRows } from "./BeginRows";
import { GoOn } from "./GoOn";
import { Looks, type LooksValue } from "./Looks";
import { takeLayout, toggleWires } from "../../sheet/entry";
import { usePreview } from "./usePreview";

const WAYS = [
  { value: "single", label: "Single readings", hint: "one, or several by one more" },
  { value: "wires", label: "Three wires", hint: "upper, middle, lower" },
] as const;
type Way = (typeof WAYS)[number]["value"];

export function Begin() {
  const { tag = "", kind: name = "" } = useParams();
  const instrument = useQuery(instrumentQuery(tag));
  const kind = useKind(name);
  if (instrument.isPending || !kind) return instrument.error ? <Trouble error={instrument.error} /> : <Waiting what="Opening the bench…" />;
  if (!instrument.data) return <Trouble error={instrument.error} />;
  if (!instrument.data.checks.includes(name))
    return <Head title={`${instrument.data.tag} has no such check`} sub={<Back to={`/bench/new/${instrument.data.tag}`}>What it has</Back>} />;
  if (kind.ways.length) return <BeginRows one={instrument.data} kind={kind} />;
  return <Prepare tag={instrument.data.tag} model={instrument.data.model} hints={instrument.data.hints} kind={kind} />;
}

function Prepare({ tag, model, hints, kind }: { tag: string; model: string; hints: string; kind: NonNullable<ReturnType<typeof useKind>> }) {
  const person = usePerson();
  const navigate = useNavigate();
  const round = useSearchParams()[0].get("round");
  const [looks, setLooks] = useState<LooksValue>({});
  const [way, setWay] = useState<Way>(() => (localStorage.getItem("way") === "wires" ? "wires" : "single"));
  const [unit, setUnit] = useState<Length>(() => rememberedWay().unit);
  const [layout, setLayout] = useState(() => rememberedWay().layout);
  const [choosing, setChoosing] = useState(false);
  const chosen = kind.layouts.find((one) => one.name === layout) ?? kind.layouts[0];
  const start = async () => {
    rememberWay(layout, unit);
    localStorage.setItem("way", way);
    const draft = begin({ kind: kind.kind, instrument: tag, owner: person.username, ...(round ? { round } : {}) });
    const named: LooksValue = { bubble_holds: looks.bubble_holds ?? "not-looked", line_returns: looks.line_returns ?? "not-looked" };
    let { document, filled }: Pick<Draft, "document" | "filled"> = draft;
    if (way === "wires") ({ document, filled } = toggleWires(document, { setup: 0, staff: "a" }, filled));
    if (chosen) ({ document, filled } = takeLayout(document, filled, chosen, unit));
    document = { ...document, observations: { ...document.observations, looks: named } };
    await keepDraft({ ...draft, document, filled });
    await navigate(`/bench/${draft.id}`);
  };
  return (
    <div className="grid gap-4">
      <Head title={<>{kind.title} of <span className="tag">{tag}</span></>} sub={`${model}. About ${kind.minutes} minutes.`} acts={round ? <Back to={`/bench/round/${round}`}>Back to the round</Back> : <Back to={`/bench/new/${tag}`}>Other checks of {tag}</Back>} />
      <GoOn tag={tag} kind={kind.kind} />
      <div className="grid items-start gap-4 desk:grid-cols-[minmax(0,1fr)_400px]">
        <section className="card grid gap-6 p-5" aria-label="Before the first reading">
          <Looks value={looks} onChange={setLooks} />
          <LooksSay tag={tag} looks={looks} />
          <div className="grid gap-2 border-t border-line pt-5">
            <div className="flex flex-wrap items-center justify-between gap-3">
              <p className="text-[17px]">
                <b>{chosen?.title}.</b> <span className="sub">{chosen?.good_for}</span>
              </p>
              <button className="btn" aria-expanded={choosing} onClick={() => setChoosing(!choosing)}>
                Other layout
              </button>
            </div>
            {choosing && (
              <LayoutChoice
                kind={kind}
                value={layout}
                onChange={(name) => {
                  setLayout(name);
                  setChoosing(false);
                }}
              />
            )}
          </div>
          <div className="flex flex-wrap gap-x-8 gap-y-4">
            <Choice label="How it is read" value={way} options={[...WAYS]} onChange={setWay} />
            <Choice label="Unit of what is typed" value={unit} options={UNITS} onChange={setUnit} />
          </div>
        </section>
        <aside className="card grid gap-4 p-5">
          <div>
            <h2>Bring</h2>
            <ul className="m-0 mt-1 grid list-none gap-1 p-0">
              {kind.bring.map((one) => (
                <li key={one}>{one}</li>
              ))}
            </ul>
          </div>
          <p>{kind.before_you_start[0]}</p>
          {hints && <p className="sub">{hints}</p>}
          <Cautions cautions={kind.cautions["before"] ?? []} />
          <button className="btn now site" onClick={() => void start()}>
            Start reading
          </button>
        </aside>
      </div>
    </div>
  );
}

/** What a look means, in the core's words, and the act that belongs to it. */
function LooksSay({ tag, looks }: { tag: string; looks: LooksValue }) {
  const happened = useHappening();
  const { may } = useHere();
  const navigate = useNavigate();
  const bad = looks.line_returns === "no" || looks.bubble_holds === "no";
  const [asked] = useState(() => begin({ kind: "two-peg", instrument: tag, owner: "" }));
  const { said } = usePreview(bad ? { ...asked, document: { ...asked.document, observations: { looks } } } : null);
  if (!bad || !said) return null;
  const hold = async () => {
    await happened({ instrument: tag, event: "held", note: "The line does not come back after a tap." }, `Hold on ${tag}`);
    await navigate(`/instruments/${tag}`);
  };
  return (
    <div className="grid justify-items-start gap-3" data-looks-say>
      {said.partial.looks.map((one) => (
        <p key={one.code} className="caution">
          {one.text}
        </p>
      ))}
      {looks.line_returns === "no" && (
        <>
          <button className="btn site" aria-disabled={!may("hold").allowed} onClick={() => may("hold").allowed && void hold()}>
            Hold {tag}
          </button>
          {!may("hold").allowed && <p className="sub">{may("hold").text}</p>}
        </>
      )}
    </div>
  );
}
