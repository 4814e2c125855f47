/// <reference lib="webworker" />
// The core in a worker of its own: boots once, then answers one question after the other, text in and text out.

export type Boot = { boot: string };
export type Ask = { id: number; text: string };
export type WorkerMessage = { id: number; text: string } | { ready: true; ms: number } | { failed: string };

type Python = {
  FS: { mkdirTree: (path: string) => void; writeFile: (path: string, bytes: Uint8Array) => void };
  runPython: (code: string) => unknown;
};
type Load = (options: { indexURL: string; _loadSnapshot?: Uint8Array }) => Promise<Python>;

const notify = (answer: WorkerMessage) => self.postMessage(answer);
let answer: ((text: string) => string) | null = null;

async function fetched(address: string): Promise<ArrayBuffer> {
  const response = await fetch(address);
  if (!response.ok) throw new Error(`${address}: ${response.status}`);
  return response.arrayBuffer();
}

/** Python as it stood once it had begun; where a browser cannot take that up, begun from nothing. */
async function begun(load: Load, base: string, snapshot: Promise<ArrayBuffer>): Promise<Python> {
  try {
    return await load({ indexURL: base, _loadSnapshot: new Uint8Array(await snapshot) });
  } catch {
    return load({ indexURL: base });
  }
}

/** Files laid end to end behind an index, put where Python looks for them. */
function layDown(python: Python, site: ArrayBuffer): void {
  const length = new DataView(site).getUint32(0, true);
  const index = JSON.parse(new TextDecoder().decode(new Uint8Array(site, 4, length))) as [path: string, size: number][];
  const folders = new Set<string>();
  let at = 4 + length;
  for (const [path, size] of index) {
    const folder = path.slice(0, path.lastIndexOf("/"));
    if (!folders.has(folder)) python.FS.mkdirTree(folder);
    folders.add(folder);
    python.FS.writeFile(path, new Uint8Array(site, at, size));
    at += size;
  }
}

async function boot(base: string): Promise<void> {
  const started = performance.now();
  try {
    const [site, snapshot] = [fetched(`${base}site.bin`), fetched(`${base}snapshot.bin`)];
    for (const each of [site, snapshot]) each.catch(() => undefined); // given below, where it is waited for
    const { loadPyodide } = (await import(/* @vite-ignore */ `${base}pyodide.mjs`)) as { loadPyodide: Load };
    const python = await begun(loadPyodide, base, snapshot);
    layDown(python, await site);
    // What is imported stays: nothing of it is looked through for what could be thrown away, now or later.
    python.runPython("import gc; gc.disable()");
    answer = python.runPython("from naveta_practice.dispatch import answer\nanswer") as (text: string) => string;
    python.runPython("gc.freeze(); gc.enable()");
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
