// Every delay of the product. Tests set them to zero or step them.

/** Milliseconds. Callers may pass a factor, for example when a restarted worker gets more time. */
export const DELAYS = {
  /** From the last key to the question. */
  now: 0,
  question: 100,
  preview: 60,
  /** From the last key of a point's name to the search for similar names. */
  nearNames: 400,
  /** Until the next field exists, after a point was picked. */
  nextField: 30,
  /** Reserved for the first screen; preparing for offline use starts after it. */
  firstScreen: 5_000,
  /** Longest wait for an idle browser. */
  idle: 3_000,
  /** Replaces the idle callback where the browser has none. */
  soonIdle: 500,
  /** Between two looks whether requests are in progress. */
  underWay: 50,
  /** Longest wait for the service worker. */
  serviceWorker: 8_000,
  prefetchAgain: 60_000,
  registerAgain: 30_000,
  /** From leaving an input until the page closes the gap of the keypad: it must not move under the finger. */
  typingEnds: 300,
  /** An electronic level that sends nothing for this long is disconnected. */
  levelGone: 2_000,
  notice: 15_000,
  outboxAgain: 15_000,
  /** Longest wait for a result calculated here before saving. */
  compute: 2_500,
  /** Longest wait for the first answer of a sheet. */
  firstAnswer: 2_000,
  /** Until the keypad is closed and the finding unfolded. */
  unfold: 400,
  recheck: 10_000,
  restored: 1_000,
  second: 1_000,
  laserOn: 15_000,
  replayStep: 450,
  /** Between two pictures of a simulated instrument. */
  look: 50,
  /** Longest wait for an answer or the start of the worker, and the pauses before it is started and asked again. */
  workerAnswer: 10_000,
  workerBoot: 120_000,
  workerAgain: 1_000,
  askAgain: 1_500,
  askOnceMore: 1_000,
  linkAgain: 1_000,
  /** Longest pause of the core between two blocks of readings. */
  linkRest: 500,
  /** Until the address of a downloaded file is revoked. */
  fileHeld: 1_000,
};
export type Delay = keyof typeof DELAYS;
// Browser tests set some of them before the page loads.
Object.assign(DELAYS, (globalThis as { navetaDelays?: Partial<Record<Delay, number>> }).navetaDelays);

/** Runs a function once after a delay; returns a function that cancels it. */
export function after(delay: Delay, run: () => void, times = 1): () => void {
  const timer = setTimeout(run, DELAYS[delay] * times);
  return () => clearTimeout(timer);
}

/** Resolves after a delay of at most `most` milliseconds. */
export const pause = (delay: Delay, most = Infinity): Promise<void> =>
  new Promise((done) => setTimeout(done, Math.min(DELAYS[delay], most)));

/** Runs a function repeatedly; returns a function that stops it. */
export function every(delay: Delay, run: () => void): () => void {
  const timer = setInterval(run, DELAYS[delay]);
  return () => clearInterval(timer);
}

/** Lets the browser paint and handle input before the next step. */
export const nextTask = (): Promise<void> => new Promise((done) => setTimeout(done));

/** Resolves when the browser is idle, or after the longest wait. */
export const idle = (): Promise<void> =>
  new Promise((done) => {
    if ("requestIdleCallback" in window) requestIdleCallback(() => done(), { timeout: DELAYS.idle });
    else after("soonIdle", done);
  });
