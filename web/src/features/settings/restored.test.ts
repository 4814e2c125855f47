import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { untilRestored } from "./restored";

const keeping = (id: string | null) =>
  new Response(JSON.stringify({ restored: id === null ? null : { id, ok: true, text: "" } }));
const REQUESTED = "3f0c";

/** How many questions it took until it had ended; `answers` come one after the other, the last one again and again. */
async function questions(...answers: (() => Response)[]): Promise<number> {
  const last = answers[answers.length - 1] as () => Response;
  const fetched = vi.fn(() => Promise.resolve((answers[fetched.mock.calls.length - 1] ?? last)()));
  vi.stubGlobal("fetch", fetched);
  const ending = untilRestored(REQUESTED);
  await vi.runAllTimersAsync();
  await ending;
  return fetched.mock.calls.length;
}

beforeEach(() => void vi.useFakeTimers());
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

test("a worker of before that still answers does not pass for the end", async () => {
  expect(
    await questions(
      () => keeping(null),
      () => keeping("of last year"),
      () => keeping(REQUESTED),
    ),
  ).toBe(3);
});

test("while nobody answers it asks again", async () => {
  const nobody = () => {
    throw new TypeError("Failed to fetch");
  };
  expect(
    await questions(
      nobody,
      () => new Response("", { status: 502 }),
      () => keeping(REQUESTED),
    ),
  ).toBe(3);
});

test("signed out by what was put in place is an end", async () => {
  expect(
    await questions(
      () => keeping(null),
      () => new Response("{}", { status: 401 }),
    ),
  ).toBe(2);
});

test("it does not wait for ever", async () => {
  expect(await questions(() => keeping(null))).toBe(120);
});
