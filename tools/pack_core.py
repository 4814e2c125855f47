"""Collect what the browser needs to calculate alone: Python for the browser, the core's wheel and the few packages it wants.

Everything is installed by name at the versions the server is locked to, laid into one folder named by its contents'
hash under web/public/core/, and served as our own static files. Nothing is fetched from elsewhere at run time: the
list of packages Python could load is emptied here, and the page's policy allows this server only.
"""

from __future__ import annotations

import hashlib
import json
import re
import shutil
import subprocess
import sys
import tempfile
import zipfile
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
OUT = ROOT / "web/public/core"
RUNTIME = ROOT / "web/node_modules/pyodide"
RUNTIME_FILES = ("pyodide.mjs", "pyodide.asm.mjs", "pyodide.asm.wasm", "python_stdlib.zip")
PURE = ("pydantic", "annotated-types", "typing-extensions", "typing-inspection")
NATIVE = "pydantic-core"
PLATFORM = ("--platform", "pyemscripten_2026_0_wasm32", "--python-version", "3.14")
NATIVE_TAGS = (*PLATFORM, "--implementation", "cp", "--abi", "cp314")
LEFT_OUT = re.compile(r"(\.dist-info/(?!METADATA)|/tests/|/v1/|\.pyi$|py\.typed$)")
"""Not needed to calculate; METADATA stays, since pydantic looks its own version up in it."""


def main() -> None:
    stamp = _stamp()
    kept = OUT / "pack.json"
    if kept.exists() and json.loads(kept.read_text()).get("stamp") == stamp:
        return
    with tempfile.TemporaryDirectory() as work:
        folder = Path(work)
        _site(folder, _wheels(folder))
        for name in RUNTIME_FILES:
            shutil.copy(RUNTIME / name, folder / "out" / name)
        _empty_list(folder / "out")
        subprocess.run(["node", str(ROOT / "tools/compile_site.mjs"), str(folder / "out")], check=True)
        _lay_down(folder / "out", stamp)


def _versions() -> dict[str, str]:
    locked = re.findall(r"^([\w-]+)==(\S+)", (ROOT / "requirements.txt").read_text(), re.MULTILINE)
    return dict(locked)


def _stamp() -> str:
    """What the pack is made from: the core's text, the locked versions, the runtime's version, this script."""
    seen = hashlib.sha256()
    ours = (ROOT / "core/pyproject.toml", Path(__file__), ROOT / "tools/compile_site.mjs")
    sources = [*sorted((ROOT / "core").rglob("*.py")), *ours]
    for path in [source for source in sources if "build" not in source.parts]:
        seen.update(path.read_bytes())
    versions = _versions()
    seen.update(json.dumps({name: versions[name] for name in (*PURE, NATIVE)}).encode())
    seen.update((RUNTIME / "package.json").read_bytes())
    return seen.hexdigest()


def _pip(*words: str) -> None:
    subprocess.run([sys.executable, "-m", "pip", "-q", "--disable-pip-version-check", *words], check=True)


def _wheels(folder: Path) -> Path:
    wheels, versions = folder / "wheels", _versions()
    pure = [f"{name}=={versions[name]}" for name in PURE]
    _pip("download", "--no-deps", "--only-binary=:all:", "-d", str(wheels), *pure)
    native = f"{NATIVE}=={versions[NATIVE]}"
    _pip("download", "--no-deps", "--only-binary=:all:", *NATIVE_TAGS, "-d", str(wheels), native)
    # From a copy: building leaves its traces beside what is built.
    shutil.copytree(ROOT / "core", folder / "core", ignore=shutil.ignore_patterns("build", "*.egg-info", "__pycache__"))
    _pip("wheel", "--no-deps", "-w", str(wheels), str(folder / "core"))
    return wheels


def _site(folder: Path, wheels: Path) -> None:
    """All packages in one archive, with fixed times, so that the same contents have the same hash."""
    (folder / "out").mkdir()
    with zipfile.ZipFile(folder / "out/site.zip", "w", zipfile.ZIP_DEFLATED, compresslevel=9) as site:
        for wheel in sorted(wheels.glob("*.whl")):
            with zipfile.ZipFile(wheel) as packed:
                for name in sorted(packed.namelist()):
                    if not LEFT_OUT.search(name) and not name.endswith("/"):
                        site.writestr(zipfile.ZipInfo(name), packed.read(name), zipfile.ZIP_DEFLATED, 9)


def _empty_list(out: Path) -> None:
    listed = json.loads((RUNTIME / "pyodide-lock.json").read_text())
    (out / "pyodide-lock.json").write_text(json.dumps({**listed, "packages": {}}))


def _lay_down(out: Path, stamp: str) -> None:
    files = sorted(out.iterdir())
    seen = hashlib.sha256()
    for path in files:
        seen.update(path.name.encode() + path.read_bytes())
    name = seen.hexdigest()[:16]
    shutil.rmtree(OUT, ignore_errors=True)
    shutil.copytree(out, OUT / name)
    sizes = {path.name: path.stat().st_size for path in files}
    (OUT / "pack.json").write_text(json.dumps({"folder": name, "stamp": stamp, "sizes": sizes}, indent=1))
    text = ", ".join(f"{file} {size / 1e6:.1f} MB" for file, size in sizes.items())
    print(f"The core for the browser: {sum(sizes.values()) / 1e6:.1f} MB ({text}).")


if __name__ == "__main__":
    main()
