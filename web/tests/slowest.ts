// Reporter: the ten slowest tests against their budget (CONTRIBUTING.md), and how many are over it.
import type { Reporter, TestCase, TestModule } from "vitest/node";

const BUDGET_MS: Record<string, number> = { units: 50, dom: 500, pages: 500 };
const SHOWN = 10;

type Cost = { name: string; ms: number; times: number };

function cost(test: TestCase): Cost[] {
  const ms = test.diagnostic()?.duration;
  const budget = BUDGET_MS[test.project.name];
  if (ms === undefined || budget === undefined) return [];
  return [{ name: `${test.module.relativeModuleId} ${test.fullName}`, ms, times: ms / budget }];
}

export default class Slowest implements Reporter {
  onTestRunEnd(modules: readonly TestModule[]): void {
    const costs = modules.flatMap((each) => [...each.children.allTests()].flatMap(cost));
    const slowest = costs.toSorted((a, b) => b.times - a.times).slice(0, SHOWN);
    const lines = slowest.map(
      ({ name, ms, times }) =>
        `${ms.toFixed(0).padStart(7)} ms ${times.toFixed(1).padStart(6)} times its budget  ${name}`,
    );
    const over = costs.filter(({ times }) => times > 1).length;
    process.stdout.write(`\nSlowest against their budget\n${lines.join("\n")}\n`);
    process.stdout.write(`${over} of ${costs.length} tests cost more than their budget.\n`);
  }
}
