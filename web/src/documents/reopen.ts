// Where a draft is worked on, and a record opened again as one: whatever its kind.
import type { RecordOut } from "../api/client";
import { fromFile } from "../engine";
import { type CheckDocument, type Draft, begin } from "./draft";
import { ORIENTATION_KINDS } from "./orientation";

export function addressOf(draft: Pick<Draft, "id" | "kind">): string {
  if (draft.kind === "set-up") return `/set-up/${draft.id}`;
  if (draft.kind === "pre-survey") return `/bench/readiness/${draft.id}`;
  return ORIENTATION_KINDS.includes(draft.kind) ? `/orientation/${draft.id}` : `/bench/${draft.id}`;
}

/** A record's document as a draft that will stand in its place, with the reason. */
export async function reopened(record: RecordOut, owner: string, why: string): Promise<Draft> {
  const stage = record.stage === "as-left" ? ("as-left" as const) : ("as-found" as const);
  const document = { ...(await fromFile<CheckDocument>(record.document)), in_place_of: record.observed_at };
  return begin({
    kind: record.kind,
    instrument: record.instrument,
    owner,
    stage,
    pair: record.pair,
    amends: record.id,
    why,
    document,
  });
}
