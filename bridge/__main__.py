"""`python -m bridge tcp:127.0.0.1:4100`: what these sources send, at a WebSocket of this machine.

Whoever connects is given the run, the number of the last line and which sources are there, then every line that comes, each
with its number. `?after=RUN-NUMBER` gives first what came after that; all it has where it was started again since. Only pages
of this machine are served, and pages whose address is given by `--page`. Exit 2 with a sentence for a wrong command line, 1
where the port cannot be had.
"""

from __future__ import annotations

import argparse
import asyncio
import contextlib
import json
import re
import sys
from collections.abc import Sequence
from urllib.parse import parse_qs, urlsplit

from websockets.asyncio.server import ServerConnection, serve
from websockets.exceptions import ConnectionClosed
from websockets.typing import Origin

from .lines import Lines
from .sources import SerialPort, Tcp, source_of

PORT = 4190
THIS_MACHINE = re.compile(r"https?://(localhost|127\.0\.0\.1|\[::1\])(:\d+)?")
MAX_AT_ONCE = 200


def main(arguments: Sequence[str] | None = None) -> int:
    """Run until it is stopped; returns the exit code."""
    options = _parser().parse_args(arguments)
    try:
        with contextlib.suppress(KeyboardInterrupt):
            asyncio.run(_run(options))
    except OSError as error:
        print(f"bridge: {error.strerror or error}", file=sys.stderr)
        return 1
    return 0


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(prog="bridge", description="Readings of devices, for the browser of this machine.")
    parser.add_argument("sources", nargs="+", type=_source, help="tcp:HOST:PORT, serial:PATH or serial:PATH:BAUD")
    parser.add_argument("--host", default="127.0.0.1", help="the address it listens at")
    parser.add_argument("--port", type=int, default=PORT, help=f"the port it listens at ({PORT})")
    parser.add_argument(
        "--page", action="append", default=[], help="the address of Naveta, where that is not this machine"
    )
    return parser


def _source(text: str) -> tuple[str, Tcp | SerialPort]:
    try:
        return text, source_of(text)
    except ValueError as error:
        raise argparse.ArgumentTypeError(str(error)) from None


async def _run(options: argparse.Namespace) -> None:
    lines = Lines()
    # None: what is no page of a browser, a program of this machine.
    origins: list[Origin | re.Pattern[str] | None] = [None, THIS_MACHINE]
    origins += [Origin(page.rstrip("/")) for page in options.page]

    async def connected(browser: ServerConnection) -> None:
        with contextlib.suppress(ConnectionClosed):
            await _send_all(browser, lines)

    async with serve(connected, options.host, options.port, origins=origins) as server:
        print(f"bridge: ws://{options.host}:{server.sockets[0].getsockname()[1]}", flush=True)
        await asyncio.gather(*(source.follow(name, lines) for name, source in options.sources))


async def _send_all(browser: ServerConnection, lines: Lines) -> None:
    """Lines until the browser goes. It has no queue of its own, only the number of the line it was given last."""
    sent, reported = _begins_at(browser, lines), dict(lines.sources)
    await browser.send(json.dumps({"run": lines.run, "last": sent, "sources": reported}))
    while True:
        changed = lines.changed
        more = lines.after(sent)[:MAX_AT_ONCE]
        if lines.sources != reported:
            reported = dict(lines.sources)
            await browser.send(json.dumps({"sources": reported}))
        if more:
            sent = more[-1][0]
            await browser.send(json.dumps({"lines": more}))
            continue
        gone = asyncio.ensure_future(browser.wait_closed())
        news = asyncio.ensure_future(changed.wait())
        await asyncio.wait((gone, news), return_when=asyncio.FIRST_COMPLETED)
        for task in (gone, news):
            task.cancel()
        if gone.done() and not gone.cancelled():
            return


def _begins_at(browser: ServerConnection, lines: Lines) -> int:
    """After which line a browser is to be given the rest: from now on; where it says; all, where it knew an earlier run."""
    path = browser.request.path if browser.request else ""
    run, _, number = parse_qs(urlsplit(path).query).get("after", [""])[0].partition("-")
    if not run:
        return lines.last
    return min(int(number), lines.last) if run == lines.run and number.isdigit() else 0


if __name__ == "__main__":
    sys.exit(main())
