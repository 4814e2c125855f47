// Rules of what is due when: how long each check holds, and after what it is made again. Before a change is saved one sees
// what it would make due in the fleet today.
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { rulesQuery } from "../../api/queries";
import { useHere } from "../../app/session";
import { Changes } from "../../ui/Changes";
import { KIND_NAMES } from "../../ui/instrumentSpec";
import { Dialog, Head, Trouble, Waiting } from "../../ui/parts";
import { PlanTabs } from "../../ui/Tabs";
import { capital, moment } from "../../ui/words";
import { RuleForm } from "./RuleForm";
import type { Named, Rule } from "./types";

export function Rules() {
  const query = useQuery(rulesQuery);
  const { may } = useHere();
  const [editing, setEditing] = useState<Rule | null>(null);
  const answer = query.data;
  return (
    <div className="grid gap-4">
      <PlanTabs />
      <Head
        title="What is due when"
        sub="Of all rules that fit an instrument the strictest counts. A drop or fall always asks for every check."
      />
      {query.isPending && <Waiting what="Loading the rules…" />}
      <Trouble error={query.error} />
      {answer && (
        <section className="card relative overflow-x-auto px-4 py-2 tab:px-5" aria-label="Rules">
          <table className="w-full border-collapse text-left">
            <thead>
              <tr className="border-b border-ink">
                {["Check", "For", "Holds", "Due again after", "Set by", ""].map((name) => (
                  <th key={name} scope="col" className="py-2 pr-4 font-semibold">
                    {name || <span className="sr-only">Change</span>}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {answer.rules.map((rule) => (
                <Line
                  key={`${rule.id ?? "default"} ${rule.check}`}
                  rule={rule}
                  events={answer.events}
                  climates={answer.climates}
                  onEdit={may("manage-fleet").allowed ? setEditing : null}
                />
              ))}
            </tbody>
          </table>
        </section>
      )}
      <Changes about="plan" />
      <Dialog
        title={editing ? `When is it due: ${editing.title}` : ""}
        open={editing !== null}
        onClose={() => setEditing(null)}
        wide
      >
        {editing && answer && (
          <RuleForm rule={editing} events={answer.events} climates={answer.climates} onDone={() => setEditing(null)} />
        )}
      </Dialog>
    </div>
  );
}

function Line({
  rule,
  events,
  climates,
  onEdit,
}: {
  rule: Rule;
  events: Named[];
  climates: Named[];
  onEdit: ((rule: Rule) => void) | null;
}) {
  const { session } = useHere();
  return (
    <tr className="border-b border-line" data-rule={rule.check}>
      <td className="py-2 pr-4 font-semibold">{rule.title}</td>
      <td className="py-2 pr-4">{scopeOf(rule, climates)}</td>
      <td className="whitespace-nowrap py-2 pr-4">
        {rule.every_days === null ? "any time" : `${rule.every_days} days`}
      </td>
      <td className="py-2 pr-4">{afterOf(rule, events)}</td>
      <td className="sub py-2 pr-4">
        {rule.at ? `${rule.by}, ${moment(rule.at, session.time_zone)}` : "default rule"}
      </td>
      <td className="py-1">
        {onEdit && (
          <button className="btn !min-h-[40px] !px-3" aria-label={`Change: ${rule.title}`} onClick={() => onEdit(rule)}>
            Change
          </button>
        )}
      </td>
    </tr>
  );
}

const scopeOf = (rule: Rule, climates: Named[]): string =>
  [
    rule.model,
    ...rule.kinds.map((kind) => KIND_NAMES[kind] ?? kind),
    climates.find((each) => each.value === rule.climate)?.label,
  ]
    .filter(Boolean)
    .join(", ") || "all";

function afterOf(rule: Rule, events: Named[]): string {
  const named = rule.after.map((value) => events.find((each) => each.value === value)?.label ?? value);
  const all = [
    ...named,
    ...(rule.before_large_jobs ? ["before a large job"] : []),
    ...(rule.temperature_step_c === null ? [] : [`a temperature that differs by ${rule.temperature_step_c} °C`]),
  ];
  return capital(all.join(", "));
}
