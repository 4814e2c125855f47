// What stands below the first screen: drawn when it is near, when the person does anything, or after five seconds.
import { act, cleanup, render, screen } from "@testing-library/react";

let seen: (near: boolean) => void = () => undefined;
class Observer {
  constructor(tell: (entries: { isIntersecting: boolean }[]) => void) {
    seen = (near) => tell([{ isIntersecting: near }]);
  }
  observe = () => seen(false);
  disconnect = () => undefined;
}

beforeEach(() => {
  vi.resetModules();
  vi.useFakeTimers();
  vi.stubGlobal("IntersectionObserver", Observer);
});
afterEach(() => {
  cleanup();
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

const shown = async (): Promise<void> => {
  const { Below } = await import("./Below");
  render(<Below tall={300}>the rest</Below>);
  await act(() => vi.advanceTimersByTimeAsync(100));
};
const drawn = () => screen.queryByText("the rest") !== null;

test("out of view it waits for the first screen's five seconds", async () => {
  await shown();
  await act(() => vi.advanceTimersByTimeAsync(4_800));
  expect(drawn()).toBe(false);
  await act(() => vi.advanceTimersByTimeAsync(200));
  expect(drawn()).toBe(true);
});

test("in view it is drawn at once", async () => {
  await shown();
  await act(async () => seen(true));
  expect(drawn()).toBe(true);
});

test.each(["wheel", "keydown", "pointerdown", "scroll"])("a %s of the person draws it", async (what) => {
  await shown();
  expect(drawn()).toBe(false);
  await act(async () => void dispatchEvent(new Event(what)));
  expect(drawn()).toBe(true);
});

test("later pages of the visit are drawn whole", async () => {
  await shown();
  const { Below } = await import("./Below");
  render(<Below tall={300}>another page</Below>);
  expect(screen.getByText("another page")).toBeTruthy();
});
