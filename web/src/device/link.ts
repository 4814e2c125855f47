// The link to devices: a bridge's WebSocket or a serial port of this device. What comes is read by the core, in order, and
// given to whoever listens; a link that breaks is taken up again after the last line that came.
import { type Line, type Said, readingsArrive } from "../engine/devices";

export type LinkState = "off" | "connecting" | "connected" | "lost";
export type Link = { state: LinkState; where: string; sources: Record<string, boolean>; devices: Record<string, Line>; said: Said | null };
export type Readings = { lines: Line[]; live: Line[] };
type Port = { open: (options: { baudRate: number }) => Promise<void>; close: () => Promise<void>; readable: ReadableStream<Uint8Array> | null };
type Serial = { requestPort: () => Promise<Port> };
type FromBridge = { run?: string; last?: number; lines?: [number, string][]; sources?: Record<string, boolean> };

const OFF: Link = { state: "off", where: "", sources: {}, devices: {}, said: null };
const AGAIN_MS = 1_000;
/** The core reads at most so much text at once. */
const MOST_TEXT = 60_000;

let link = OFF;
let stop: () => void = () => undefined;
let state: Record<string, unknown> | null = null;
let reading: Promise<void> = Promise.resolve();
const watchers = new Set<() => void>();
const listeners = new Set<(readings: Readings) => void>();

function become(change: Partial<Link>): void {
  link = { ...link, ...change };
  for (const watcher of watchers) watcher();
}

export const linkNow = (): Link => link;

export function watchLink(watcher: () => void): () => void {
  watchers.add(watcher);
  return () => watchers.delete(watcher);
}

/** Good readings, in the order in which they came. */
export function onReadings(listener: (readings: Readings) => void): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}

/** One piece after the other: the core remembers what it answered last. */
function arrived(text: string, mine: () => boolean): void {
  reading = reading.then(async () => {
    for (let at = 0; at < text.length && mine(); at += MOST_TEXT) {
      const answer = await readingsArrive(text.slice(at, at + MOST_TEXT), performance.now() / 1000, state);
      if (!mine()) return;
      state = answer.state;
      const latest = [...answer.lines, ...answer.live];
      const said = answer.said.at(-1);
      if (latest.length || said) become({ devices: { ...link.devices, ...Object.fromEntries(latest.map((line) => [line.device, line])) }, ...(said ? { said } : {}) });
      if (latest.length) for (const listener of listeners) listener({ lines: answer.lines, live: answer.live });
    }
  });
  reading = reading.catch((error: unknown) => become({ said: { code: "core", text: error instanceof Error ? error.message : String(error) } }));
}

/** A link of its own: what an earlier one still has under way no longer counts. */
function begin(where: string): () => boolean {
  disconnect();
  const here = { on: true };
  state = null;
  stop = () => {
    here.on = false;
  };
  become({ ...OFF, state: "connecting", where });
  return () => here.on;
}

export function disconnect(): void {
  stop();
  stop = () => undefined;
  become(OFF);
}

export const forgetSaid = (): void => become({ said: null });

/** Take readings from a bridge. It is asked for what comes from now on; after a break for what came since. */
export function connectBridge(address: string): void {
  const mine = begin(address);
  let after = "";
  let socket: WebSocket | null = null;
  const open = () => {
    if (!mine()) return;
    try {
      socket = new WebSocket(after ? `${address.replace(/\/$/, "")}/?after=${after}` : address);
    } catch {
      become({ state: "lost", said: { code: "no-address", text: `${address} is no address of a bridge. It looks like ws://127.0.0.1:4190` } });
      return;
    }
    socket.onmessage = (event) => {
      if (!mine()) return;
      const message = JSON.parse(String(event.data)) as FromBridge;
      if (message.run !== undefined) after = `${message.run}-${message.last ?? 0}`;
      if (message.sources) become({ state: "connected", sources: message.sources });
      if (!message.lines?.length) return;
      after = `${after.split("-")[0]}-${message.lines.at(-1)?.[0]}`;
      arrived(message.lines.map(([, line]) => `${line}\n`).join(""), mine);
    };
    socket.onclose = () => {
      if (!mine()) return;
      become({ state: "lost" });
      setTimeout(open, AGAIN_MS);
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
  const mine = begin("serial");
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
    for (let piece = await reader?.read(); piece && !piece.done; piece = await reader?.read()) arrived(decoder.decode(piece.value, { stream: true }), mine);
  } catch {
    // Taken away, or held by another program: said below.
  }
  await port.close().catch(() => undefined);
  if (mine()) become({ state: "lost", said: { code: "port-gone", text: "The serial port is gone. What came is in the sheet; connect again to go on." } });
}
