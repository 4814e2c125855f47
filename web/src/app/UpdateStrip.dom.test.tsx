// A newer version: said when it waits, taken when the person says so, and never during an entry.
import { act, cleanup, fireEvent, render, screen } from "@testing-library/react";
import { MemoryRouter } from "react-router";
import { UpdateStrip } from "./UpdateStrip";
import { registerWorker } from "./update";

const waiting = { postMessage: vi.fn() };
const registration = Object.assign(new EventTarget(), {
  waiting: null as typeof waiting | null,
  installing: new EventTarget(),
});
const container = Object.assign(new EventTarget(), { controller: {}, register: () => Promise.resolve(registration) });

beforeAll(async () => {
  Object.defineProperty(navigator, "serviceWorker", { value: container, configurable: true });
  vi.stubEnv("DEV", false);
  vi.useFakeTimers();
  registerWorker();
  await vi.runAllTimersAsync();
  vi.useRealTimers();
});
afterEach(cleanup);

function at(path: string): void {
  render(
    <MemoryRouter initialEntries={[path]}>
      <UpdateStrip />
    </MemoryRouter>,
  );
}

/** The browser has fetched another version, and it waits. */
function arrives(): void {
  registration.dispatchEvent(new Event("updatefound"));
  registration.waiting = waiting;
  act(() => void registration.installing.dispatchEvent(new Event("statechange")));
}

describe("a newer version", () => {
  it("shows nothing before there is one", () => {
    at("/");
    expect(screen.queryByRole("status")).toBeNull();
  });

  it("shows as soon as it waits, and taken when asked for", () => {
    at("/instruments/LV-07");
    arrives();
    expect(screen.getByRole("status").textContent).toContain("A new version is ready. Your readings are kept.");
    expect(waiting.postMessage).not.toHaveBeenCalled();
    fireEvent.click(screen.getByRole("button", { name: "Update now" }));
    expect(waiting.postMessage).toHaveBeenCalledWith("take-over");
  });

  it("cannot be taken while a sheet is open", () => {
    at("/bench/3f0c2f6e-7c1b-4d52-9a53-6d1b0e0f7a11");
    expect(screen.getByRole("status").textContent).toContain("when this sheet is finished");
    expect(screen.queryByRole("button")).toBeNull();
  });
});
