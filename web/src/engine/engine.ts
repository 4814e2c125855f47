// The browser's own core: started after the first screen stands, kept warm, started again when it falls over.
// Whoever asks while it is not there is given so, and asks the server.
import { Problem, type Fault } from "../api/client";
import { answerWritten } from "../api/writing";
import type { WorkerMessage } from "./worker";
import { after } from "../timers";

/** The worker is not there, or went while it was asked: ask the server instead. */
export class EngineGone extends Error {}

export type EngineState = "off" | "booting" | "ready" | "failed";
type Waiting = { resolve: (data: unknown) => void; reject: (error: Error) => void; exact: boolean };
type Answer = { ok: true; data: unknown } | { ok: false; status: number; code: string; title: string; faults: Fault[] };
export type WorkerLike = Pick<Worker, "postMessage" | "terminate"> & {
  onmessage: ((event: MessageEvent<WorkerMessage>) => void) | null;
  onerror: ((event: ErrorEvent) => void) | null;
};

/** What gives documents and tables back: nothing of them is a sentence. */
const EXACT = new Set([
  "write-table",
  "read-table",
  "begin",
  "take-method",
  "repeat",
  "as-left",
  "from-file",
  "read-document",
  "look-at-table",
  "schema",
]);
/** A worker that has answered for so long is a sound one: earlier falls no longer count. */
const SOUND_AFTER_MS = 60_000;
const MAX_STARTS = 4;

/** What the worker fetches from its folder. */
const FILES = [
  "pyodide.mjs",
  "pyodide.asm.mjs",
  "pyodide.asm.wasm",
  "python_stdlib.zip",
  "pyodide-lock.json",
  "site.bin",
  "snapshot.bin",
];

export class Engine {
  state: EngineState = "off";
  bootMs = 0;
  private worker: WorkerLike | null = null;
  private waiting = new Map<number, Waiting>();
  private listeners = new Set<() => void>();
  private count = 0;
  private starts = 0;
  private readyAt = 0;
  private bootOff = (): void => undefined;
  private answerOff = (): void => undefined;

  constructor(
    private readonly make: () => WorkerLike,
    private readonly base: string | null,
  ) {}

  /** Start it, unless it is running, cannot run here, or has fallen over too often. */
  start(): void {
    if (!this.base || this.worker || this.starts >= MAX_STARTS || typeof WebAssembly === "undefined") return;
    this.starts += 1;
    try {
      this.worker = this.make();
    } catch {
      this.become("failed");
      return;
    }
    this.become("booting");
    this.worker.onmessage = (event) => this.received(event.data);
    this.worker.onerror = () => this.fall();
    this.bootOff = after("workerBoot", () => this.fall());
    this.worker.postMessage({ boot: this.base });
  }

  /** Fetch its files through the page's own service worker, which keeps them; those it has are not fetched again. */
  async storeOnDevice(): Promise<void> {
    if (!this.base) return;
    for (const file of FILES) await fetch(this.base + file).catch(() => undefined);
  }

  get ready(): boolean {
    return this.state === "ready";
  }

  /** Resolves once it answers, rejects when it will not. */
  whenReady(): Promise<void> {
    return new Promise((resolve, reject) => {
      const look = () => {
        if (this.state === "booting") return;
        forget();
        if (this.state === "ready") resolve();
        else reject(new EngineGone());
      };
      const forget = this.onChange(look);
      look();
    });
  }

  ask<T>(question: Record<string, unknown>): Promise<T> {
    const { worker } = this;
    if (!worker || !this.ready) return Promise.reject(new EngineGone());
    this.count += 1;
    const id = this.count;
    return new Promise<T>((resolve, reject) => {
      this.waiting.set(id, {
        resolve: resolve as (data: unknown) => void,
        reject,
        exact: EXACT.has(String(question["verb"])),
      });
      if (this.waiting.size === 1) this.awaitAnswer();
      worker.postMessage({ id, text: JSON.stringify(question) });
    });
  }

  /** A worker killed in the middle of a reduction says nothing: when no answer comes for a while it is taken for gone. A busy
   * or slow device takes its time: after each fall the next worker is given twice as long. */
  private awaitAnswer(): void {
    this.answerOff();
    if (this.waiting.size) this.answerOff = after("workerAnswer", () => this.fall(), 2 ** (this.starts - 1));
  }

  onChange(listener: () => void): () => void {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  }

  /** Let go of the worker; those who wait ask the server; another is started. */
  fall(): void {
    this.bootOff();
    this.answerOff();
    this.worker?.terminate();
    this.worker = null;
    this.become("failed");
    for (const each of this.waiting.values()) each.reject(new EngineGone());
    this.waiting.clear();
    after("workerAgain", () => this.start(), this.starts);
  }

  private received(message: WorkerMessage): void {
    if ("failed" in message) return this.fall();
    if ("ready" in message) {
      this.bootOff();
      this.bootMs = message.ms;
      this.readyAt = Date.now();
      return this.become("ready");
    }
    const each = this.waiting.get(message.id);
    if (!each) return;
    this.waiting.delete(message.id);
    if (Date.now() - this.readyAt > SOUND_AFTER_MS) this.starts = 1;
    this.awaitAnswer();
    const answer = JSON.parse(message.text) as Answer;
    if (answer.ok) each.resolve(each.exact ? answer.data : answerWritten(answer.data));
    else if (answer.status >= 500) each.reject(new EngineGone());
    else each.reject(new Problem(answer.status, answer.code, answer.title, answer.faults));
  }

  private become(state: EngineState): void {
    this.state = state;
    for (const listener of this.listeners) listener();
  }
}

export const engine = new Engine(
  () => new Worker(new URL("./worker.ts", import.meta.url), { type: "module" }) as unknown as WorkerLike,
  typeof __CORE_FOLDER__ === "string" ? `/core/${__CORE_FOLDER__}/` : null,
);
