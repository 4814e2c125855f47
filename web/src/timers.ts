// Every delay of the product, named and in one place. Tests set them to nothing, or step them.

/** Milliseconds; where one is a multiple (a worker that fell over is given longer each time) the caller says so. */
export const DELAYS = {
  /** After the last key, before the question is asked. */
  now: 0,
  question: 100,
  preview: 60,
  /** A point's name is typed to its end before names like it are looked for. */
  nearNames: 400,
  /** The next field of a sight is there once the point was picked. */
  nextField: 30,
  /** The first screen has the device to itself for so long: what is kept for a time without signal comes after it. */
  firstScreen: 5_000,
  /** At the latest so long after the first screen, also where the browser is never idle. */
  idle: 3_000,
  /** Where a browser does not say when it is idle. */
  soonIdle: 500,
  /** What is under way is let arrive before it is fetched again. */
  underWay: 50,
  /** So long the service worker is waited for. */
  serviceWorker: 8_000,
  prefetchAgain: 60_000,
  registerAgain: 30_000,
  /** An input is left: what moves when the keypad goes must not move under the finger. */
  typingEnds: 300,
  /** A level that sends nothing for so long is gone. */
  levelGone: 2_000,
  /** A line at the foot of the page stays so long. */
  notice: 15_000,
  outboxAgain: 15_000,
  /** Saving does not wait longer for a core that is slow. */
  compute: 2_500,
  /** The first answer of a sheet is waited for before anything else is said. */
  firstAnswer: 2_000,
  /** The keypad has gone and the finding has unfolded. */
  unfold: 400,
  /** What stands on soft ground is looked at so often. */
  recheck: 10_000,
  restored: 1_000,
  /** A second of a bubble that comes to rest. */
  second: 1_000,
  laserOn: 15_000,
  replayStep: 450,
  /** A picture that moves by itself is drawn again. */
  look: 50,
  /** A worker that does not answer or boot is taken for gone; the next is started, and asked. */
  workerAnswer: 10_000,
  workerBoot: 120_000,
  workerAgain: 1_000,
  askAgain: 1_500,
  askOnceMore: 1_000,
  /** A link to a bridge that broke is opened again. */
  linkAgain: 1_000,
  /** The core rests as long as it read, at most so long. */
  linkRest: 500,
  /** A file that was handed over is let go. */
  fileHeld: 1_000,
};
export type Delay = keyof typeof DELAYS;
// Walks through the built page set some of them before it begins.
Object.assign(DELAYS, (globalThis as { navetaDelays?: Partial<Record<Delay, number>> }).navetaDelays);

/** Runs once after a delay. Returns what calls it off. */
export function after(delay: Delay, run: () => void, times = 1): () => void {
  const timer = setTimeout(run, DELAYS[delay] * times);
  return () => clearTimeout(timer);
}

/** Resolves after a delay, or sooner: at most `most` milliseconds. */
export const pause = (delay: Delay, most = Infinity): Promise<void> =>
  new Promise((done) => setTimeout(done, Math.min(DELAYS[delay], most)));

/** Runs again and again. Returns what ends it. */
export function every(delay: Delay, run: () => void): () => void {
  const timer = setInterval(run, DELAYS[delay]);
  return () => clearInterval(timer);
}

/** Between two steps a slow device paints and answers. */
export const nextTask = (): Promise<void> => new Promise((done) => setTimeout(done));

/** The browser has nothing better to do, or some time has gone by. */
export const idle = (): Promise<void> =>
  new Promise((done) => {
    if ("requestIdleCallback" in window) requestIdleCallback(() => done(), { timeout: DELAYS.idle });
    else after("soonIdle", done);
  });
