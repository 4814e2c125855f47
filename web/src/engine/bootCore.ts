// Starts Python with the core; returns the function that answers questions.

type Python = {
  FS: { mkdirTree: (path: string) => void; writeFile: (path: string, bytes: Uint8Array) => void };
  runPython: (code: string) => unknown;
};
export type Load = (options: { indexURL: string; _loadSnapshot?: Uint8Array }) => Promise<Python>;

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

/** Starts the core from its folder `base`; `site` and `snapshot` are files in it. */
export async function bootCore(
  load: Load,
  base: string,
  site: Promise<ArrayBuffer>,
  snapshot: Promise<ArrayBuffer>,
): Promise<(text: string) => string> {
  for (const each of [site, snapshot]) each.catch(() => undefined); // given below, where it is waited for
  const python = await begun(load, base, snapshot);
  layDown(python, await site);
  // What is imported stays: nothing of it is looked through for what could be thrown away, now or later.
  python.runPython("import gc; gc.disable()");
  const answer = python.runPython("from naveta_practice.dispatch import answer\nanswer") as (text: string) => string;
  python.runPython("gc.freeze(); gc.enable()");
  return answer;
}
