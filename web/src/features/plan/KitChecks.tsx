// The checks of a kit in their order: one after the other, with what each shares with those before it.
import { Link } from "react-router";
import { closed } from "../../ui/words";
import type { Kit } from "./types";

type Props = { kit: Kit; where: "before-leaving" | "on-site"; title: string };

export function KitChecks({ kit, where, title }: Props) {
  const checks = kit.checks.filter((check) => check.where === where);
  if (!checks.length) return null;
  const minutes = checks.reduce((sum, check) => sum + check.minutes, 0);
  return (
    <section className="card px-4 py-3 tab:px-5" aria-label={title}>
      <h2>
        {title}
        <span className="sub font-semibold">: {minutes} minutes</span>
      </h2>
      <ol className="m-0 list-none divide-y divide-line p-0">
        {checks.map((check, i) => (
          <li
            key={`${check.tag}-${check.check}`}
            className="grid grid-cols-[28px_minmax(0,1fr)_auto] gap-x-3 py-1"
            data-check={`${check.tag}/${check.check}`}
          >
            <b className="leading-[48px]">{i + 1}</b>
            <div className="min-w-0">
              <Link
                className="inline-block font-semibold leading-[48px] underline underline-offset-4"
                to={`/bench/new/${check.tag}/${check.check}`}
              >
                {check.tag}: {check.title}
              </Link>
              <p className="sub pb-1">
                {closed(check.why)}
                {check.shares && ` Shares ${check.shares}.`}
              </p>
            </div>
            <span className="whitespace-nowrap leading-[48px]">{check.minutes} min</span>
          </li>
        ))}
      </ol>
    </section>
  );
}
