// A check that has not reached the house yet, shown as the record it will be.
import type { RecordOut } from "../../api/client";
import type { Parcel } from "../../device/device";

type Body = { stage: string; pair: string | null; amends: string | null; why: string; observed_at: string; observed_by: string | null; entry: string };

/** null for a parcel this device could not reckon. */
export function localRecord(parcel: Parcel, by: string): RecordOut | null {
  if (!parcel.reckoned) return null;
  const body = parcel.body as Body;
  const { document, result } = parcel.reckoned;
  return {
    id: parcel.id,
    instrument: parcel.instrument,
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
    device_says: [],
    previous: "",
    digest: "",
    arrival: 0,
    sent_digest: "",
    broken: null,
  };
}
