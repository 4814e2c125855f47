// What was done with an instrument since it was last good, what the error may have caused, and who has looked.
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { RecordOut } from "../../api/client";
import { impactReviewQuery } from "../../api/queries";
import { useEventName } from "../../app/eventKinds";
import { useHappening } from "../../app/events";
import { useHere } from "../../app/session";
import { Trouble, Waiting } from "../../ui/parts";
import { moment } from "../../ui/words";

export function ImpactReview({ record }: { record: RecordOut }) {
  const { session, may } = useHere();
  const back = useQuery(impactReviewQuery(record.id));
  const happened = useHappening();
  const eventName = useEventName();
  const [note, setNote] = useState("");
  if (back.isPending) return <Waiting what="Loading…" />;
  if (!back.data) return <Trouble error={back.error} />;
  const { text, advice, effects, events, signed } = back.data;
  const right = may("save-check");
  const sign = () =>
    happened(
      {
        instrument: record.instrument,
        event: "impact-reviewed",
        record: record.id,
        note: note.trim() || "Reviewed: no harm.",
      },
      `Review of ${record.instrument}`,
    );
  return (
    <div className="grid gap-3" data-impact-review>
      <p className="font-semibold">{text}</p>
      {advice.map((each) => (
        <p key={each.code}>{each.text}</p>
      ))}
      <ul className="m-0 grid list-none gap-1 p-0">
        {effects
          .filter((_, i) => i === 0 || i === 2)
          .map((each) => (
            <li key={each.code}>{each.text}</li>
          ))}
      </ul>
      {events.length > 0 && (
        <ol className="m-0 grid max-h-[260px] list-none gap-1 overflow-auto border-l-2 border-ink p-0 pl-3">
          {events.map((each, i) => (
            <li key={i}>
              <span className="sub">{moment(each.at, session.time_zone)}</span>
              <span className="block">
                <b>{eventName(each.event)}</b>
                {each.crew ? ` by ${each.crew} crew` : ""}
                {each.note ? `: ${each.note}` : ""}
              </span>
            </li>
          ))}
        </ol>
      )}
      {signed ? (
        <p className="font-semibold" data-signed>
          {signed.by}, {moment(signed.at, session.time_zone)}: {signed.note}
        </p>
      ) : (
        <>
          <label className="grid gap-1 font-semibold">
            What you reviewed
            <textarea
              className="field"
              rows={2}
              maxLength={500}
              value={note}
              onChange={(e) => setNote(e.target.value)}
              placeholder="Closures of the flood wall runs: within 2 mm"
            />
          </label>
          <button className="btn site" aria-disabled={!right.allowed} onClick={() => right.allowed && void sign()}>
            Reviewed: no harm
          </button>
          <p className="sub">{right.allowed ? "Signed with your name." : right.text}</p>
        </>
      )}
    </div>
  );
}
