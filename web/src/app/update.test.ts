import { afterEach, beforeEach, expect, test, vi } from "vitest";

const registration = { waiting: null, addEventListener: () => undefined };

beforeEach(() => vi.useFakeTimers());
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
  vi.unstubAllEnvs();
});

test("a signal lost before the worker is registered is no fault: it is tried again", async () => {
  vi.stubEnv("DEV", false);
  const register = vi.fn().mockRejectedValueOnce(new TypeError("Failed to register")).mockResolvedValue(registration);
  vi.stubGlobal("navigator", { serviceWorker: { controller: null, register } });
  const { registerWorker } = await import("./update");
  registerWorker();
  await vi.advanceTimersByTimeAsync(4_900);
  expect(register).not.toHaveBeenCalled(); // the first screen goes before
  await vi.advanceTimersByTimeAsync(200);
  expect(register).toHaveBeenCalledTimes(1); // an unhandled rejection here fails the run
  await vi.advanceTimersByTimeAsync(60_000);
  expect(register).toHaveBeenCalledTimes(2);
});
