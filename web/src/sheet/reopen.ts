// Where a draft is worked on, and a record opened again as one: whatever its kind.
import type { RecordOut } from "../api/client";
import { type CheckDocument, type Draft, begin } from "./draft";
import { fromFile } from "./fromFile";
import { ORIENT_KINDS, type OrientDocument, fromOrientFile } from "./orient";
import { rowsFromFile } from "./rows";
import { type SetUpDocument, fromSetUpFile } from "./setUp";

export function addressOf(draft: Pick<Draft, "id" | "kind">): string {
  if (draft.kind === "set-up") return `/stand/${draft.id}`;
  if (draft.kind === "pre-survey") return `/bench/round/${draft.id}`;
  return ORIENT_KINDS.includes(draft.kind) ? `/stand/orient/${draft.id}` : `/bench/${draft.id}`;
}

/** A record's document as a draft that will stand in its place, with the reason. */
export function reopened(record: RecordOut, owner: string, why: string): Draft {
  const stage = record.stage === "as-left" ? ("as-left" as const) : ("as-found" as const);
  return begin({ kind: record.kind, instrument: record.instrument, owner, stage, pair: record.pair, amends: record.id, why, document: documentOf(record) });
}

function documentOf(record: RecordOut): CheckDocument {
  const document: unknown = record.document;
  if (record.kind === "set-up") return fromSetUpFile(document as SetUpDocument) as unknown as CheckDocument;
  if (ORIENT_KINDS.includes(record.kind)) return fromOrientFile(document as OrientDocument, [], null) as unknown as CheckDocument;
  if (record.kind !== "two-peg") return rowsFromFile(document as CheckDocument);
  return fromFile(document as CheckDocument);
}
