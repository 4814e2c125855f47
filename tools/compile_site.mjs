// Compile a site archive to bytecode with the very Python that will run it, and keep that Python as it stands once it has
// begun: node compile_site.mjs FOLDER. Booting waits for three things, each taken off it here: compiling what is imported,
// unpacking it, and Python's own beginning.
// Reads FOLDER/site.zip; writes in its place FOLDER/site.bin (every file, laid end to end, behind an index) and
// FOLDER/snapshot.bin (the memory of a begun Python with the standard modules that the core asks for).
import { readFileSync, rmSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { pathToFileURL } from "node:url";

const folder = process.argv[2];
const { loadPyodide } = await import(pathToFileURL(join(folder, "pyodide.mjs")).href);

const SITE = "/lib/python3.14/site-packages";
const COMPILE = `
import compileall, os, py_compile, zipfile
with zipfile.ZipFile("/site.zip") as packed:
    packed.extractall("/work")
compileall.compile_dir("/work", quiet=2, legacy=True, ddir="", invalidation_mode=py_compile.PycInvalidationMode.UNCHECKED_HASH)
kept = []
for folder, _, names in sorted(os.walk("/work")):
    for name in sorted(names):
        path = os.path.join(folder, name)
        if not (name.endswith(".py") and os.path.exists(path + "c")):
            kept.append(path)
kept
`;
const STANDARD = `
import sys
sys.path.insert(0, "/work")
from naveta_practice.dispatch import answer
answer('{"verb":"hello"}')
[name for name, one in sorted(sys.modules.items()) if not name.startswith("_") and str(getattr(one, "__file__", "") or "").startswith("/lib/python314.zip")]
`;

async function compile() {
  const python = await loadPyodide({ indexURL: `${folder}/` });
  python.FS.writeFile("/site.zip", new Uint8Array(readFileSync(join(folder, "site.zip"))));
  const paths = python.runPython(COMPILE).toJs();
  const files = paths.map((path) => [path.replace("/work", SITE), python.FS.readFile(path)]);
  return { files, standard: python.runPython(STANDARD).toJs() };
}

/** The length of the index (four bytes, little end first), the index as JSON, then the files. */
function laidEndToEnd(files) {
  const index = Buffer.from(JSON.stringify(files.map(([path, bytes]) => [path, bytes.length])));
  const length = Buffer.alloc(4);
  length.writeUInt32LE(index.length);
  return Buffer.concat([length, index, ...files.map(([, bytes]) => bytes)]);
}

async function snapshot(standard) {
  const python = await loadPyodide({ indexURL: `${folder}/`, _makeSnapshot: true });
  for (const name of standard) python.runPython(`import ${name}`);
  return python.makeMemorySnapshot();
}

const { files, standard } = await compile();
writeFileSync(join(folder, "site.bin"), laidEndToEnd(files));
writeFileSync(join(folder, "snapshot.bin"), await snapshot(standard));
rmSync(join(folder, "site.zip"));
