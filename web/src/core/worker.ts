/// <reference lib="webworker" />
// The core in a worker of its own: boots once, then answers one question after the other, text in and text out.

export type Boot = { boot: string };
export type Ask = { id: number; text: string };
export type Said = { id: number; text: string } | { ready: true; ms: number } | { failed: string };

type Python = {
  unpackArchive: (buffer: ArrayBuffer, format: string, options: { extractDir: string }) => void;
  runPython: (code: string) => unknown;
};

const tell = (said: Said) => self.postMessage(said);
let answer: ((text: string) => string) | null = null;

async function boot(base: string): Promise<void> {
  const started = performance.now();
  try {
    const archive = fetch(`${base}site.zip`).then((response) => {
      if (!response.ok) throw new Error(`site.zip: ${response.status}`);
      return response.arrayBuffer();
    });
    archive.catch(() => undefined); // told below, where it is waited for
    const { loadPyodide } = (await import(/* @vite-ignore */ `${base}pyodide.mjs`)) as { loadPyodide: (options: { indexURL: string }) => Promise<Python> };
    const python = await loadPyodide({ indexURL: base });
    python.unpackArchive(await archive, "zip", { extractDir: "/lib/python3.14/site-packages" });
    answer = python.runPython("from naveta_core.dispatch import answer\nanswer") as (text: string) => string;
    answer('{"verb":"hello"}');
    tell({ ready: true, ms: performance.now() - started });
  } catch (error) {
    tell({ failed: error instanceof Error ? error.message : String(error) });
  }
}

self.onmessage = (event: MessageEvent<Boot | Ask>) => {
  const asked = event.data;
  if ("boot" in asked) {
    void boot(asked.boot);
    return;
  }
  if (!answer) return;
  tell({ id: asked.id, text: answer(asked.text) });
};
