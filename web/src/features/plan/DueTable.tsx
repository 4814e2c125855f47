// Checks that are due, a line each: the day, the instrument, the check with its minutes, and why.
import { Link } from "react-router";
import { useHere } from "../../app/session";
import { type Due, type OfInstrument, byInstrument, isCheck } from "../../documents/plan";
import { closed, day, whereabouts } from "../../ui/words";

type Props = { label: string; minutes: number; due: Due[]; empty?: string; onSkip: (due: Due) => void };

export function DueTable({ label, minutes, due, empty, onSkip }: Props) {
  return (
    <section className="card px-4 py-3 tab:px-5" aria-label={label}>
      <h2>
        {label}
        {due.length > 0 && minutes > 0 && <span className="sub font-semibold">: {minutes} minutes</span>}
      </h2>
      {!due.length && <p className="sub py-1">{empty}</p>}
      <ul className="m-0 list-none divide-y divide-line p-0">
        {byInstrument(due).map((one) => (
          <Line key={one.tag} one={one} onSkip={onSkip} />
        ))}
      </ul>
    </section>
  );
}

function Line({ one, onSkip }: { one: OfInstrument; onSkip: (due: Due) => void }) {
  const first = one.due[0];
  if (!first) return null;
  return (
    <li data-due={one.tag} className="grid gap-x-4 py-1 tab:grid-cols-[104px_84px_minmax(0,1fr)]">
      <span
        className={`leading-[36px] max-tab:hidden ${first.state === "overdue" ? "font-semibold text-coral" : "sub"}`}
      >
        {day(first.due_on, "UTC")}
      </span>
      <Link
        to={`/instruments/${one.tag}`}
        className="tag text-[17px] font-bold leading-[48px] desk:leading-[36px] no-underline hover:underline"
      >
        {one.tag}
      </Link>
      <div className="min-w-0">
        {one.due.map((due) => (
          <Check key={due.check} due={due} other={due.due_on !== first.due_on} onSkip={onSkip} />
        ))}
        <p className="sub pb-1">
          {whereabouts(first)}. {one.reasons.map(closed).join(" ")}
        </p>
      </div>
    </li>
  );
}

function Check({ due, other, onSkip }: { due: Due; other: boolean; onSkip: (due: Due) => void }) {
  const { may } = useHere();
  const to = isCheck(due) ? `/bench/new/${due.tag}/${due.check}` : `/instruments/${due.tag}`;
  return (
    <div
      className="flex min-h-[48px] flex-wrap items-center gap-x-3 desk:min-h-[36px]"
      data-check={due.check}
      data-state={due.state}
    >
      <Link className="font-semibold underline underline-offset-4" to={to}>
        {due.title}
      </Link>
      <span className="sub">
        {[
          due.minutes > 0 ? `${due.minutes} minutes` : "",
          due.state === "overdue" ? "before it goes out" : "",
          other ? `due ${day(due.due_on, "UTC")}` : "",
        ]
          .filter(Boolean)
          .join(", ")}
      </span>
      {due.can_wait && may("skip-check").allowed && (
        <button
          className="link ml-auto min-h-[48px] px-3 desk:min-h-[36px]"
          aria-label={`Skip: ${due.title} of ${due.tag}`}
          onClick={() => onSkip(due)}
        >
          Skip
        </button>
      )}
    </div>
  );
}
