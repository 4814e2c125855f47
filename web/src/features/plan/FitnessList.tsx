// Every instrument that could go, by what it would do: whether it is fit, why not, and how well the job can be done with it.
import { useState } from "react";
import { Link } from "react-router";
import { BudgetBar } from "../../ui/BudgetBar";
import { closed } from "../../ui/words";
import type { Fitness } from "./types";

const FIT: Record<Fitness["fit"], string> = { fit: "Fit", "fit-if": "Fit, if", "not-fit": "Not fit" };

export function FitnessList({ fitness, kit }: { fitness: Fitness[]; kit: string[] }) {
  const roles = [...new Set(fitness.map((each) => each.role))];
  return (
    <section className="card px-4 py-3 tab:px-5" aria-label="Every instrument">
      <h2>Every instrument for this job</h2>
      {roles.map((role) => (
        <div key={role} className="pt-2">
          <h3 className="font-semibold">{fitness.find((each) => each.role === role)?.role_title}</h3>
          <ul className="m-0 list-none divide-y divide-line p-0">
            {fitness
              .filter((each) => each.role === role)
              .map((each) => (
                <One key={each.tag} one={each} taken={kit.includes(each.tag)} />
              ))}
          </ul>
        </div>
      ))}
    </section>
  );
}

function One({ one, taken }: { one: Fitness; taken: boolean }) {
  const [open, setOpen] = useState(false);
  const total = one.budgets.map((budget) => `${budget.total_text} of ${budget.allowed_text}`).join(", ");
  const details = one.budgets.length > 0 || one.reasons.length > 1 || one.checks.length > 0;
  return (
    <li data-fitness={one.tag} data-fit={one.fit} className="py-1">
      <div className="grid items-baseline gap-x-4 tab:grid-cols-[92px_92px_minmax(0,1fr)_auto]">
        <Link
          to={`/instruments/${one.tag}`}
          className="tag text-[17px] font-bold leading-[44px] no-underline hover:underline"
        >
          {one.tag}
        </Link>
        <span className={`font-semibold ${one.fit === "not-fit" ? "text-coral" : ""}`}>{FIT[one.fit]}</span>
        <span className="min-w-0">
          {one.text} <span className="sub">{[one.place, taken ? "in the kit" : ""].filter(Boolean).join(", ")}</span>
        </span>
        {details && (
          <button className="link min-h-[44px] justify-self-start" aria-expanded={open} onClick={() => setOpen(!open)}>
            {total || "Why"}
          </button>
        )}
      </div>
      {open && (
        <div className="grid gap-3 pb-3">
          {one.checks.map((check) => (
            <p key={check.check}>
              {check.title}: {closed(check.why)}
            </p>
          ))}
          {one.reasons.slice(1).map((reason) => (
            <p key={reason.code}>{closed(reason.text)}</p>
          ))}
          {one.budgets.map((budget) => (
            <BudgetBar key={budget.quantity} answer={budget} />
          ))}
        </div>
      )}
    </li>
  );
}
