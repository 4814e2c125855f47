"""Where lines come from: a TCP port or a serial port, taken up again when it went away."""

from __future__ import annotations

import asyncio
import contextlib
from dataclasses import dataclass

import serial

from .lines import Cutter, Lines

AGAIN_S, MAX_AGAIN_S = 0.2, 2.0
"""So long is waited before a source that went away is tried again: twice as long each time, up to the second."""
BAUD = 9600


@dataclass(frozen=True, slots=True)
class Tcp:
    """A TCP port: `tcp:HOST:PORT`."""

    host: str
    port: int

    async def follow(self, name: str, lines: Lines) -> None:
        """Its lines, for as long as the bridge runs."""
        wait_s = AGAIN_S
        while True:
            with contextlib.suppress(OSError):
                reader, writer = await asyncio.open_connection(self.host, self.port)
                lines.source(name, there=True)
                wait_s = AGAIN_S
                cutter = Cutter()
                while data := await reader.read(4096):
                    for line in cutter.cut(data):
                        lines.add(line)
                writer.close()
            lines.source(name, there=False)
            await asyncio.sleep(wait_s)
            wait_s = min(2 * wait_s, MAX_AGAIN_S)


@dataclass(frozen=True, slots=True)
class SerialPort:
    """A serial port: `serial:PATH` or `serial:PATH:BAUD`."""

    path: str
    baud: int = BAUD

    async def follow(self, name: str, lines: Lines) -> None:
        """Its lines, for as long as the bridge runs. Reading waits in a thread of its own."""
        wait_s = AGAIN_S
        while True:
            with contextlib.suppress(serial.SerialException, OSError):
                port = await asyncio.to_thread(serial.Serial, self.path, self.baud, timeout=0.2)
                try:
                    lines.source(name, there=True)
                    wait_s = AGAIN_S
                    cutter = Cutter()
                    while True:
                        for line in cutter.cut(await asyncio.to_thread(_waiting, port)):
                            lines.add(line)
                finally:
                    port.close()
            lines.source(name, there=False)
            await asyncio.sleep(wait_s)
            wait_s = min(2 * wait_s, MAX_AGAIN_S)


def _waiting(port: serial.Serial) -> bytes:
    """What has come, at least one byte unless nothing comes for a while."""
    return bytes(port.read(1) + port.read(port.in_waiting))


def source_of(text: str) -> Tcp | SerialPort:
    """`tcp:HOST:PORT`, `serial:PATH` or `serial:PATH:BAUD`. Raises ValueError with what is wanted."""
    kind, _, rest = text.partition(":")
    if kind == "tcp":
        host, _, port = rest.rpartition(":")
        if host and port.isdigit() and 0 < int(port) < 65536:
            return Tcp(host, int(port))
    if kind == "serial" and rest:
        path, _, baud = rest.rpartition(":")
        if path and baud.isdigit():
            return SerialPort(path, int(baud))
        return SerialPort(rest)
    raise ValueError(f"{text}: wanted is tcp:HOST:PORT, serial:PATH or serial:PATH:BAUD")
