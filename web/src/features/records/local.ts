// A check that has not reached the server yet, shown as the record it will be.
import type { RecordOut } from "../../api/client";
import type { OutboxItem } from "../../device/device";

type Body = {
  stage: string;
  pair: string | null;
  amends: string | null;
  why: string;
  observed_at: string;
  observed_by: string | null;
  entry: string;
};

/** null for a outbox item this device could not calculate. */
export function localRecord(item: OutboxItem, by: string): RecordOut | null {
  if (!item.device_result) return null;
  const body = item.body as Body;
  const { document, result } = item.device_result;
  return {
    id: item.id,
    instrument: item.instrument,
    category: "check",
    kind: result.kind,
    stage: body.stage,
    pair: body.pair,
    as_left: null,
    amends: body.amends,
    amended_by: null,
    amended_why: "",
    why: body.why,
    observed_at: body.observed_at,
    received_at: "",
    observed_by: body.observed_by ?? by,
    entered_by: by,
    entry: body.entry,
    sequence: 0,
    grade: result.verdict.grade,
    finding: result.finding.text,
    part: result.verdict.parts[0] ?? null,
    note: "",
    document: document as RecordOut["document"],
    result,
    core_version: result.core_version,
    device: null,
    device_notes: [],
    taken_out_for: "",
    previous: "",
    digest: "",
    arrival: 0,
    sent_digest: "",
    broken: null,
  };
}
