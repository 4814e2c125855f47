// A draft: a document as far as it has been typed, on this device, written at each keystroke.
import { type CheckDocument, nowWithOffset } from "../engine/document";
import { clean } from "./clean";

export type { CheckDocument, Conditions, Length } from "../engine/document";
export { nowWithOffset };

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
  /** The observations as they were begun: what the method had filled in. */
  begun?: unknown;
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
    document: { kind: from.kind, units: { length: "m" }, observations: {} },
    ...from,
  };
}

/** Kinds that are sent as they are: their own pages clean them. */
const OWN_PAGES = new Set(["set-up", "free-station", "backsight", "pre-survey"]);

/** The document as it is sent: empty inputs left out, everything else to the letter. */
export function toSend(document: CheckDocument): CheckDocument {
  return OWN_PAGES.has(document.kind)
    ? document
    : { ...document, observations: clean(document.observations) as CheckDocument["observations"] };
}
