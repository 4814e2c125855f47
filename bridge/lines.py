"""The lines a bridge keeps: numbered as they come, the last few hundred of them, and whoever waits for the next."""

from __future__ import annotations

import asyncio
import secrets
from dataclasses import dataclass, field

KEPT = 2000
"""So many lines are kept: a browser that was away for less is given all it missed."""
MAX_BYTES = 1000
"""A line that does not end by then is passed on as it is, so that it can be said what came."""


@dataclass(slots=True)
class Lines:
    """Lines of all sources, numbered from one on within a run of the bridge; and which sources are there."""

    run: str = field(default_factory=lambda: secrets.token_hex(4))
    last: int = 0
    kept: dict[int, str] = field(default_factory=dict)
    sources: dict[str, bool] = field(default_factory=dict)
    changed: asyncio.Event = field(default_factory=asyncio.Event)

    def add(self, text: str) -> None:
        """One line more; the oldest goes."""
        self.last += 1
        self.kept[self.last] = text
        if len(self.kept) > KEPT:
            del self.kept[next(iter(self.kept))]
        self._tell()

    def source(self, name: str, *, there: bool) -> None:
        """A source came or went."""
        if self.sources.get(name) != there:
            self.sources[name] = there
            self._tell()

    def after(self, number: int) -> list[tuple[int, str]]:
        """Every line kept after a number, in order."""
        first = max(number + 1, self.last - len(self.kept) + 1)
        return [(each, self.kept[each]) for each in range(first, self.last + 1)]

    def _tell(self) -> None:
        # Whoever waited holds the old event; the next one waits for a new one.
        self.changed.set()
        self.changed = asyncio.Event()


@dataclass(slots=True)
class Cutter:
    """Cuts what one source sends into lines. A new connection begins with a new cutter: half a line is not gone on with."""

    rest: bytes = b""

    def cut(self, data: bytes) -> list[str]:
        """The lines that are whole now, without their ends."""
        *whole, self.rest = (self.rest + data).split(b"\n")
        if len(self.rest) > MAX_BYTES:
            whole, self.rest = [*whole, self.rest], b""
        return [line[: MAX_BYTES + 1].decode("utf-8", "replace") for line in whole if line.strip()]
