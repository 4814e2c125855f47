// Before a check of rows: which way, what to bring and mind, and the circumstances it leans on.
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate, useSearchParams } from "react-router";
import { type Instrument, type Kind, NoSignal, api, data } from "../../api/client";
import { useTell } from "../../app/notices";
import { useHere, usePerson } from "../../app/session";
import type { CheckDocument, Length } from "../../sheet/draft";
import { type Way, beginRows } from "../../sheet/rows";
import { keepDraft } from "../../store/device";
import { Back, Cautions, Choice, Head } from "../../ui/parts";
import { Conditions } from "./Conditions";
import { GoOn } from "./GoOn";
import { UNITS, rememberedWay } from "./LayoutDialog";
import { usePreview } from "./usePreview";

export const ANGLES = [
  { value: "dms", label: "Degrees, minutes, seconds", hint: "102.4305 is 102°43′05″" },
  { value: "deg", label: "Decimal degrees" },
  { value: "gon", label: "Gon" },
];

export function BeginRows({ one, kind }: { one: Instrument; kind: Kind }) {
  const person = usePerson();
  const navigate = useNavigate();
  const [asked] = useSearchParams();
  const round = asked.get("round");
  const [name, setName] = useState(() => asked.get("way") ?? localStorage.getItem(`way-${kind.kind}`) ?? "");
  const [unit, setUnit] = useState<Length>(() => rememberedWay().unit);
  const [conditions, setConditions] = useState<NonNullable<CheckDocument["conditions"]>>({});
  const ways = kind.ways.filter((each) => one.ways[kind.kind]?.includes(each.name));
  const way = (ways.find((candidate) => candidate.name === name) ?? ways[0]) as Way;
  const [angle, setAngle] = useState(() => localStorage.getItem("angle") ?? "dms");
  const angles = way.groups.some((group) => group.fields.some((field) => field.kind === "angle"));
  const draft = beginRows({ kind, way, instrument: one.tag, owner: person.username, unit, ...(angles ? { angle } : {}), ...(round ? { round } : {}) });
  const document = { ...draft.document, ...(Object.keys(conditions).length ? { conditions } : {}) };
  const { said } = usePreview({ ...draft, document });
  const lengths = way.groups.some((group) => group.fields.some((field) => field.kind === "length"));
  const start = async () => {
    // What a round takes quickly is not how it is taken otherwise.
    if (!round) localStorage.setItem(`way-${kind.kind}`, way.name);
    if (lengths) localStorage.setItem("unit", document.units?.length ?? unit);
    if (angles) localStorage.setItem("angle", angle);
    await keepDraft({ ...draft, document });
    await navigate(`/bench/${draft.id}`);
  };
  return (
    <div className="grid gap-4">
      <Head
        title={
          <>
            {kind.title} of <span className="tag">{one.tag}</span>
          </>
        }
        sub={`${one.model}. About ${kind.minutes} minutes.`}
        acts={round ? <Back to={`/bench/round/${round}`}>Back to the round</Back> : <Back to={`/bench/new/${one.tag}`}>Other checks of {one.tag}</Back>}
      />
      <GoOn tag={one.tag} kind={kind.kind} />
      <div className="grid items-start gap-4 desk:grid-cols-[minmax(0,1fr)_400px]">
        <section className="card grid gap-6 p-5" aria-label="Before the first reading">
          <div className="grid gap-2">
            <p>{kind.why}</p>
            <h2 className="pt-2">How it is taken</h2>
            <Choice label="Way" stacked value={way.name} onChange={setName} options={ways.map((each) => ({ value: each.name, label: each.title, hint: each.good_for }))} />
          </div>
          {kind.kind === "two-face" && (
            <div className="grid">
              <Link className="link inline-flex min-h-[48px] items-center justify-self-start" to={`/bench/plan/${one.tag}`}>
                Plan the marks before walking out
              </Link>
              <Raw />
            </div>
          )}
          {lengths && !way.unit && <Choice label="Unit of what is typed" value={unit} options={UNITS} onChange={setUnit} />}
          {angles && <Choice label="Angles are typed in" value={angle} options={ANGLES} onChange={setAngle} />}
          <Conditions asks={kind.asks} value={conditions} onChange={setConditions} faults={said?.faults ?? []} />
          <ul className="m-0 grid list-none gap-2 p-0" aria-label="What the circumstances say" data-circumstances>
            {said?.partial.looks.map((each) => (
              <li key={each.code} data-said={each.code} className="caution">
                {each.text}
              </li>
            ))}
            {said?.partial.said.map((each) => (
              <li key={each.code} data-said={each.code}>
                {each.text}
              </li>
            ))}
          </ul>
        </section>
        <aside className="card grid gap-4 p-5">
          <div>
            <h2>Bring</h2>
            <ul className="m-0 mt-1 grid list-none gap-1 p-0">
              {kind.bring.map((each) => (
                <li key={each}>{each}</li>
              ))}
            </ul>
          </div>
          {one.hints && <p className="sub">{one.hints}</p>}
          <Cautions cautions={way.caution} />
          <button className="btn now site" onClick={() => void start()}>
            Start reading
          </button>
          <h2>Step by step</h2>
          <Steps kind={kind} way={way} />
        </aside>
      </div>
    </div>
  );
}

/** By what the firm judges two faces: the error, or the raw difference; the manager settles it. */
function Raw() {
  const { session, may } = useHere();
  const client = useQueryClient();
  const tell = useTell();
  const settle = async (raw: boolean) => {
    try {
      await data(api.PUT("/api/house/raw", { body: { judge_raw: raw } }));
      client.setQueryData(["session"], { ...session, judge_raw: raw });
      tell({ text: raw ? "Judged by 2c and 2i from now on." : "Judged by c and i, half of the difference, from now on." });
    } catch (error) {
      tell({ text: error instanceof NoSignal ? "No signal: this is settled at home." : "It was not settled. Try again." });
    }
  };
  return (
    <p className="sub flex flex-wrap items-center gap-x-4" data-raw={session.judge_raw}>
      {session.judge_raw ? "This firm judges the raw differences 2c and 2i." : "Judged are c and i: half of what the two faces differ by."}
      {may("manage-fleet").allowed && (
        <button className="link min-h-[44px]" onClick={() => void settle(!session.judge_raw)}>
          {session.judge_raw ? "Judge half of them" : "Judge the raw differences"}
        </button>
      )}
    </p>
  );
}

/** What is done with the hands, in order. */
export function Steps({ kind, way }: { kind: Kind; way: Way }) {
  return (
    <ol className="m-0 grid list-decimal gap-2 pl-6">
      {[...kind.before_you_start, ...way.steps].map((each) => (
        <li key={each}>{each}</li>
      ))}
    </ol>
  );
}
