/** The first screen has the device to itself for so long: what is kept for a time without signal comes after it. */
const FIRST_SCREEN_MS = 5_000;

/** Kept from the moment the page begins. */
export const firstScreen = new Promise<void>((done) => setTimeout(done, FIRST_SCREEN_MS));

/** Nothing else is to be done, or three seconds have gone by. */
export const idle = (): Promise<void> =>
  new Promise((done) =>
    "requestIdleCallback" in window ? requestIdleCallback(() => done(), { timeout: 3_000 }) : setTimeout(done, 500),
  );
