// Readings that arrive: what is placed where, what is passed over and why. The cut link is in tests/browser/test_devices.py.
import { disconnect } from "../src/device/link";
import { open, page, press, visit } from "./page";
import { asked } from "./server";
import { begin, field, startReading } from "./sheet";
import { SEED, Yard, arrived, connect } from "./yard";

let yard: Yard;
beforeEach(async () => {
  yard = await Yard.start();
});
afterEach(() => {
  disconnect();
  yard.stop();
  Reflect.deleteProperty(navigator, "serial");
});

const FACES = "observations.targets[0].left";
const arriving = page.label("Readings that arrive");

async function begun(kind: string, { method, wide }: { method?: string; wide?: number } = {}): Promise<void> {
  await open("/angles", { who: "Ines Calder", wide });
  visit(`/bench/new/TS-03/${kind}`);
  if (method) await page.role("radio", method).click();
  await startReading();
}

it("both faces are filled by a total station and a wrong face is said", async () => {
  await begun("two-face", { method: "Full" });
  await connect(yard);
  await yard.shoot(2, 10);
  await arrived(20);
  await yard.shoot(2);
  await arrived(22);
  // Somebody goes to a cell of face left; the instrument is in face right still.
  await arriving.button("Undo").click();
  for (const circle of ["hz", "v"]) await field(`${FACES}[4].${circle}`).fill("");
  await yard.shoot(2);
  await page.css("[data-message=other-face]").says("in face right; the next cell is for face left");
  // A shot is placed or left out as one.
  expect([field(`${FACES}[4].hz`).value, field(`${FACES}[4].v`).value]).toEqual(["", ""]);
  expect(field(`${FACES}[0].hz`).value).toBe(yard.sent[0]);
  // As the instrument shows it: ddd.mmsss.
  expect(yard.sent[0]).toMatch(/^\d+\.\d{5}$/);
});

it("a sheet in gon says what the station sends and keeps what it had", async () => {
  await begun("two-face", { method: "gon" });
  const first = field(`${FACES}[0].hz`);
  await first.fill("16.6850");
  await connect(yard);
  await yard.shoot(2);
  await page.css("[data-message=other-unit]").says("sends degrees, minutes and seconds, this sheet is read in gon");
  // A device the sheet does not ask is named once and passed over.
  await yard.shoot(1);
  await page.css("[data-message=not-asked-for]").says("level-1 sends staff readings");
  expect(first.value).toBe("16.6850");
  expect(page.css("[data-count]").attr("data-count")).toBe("0");
});

it("an electronic level is live and taken when one wants it", async () => {
  await begun("dual-axis-level", { wide: 390 });
  await connect(yard);
  const cells = ["along", "across"].map((axis) => field(`observations.readings[0].${axis}_arcsec`));
  await page.button("Take this reading").there();
  expect(cells.map((each) => each.value)).toEqual(["", ""]); // nothing is filled by itself
  await page.button("Take this reading").click();
  await arrived(2);
  const tilted = await asked<number[]>("tilted", { seed: SEED });
  // It wanders by a few seconds from reading to reading.
  cells.forEach((each, i) => expect(Math.abs(Number(each.value) - (tilted[i] ?? NaN))).toBeLessThan(8));
  expect(field("observations.readings[1].along_arcsec").value).toBe("");
});

it("an address where nobody answers is said and left", async () => {
  await open();
  await begin("LV-02");
  await page.css("[data-link]").click();
  await page.label("Bridge").reads("ws://127.0.0.1:4190");
  await page.label("Bridge").fill("ws://127.0.0.1:9"); // on 4190 a real one may listen
  await page.button("Connect to the bridge").click();
  await page.role("dialog").says("Nothing answers at this address");
  await page.button("Disconnect").click();
  await page.css("[data-link=off]").there();
});

it("a serial port fills the sheet and is taken away", async () => {
  let deliver: (piece: Uint8Array) => void = () => undefined;
  let take: () => void = () => undefined;
  const rates: number[] = [];
  const port = {
    open: ({ baudRate }: { baudRate: number }) => Promise.resolve(void rates.push(baudRate)),
    close: () => Promise.resolve(),
    readable: new ReadableStream<Uint8Array>({
      start(stream) {
        deliver = (piece) => stream.enqueue(piece);
        take = () => stream.error(new DOMException("gone", "NetworkError"));
      },
    }),
  };
  Object.defineProperty(navigator, "serial", {
    value: { requestPort: () => Promise.resolve(port) },
    configurable: true,
  });
  await open();
  await begin("LV-02");
  await page.css("[data-link]").click();
  await page.label("Bits per second").choose("19200");
  await page.button("Choose a serial port").click();
  await press("Escape");
  for (const text of await asked<string[]>("shots", { seed: SEED, count: 2 }))
    // A serial port gives what has come: a line in two pieces, wherever it is cut.
    for (const piece of [text.slice(0, 40), text.slice(40)]) deliver(new TextEncoder().encode(piece));
  await arrived(2);
  const first = field("observations.setups[0].a.readings[0]");
  const kept = first.value;
  expect(kept).toMatch(/^\d\.\d{5}$/);
  expect(rates).toEqual([19200]);
  take();
  await page.css("[data-message=port-gone]").says("The serial port is gone");
  expect(first.value).toBe(kept);
});
