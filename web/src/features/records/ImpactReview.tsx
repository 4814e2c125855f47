// Work since the last good check, the effect of the error on each piece, and its review.
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import type { AffectedWork, ImpactReview as Found, RecordOut } from "../../api/client";
import { impactReviewQuery } from "../../api/queries";
import { useEventName } from "../../app/eventKinds";
import { useHappening } from "../../app/events";
import { useHere } from "../../app/session";
import { Trouble, Waiting } from "../../ui/parts";
import { day, moment } from "../../ui/words";

const WORK_NAMES: Record<string, string> = { "set-up": "Set-up", orientation: "Orientation", job: "Job" };
/** Remarks on ticked work, by its key. */
type Looked = Record<string, string | undefined>;

export function ImpactReview({ record }: { record: RecordOut }) {
  const back = useQuery(impactReviewQuery(record.id));
  if (back.isPending) return <Waiting what="Loading…" />;
  if (!back.data) return <Trouble error={back.error} />;
  return <Review key={back.data.signed?.at} record={record} review={back.data} />;
}

function Review({ record, review }: { record: RecordOut; review: Found }) {
  const { session, may } = useHere();
  const happened = useHappening();
  const [note, setNote] = useState("");
  const [looked, setLooked] = useState<Looked>({});
  const { text, advice, effects, work, more_work, signed } = review;
  const right = may("save-check");
  const open = work.filter((each) => !each.reviewed).length;
  const ticked = Object.entries(looked).flatMap(([work, remark]) =>
    remark === undefined ? [] : [{ work, remark: remark.trim() }],
  );
  const said = work.length === 0 ? note.trim() !== "" : ticked.length > 0 || note.trim() !== "";
  const sign = () =>
    happened(
      {
        instrument: record.instrument,
        event: "impact-reviewed",
        record: record.id,
        note: note.trim(),
        lines: ticked,
      },
      `Review of ${record.instrument}`,
    );
  return (
    <div className="grid gap-3" data-impact-review>
      <p className="font-semibold">{text}</p>
      {advice
        // The step above shows this sentence already.
        .filter((each) => each.code !== "look-through")
        .map((each) => (
          <p key={each.code}>{each.text}</p>
        ))}
      <ul className="m-0 grid list-none gap-1 p-0">
        {effects
          .filter((_, i) => i === 0 || i === 2)
          .map((each) => (
            <li key={each.code}>{each.text}</li>
          ))}
      </ul>
      {work.length > 0 && (
        <section className="grid gap-1" aria-label="Work it may have affected">
          <h3 className="flex flex-wrap items-baseline justify-between gap-x-4 font-semibold">
            Work it may have affected
            <span className="sub font-normal">{open === 0 ? "All looked at" : `${open} of ${work.length} open`}</span>
          </h3>
          <ol className="m-0 grid list-none p-0">
            {work.map((each) => (
              <Line
                key={each.key}
                work={each}
                remark={looked[each.key]}
                allowed={right.allowed}
                zone={session.time_zone}
                onLooked={(remark) => setLooked((all) => ({ ...all, [each.key]: remark }))}
              />
            ))}
          </ol>
          {more_work > 0 && <p className="sub">{more_work} older pieces of work are not listed.</p>}
        </section>
      )}
      <Happened review={review} />
      {signed && (
        <p className="font-semibold" data-signed>
          Signed by {signed.by}, {moment(signed.at, session.time_zone)}
          {signed.note && `: ${signed.note}`}
        </p>
      )}
      {(!signed || open > 0) && (
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
          <button
            className="btn site"
            aria-disabled={!right.allowed || !said}
            onClick={() => right.allowed && said && void sign()}
          >
            Sign the review
          </button>
          <p className="sub">
            {!right.allowed
              ? right.text
              : said
                ? "Signed with your name."
                : work.length > 0
                  ? "Tick what you have looked at, or say what you reviewed."
                  : "Say what you reviewed: it is signed with your name."}
          </p>
        </>
      )}
    </div>
  );
}

/** One piece of work: its effect, a tick and a remark. */
function Line({
  work,
  remark,
  allowed,
  zone,
  onLooked,
}: {
  work: AffectedWork;
  remark: string | undefined;
  allowed: boolean;
  zone: string;
  onLooked: (remark: string | undefined) => void;
}) {
  const { reviewed } = work;
  const until = work.until && work.until !== work.at.slice(0, 10) ? ` to ${day(work.until, zone)}` : "";
  return (
    <li className="grid gap-1 border-t border-line py-2" data-work={work.what}>
      <div className="flex flex-wrap items-baseline justify-between gap-x-4">
        {work.what === "job" ? (
          <b>{work.name}</b>
        ) : (
          <Link className="font-semibold underline underline-offset-4" to={`/records/${work.key}`}>
            {work.name}
          </Link>
        )}
        <span className="sub">
          {WORK_NAMES[work.what]}, {day(work.at, zone)}
          {until}
          {work.crew && `, ${work.crew} crew`}
        </span>
      </div>
      <p>{work.effect}</p>
      {reviewed ? (
        <p className="sub" data-reviewed>
          {reviewed.by}, {moment(reviewed.at, zone)}: {reviewed.note || "looked at"}
        </p>
      ) : (
        <div className="flex flex-wrap items-center gap-x-3 gap-y-1">
          <label className="flex min-h-[44px] items-center gap-2">
            <input
              type="checkbox"
              className="size-6 shrink-0 accent-[var(--color-ink)]"
              disabled={!allowed}
              checked={remark !== undefined}
              onChange={(e) => onLooked(e.target.checked ? "" : undefined)}
            />
            Looked at
          </label>
          {remark !== undefined && (
            <input
              className="field min-w-[200px] flex-1"
              aria-label={`Remark on ${work.name}`}
              placeholder="Within tolerance; measured again; to be measured again"
              maxLength={300}
              value={remark}
              onChange={(e) => onLooked(e.target.value)}
            />
          )}
        </div>
      )}
    </li>
  );
}

function Happened({ review }: { review: Found }) {
  const { session } = useHere();
  const eventName = useEventName();
  if (review.events.length === 0) return null;
  return (
    <ol className="m-0 grid max-h-[260px] list-none gap-1 overflow-auto border-l-2 border-ink p-0 pl-3">
      {review.events.map((each, i) => (
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
  );
}
