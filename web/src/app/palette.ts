// What the command palette offers for what was typed: places, instruments, checks of an instrument, points, records, terms.
// Pure; the page gives it what it knows.
import type { Schemas } from "../api/client";
import { type FleetRow, matches, tagKey } from "../documents/fleet";
import type { Findable } from "./places";

const OPEN = "naveta-palette";
export const openPalette = (): void => void window.dispatchEvent(new CustomEvent(OPEN));
export function onPalette(listener: () => void): () => void {
  window.addEventListener(OPEN, listener);
  return () => window.removeEventListener(OPEN, listener);
}

export type Sources = {
  places: Findable[];
  fleet: FleetRow[];
  kinds: { kind: string; title: string; applies_to: string[]; also: string }[];
  points: Pick<Schemas["PointOut"], "name">[];
  records: Pick<Schemas["RecordRow"], "id" | "instrument" | "kind" | "finding" | "observed_at" | "observed_by">[];
  terms: { term: string; also: string[]; meaning: string }[];
};
export type Offer = {
  group: "Places" | "Instruments" | "Checks" | "Points" | "Records" | "Terms";
  key: string;
  name: string;
  note: string;
  to?: string;
  term?: string;
};

const MAX_OFFERS = 6;
/** Whether every word stands somewhere in the names. */
export const answers = (names: string, sought: string): boolean =>
  sought
    .toLowerCase()
    .split(/\s+/)
    .every((word) => names.toLowerCase().includes(word));

/** The instrument a text begins or ends with ("lv7 peg", "peg lv7"), and the rest of it. */
export function instrumentIn(text: string, fleet: FleetRow[]): { row: FleetRow; rest: string } | null {
  const words = text.trim().split(/\s+/);
  for (const long of [1, 2]) {
    for (const [tag, rest] of [
      [words.slice(0, long), words.slice(long)],
      [words.slice(-long), words.slice(0, -long)],
    ]) {
      const key = tagKey((tag ?? []).join(""));
      const row = /\d/.test(key) ? fleet.find((each) => tagKey(each.tag) === key) : undefined;
      if (row) return { row, rest: (rest ?? []).join(" ") };
    }
  }
  return null;
}

/** What is offered, in groups; nothing typed offers the places. */
export function offers(text: string, sources: Sources): Offer[] {
  const sought = text.trim();
  const places = sources.places.filter((place) => !sought || answers(`${place.name} ${place.also}`, sought));
  const placeOffers = places.map((place): Offer => ({
    group: "Places",
    key: `place ${place.name}`,
    name: place.name,
    note: place.group === "Page" ? "" : place.group,
    to: place.to,
  }));
  if (!sought) return placeOffers;
  return [...ofInstruments(sought, sources), ...placeOffers.slice(0, MAX_OFFERS), ...ofRest(sought, sources)];
}

function ofInstruments(sought: string, { fleet, kinds, records }: Sources): Offer[] {
  const found = instrumentIn(sought, fleet);
  if (!found)
    return fleet
      .filter((row) => matches(row, sought))
      .slice(0, MAX_OFFERS)
      .map(instrumentOffer);
  const { row, rest } = found;
  const checks = kinds.filter(
    (kind) => kind.applies_to.includes(row.kind) && (!rest || answers(`${kind.title} ${kind.kind} ${kind.also}`, rest)),
  );
  const own = records.filter(
    (record) =>
      record.instrument === row.tag &&
      (!rest || answers(`${kindTitle(kinds, record.kind)} ${record.observed_by} ${record.observed_at}`, rest)),
  );
  return [
    ...(rest ? [] : [instrumentOffer(row)]),
    ...checks.slice(0, MAX_OFFERS).map((kind): Offer => ({
      group: "Checks",
      key: `check ${row.tag} ${kind.kind}`,
      name: `${kind.title} of ${row.tag}`,
      note: "begin",
      to: `/bench/new/${row.tag}/${kind.kind}`,
    })),
    ...own.slice(0, MAX_OFFERS).map((record) => recordOffer(record, kinds)),
  ];
}

const kindTitle = (kinds: Sources["kinds"], name: string): string =>
  kinds.find((kind) => kind.kind === name)?.title ?? name;
const instrumentOffer = (row: FleetRow): Offer => ({
  group: "Instruments",
  key: `instrument ${row.tag}`,
  name: row.tag,
  note: `${row.model}, ${row.crew ? `${row.crew} crew` : row.place || "Yard"}`,
  to: `/instruments/${row.tag}`,
});
const recordOffer = (record: Sources["records"][number], kinds: Sources["kinds"]): Offer => ({
  group: "Records",
  key: `record ${record.id}`,
  name: `${kindTitle(kinds, record.kind)} of ${record.instrument}, ${record.observed_at.slice(0, 10)}`,
  note: record.finding ?? "",
  to: `/records/${record.id}`,
});

function ofRest(sought: string, { kinds, points, records, terms, fleet }: Sources): Offer[] {
  if (instrumentIn(sought, fleet)) return [];
  const checks = kinds.filter((kind) => answers(`${kind.title} ${kind.kind} ${kind.also}`, sought));
  const named = points.filter((point) => answers(point.name, sought));
  const own = records.filter((record) =>
    answers(
      `${kindTitle(kinds, record.kind)} ${record.instrument} ${record.observed_by} ${record.observed_at}`,
      sought,
    ),
  );
  const meant = terms.filter((term) => answers([term.term, ...term.also].join(" "), sought));
  return [
    ...checks.slice(0, MAX_OFFERS).map((kind): Offer => ({
      group: "Checks",
      key: `check ${kind.kind}`,
      name: kind.title,
      note: "choose the instrument",
      to: `/bench?check=${kind.kind}`,
    })),
    ...named.slice(0, MAX_OFFERS).map((point): Offer => ({
      group: "Points",
      key: `point ${point.name}`,
      name: point.name,
      note: "control point",
      to: `/points?q=${encodeURIComponent(point.name)}`,
    })),
    ...own.slice(0, MAX_OFFERS).map((record) => recordOffer(record, kinds)),
    ...meant.slice(0, MAX_OFFERS).map((term): Offer => ({
      group: "Terms",
      key: `term ${term.term}`,
      name: term.term,
      note: term.meaning,
      term: term.term,
    })),
  ];
}
