"""`naveta-sim serve`: stand-ins that send their readings by TCP; `record` writes what a device sends to a file, `replay`
sends a file again.

Exit 0 when stopped, 2 with a sentence for a wrong command line, 1 where a port or a file cannot be had.
"""

from __future__ import annotations

import argparse
import asyncio
import contextlib
import sys
from collections.abc import Sequence
from datetime import UTC, datetime
from pathlib import Path

from naveta_core.devices.lines import DeviceLines, written_line

from .devices import ElectronicLevelStandIn, StandIn, yard_of

HOST = "127.0.0.1"
PORT = 4100


def main(arguments: Sequence[str] | None = None) -> int:
    """Run one verb; returns the exit code."""
    options = _parser().parse_args(arguments)
    try:
        with contextlib.suppress(KeyboardInterrupt):
            asyncio.run(options.run(options))
    except OSError as error:
        print(f"naveta-sim: {error.strerror or error}", file=sys.stderr)
        return 1
    return 0


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(prog="naveta-sim", description="Stand-ins for instruments that send readings.")
    verbs = parser.add_subparsers(required=True)
    serve = verbs.add_parser("serve", help="a level, a total station and an electronic level, a port each")
    serve.add_argument(
        "--port", type=int, default=PORT, help=f"the first of three ports ({PORT}); 0: whichever are free"
    )
    serve.add_argument("--seed", type=int, default=1, help="their hidden errors")
    serve.add_argument("--faster", type=float, default=1.0, help="how many times as fast")
    serve.add_argument("--by-hand", action="store_true", help="a shot for each device's number typed, not by time")
    serve.add_argument("--readings", type=int, default=1, help="how often the level reads each staff (1)")
    serve.add_argument("--reveal", action="store_true", help="print the hidden errors")
    serve.set_defaults(run=_serve)
    record = verbs.add_parser("record", help="write what a port sends to a file, until it ends")
    record.add_argument("port", type=int)
    record.add_argument("file", type=Path)
    record.set_defaults(run=_record)
    replay = verbs.add_parser("replay", help="send the lines of a file to whoever connects")
    replay.add_argument("file", type=Path)
    replay.add_argument("--port", type=int, default=PORT)
    replay.add_argument("--every", type=float, default=0.5, help="seconds between lines")
    replay.set_defaults(run=_replay)
    return parser


async def _serve(options: argparse.Namespace) -> None:
    feeds = [Feed(device, options.faster) for device in yard_of(options.seed, options.readings)]
    servers = []
    for i, feed in enumerate(feeds):
        server = await asyncio.start_server(feed.connected, HOST, options.port and options.port + i)
        servers.append(server)
        print(f"{feed.device.device}: port {server.sockets[0].getsockname()[1]}", flush=True)
        if options.reveal:
            print(f"  {feed.device}", flush=True)
    by_themselves = [feed.run() for feed in feeds if feed.device.live or not options.by_hand]
    await asyncio.gather(
        *(server.serve_forever() for server in servers), *by_themselves, *([_by_hand(feeds)] if options.by_hand else [])
    )


async def _by_hand(feeds: list[Feed]) -> None:
    """A shot for each line typed: the number of a device, from 1 on; an empty one is the first device's.

    `3 tilt 12 -40` tilts the electronic level by so many seconds along and across.
    """
    while text := await asyncio.to_thread(sys.stdin.readline):
        number, *more = text.split() or ["1"]
        device = feeds[int(number) - 1] if number.isdigit() and 1 <= int(number) <= len(feeds) else None
        if device is None:
            print(f"{number}: wanted is the number of a device, 1 to {len(feeds)}", flush=True)
        elif not more:
            print(await device.shoot(), flush=True)
        else:
            print(_tilted(device.device, more), flush=True)


def _tilted(device: StandIn, words: list[str]) -> str:
    try:
        (word, along, across) = words
        if word != "tilt" or not isinstance(device, ElectronicLevelStandIn):
            raise ValueError
        device.along_arcsec, device.across_arcsec = float(along), float(across)
    except ValueError:
        return f"{' '.join(words)}: wanted is `tilt ALONG ACROSS` of an electronic level"
    return f"{device.device} is tilted"


class Feed:
    """One device's readings to everybody connected. A new listener is first sent what the last one may have missed."""

    KEPT = 200

    def __init__(self, device: StandIn, faster: float = 1.0) -> None:
        self.device, self.shots, self.every_s = device, device.shots(), device.every_s / faster
        self.sent: list[str] = []
        self.listeners: set[asyncio.StreamWriter] = set()

    async def connected(self, reader: asyncio.StreamReader, writer: asyncio.StreamWriter) -> None:
        """Readings until the listener goes."""
        with contextlib.suppress(ConnectionError):
            writer.writelines([text.encode() for text in self.sent])
            self.listeners.add(writer)
            while await reader.read(1000):
                pass  # nothing is asked of a device
        self.listeners.discard(writer)
        writer.close()

    async def run(self) -> None:
        """Shot after shot, while somebody listens."""
        while True:
            if self.listeners:
                await self.shoot()
            await asyncio.sleep(self.every_s)

    async def shoot(self) -> str:
        """One shot to everybody; what was sent."""
        at = datetime.now(UTC).isoformat(timespec="milliseconds")
        texts = [written_line(self.device.line(at, *shot)) for shot in next(self.shots)]
        self.sent = [*self.sent, *texts][-self.KEPT :]
        for writer in tuple(self.listeners):
            with contextlib.suppress(ConnectionError):
                writer.writelines([text.encode() for text in texts])
                await writer.drain()
        return "".join(texts).strip()


async def _record(options: argparse.Namespace) -> None:
    reader, writer = await asyncio.open_connection(HOST, options.port)
    lines, loop = DeviceLines(), asyncio.get_running_loop()
    with options.file.open("ab") as file:
        while data := await reader.read(4096):
            good, messages = lines.feed(data, loop.time())
            file.writelines(written_line(line).encode() for line in good)
            file.flush()
            for reason in messages:
                print(reason.text, file=sys.stderr, flush=True)
    writer.close()


async def _replay(options: argparse.Namespace) -> None:
    lines = options.file.read_bytes().splitlines(keepends=True)

    async def connected(_: asyncio.StreamReader, writer: asyncio.StreamWriter) -> None:
        with contextlib.suppress(ConnectionError):
            for line in lines:
                writer.write(line)
                await writer.drain()
                await asyncio.sleep(options.every)
        writer.close()

    server = await asyncio.start_server(connected, HOST, options.port)
    print(f"{options.file.name}: port {server.sockets[0].getsockname()[1]}", flush=True)
    await server.serve_forever()


if __name__ == "__main__":
    sys.exit(main())
