"""`make soak`: fifty readings a second for ten minutes through a bridge, its links cut each minute; nothing lost or doubled.

Prints how many came, what was said, and how much memory the bridge held after the first minute and at the end. Exit 1 where
a reading is missing, came twice or out of order, or where the bridge grew by more than 20 MB.
"""

from __future__ import annotations

import asyncio
import contextlib
import json
import subprocess
import sys
import time
from datetime import UTC, datetime
from pathlib import Path
from typing import Any

from websockets.asyncio.client import connect
from websockets.exceptions import ConnectionClosed

from naveta_core.devices import arrive
from naveta_core.devices.lines import DeviceLine, written_line

MINUTES = float(sys.argv[1]) if len(sys.argv) > 1 else 10.0
A_SECOND, KEPT, CUT_EVERY_S, MAX_GROWN_MB = 50, 200, 60.0, 20.0


class Device:
    """Sends readings by TCP; whoever connects is first sent the last two hundred again."""

    def __init__(self) -> None:
        self.sent: list[str] = []
        self.count = 0
        self.writers: set[asyncio.StreamWriter] = set()

    async def connected(self, reader: asyncio.StreamReader, writer: asyncio.StreamWriter) -> None:
        with contextlib.suppress(ConnectionError):
            writer.writelines([text.encode() for text in self.sent])
            self.writers.add(writer)
            while await reader.read(100):
                pass
        self.writers.discard(writer)

    async def run(self, seconds: float) -> None:
        begins = time.monotonic()
        while (now := time.monotonic() - begins) < seconds:
            while self.count < now * A_SECOND:
                self._shoot()
            await asyncio.sleep(0.02)

    def _shoot(self) -> None:
        self.count += 1
        fields: dict[str, Any] = {"naveta": 1, "device": "level-1", "run": "00c0ffee", "seq": self.count}
        at = datetime.now(UTC).isoformat(timespec="milliseconds")
        line = DeviceLine.model_validate({**fields, "at": at, "quantity": "staff", "value": "1.46830", "unit": "m"})
        self.sent = [*self.sent, written_line(line)][-KEPT:]
        for writer in self.writers:
            writer.write(self.sent[-1].encode())

    async def cut(self) -> None:
        """The cable is pulled every minute."""
        while True:
            await asyncio.sleep(CUT_EVERY_S)
            for writer in tuple(self.writers):
                writer.transport.abort()


class Browser:
    """Reads as the web does, by the core; its own link to the bridge goes every minute too."""

    def __init__(self, address: str) -> None:
        self.address, self.after = address, ""
        self.taken: list[int] = []
        self.messages: list[str] = []
        self.state: dict[str, Any] | None = None

    async def run(self) -> None:
        while True:
            address = f"{self.address}/?after={self.after}" if self.after else self.address
            with contextlib.suppress(ConnectionClosed, OSError, TimeoutError):
                async with connect(address) as link, asyncio.timeout(CUT_EVERY_S * 0.83):
                    async for message in link:
                        self._hear(json.loads(message))
            await asyncio.sleep(0.3)

    def _hear(self, message: dict[str, Any]) -> None:
        if "run" in message:
            self.after = f"{message['run']}-{message['last']}"
        lines = message.get("lines", [])
        if not lines:
            return
        self.after = f"{self.after.split('-')[0]}-{lines[-1][0]}"
        text = "".join(f"{line}\n" for _, line in lines)
        found = arrive({"verb": "", "text": text, "clock_s": time.monotonic(), "state": self.state})
        self.state = found.state
        self.taken += [line.seq for line in found.lines]
        self.messages += [reason.text for reason in found.messages]


def memory_mb(process: subprocess.Popen[str]) -> float:
    status = Path(f"/proc/{process.pid}/status").read_text()
    return int(status.split("VmRSS:")[1].split()[0]) / 1024


async def soak() -> int:
    device = Device()
    server = await asyncio.start_server(device.connected, "127.0.0.1", 0)
    source = f"tcp:127.0.0.1:{server.sockets[0].getsockname()[1]}"
    bridge = subprocess.Popen(
        [sys.executable, "-m", "bridge", source, "--port", "0"], stdout=subprocess.PIPE, text=True
    )
    try:
        assert bridge.stdout
        browser = Browser(bridge.stdout.readline().split()[-1])
        tasks = [asyncio.create_task(each) for each in (browser.run(), device.cut())]
        await asyncio.sleep(2)
        seconds = MINUTES * 60
        sending = asyncio.create_task(device.run(seconds))
        await asyncio.sleep(min(60, seconds / 2))
        first = memory_mb(bridge)
        await sending
        await asyncio.sleep(4)
        grown = memory_mb(bridge) - first
        for task in tasks:
            task.cancel()
    finally:
        bridge.terminate()
    whole = browser.taken == list(range(1, device.count + 1))
    print(f"sent {device.count}, taken {len(browser.taken)}, {'each once and in order' if whole else 'NOT the same'}")
    print(
        f"messages: {sorted(set(browser.messages)) or 'nothing'}; the bridge holds {first:.1f} MB, later {grown:+.1f} MB"
    )
    return 0 if whole and grown < MAX_GROWN_MB else 1


if __name__ == "__main__":
    sys.exit(asyncio.run(soak()))
