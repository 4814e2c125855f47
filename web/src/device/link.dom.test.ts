// Readings over a serial port come once: none is lost while the core is away.
import type { Arrived } from "../engine/devices";
import { EngineGone } from "../engine/engine";

const readingsArrive = vi.fn<(text: string) => Promise<Arrived>>();
vi.mock("../engine/devices", async (original) => ({
  ...(await original<object>()),
  readingsArrive: (text: string) => readingsArrive(text),
}));
const { connectSerial, disconnect, hasWaiting, linkNow, onReadings } = await import("./link");

const LINE = { device: "level-1", run: "1", seq: 1, at: "", quantity: "staff", value: "1.23456", unit: "m" };

it("keeps what came until the core stands again, says so meanwhile, and then asks of all of it at once", async () => {
  let send: (piece: Uint8Array) => void = () => undefined;
  const readable = new ReadableStream<Uint8Array>({
    start: (stream) => void (send = (piece) => stream.enqueue(piece)),
  });
  Object.defineProperty(navigator, "serial", {
    configurable: true,
    value: {
      requestPort: () => Promise.resolve({ open: () => Promise.resolve(), close: () => Promise.resolve(), readable }),
    },
  });
  readingsArrive
    .mockRejectedValueOnce(new EngineGone())
    .mockResolvedValue({ lines: [LINE], live: [], messages: [], state: {} });
  const came: string[] = [];
  onReadings(({ lines }) => void came.push(...lines.map((line) => line.value)));
  void connectSerial(9600);
  await vi.waitFor(() => expect(linkNow().state).toBe("connected"));
  send(new TextEncoder().encode("one line\n"));
  await vi.waitFor(() => expect(linkNow().message?.code).toBe("core-starts"));
  for (const more of ["a second\n", "a th"]) send(new TextEncoder().encode(more));
  expect([came, hasWaiting()]).toEqual([[], true]);
  await vi.waitFor(() => expect(came).toHaveLength(2), 3_000);
  expect(readingsArrive.mock.calls).toEqual([["one line\n"], ["one line\n"], ["a second\na th"]]);
  expect(linkNow().message).toBeNull();
  await vi.waitFor(() => expect(hasWaiting()).toBe(false));
  disconnect();
});
