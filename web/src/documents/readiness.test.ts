// A pre-work check: what it begins with, what becomes of each check, what is next.
import { describe, expect, it } from "vitest";
import type { Result } from "../api/client";
import { type CheckDocument, type Draft, toSend } from "./draft";
import { addressOf } from "./reopen";
import {
  type Proposed,
  beginRound,
  emptyRound,
  nextStep,
  roundOf,
  stepFrom,
  stepOf,
  stepsOf,
  unsettled,
  withStep,
} from "./readiness";

const proposed = (check: string, more: Partial<Proposed> = {}): Proposed => ({
  check,
  title: check,
  method: "quick",
  minutes: 2,
  taken: true,
  code: "passed-before",
  why: "",
  ...more,
});
const round = (): Draft =>
  beginRound("TS-03", "tam", 10, [
    proposed("circular-vial"),
    proposed("plummet", { taken: false, code: "no-time" }),
    proposed("two-face"),
    proposed("dual-axis-level", { taken: false, code: "passed-today" }),
  ]);

describe("a pre-work check", () => {
  it("takes what fits, holds what there is no time for as left out, and not what is fresh", () => {
    expect(stepsOf(round())).toEqual([
      { check: "circular-vial", method: "quick" },
      { check: "plummet", method: "quick", left_out: "no time" },
      { check: "two-face", method: "quick" },
    ]);
    expect(roundOf(round().document).observations.minutes).toBe(10);
    expect(emptyRound(5)).toEqual({ kind: "pre-survey", observations: { minutes: 5, steps: [] } });
  });
  it("lives at an address of its own and is sent as it is", () => {
    const draft = round();
    expect(addressOf(draft)).toBe(`/bench/readiness/${draft.id}`);
    expect(toSend(draft.document)).toBe(draft.document);
  });
  it("goes from one check to the next, whatever was left out", () => {
    const begun = round();
    expect(nextStep(stepsOf(begun))?.check).toBe("circular-vial");
    const result = { verdict: { grade: "use" }, finding: { text: "No error found." } } as unknown as Result;
    const after = withStep(begun, "circular-vial", stepOf("r1", "as-found", "2027-03-02T07:40:00+01:00", result));
    expect(stepsOf(after)[0]).toEqual({
      check: "circular-vial",
      method: "quick",
      record: "r1",
      stage: "as-found",
      at: "2027-03-02T07:40:00+01:00",
      grade: "use",
      finding: "No error found.",
    });
    expect(nextStep(stepsOf(after))?.check).toBe("two-face");
    const none = withStep(after, "two-face", { left_out: "no time" });
    expect(nextStep(stepsOf(none))).toBeUndefined();
    expect(nextStep(stepsOf(withStep(none, "plummet", { left_out: "" })))?.check).toBe("plummet");
    expect(stepsOf(begun)[0], "the one before is not touched").toEqual({ check: "circular-vial", method: "quick" });
  });
  it("takes up what its record became: adjusted, or judged on the server", () => {
    const record = {
      id: "r9",
      stage: "as-left",
      grade: "use" as const,
      finding: "No error found.",
      observed_at: "2027-03-02T08:00:00+01:00",
    };
    expect(stepFrom(record)).toEqual({
      record: "r9",
      stage: "as-left",
      grade: "use",
      finding: "No error found.",
      at: record.observed_at,
    });
    expect(stepFrom({ ...record, grade: null })).not.toHaveProperty("grade");
    expect(unsettled({ check: "a", record: "r1", grade: "adjust", stage: "as-found" })).toBe(true);
    expect(unsettled({ check: "a", record: "r1", stage: "as-found" }), "kept without signal").toBe(true);
    expect(unsettled({ check: "a", record: "r1", grade: "use", stage: "as-found" })).toBe(false);
    expect(
      unsettled({ check: "a", record: "r9", grade: "adjust", stage: "as-left" }),
      "what was left is the last word",
    ).toBe(false);
    expect(unsettled({ check: "a" })).toBe(false);
  });
  it("is no check: nothing of it is read", () => {
    expect(
      (round().document as CheckDocument & { observations: { setups?: unknown } }).observations.setups,
    ).toBeUndefined();
  });
});
