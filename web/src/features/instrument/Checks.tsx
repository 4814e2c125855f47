// Every check of an instrument as a compact table: where it stands, what was found, when it is due again, and the way to it.
import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import type { Instrument } from "../../api/client";
import { historyQuery } from "../../api/queries";
import { useHere } from "../../app/session";
import { fixed } from "../../api/writing";
import { useKinds } from "../../hooks/useKinds";
import { useNarrow } from "../../hooks/useNarrow";
import { GradeMark, LimitBar } from "../../ui/icons";
import { checkState, closed, day, dueOn } from "../../ui/words";

type Check = Instrument["standing"]["checks"][number];

export function Checks({ item }: { item: Instrument }) {
  const kinds = useKinds();
  const order = new Map(item.checks.map((name, i) => [name, i]));
  const checks = [...item.standing.checks].sort((a, b) => (order.get(a.check) ?? 0) - (order.get(b.check) ?? 0));
  if (checks.length < 2) return null;
  return (
    <section className="card px-4 py-3 tab:px-5" aria-label="Checks">
      <div className="flex flex-wrap items-baseline justify-between gap-x-4">
        <h2>Checks</h2>
        {kinds.some((kind) => kind.quick && item.checks.includes(kind.kind)) && (
          <Link className="link inline-flex min-h-[44px] items-center" to={`/bench/readiness/new/${item.tag}`}>
            Pre-work check
          </Link>
        )}
      </div>
      <ul className="m-0 list-none divide-y divide-line p-0">
        {checks.map((check) => (
          <Line key={check.check} tag={item.tag} check={check} />
        ))}
      </ul>
    </section>
  );
}

function Line({ tag, check }: { tag: string; check: Check }) {
  const { session } = useHere();
  const narrow = useNarrow();
  const due = dueOn(check);
  return (
    <li
      data-check={check.check}
      data-state={check.state}
      className="grid items-center gap-x-4 py-1 tab:grid-cols-[minmax(150px,1.1fr)_150px_minmax(0,1.4fr)_150px]"
    >
      <Link
        className="inline-flex min-h-[44px] items-center font-semibold underline underline-offset-4 tab:min-h-[36px]"
        to={`/bench/new/${tag}/${check.check}`}
      >
        {check.title}
      </Link>
      <span className={check.state === "hold" || check.needed ? "font-semibold" : ""}>{checkState(check)}</span>
      {!narrow && <Latest tag={tag} check={check} />}
      <span className="sub">{due ? `Due ${day(due, session.time_zone)}` : `${check.minutes} minutes`}</span>
      {!due && check.reasons[0] && (
        <span className="sub col-span-full max-tab:pb-1 tab:pb-1">{closed(check.reasons[0].text)}</span>
      )}
    </li>
  );
}

function Latest({ tag, check }: { tag: string; check: Check }) {
  const series = useQuery(historyQuery(tag)).data?.find(({ of }) => of === check.check)?.series;
  const last = series?.points.at(-1);
  if (!series || !last) return <span className="sub">{series ? "not done yet" : ""}</span>;
  return (
    <span className="flex min-w-0 items-center gap-2">
      <GradeMark grade={last.grade as never} quiet />
      <LimitBar
        value={last.value}
        u95={last.u95}
        limit={last.use}
        label={`${fixed(last.value, 2)} ${series.unit_label}, limit ${fixed(last.use, 2)}`}
        width={84}
      />
    </span>
  );
}
