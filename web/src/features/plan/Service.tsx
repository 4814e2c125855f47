// Service: what is away, what comes due for it, and what it cost by year and model.
import { useInfiniteQuery, useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import type { Schemas } from "../../api/client";
import { dueQuery, serviceCostsQuery } from "../../api/queries";
import { isNow } from "../../documents/plan";
import { written } from "../../api/writing";
import { Head, Trouble, Waiting } from "../../ui/parts";
import { PlanTabs } from "../../ui/Tabs";
import { closed, day } from "../../ui/words";
import { MorePages } from "../../ui/MorePages";

const AHEAD_DAYS = 91;
const money = (sum: number): string => written(sum.toFixed(2));

export function Service() {
  const costs = useQuery(serviceCostsQuery);
  const due = useInfiniteQuery(dueQuery(AHEAD_DAYS, "", "service"));
  const services = due.data?.pages.flatMap((page) => page.due) ?? [];
  const found = costs.data;
  return (
    <div className="grid gap-4">
      <PlanTabs />
      {costs.isPending && <Waiting what="Loading the services…" />}
      <Trouble error={costs.error} />
      {found && (
        <>
          <Head
            title={
              found.away.length
                ? `${found.away.length === 1 ? "One instrument" : `${found.away.length} instruments`} at service`
                : "Nothing is at service"
            }
            sub="A service resets stored values, and a certificate does not replace your own checks."
          />
          {found.away.length > 0 && (
            <section className="card px-4 py-3 tab:px-5" aria-label="At service">
              <h2>At service</h2>
              <ul className="m-0 list-none divide-y divide-line p-0">
                {found.away.map((each) => (
                  <li key={each.tag} className="flex items-baseline gap-4 py-2" data-away={each.tag}>
                    <Tag tag={each.tag} />
                    <span className="min-w-0 flex-1">{each.model}</span>
                    <span>
                      since {day(each.since, "UTC")}, {each.days === 1 ? "one day" : `${each.days} days`}
                    </span>
                  </li>
                ))}
              </ul>
            </section>
          )}
          <section className="card px-4 py-3 tab:px-5" aria-label="Service due">
            <h2>Due within three months</h2>
            {!services.length && <p className="sub py-1">No service comes due.</p>}
            <ul className="m-0 list-none divide-y divide-line p-0">
              {services.map((each) => (
                <li key={each.tag} className="grid grid-cols-[92px_minmax(0,1fr)] gap-x-4 py-2" data-service={each.tag}>
                  <Tag tag={each.tag} />
                  <span>
                    <b className={isNow(each) ? "font-semibold text-coral" : "font-semibold"}>
                      {day(each.due_on, "UTC")}
                    </b>{" "}
                    <span className="sub">{each.reasons.map((reason) => closed(reason.text)).join(" ")}</span>
                  </span>
                </li>
              ))}
            </ul>
            <MorePages query={due} label="Show later" />
          </section>
          <Years years={found.years} />
        </>
      )}
    </div>
  );
}

const Tag = ({ tag }: { tag: string }) => (
  <Link to={`/instruments/${tag}`} className="tag font-bold no-underline hover:underline">
    {tag}
  </Link>
);

function Years({ years }: { years: Schemas["ServiceYearOut"][] }) {
  if (!years.length) return null;
  const all = [...new Set(years.map((each) => each.year))];
  return (
    <section className="card overflow-x-auto px-4 py-3 tab:px-5" tabIndex={0} aria-label="What service cost">
      <h2>What service cost</h2>
      <table className="w-full min-w-[640px] border-collapse">
        <thead>
          <tr className="text-left">
            {["Year", "Model", "Services", "Days away", "Service", "Days without it", "Together"].map((name, i) => (
              <th key={name} scope="col" className={`sub py-1 pr-4 font-semibold ${i > 1 ? "text-right" : ""}`}>
                {name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {all.map((year) => {
            const models = years.filter((each) => each.year === year);
            const sum = (of: "services" | "days" | "cost" | "days_cost") =>
              models.reduce((total, each) => total + each[of], 0);
            return [
              ...models,
              {
                year,
                model: "All models",
                services: sum("services"),
                days: sum("days"),
                cost: sum("cost"),
                days_cost: sum("days_cost"),
              },
            ].map((each, i) => (
              <tr
                key={`${year} ${each.model}`}
                className={`border-t ${i === models.length ? "border-ink font-semibold" : "border-line"}`}
                data-cost={`${year} ${each.model}`}
              >
                <td className="py-1 pr-4">{i === 0 || i === models.length ? year : ""}</td>
                <td className="py-1 pr-4">{each.model}</td>
                {[
                  String(each.services),
                  String(each.days),
                  money(each.cost),
                  money(each.days_cost),
                  money(each.cost + each.days_cost),
                ].map((text, column) => (
                  <td key={column} className="py-1 pr-4 text-right font-mono">
                    {text}
                  </td>
                ))}
              </tr>
            ));
          })}
        </tbody>
      </table>
      <p className="sub pt-2">In your currency, as noted when an instrument came back.</p>
    </section>
  );
}
