// What a page finds in a browser and happy-dom does not bring, and every delay of the product set to nothing.
import "fake-indexeddb/auto";
import { webcrypto } from "node:crypto";
import { configure } from "@testing-library/dom";
import { DELAYS, type Delay } from "../src/timers";
import { CoreWorker, core } from "./core";
import { setUp, tearDown } from "./page";
import { matchMedia } from "./screen";

/** What ends by itself only in a test that steps it. */
const LONG: Delay[] = [
  "fileHeld",
  "notice",
  "outboxAgain",
  "prefetchAgain",
  "registerAgain",
  "recheck",
  "laserOn",
  "workerAnswer",
  "workerBoot",
  "compute",
  "levelGone",
  "firstAnswer",
  "second",
];
/** What is typed in one go is one question, as of a hand that is quick. */
const SHORT: Partial<Record<Delay, number>> = { look: 5, question: 25, preview: 25 };
for (const name of Object.keys(DELAYS) as Delay[]) if (!LONG.includes(name)) DELAYS[name] = SHORT[name] ?? 0;

class Nothing {
  observe(): void {}
  unobserve(): void {}
  disconnect(): void {}
  takeRecords(): [] {
    return [];
  }
}

const set = (name: string, value: unknown): void =>
  void Object.defineProperty(globalThis, name, { value, configurable: true, writable: true });
if (!globalThis.crypto?.subtle) set("crypto", webcrypto);
set("Worker", CoreWorker);
set("matchMedia", matchMedia);
set("ResizeObserver", Nothing);
set("PerformanceObserver", Nothing);
Object.assign(Element.prototype, {
  scrollIntoView() {},
  hasPointerCapture: () => false,
  setPointerCapture() {},
  releasePointerCapture() {},
});
// A drawing is as large as its own units say.
Element.prototype.getBoundingClientRect = function () {
  const [left = 0, top = 0, width = 0, height = 0] = (this.getAttribute("viewBox") ?? "0 0 100 100")
    .split(/[ ,]+/)
    .map(Number);
  return { x: 0, y: 0, left: 0, top: 0, right: width, bottom: height, width, height, toJSON: () => [left, top] };
};
// Pictures come as fast as they are drawn, a quarter of a second apart for whoever moves with time.
let picture = 0;
set("requestAnimationFrame", (run: FrameRequestCallback) => setTimeout(() => run((picture += 250))));
set("cancelAnimationFrame", (timer: NodeJS.Timeout) => clearTimeout(timer));
// A drawing's place on the screen is its own: what a pointer gives is in the drawing's units.
const asIs = { inverse: () => asIs };
Object.assign(SVGElement.prototype, { getScreenCTM: () => asIs });
set(
  "DOMPoint",
  class {
    constructor(
      readonly x: number,
      readonly y: number,
    ) {}
    matrixTransform = () => this;
  },
);
// Lists that draw only what is in sight take a large screen for their place.
for (const [name, size] of Object.entries({
  offsetWidth: 1280,
  offsetHeight: 3000,
  clientWidth: 1280,
  clientHeight: 3000,
}))
  Object.defineProperty(HTMLElement.prototype, name, { get: () => size, configurable: true });
// How much a page waits for an answer: what takes longer is a fault.
configure({ asyncUtilTimeout: 10_000, eventWrapper: (run) => run(), asyncWrapper: (run) => run() });
// Pages draw as in a browser, when React sees fit; what a test looks at it waits for.
Object.assign(globalThis, { IS_REACT_ACT_ENVIRONMENT: false });

// Its start is not part of any test's ten seconds.
beforeAll(async () => void (await core()), 90_000);
beforeEach(setUp);
afterEach(tearDown);
