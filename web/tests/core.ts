// The real core in Node, started from the files that browsers load; once for all tests of a worker.
import { readFile } from "node:fs/promises";
import { resolve } from "node:path";
import { pathToFileURL } from "node:url";
import pack from "../public/core/pack.json";
import { type Load, bootCore } from "../src/engine/bootCore";
import type { WorkerMessage } from "../src/engine/worker";

const FOLDER = resolve(import.meta.dirname, "../public/core", pack.folder);

const bytes = async (name: string): Promise<ArrayBuffer> =>
  new Uint8Array(await readFile(resolve(FOLDER, name))).buffer;

let begun: Promise<(text: string) => string> | null = null;

export function core(): Promise<(text: string) => string> {
  begun ??= import(/* @vite-ignore */ pathToFileURL(resolve(FOLDER, "pyodide.mjs")).href).then(
    ({ loadPyodide }: { loadPyodide: Load }) =>
      bootCore(loadPyodide, `${FOLDER}/`, bytes("site.bin"), bytes("snapshot.bin")),
  );
  return begun;
}

/** Replaces the browser's worker: same messages, answered by the shared core. */
export class CoreWorker {
  static dead = false;
  onmessage: ((event: MessageEvent<WorkerMessage>) => void) | null = null;
  onerror: ((event: ErrorEvent) => void) | null = null;
  private ended = false;

  postMessage(message: { boot: string } | { id: number; text: string }): void {
    void core().then((answer) => {
      if (this.ended || CoreWorker.dead) return;
      if ("boot" in message) this.report({ ready: true, ms: 0 });
      else this.report({ id: message.id, text: answer(message.text) });
    });
  }

  terminate(): void {
    this.ended = true;
  }

  private report(data: WorkerMessage): void {
    this.onmessage?.({ data } as MessageEvent<WorkerMessage>);
  }
}
