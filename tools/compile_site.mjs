// Compile a site archive to bytecode with the very Python that will run it: node compile_site.mjs FOLDER
// Reads FOLDER/site.zip, writes it back with .pyc in the place of .py. Importing is what booting waits for.
import { readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { pathToFileURL } from "node:url";

const folder = process.argv[2];
const { loadPyodide } = await import(pathToFileURL(join(folder, "pyodide.mjs")).href);
const python = await loadPyodide({ indexURL: `${folder}/` });
const archive = readFileSync(join(folder, "site.zip"));
python.FS.writeFile("/site.zip", new Uint8Array(archive));
python.runPython(`
import compileall, os, shutil, zipfile
work = "/work"
with zipfile.ZipFile("/site.zip") as packed:
    packed.extractall(work)
compileall.compile_dir(work, quiet=2, legacy=True, ddir="", invalidation_mode=__import__("py_compile").PycInvalidationMode.UNCHECKED_HASH)
with zipfile.ZipFile("/out.zip", "w", zipfile.ZIP_DEFLATED, compresslevel=9) as out:
    for folder, _, names in sorted(os.walk(work)):
        for name in sorted(names):
            path = os.path.join(folder, name)
            if name.endswith(".py") and os.path.exists(path + "c"):
                continue
            info = zipfile.ZipInfo(os.path.relpath(path, work))
            with open(path, "rb") as held:
                out.writestr(info, held.read(), zipfile.ZIP_DEFLATED, 9)
`);
writeFileSync(join(folder, "site.zip"), python.FS.readFile("/out.zip"));
