// For tests: every kind and method as the core says them, and a document of each.
import { execFileSync } from "node:child_process";
import type { Kind } from "../api/client";
import type { CheckDocument } from "./draft";

export type Case = { kind: string; method: string; times: number; document: CheckDocument };
const answer = JSON.parse(
  execFileSync("../.venv/bin/python", ["-m", "tools.forms"], {
    cwd: process.cwd(),
    env: { ...process.env, PYTHONPATH: ".." },
    maxBuffer: 1e8,
  }).toString(),
) as { kinds: Kind[]; cases: Case[] };

export const { cases } = answer;
export const kindNamed = (name: string): Kind => answer.kinds.find((each) => each.kind === name) as Kind;
/** A document as a method begins it. */
export const begunBy = (kind: string, method: string, times = 1): CheckDocument =>
  structuredClone(
    cases.find((case_) => case_.kind === kind && case_.method === method && case_.times === times)
      ?.document as CheckDocument,
  );
