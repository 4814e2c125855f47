// A pre-work check: which checks, what became of each, and which of them is next. Nothing here judges.
import type { RecordOut, Result, ReadinessPreview } from "../api/client";
import { type CheckDocument, type Draft, begin } from "./draft";

export type Step = {
  check: string;
  method?: string;
  record?: string;
  stage?: string;
  grade?: string;
  finding?: string;
  at?: string;
  left_out?: string;
};
export type RoundDocument = { kind: "pre-survey"; observations: { minutes: number; steps: Step[] } };
export type Proposed = ReadinessPreview["proposed"][number];

const asCheck = (document: RoundDocument): CheckDocument => document as unknown as CheckDocument;
export const roundOf = (document: CheckDocument): RoundDocument => document as unknown as RoundDocument;
export const stepsOf = (draft: Draft): Step[] => roundOf(draft.document).observations.steps;

/** A round of these checks; what does not fit into the minutes is on it as left out, what is fresh is not. */
export function beginRound(instrument: string, owner: string, minutes: number, proposed: Proposed[]): Draft {
  const steps = proposed.flatMap((each): Step[] =>
    each.taken
      ? [{ check: each.check, method: each.method }]
      : each.code === "no-time"
        ? [{ check: each.check, method: each.method, left_out: "no time" }]
        : [],
  );
  return begin({
    kind: "pre-survey",
    instrument,
    owner,
    document: asCheck({ kind: "pre-survey", observations: { minutes, steps } }),
  });
}

export const emptyRound = (minutes: number): CheckDocument =>
  asCheck({ kind: "pre-survey", observations: { minutes, steps: [] } });

/** The round with one of its steps given otherwise. */
export function withStep(draft: Draft, check: string, partial: Partial<Step>): Draft {
  const document = roundOf(draft.document);
  const steps = document.observations.steps.map((step) => (step.check === check ? { ...step, ...partial } : step));
  return { ...draft, document: asCheck({ ...document, observations: { ...document.observations, steps } }) };
}

/** What a step says of the record it became. */
export const stepFrom = (
  record: Pick<RecordOut, "id" | "stage" | "grade" | "finding" | "observed_at">,
): Partial<Step> => ({
  record: record.id,
  stage: record.stage === "as-left" ? "as-left" : "as-found",
  at: record.observed_at,
  ...(record.grade ? { grade: record.grade, finding: record.finding ?? "" } : {}),
});

/** The same of a result that was calculated here and is still on its way. */
export const stepOf = (id: string, stage: string, at: string, result: Result): Partial<Step> => ({
  record: id,
  stage,
  at,
  grade: result.verdict.grade,
  finding: result.finding.text,
});

/** The first check that is neither done nor left out. */
export const nextStep = (steps: Step[]): Step | undefined => steps.find((step) => !step.record && !step.left_out);

/** A step that may still become better: its record was adjusted, taken again, or its verdict has not come yet. */
export const unsettled = (step: Step): boolean =>
  Boolean(step.record) && step.stage !== "as-left" && (!step.grade || ["adjust", "repeat"].includes(step.grade));
