// Which control point: typed or touched; a name that is not known is held against those that may be meant.
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { pointsQuery } from "../../api/queries";
import { nearMisses } from "../../engine";
import { type Known, asControlPoint } from "../../documents/orientation";
import { Named } from "../../ui/Named";

const MAX_SHOWN = 12;
const alike = (name: string) => name.replaceAll(/[\s-]/g, "").toUpperCase();

type Props = { label: string; value: string; taken?: string[]; onPick: (known: Known) => void };

export function PickPoint({ label, value, taken = [], onPick }: Props) {
  const points = useQuery(pointsQuery);
  const [sought, setSought] = useState(value);
  const [near, setNear] = useState<{ name: string; why: string }[]>([]);
  const [giving, setGiving] = useState(false);
  const list = points.data?.points ?? [];
  const type = (text: string) => {
    setSought(text);
    setNear([]);
    const found = list.find((each) => alike(each.name) === alike(text));
    if (found) return onPick(asControlPoint(found));
    if (text.trim().length > 2)
      void nearMisses(
        text.trim(),
        list.map((each) => each.name),
      ).then((nearMiss) => setNear(nearMiss.slice(0, 3)));
  };
  const pick = (name: string) => {
    const found = list.find((each) => each.name === name);
    if (!found) return;
    setSought(name);
    setNear([]);
    onPick(asControlPoint(found));
  };
  const fitting = list
    .filter(
      (each) =>
        !taken.includes(each.name) && (!sought.trim() || sought === value || alike(each.name).includes(alike(sought))),
    )
    .slice(0, MAX_SHOWN);
  const known = list.some((each) => each.name === value);
  return (
    <div className="grid gap-2" data-pick-point>
      <label className="grid gap-1">
        <span className="font-semibold">{label}</span>
        <input
          className="field !min-h-[64px] font-mono !text-[22px]"
          value={sought}
          onChange={(event) => type(event.target.value)}
          autoCapitalize="characters"
          autoComplete="off"
          aria-label={label}
        />
      </label>
      {near.map((each) => (
        <button
          key={each.name}
          className="btn justify-start text-left"
          data-near={each.name}
          onClick={() => pick(each.name)}
        >
          {each.why}
        </button>
      ))}
      {!known && (
        <div className="flex flex-wrap gap-2">
          {fitting.map((each) => (
            <button key={each.name} className="btn tag" onClick={() => pick(each.name)}>
              {each.name}
            </button>
          ))}
          <button className="btn" aria-expanded={giving} onClick={() => setGiving(!giving)}>
            Other point: enter coordinates
          </button>
        </div>
      )}
      {!list.length && !points.isPending && (
        <p className="sub">
          No control points yet.{" "}
          <Link className="link" to="/points">
            Import a table
          </Link>
          , or enter coordinates.
        </p>
      )}
      {giving && (
        <Give
          name={sought}
          onGive={(each) => {
            setGiving(false);
            setSought(each.name);
            onPick(each);
          }}
        />
      )}
    </div>
  );
}

function Give({ name, onGive }: { name: string; onGive: (known: Known) => void }) {
  const [answer, setAnswer] = useState({ name, e: "", n: "", h: "" });
  const set = (which: keyof typeof answer) => (text: string) => setAnswer({ ...answer, [which]: text });
  const ready = answer.name.trim() && answer.e.trim() && answer.n.trim();
  return (
    <div className="grid gap-3 border-l-[3px] border-ink pl-3">
      <div className="grid grid-cols-2 gap-3">
        <label className="grid gap-1">
          <span className="font-semibold">Name</span>
          <input
            className="field !min-h-[64px] font-mono"
            value={answer.name}
            onChange={(event) => set("name")(event.target.value)}
          />
        </label>
        <Named id="give-e" label="Easting" value={answer.e} onType={set("e")} />
        <Named id="give-n" label="Northing" value={answer.n} onType={set("n")} />
        <Named id="give-h" label="Height" value={answer.h} onType={set("h")} />
      </div>
      <button
        className="btn"
        disabled={!ready}
        onClick={() =>
          onGive({ name: answer.name.trim(), e: answer.e, n: answer.n, ...(answer.h.trim() ? { h: answer.h } : {}) })
        }
      >
        Use this point
      </button>
    </div>
  );
}
