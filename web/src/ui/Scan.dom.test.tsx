import { QueryClient, QueryClientProvider, notifyManager } from "@tanstack/react-query";
import { setImmediate } from "node:timers";
import { act, cleanup, render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { fleetQuery } from "../api/queries";
import { ScanButton } from "./Scan";

type Seen = (result: { getText: () => string }) => void;
const nobody: Seen = () => undefined;
const camera = vi.hoisted(() => ({ seen: null as unknown as Seen }));

vi.mock("@zxing/browser", () => ({
  BrowserQRCodeReader: class {
    decodeFromConstraints(_what: unknown, _where: unknown, seen: Seen) {
      camera.seen = seen;
      return Promise.resolve({ stop: () => undefined });
    }
  },
}));

beforeEach(() => {
  camera.seen = nobody;
  vi.stubGlobal("navigator", { ...navigator, userAgent: "", mediaDevices: {} });
});
afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

const shows = (text: string) => act(() => camera.seen({ getText: () => text }));

// The fleet reaches the page at once, not by a timer.
notifyManager.setScheduler(queueMicrotask);

/** An open camera, and a fleet that has not loaded yet. */
async function opened() {
  const client = new QueryClient({ defaultOptions: { queries: { enabled: false } } });
  const onTag = vi.fn();
  render(
    <QueryClientProvider client={client}>
      <ScanButton onTag={onTag} />
    </QueryClientProvider>,
  );
  await userEvent.click(screen.getByRole("button", { name: "Scan a label" }));
  await vi.waitFor(() => expect(camera.seen).not.toBe(nobody));
  const fleet = (...tags: string[]) =>
    act(async () => {
      client.setQueryData(fleetQuery.queryKey, {
        rows: tags.map((tag) => ({
          tag,
          model: "Ondine Merrow",
          kind: "level",
          place: "Yard",
          crew: null,
          serial: "",
        })),
      } as never);
      await new Promise<void>((done) => setImmediate(done));
    });
  return { onTag, fleet };
}

it("says nothing of a label before the fleet has loaded, and opens it then", async () => {
  const { onTag, fleet } = await opened();
  shows("https://naveta.example/instruments/LV-07");
  expect(screen.getByRole("status").textContent).toBe("Hold the code of the label in the picture.");
  await fleet("LV-02", "LV-07");
  shows("https://naveta.example/instruments/LV-07");
  expect(onTag.mock.calls).toEqual([["LV-07"]]);
});

it("names a label that is not of this fleet, and goes on scanning", async () => {
  const { onTag, fleet } = await opened();
  await fleet("LV-02", "LV-70");
  shows("LV-07");
  expect(screen.getByRole("status").textContent).toBe("LV-07 is no instrument of this fleet.");
  shows("LV-7");
  expect(screen.getByRole("status").textContent).toBe("LV-7 is no instrument of this fleet.");
  shows("a poem");
  expect(screen.getByRole("status").textContent).toBe("This code is no label of an instrument.");
  shows("lv-02");
  expect(onTag.mock.calls).toEqual([["LV-02"]]);
});
