// One staff from one set-up: its distance, the reading being typed, the earlier ones beside it, what is wrong or apart.
import type { ReactNode } from "react";
import type { Fault, Preview } from "../../api/client";
import type { CheckDocument } from "../../sheet/draft";
import { FaultLine } from "../../ui/parts";
import { type Spot, type Staff, WIRES, countOf, faultsOfSight, sentIndex, sentPath, sightOf, threeWire, valueAt, wellId } from "../../sheet/entry";
import { Well, type WellKey } from "../../ui/Well";
import { setupName } from "../../ui/words";

export type SightSoFar = Preview["partial"]["sights"][number];
export type Keys = {
  type: (at: Spot, value: string) => void;
  key: (at: Spot, key: WellKey) => void;
  here: (at: Spot) => void;
  show: (at: Pick<Spot, "setup" | "staff">, index: number) => void;
  strike: (at: Spot) => void;
  putBack: (at: Pick<Spot, "setup" | "staff">, index: number) => void;
};

type Props = { document: CheckDocument; setup: number; staff: Staff; index: number; filled: boolean; faults: Fault[]; said: SightSoFar | undefined; unit: string; keys: Keys };
export function SightCell({ document, setup, staff, index, filled, faults, said, unit, keys }: Props) {
  const at = { setup, staff };
  const sight = sightOf(document, at);
  const three = threeWire(sight);
  const mine = faultsOfSight(faults, at);
  const name = `${setupName(setup)}, staff ${staff.toUpperCase()}`;
  const spots: Spot[] = (three ? WIRES : (["reading"] as const)).map((what) => ({ ...at, what, index }));
  const distance: Spot = { ...at, what: "distance", index: 0 };
  const shown = new Set([distance, ...spots].map((spot) => sentPath(document, spot)));
  const elsewhere = mine.filter((one) => !shown.has(one.path));
  const well = (spot: Spot, label: string, placeholder?: string) => (
    <Well
      key={spot.what}
      id={wellId(spot)}
      label={label}
      narrow={three}
      placeholder={placeholder}
      value={valueAt(document, spot)}
      faults={mine.filter((one) => one.path === sentPath(document, spot))}
      onType={(value) => keys.type(spot, value)}
      onKey={(key) => keys.key(spot, key)}
      onHere={() => keys.here(spot)}
    />
  );
  const L = staff.toUpperCase();
  const byWires = !valueAt(document, distance).trim() ? said?.distance_text : null;
  return (
    <div className="grid min-w-0 content-start grid-cols-[100px_minmax(0,1fr)] gap-x-2" data-sight={`${setup}-${staff}`}>
      {three ? (
        <div className="col-span-2 grid gap-1">
          <Label>
            Staff on {L}, {unit}
          </Label>
          {spots.map((spot) => (
            <Line key={spot.what} word={spot.what}>
              {well(spot, `${name}, ${spot.what} wire`)}
            </Line>
          ))}
          <Line word="distance">{well(distance, `Distance to ${L}, ${setupName(setup)}`, byWires ?? "by wires")}</Line>
        </div>
      ) : (
        <>
          <div className="min-w-0" data-from-layout={filled || undefined}>
            <Label>
              To {L}, {unit}
            </Label>
            {well(distance, `Distance to ${L}, ${setupName(setup)}`)}
          </div>
          <div className="min-w-0">
            <Label>
              Staff on {L}, {unit}
            </Label>
            {spots.map((spot) => well(spot, `${name}, reading`))}
          </div>
        </>
      )}
      <div className="col-span-2 pt-1">
        {[distance, ...spots].map((spot) =>
          mine.filter((one) => one.path === sentPath(document, spot)).map((one) => <FaultLine key={one.path} id={`${wellId(spot)}-fault`} fault={one} beside />),
        )}
        <Beside document={document} at={{ ...at, what: "reading", index }} said={said} keys={keys} name={name} />
        {elsewhere.map((one) => (
          <FaultLine key={one.path} fault={one} />
        ))}
      </div>
    </div>
  );
}

function Label({ children }: { children: ReactNode }) {
  return <span className="sub block pb-1 font-[600]">{children}</span>;
}

function Line({ word, children }: { word: string; children: ReactNode }) {
  return (
    <div className="grid grid-cols-[72px_minmax(0,1fr)] items-center gap-2">
      <span className="sub">{word}</span>
      {children}
    </div>
  );
}

/** The readings of this sight that are not in the well, the spread, the one that lies apart, and the struck ones. */
function Beside({ document, at, said, keys, name }: { document: CheckDocument; at: Spot; said: SightSoFar | undefined; keys: Keys; name: string }) {
  const sight = sightOf(document, at);
  const three = threeWire(sight);
  const count = countOf(sight);
  const texts = Array.from({ length: count }, (_, i) => (three ? WIRES.map((w) => sight.wires?.[i]?.[w] ?? "").join(" ").trim() : (sight.readings?.[i] ?? "")));
  const apart = (i: number): boolean => {
    const sent = sentIndex(sight, i);
    const base = `observations.setups[${at.setup}].${at.staff}`;
    return sent !== null && said?.apart === `${base}.${three ? "wires" : "readings"}[${sent}]`;
  };
  const others = texts.map((text, i) => ({ text, i })).filter(({ text, i }) => i !== at.index && text.trim());
  const own = texts[at.index]?.trim();
  if (!others.length && !said?.apart_text && !sight.struck?.length) return null;
  return (
    <div className="flex flex-wrap items-center gap-x-2 gap-y-1 pt-2 font-mono text-[16px]">
      {others.map(({ text, i }) => (
        <button
          key={i}
          data-apart={apart(i) || undefined}
          className="min-h-[48px] rounded-md border border-field bg-card px-2 data-[apart]:border-[3px] data-[apart]:border-coral"
          aria-label={`${name}: ${text}${apart(i) ? ", stands apart" : ""}, mend it`}
          onClick={() => keys.show(at, i)}
        >
          {text}
        </button>
      ))}
      {own && others.length > 0 && !three && (
        <button data-strike className="min-h-[48px] px-1 font-sans underline underline-offset-4" aria-label={`Strike ${own}, ${name}`} onClick={() => keys.strike(at)}>
          strike {own}
        </button>
      )}
      {said?.text && <span className="sub font-sans">{said.text}</span>}
      {sight.struck?.map((value, i) => (
        <button key={`${value}-${i}`} className="sub min-h-[48px] px-2 line-through" aria-label={`${value} is struck: put it back, ${name}`} onClick={() => keys.putBack(at, i)}>
          {String(value)}
        </button>
      ))}
      {said?.apart_text && <p className="fault w-full font-sans">{said.apart_text}</p>}
    </div>
  );
}
