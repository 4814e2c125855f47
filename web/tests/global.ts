// Global set-up: starts the process that forks a demo server for each test (tests/served.py).
import { spawn } from "node:child_process";
import { existsSync } from "node:fs";
import { resolve } from "node:path";
import { createInterface } from "node:readline";
import type { TestProject } from "vitest/node";

const ROOT = resolve(import.meta.dirname, "../..");
const PYTHON = resolve(ROOT, ".venv/bin/python");
/** The first time it makes the demo: a minute on a quiet machine. */
const STARTS_WITHIN_MS = 600_000;

declare module "vitest" {
  interface ProvidedContext {
    parent: string;
  }
}

export default async function begin(project: TestProject): Promise<() => void> {
  if (!existsSync(PYTHON)) throw new Error("The component tests need the Python environment: run make setup first.");
  const parent = spawn(PYTHON, ["-m", "tests.served"], { cwd: ROOT, stdio: ["ignore", "pipe", "inherit"] });
  const said = createInterface({ input: parent.stdout });
  let late: NodeJS.Timeout | undefined;
  const address = await new Promise<string>((done, failed) => {
    said.once("line", done);
    parent.once("exit", () => failed(new Error("The demo's server stopped before it answered.")));
    late = setTimeout(
      () => failed(new Error("The demo's server did not answer within ten minutes.")),
      STARTS_WITHIN_MS,
    );
  });
  clearTimeout(late);
  project.provide("parent", address);
  return () => void parent.kill();
}
