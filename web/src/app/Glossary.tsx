// What a search through terms, checks, actions and settings finds; the keys below.
import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import type { Schemas } from "../api/client";
import { useKinds } from "../hooks/useKinds";
import { TermDrawing } from "../ui/TermDrawing";
import { glossaryQuery } from "../ui/Terms";
import { capital } from "../ui/words";
import { answers } from "./palette";
import { FINDABLE } from "./places";
import { useHere } from "./session";

type Term = Schemas["Term"];

export default function Found({
  sought,
  onSeek,
  onGo,
}: {
  sought: string;
  onSeek: (text: string) => void;
  onGo: () => void;
}) {
  const terms = useQuery(glossaryQuery).data ?? [];
  const kinds = useKinds();
  const { may } = useHere();
  const names = new Map(terms.map((term) => [term.check ?? "", [term.term, ...term.also].join(" ")]));
  const checks = sought
    ? kinds.filter((kind) => answers(`${kind.title} ${kind.kind} ${names.get(kind.kind) ?? ""}`, sought))
    : [];
  const places = sought
    ? FINDABLE.filter(
        (place) => (!place.manager || may("manage-fleet").allowed) && answers(`${place.name} ${place.also}`, sought),
      )
    : [];
  const shown = terms.filter((term) => answers([term.term, ...term.also].join(" "), sought));
  return (
    <div className="grid gap-4">
      <input
        className="field"
        type="search"
        aria-label="Find a check, an action, a setting or a term"
        placeholder="peg test, base, rod, error budget …"
        value={sought}
        autoFocus
        onChange={(event) => onSeek(event.target.value)}
      />
      {(checks.length > 0 || places.length > 0) && (
        <ul className="m-0 grid list-none gap-1 p-0" aria-label="Checks, actions and settings">
          {checks.map((kind) => (
            <Row key={kind.kind} to={`/bench?check=${kind.kind}`} group="Check" name={kind.title} onGo={onGo} />
          ))}
          {places.map((place) => (
            <Row key={place.name} to={place.to} group={place.group} name={place.name} onGo={onGo} />
          ))}
        </ul>
      )}
      <section className="grid gap-3" aria-label="Glossary">
        <h2>Glossary</h2>
        {shown.map((term) => (
          <Meaning key={term.term} term={term} sought={sought} onSeek={onSeek} />
        ))}
        {!shown.length && !checks.length && !places.length && (
          <p className="sub">Nothing of that name. Try another word for it.</p>
        )}
      </section>
      {!sought && <Shortcuts />}
    </div>
  );
}

function Row({ to, group, name, onGo }: { to: string; group: string; name: string; onGo: () => void }) {
  return (
    <li>
      <Link className="grid min-h-[44px] grid-cols-[80px_1fr] items-center" to={to} onClick={onGo}>
        <span className="sub">{group}</span> <span className="link">{name}</span>
      </Link>
    </li>
  );
}

function Meaning({ term, sought, onSeek }: { term: Term; sought: string; onSeek: (text: string) => void }) {
  return (
    <article className="flex flex-wrap items-start justify-between gap-x-5 gap-y-1" data-term={term.term}>
      <div className="min-w-0 flex-1 basis-[320px]">
        <h3 className="font-semibold">{capital(term.term)}</h3>
        <p>{term.meaning}</p>
        {term.also.length > 0 && <p className="sub">Also called {term.also.join(", ")}.</p>}
        {term.check && sought === "" && (
          <button className="link min-h-[44px]" onClick={() => onSeek(term.term)}>
            Where it is checked
          </button>
        )}
      </div>
      <TermDrawing name={term.drawing} />
    </article>
  );
}

const KEYS: [string, string][] = [
  ["Enter", "next, in reading order; prefilled distances are skipped"],
  ["Shift+Enter", "back"],
  [";", "one more reading here"],
  ["*", "three hairs here, or one again"],
  ["=", "same again"],
  ["Ctrl+Enter", "save"],
  ["/", "find anything: instruments, checks, points, records, places"],
  ["?", "terms and keys"],
];

function Shortcuts() {
  return (
    <section className="grid gap-3" aria-label="Keyboard shortcuts">
      <h2>Keyboard shortcuts</h2>
      <dl className="m-0 grid grid-cols-[auto_1fr] gap-x-5 gap-y-2">
        {KEYS.map(([key, text]) => (
          <div key={key} className="contents">
            <dt>
              <kbd>{key}</kbd>
            </dt>
            <dd className="m-0">{text}</dd>
          </div>
        ))}
      </dl>
    </section>
  );
}
