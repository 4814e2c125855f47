// Which checks an instrument can have and should have: in an order that makes sense, with why, how long, what to bring.
import { useQuery } from "@tanstack/react-query";
import { Link, useParams } from "react-router";
import type { Instrument, Kind } from "../../api/client";
import { instrumentQuery, kindsQuery } from "../../api/queries";
import { useHere } from "../../app/session";
import { Back, Head, Trouble, Waiting } from "../../ui/parts";
import { Terms } from "../../ui/Terms";
import { checkState, closed, dueOn, lowered, plannedDay } from "../../ui/words";

export function Choose() {
  const { tag = "" } = useParams();
  const { session } = useHere();
  const instrument = useQuery(instrumentQuery(tag));
  const kinds = useQuery(kindsQuery);
  if (!instrument.data || !kinds.data)
    return instrument.error ? <Trouble error={instrument.error} /> : <Waiting what="Opening the bench…" />;
  const entry = instrument.data;
  const rows = entry.checks.flatMap((name) => {
    const kind = kinds.data.find((each) => each.kind === name);
    const standing = entry.standing.checks.find((each) => each.check === name);
    return kind && standing ? [{ kind, standing }] : [];
  });
  const due = rows.filter((row) => row.standing.state === "check-first" || row.standing.state === "hold");
  const minutes = due.reduce((sum, row) => sum + row.kind.minutes, 0);
  const first = due[0]?.kind.kind;
  return (
    <div className="grid gap-4">
      <Head
        title={
          rows.length === 0 ? (
            <>
              No check is available for <span className="tag">{entry.tag}</span> yet
            </>
          ) : due.length ? (
            <>
              <span className="tag">{entry.tag}</span>:{" "}
              {due.length === 1 ? "one check is due" : `${due.length} checks are due`}, about {minutes} minutes
            </>
          ) : (
            <>
              <span className="tag">{entry.tag}</span>: nothing is due
            </>
          )
        }
        sub={`${entry.model}. In the order they depend on each other.`}
        actions={
          <>
            <Back to={`/instruments/${entry.tag}`}>Back to {entry.tag}</Back>
            {rows.some((row) => row.kind.quick) && (
              <Link className="btn" to={`/bench/readiness/new/${entry.tag}`}>
                Pre-work check
              </Link>
            )}
          </>
        }
      />
      <ol className="card m-0 list-none divide-y divide-line p-0" aria-label="Checks of this instrument">
        {rows.map((row) => (
          <CheckRow
            key={row.kind.kind}
            tag={entry.tag}
            row={row}
            first={row.kind.kind === first}
            zone={session.time_zone}
          />
        ))}
      </ol>
    </div>
  );
}

type Row = { kind: Kind; standing: Instrument["standing"]["checks"][number] };

/** One kind of check: why, how it stands, what to bring. */
function CheckRow({
  tag,
  row: { kind, standing },
  first,
  zone,
}: {
  tag: string;
  row: Row;
  first: boolean;
  zone: string;
}) {
  return (
    <li
      data-check={kind.kind}
      data-state={standing.state}
      className="grid gap-x-6 gap-y-2 px-5 py-4 tab:grid-cols-[minmax(0,1fr)_auto] tab:items-center"
    >
      <div>
        <h2>
          {kind.title} <span className="sub font-normal">{kind.minutes} minutes</span>
        </h2>
        <p>
          <Terms text={kind.why} />
        </p>
        <p className="sub">
          <b>{checkState(standing)}</b>. {standing.reasons[0] && closed(standing.reasons[0].text)}
          {dueOn(standing) ? ` Due again on ${plannedDay(dueOn(standing) ?? "", zone)}.` : ""}
        </p>
        <p className="sub">Bring: {kind.bring.map(lowered).join("; ")}.</p>
      </div>
      <Link className={`btn site ${first ? "now" : ""}`} to={`/bench/new/${tag}/${kind.kind}`}>
        Begin
      </Link>
    </li>
  );
}
