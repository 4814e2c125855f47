import { Problem } from "../api/client";
import { Engine, EngineGone, type WorkerLike } from "./engine";
import type { WorkerMessage } from "./worker";

class FakeWorker implements WorkerLike {
  static created: FakeWorker[] = [];
  onmessage: ((event: MessageEvent<WorkerMessage>) => void) | null = null;
  onerror: ((event: ErrorEvent) => void) | null = null;
  sent: { id?: number; text?: string; boot?: string }[] = [];
  ended = false;
  constructor() {
    FakeWorker.created.push(this);
  }
  postMessage(message: unknown): void {
    this.sent.push(message as { id: number });
  }
  terminate(): void {
    this.ended = true;
  }
  reports(answer: WorkerMessage): void {
    this.onmessage?.({ data: answer } as MessageEvent<WorkerMessage>);
  }
  answers(answer: unknown): void {
    const query = this.sent[this.sent.length - 1];
    this.reports({ id: query?.id as number, text: JSON.stringify(answer) });
  }
}
const last = () => FakeWorker.created[FakeWorker.created.length - 1] as FakeWorker;

function started(): Engine {
  FakeWorker.created = [];
  const engine = new Engine(() => new FakeWorker(), "/core/abc/");
  engine.start();
  return engine;
}

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

it("boots once, from its own folder, and says how long it took", () => {
  const engine = started();
  engine.start();
  expect(FakeWorker.created).toHaveLength(1);
  expect(last().sent).toEqual([{ boot: "/core/abc/" }]);
  expect(engine.state).toBe("booting");
  last().reports({ ready: true, ms: 6000 });
  expect([engine.state, engine.bootMs]).toEqual(["ready", 6000]);
});

it("gives each answer to whoever asked for it, in whatever order they come", async () => {
  const engine = started();
  last().reports({ ready: true, ms: 1 });
  const [each, two] = [engine.ask({ verb: "preview", n: 1 }), engine.ask({ verb: "preview", n: 2 })];
  const [, first, second] = last().sent;
  last().reports({ id: second?.id as number, text: '{"ok":true,"data":"two"}' });
  last().reports({ id: first?.id as number, text: '{"ok":true,"data":"one"}' });
  expect(await Promise.all([each, two])).toEqual(["one", "two"]);
});

it("turns a refusal into the same problem the server would answer", async () => {
  const engine = started();
  last().reports({ ready: true, ms: 1 });
  const query = engine.ask({ verb: "reduce" });
  const fault = { path: "kind", where: "the kind of check", given: "x", wanted: "one of two-peg" };
  last().answers({
    ok: false,
    status: 422,
    code: "faults",
    title: "One thing is wrong; nothing was saved.",
    faults: [fault],
  });
  const problem = await query.catch((error: unknown) => error);
  expect(problem).toBeInstanceOf(Problem);
  expect(problem).toMatchObject({ status: 422, faults: [fault] });
});

it("lets whoever waits ask the server when the worker goes, and starts another", async () => {
  const engine = started();
  last().reports({ ready: true, ms: 1 });
  const query = engine.ask({ verb: "preview" }).catch((error: unknown) => error);
  const gone = last();
  gone.onerror?.({} as ErrorEvent);
  expect(await query).toBeInstanceOf(EngineGone);
  expect([gone.ended, engine.state]).toEqual([true, "failed"]);
  await expect(engine.ask({ verb: "preview" })).rejects.toBeInstanceOf(EngineGone);
  vi.advanceTimersByTime(1500);
  expect(FakeWorker.created).toHaveLength(2);
  last().reports({ ready: true, ms: 1 });
  expect(engine.ready).toBe(true);
});

it("takes a worker that says nothing for gone", async () => {
  const engine = started();
  last().reports({ ready: true, ms: 1 });
  const query = engine.ask({ verb: "preview" }).catch((error: unknown) => error);
  vi.advanceTimersByTime(11_000);
  expect(await query).toBeInstanceOf(EngineGone);
});

it("lets a slow worker go on as long as it answers", async () => {
  const engine = started();
  last().reports({ ready: true, ms: 1 });
  const queries = [1, 2, 3].map((n) => engine.ask({ verb: "preview", n }));
  for (const query of last().sent.slice(1)) {
    vi.advanceTimersByTime(7_000);
    last().reports({ id: query.id as number, text: `{"ok":true,"data":${query.id}}` });
  }
  expect(await Promise.all(queries)).toEqual([1, 2, 3]);
  vi.advanceTimersByTime(60_000);
  expect([FakeWorker.created.length, engine.ready]).toEqual([1, true]);
});

it("gives the next worker twice as long, and forgets earlier falls once one is sound", async () => {
  const engine = started();
  const silent = async (ms: number) => {
    last().reports({ ready: true, ms: 1 });
    const query = engine.ask({ verb: "preview" }).catch((error: unknown) => error);
    vi.advanceTimersByTime(ms - 1);
    expect(engine.ready).toBe(true);
    vi.advanceTimersByTime(1);
    expect(await query).toBeInstanceOf(EngineGone);
    vi.advanceTimersByTime(4_000); // the next one is started
  };
  for (const ms of [10_000, 20_000, 40_000]) await silent(ms);
  last().reports({ ready: true, ms: 1 });
  vi.advanceTimersByTime(60_001);
  const query = engine.ask({ verb: "preview" });
  last().answers({ ok: true, data: "sound" });
  expect(await query).toBe("sound");
  await silent(10_000);
});

it("gives up after a few starts, and is never started where nothing is packed", () => {
  started();
  for (let i = 0; i < 8; i += 1) {
    last().reports({ failed: "no room" });
    vi.advanceTimersByTime(10_000);
  }
  expect(FakeWorker.created).toHaveLength(4);
  FakeWorker.created = [];
  new Engine(() => new FakeWorker(), null).start();
  expect(FakeWorker.created).toEqual([]);
});

it("can be waited for while it boots", async () => {
  const engine = started();
  const ready = engine.whenReady();
  last().reports({ ready: true, ms: 1 });
  await ready;
  const failing = started();
  const failed = failing.whenReady().catch((error: unknown) => error);
  last().reports({ failed: "x" });
  expect(await failed).toBeInstanceOf(EngineGone);
});
