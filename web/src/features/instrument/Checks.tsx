// Every check of an instrument: where it stands, when it is due again, and the way to it.
import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import type { Instrument } from "../../api/client";
import { kindsQuery } from "../../api/queries";
import { useHere } from "../../app/session";
import { checkState, closed, dueOn, lowered, plannedDay } from "../../ui/words";

export function Checks({ item }: { item: Instrument }) {
  const { session } = useHere();
  const kinds = useQuery(kindsQuery).data ?? [];
  const order = new Map(item.checks.map((name, i) => [name, i]));
  const checks = [...item.standing.checks].sort((a, b) => (order.get(a.check) ?? 0) - (order.get(b.check) ?? 0));
  if (checks.length < 2) return null;
  return (
    <section className="card p-5" aria-label="Checks">
      <div className="flex flex-wrap items-baseline justify-between gap-x-4 pb-2">
        <h2>Checks</h2>
        {kinds.some((kind) => kind.quick && item.checks.includes(kind.kind)) && (
          <Link className="link inline-flex min-h-[44px] items-center" to={`/bench/readiness/new/${item.tag}`}>
            Pre-work check
          </Link>
        )}
      </div>
      <ul className="m-0 grid list-none gap-2 p-0">
        {checks.map((check) => (
          <li key={check.check} data-check={check.check} data-state={check.state} className="border-b border-line pb-2 last:border-0">
            <Link className="flex min-h-[44px] flex-wrap items-center justify-between gap-x-3 no-underline" to={`/bench/new/${item.tag}/${check.check}`}>
              <span className="font-[640] underline underline-offset-4">{check.title}</span>
              <span>{lowered(checkState(check))}</span>
            </Link>
            <span className="sub block">
              {dueOn(check) ? `Due again on ${plannedDay(dueOn(check) ?? "", session.time_zone)}.` : check.reasons[0] && closed(check.reasons[0].text)}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
