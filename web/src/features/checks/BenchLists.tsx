// On the bench: what is due for one's crew, with its minutes; and what was found last.
import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { fleetQuery, myRecordsQuery } from "../../api/queries";
import { useHere, usePerson } from "../../app/session";
import { minutesOf } from "../../documents/fleet";
import { inOrder } from "../../documents/order";
import { useKinds } from "../../hooks/useKinds";
import { GradeMark } from "../../ui/icons";
import { moment } from "../../ui/words";

const MAX_ROWS = 8;
const LATEST = 6;

/** Instruments of the crew that wait for a check; without a crew, those of everybody. */
export function DueForUs() {
  const { crew } = usePerson();
  const rows = (useQuery(fleetQuery).data?.rows ?? []).filter(
    (row) => row.needed.length > 0 && (crew ? row.crew === crew : true),
  );
  const minutes = rows.reduce((sum, row) => sum + minutesOf(row), 0);
  return (
    <section className="card px-5 py-3" aria-label="Due">
      <h2>
        {crew ? `Due for ${crew} crew` : "Due"}
        {rows.length > 0 && <span className="sub font-semibold">: {minutes} minutes</span>}
      </h2>
      {!rows.length && <p className="sub py-2">Nothing waits for a check.</p>}
      <ul className="m-0 list-none divide-y divide-line p-0">
        {rows.slice(0, MAX_ROWS).map((row) => (
          <li key={row.tag} data-due={row.tag} className="flex flex-wrap items-center gap-x-4 py-1">
            <Link
              className="tag inline-flex min-h-[44px] items-center text-[18px] font-bold underline underline-offset-4"
              to={`/bench/new/${row.tag}${row.needed.length === 1 ? `/${row.needed[0]?.check}` : ""}`}
            >
              {row.tag}
            </Link>
            <span className="min-w-0 flex-1 truncate">{row.needed.map((check) => check.title).join(", ")}</span>
            <span className="sub">{minutesOf(row)} minutes</span>
          </li>
        ))}
      </ul>
      {rows.length > MAX_ROWS && (
        <Link className="link" to="/fleet?state=check-first&state=hold">
          {rows.length - MAX_ROWS} more
        </Link>
      )}
    </section>
  );
}

/** What this person found last. */
export function LastFindings() {
  const { username } = usePerson();
  const { session } = useHere();
  const kinds = useKinds();
  const records = (useQuery(myRecordsQuery(username)).data?.records ?? [])
    .filter((record) => record.amended_by === null)
    .sort((one, other) => inOrder(other.observed_at, one.observed_at))
    .slice(0, LATEST);
  if (!records.length) return null;
  return (
    <section className="card px-5 py-3" aria-label="Your last findings">
      <h2>Your last findings</h2>
      <ul className="m-0 list-none divide-y divide-line p-0">
        {records.map((record) => (
          <li key={record.id} className="grid grid-cols-[minmax(0,1fr)_auto] items-center gap-x-4 py-1">
            <Link className="min-h-[44px] min-w-0 no-underline" to={`/records/${record.id}`}>
              <span className="block truncate">
                <span className="tag underline underline-offset-4">{record.instrument}</span>{" "}
                {kinds.find((kind) => kind.kind === record.kind)?.title ?? record.kind}
              </span>
              <span className="sub block truncate">
                {moment(record.observed_at, session.time_zone)}. {record.finding}
              </span>
            </Link>
            {record.grade && <GradeMark grade={record.grade as never} quiet />}
          </li>
        ))}
      </ul>
    </section>
  );
}
