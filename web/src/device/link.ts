// The link to devices: a bridge's WebSocket or a serial port of this device. What comes is read by the core, in order, and
// given to whoever listens; a link that breaks is taken up again after the last line that came.
import { type Arrived, CORE_STARTS, type Line, type Message, readingsArrive } from "../engine/devices";
import { askUntilAnswered } from "../engine/own";
import { after, pause } from "../timers";

export type LinkState = "off" | "connecting" | "connected" | "lost";
export type Link = {
  state: LinkState;
  where: string;
  sources: Record<string, boolean>;
  devices: Record<string, Line>;
  message: Message | null;
};
export type Readings = { lines: Line[]; live: Line[] };
type Port = {
  open: (options: { baudRate: number }) => Promise<void>;
  close: () => Promise<void>;
  readable: ReadableStream<Uint8Array> | null;
};
type Serial = { requestPort: () => Promise<Port> };
/** One link: what came and was not read yet, and what the core remembers of what was. */
type Source = { on: boolean; unread: string; reading: boolean; state: Record<string, unknown> | null };
type FromBridge = { run?: string; last?: number; lines?: [number, string][]; sources?: Record<string, boolean> };

const OFF: Link = { state: "off", where: "", sources: {}, devices: {}, message: null };
/** The core reads at most so much text at once. */
const MAX_TEXT = 60_000;

let link = OFF;
let stop: () => void = () => undefined;
let source: Source | null = null;
const watchers = new Set<() => void>();
const listeners = new Set<(readings: Readings) => void>();

function become(change: Partial<Link>): void {
  link = { ...link, ...change };
  for (const watcher of watchers) watcher();
}

export const linkNow = (): Link => link;
/** Whether the core has still to read something that came. */
export const hasWaiting = (): boolean => source?.reading ?? false;

export function watchLink(watcher: () => void): () => void {
  watchers.add(watcher);
  return () => watchers.delete(watcher);
}

/** Good readings, in the order in which they came. */
export function onReadings(listener: (readings: Readings) => void): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}

/** Everything that came since the last answer is one question: a slow core does not fall behind a device that sends all the time. */
async function read(from: Source): Promise<void> {
  from.reading = true;
  while (from.on && from.unread) {
    const piece = from.unread.slice(0, MAX_TEXT);
    from.unread = from.unread.slice(MAX_TEXT);
    const begun = performance.now();
    try {
      const answer = await askUntilAnswered(
        () => readingsArrive(piece, performance.now() / 1000, from.state),
        () => become({ message: CORE_STARTS }),
        () => from.on,
      );
      if (answer && from.on) report(answer, from);
    } catch (error) {
      become({ message: { code: "core", text: error instanceof Error ? error.message : String(error) } });
    }
    // A level that sends all the time takes at most half of the core: the sheet asks it too.
    await pause("linkRest", performance.now() - begun);
  }
  from.reading = false;
}

function report(answer: Arrived, from: Source): void {
  from.state = answer.state;
  if (link.message === CORE_STARTS) become({ message: null });
  const latest = [...answer.lines, ...answer.live];
  const message = answer.messages.at(-1);
  if (latest.length || message)
    become({
      devices: { ...link.devices, ...Object.fromEntries(latest.map((line) => [line.device, line])) },
      ...(message ? { message } : {}),
    });
  if (latest.length) for (const listener of listeners) listener({ lines: answer.lines, live: answer.live });
}

function arrived(text: string, from: Source): void {
  from.unread += text;
  if (!from.reading) void read(from);
}

/** A link of its own: what an earlier one still has under way no longer counts. */
function begin(where: string): Source {
  disconnect();
  const here: Source = { on: true, unread: "", reading: false, state: null };
  source = here;
  stop = () => {
    here.on = false;
  };
  become({ ...OFF, state: "connecting", where });
  return here;
}

export function disconnect(): void {
  stop();
  stop = () => undefined;
  become(OFF);
}

export const forgetMessage = (): void => become({ message: null });

/** Take readings from a bridge. It is asked for what comes from now on; after a break for what came since. */
export function connectBridge(address: string): void {
  const here = begin(address);
  let latest = "";
  let socket: WebSocket | null = null;
  const open = () => {
    if (!here.on) return;
    try {
      socket = new WebSocket(latest ? `${address.replace(/\/$/, "")}/?after=${latest}` : address);
    } catch {
      become({
        state: "lost",
        message: {
          code: "no-address",
          text: `${address} is no address of a bridge. It looks like ws://127.0.0.1:4190`,
        },
      });
      return;
    }
    socket.onmessage = (event) => {
      if (!here.on) return;
      const message = JSON.parse(String(event.data)) as FromBridge;
      if (message.run !== undefined) latest = `${message.run}-${message.last ?? 0}`;
      if (message.sources) become({ state: "connected", sources: message.sources });
      if (!message.lines?.length) return;
      latest = `${latest.split("-")[0]}-${message.lines.at(-1)?.[0]}`;
      arrived(message.lines.map(([, line]) => `${line}\n`).join(""), here);
    };
    socket.onclose = () => {
      if (!here.on) return;
      become({ state: "lost" });
      after("linkAgain", open);
    };
  };
  open();
  const end = stop;
  stop = () => {
    end();
    socket?.close();
  };
}

const serialOf = (): Serial | undefined => (navigator as { serial?: Serial }).serial;
export const hasSerial = (): boolean => serialOf() !== undefined;

/** Take readings from a serial port, which the person chooses in the browser's own list. */
export async function connectSerial(baudRate: number): Promise<void> {
  const port = await serialOf()?.requestPort();
  if (!port) return;
  const here = begin("serial");
  try {
    await port.open({ baudRate });
    become({ state: "connected" });
    const end = stop;
    const reader = port.readable?.getReader();
    stop = () => {
      end();
      void reader?.cancel().catch(() => undefined);
    };
    const decoder = new TextDecoder();
    for (let piece = await reader?.read(); piece && !piece.done; piece = await reader?.read())
      arrived(decoder.decode(piece.value, { stream: true }), here);
  } catch {
    // Taken away, or held by another program: said below.
  }
  await port.close().catch(() => undefined);
  if (here.on)
    become({
      state: "lost",
      message: {
        code: "port-gone",
        text: "The serial port is gone. What came is in the sheet; connect again to go on.",
      },
    });
}
