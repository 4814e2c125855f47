// A draft: a check document as far as it has been typed, on this device, written at each keystroke.
import { clean } from "./clean";

export type Length = "m" | "mm" | "cm" | "ft" | "usft" | "in";
export type Look = "yes" | "no" | "not-looked";
export type Wires = { upper?: string; middle?: string; lower?: string };
export type Sight = { distance?: string; readings?: string[]; wires?: Wires[]; struck?: string[] };
export type SetUp = { a: Sight; b: Sight };

export type CheckDocument = {
  kind: string;
  units?: { length?: Length; angle?: string };
  conditions?: { temperature_c?: string; wind?: string; minutes_on?: string; support?: string };
  remark?: string;
  observations: {
    layout?: string;
    setups?: SetUp[];
    curvature?: boolean;
    stadia_constant?: number;
    looks?: { bubble_holds?: Look; line_returns?: Look };
  };
};

/** A draft of one kind of document; without more said, of a check. */
export type Draft<D extends { kind: string } = CheckDocument> = {
  id: string;
  kind: string;
  instrument: string;
  stage: "as-found" | "as-left";
  pair: string | null;
  amends: string | null;
  why: string;
  owner: string;
  observedBy: string | null;
  entry: "typed" | "file" | "csv";
  /** A trainee's finished draft, left on this device for a chief to save. */
  left: boolean;
  startedAt: string;
  changedAt: string;
  /** Paths of distances taken from the layout: Enter passes over them. */
  filled: string[];
  /** The named way a check of rows is taken in. */
  way?: string;
  /** The round this check is taken in. */
  round?: string;
  document: D;
};

export type Begin = Pick<Draft, "kind" | "instrument" | "owner"> & Partial<Draft>;

/** A new draft; the device makes the id that the record will keep. */
export function begin(from: Begin): Draft {
  const now = nowWithOffset();
  return {
    id: crypto.randomUUID(),
    stage: "as-found",
    pair: null,
    amends: null,
    why: "",
    observedBy: null,
    entry: "typed",
    left: false,
    startedAt: now,
    changedAt: now,
    filled: [],
    document: { kind: from.kind, units: { length: "m" }, observations: { setups: [emptySetUp(), emptySetUp()], looks: {} } },
    ...from,
  };
}

export function emptySetUp(): SetUp {
  return { a: { readings: [""] }, b: { readings: [""] } };
}

/** The present moment with the device's own offset, as records keep it. */
export function nowWithOffset(date: Date = new Date()): string {
  const minutes = -date.getTimezoneOffset();
  const sign = minutes < 0 ? "-" : "+";
  const pad = (n: number) => String(Math.trunc(Math.abs(n))).padStart(2, "0");
  const local = new Date(date.getTime() + minutes * 60_000).toISOString().slice(0, 19);
  return `${local}${sign}${pad(minutes / 60)}:${pad(minutes % 60)}`;
}

/** Kinds that are sent as they are: their own pages clean them. */
const OWN_PAGES = new Set(["set-up", "free-station", "backsight", "pre-survey"]);

/** The document as it is sent: empty wells left out, everything else to the letter. */
export function toSend(document: CheckDocument): CheckDocument {
  if (document.kind !== "two-peg") return OWN_PAGES.has(document.kind) ? document : { ...document, observations: clean(document.observations) as CheckDocument["observations"] };
  const setups = (document.observations.setups ?? []).map((setup) => ({ a: sightToSend(setup.a), b: sightToSend(setup.b) }));
  return { ...document, observations: { ...document.observations, setups } };
}

function sightToSend(sight: Sight): Sight {
  const sent: Sight = {};
  if (sight.distance?.trim()) sent.distance = sight.distance;
  const readings = (sight.readings ?? []).filter((one) => one.trim());
  if (readings.length) sent.readings = readings;
  const wires = (sight.wires ?? []).map(wiresToSend).filter((one) => Object.keys(one).length);
  if (wires.length) sent.wires = wires;
  // Three wires are going to be read here: what is missing is named by wire.
  else if (sight.wires && !readings.length) sent.wires = [{}];
  if (sight.struck?.length) sent.struck = sight.struck;
  return sent;
}

function wiresToSend(wires: Wires): Wires {
  return Object.fromEntries(Object.entries(wires).filter(([, value]) => value?.trim()));
}

/** Whether every well that must be filled is filled: all that can be said of a draft without the core. */
export function looksFinished(document: CheckDocument): boolean {
  const setups = toSend(document).observations.setups ?? [];
  const full = (sight: Sight) =>
    sight.wires ? sight.wires.every((w) => w.upper && w.middle && w.lower) : Boolean(sight.distance && sight.readings?.length);
  return setups.length >= 2 && setups.every((setup) => full(setup.a) && full(setup.b));
}
