/// <reference lib="webworker" />
// The core in a worker of its own: boots once, then answers one question after the other, text in and text out.

import { type Load, bootCore } from "./bootCore";

export type Boot = { boot: string };
export type Ask = { id: number; text: string };
export type WorkerMessage = { id: number; text: string } | { ready: true; ms: number } | { failed: string };

const notify = (answer: WorkerMessage) => self.postMessage(answer);
let answer: ((text: string) => string) | null = null;

async function fetched(address: string): Promise<ArrayBuffer> {
  const response = await fetch(address);
  if (!response.ok) throw new Error(`${address}: ${response.status}`);
  return response.arrayBuffer();
}

async function boot(base: string): Promise<void> {
  const started = performance.now();
  try {
    const [site, snapshot] = [fetched(`${base}site.bin`), fetched(`${base}snapshot.bin`)];
    for (const each of [site, snapshot]) each.catch(() => undefined); // given by the boot, where it is waited for
    const { loadPyodide } = (await import(/* @vite-ignore */ `${base}pyodide.mjs`)) as { loadPyodide: Load };
    answer = await bootCore(loadPyodide, base, site, snapshot);
    notify({ ready: true, ms: performance.now() - started });
  } catch (error) {
    notify({ failed: error instanceof Error ? error.message : String(error) });
  }
}

self.onmessage = (event: MessageEvent<Boot | Ask>) => {
  const query = event.data;
  if ("boot" in query) {
    void boot(query.boot);
    return;
  }
  if (!answer) return;
  notify({ id: query.id, text: answer(query.text) });
};
