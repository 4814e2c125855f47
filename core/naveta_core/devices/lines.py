"""Readings that arrive from a device, a line of JSON each: how a line is written, read, and what is wrong with one.

A line names its device, the run since it was switched on, its number within that run, the moment, one quantity with value
and unit, the face where there is one, and a checksum over all of it. The value is text as the device shows it.
"""

from __future__ import annotations

import json
import zlib
from dataclasses import KW_ONLY, dataclass, field
from datetime import datetime
from typing import Annotated, Any, Literal

from pydantic import AfterValidator, Field, ValidationError

from ..documents.envelope import Part
from ..documents.json_io import canonical, read_json
from ..errors import NotJson
from ..results import Reason
from ..units.formatting import count

VERSION = 1
MAX_BYTES = 1000
MAX_A_SECOND = 200
"""More than this of one device within a second is not read: no person shoots so fast."""
REMEMBERED = 500
"""So many numbers of a device are remembered, to know what was sent twice."""
LENGTHS, ANGLES = ("m", "mm", "ft", "usft"), ("dms", "deg", "gon")
UNITS: dict[str, tuple[str, ...]] = {
    "staff": LENGTHS,
    "distance": LENGTHS,
    "hz": ANGLES,
    "v": ANGLES,
    "along": ("arcsec",),
    "across": ("arcsec",),
}
"""Which units a quantity may come in."""
Quantity = Literal["staff", "distance", "hz", "v", "along", "across"]


def _moment(text: str) -> str:
    if datetime.fromisoformat(text).tzinfo is None:
        raise ValueError("a moment with its offset")
    return text


def _number(text: str) -> str:
    float(text)
    return text


class DeviceLine(Part):
    """One reading as a device sends it."""

    naveta: Literal[1]
    device: Annotated[str, Field(min_length=1, max_length=40)]
    run: Annotated[str, Field(pattern="^[0-9a-f]{8}$")]
    seq: Annotated[int, Field(ge=1, le=2**31)]
    at: Annotated[str, Field(max_length=40), AfterValidator(_moment)]
    quantity: Quantity
    value: Annotated[str, Field(max_length=20), AfterValidator(_number)]
    unit: Annotated[str, Field(max_length=8)]
    face: Literal["left", "right"] | None = None


def checksum(fields: dict[str, Any]) -> str:
    """Eight hexadecimal digits over the canonical text of every other field (CRC-32)."""
    return f"{zlib.crc32(canonical(fields).encode()):08x}"


def written_line(line: DeviceLine) -> str:
    """A line with its checksum and its end."""
    fields = line.model_dump(exclude_none=True)
    return json.dumps({**fields, "sum": checksum(fields)}, separators=(",", ":")) + "\n"


@dataclass(slots=True)
class KnownDevice:
    """What is known of one device: its run, the numbers seen lately, and how many came within the present second."""

    run: str
    first: int
    last: int
    _: KW_ONLY
    seen: dict[int, None] = field(default_factory=dict)
    runs: set[str] = field(default_factory=set)
    second: str = ""
    within: int = 0


@dataclass(slots=True)
class DeviceLines:
    """Reads what arrives, in whatever pieces. Each trouble is stated once until a good line of the same device has come."""

    _rest: bytes = b""
    _devices: dict[str, KnownDevice] = field(default_factory=dict)
    _reported: set[tuple[str, str]] = field(default_factory=set)

    @property
    def state(self) -> tuple[bytes, dict[str, KnownDevice], set[tuple[str, str]]]:
        """All that is remembered: the beginning of a line, the devices, what was said of which."""
        return self._rest, self._devices, self._reported

    def feed(self, data: bytes, clock_s: float) -> tuple[list[DeviceLine], list[Reason]]:
        """Good readings in their order, and what is to be said. clock_s: the reader's own clock."""
        *whole, self._rest = (self._rest + data).split(b"\n")
        good, messages = [], []
        for raw in whole:
            line, trouble = self._read(raw, clock_s)
            if line is not None:
                good.append(line)
            messages += trouble
        if len(self._rest) > MAX_BYTES:
            self._rest = b""
            messages += self._once("", "not-a-line", "A device sends something that is no line of readings.")
        return good, messages

    def _read(self, raw: bytes, seconds: float) -> tuple[DeviceLine | None, list[Reason]]:
        if not raw.strip():
            return None, []
        try:
            if len(raw) > MAX_BYTES:
                raise NotJson("too long")
            fields = read_json(raw)
            sent = fields.pop("sum", None) if isinstance(fields, dict) else None
        except NotJson:
            return None, self._once("", "not-a-line", "A device sends something that is no line of readings.")
        name = str(fields.get("device", ""))[:40] if isinstance(fields, dict) else ""
        if not isinstance(fields, dict) or sent != checksum(fields):
            text = f"{name or 'A device'}: a line came damaged and was left out. Look at the cable or the distance."
            return None, self._once(name, "damaged-line", text)
        try:
            line = DeviceLine.model_validate(fields)
        except ValidationError as error:
            where = ".".join(map(str, error.errors()[0]["loc"]))
            text = f"{name or 'A device'}: its lines are not understood ({where})."
            return None, self._once(name, "not-understood", text)
        if line.unit not in UNITS[line.quantity]:
            text = f"{line.device}: {line.quantity} in {line.unit} is not known; wanted: {', '.join(UNITS[line.quantity])}."
            return None, self._once(line.device, "unknown-unit", text)
        return self._in_order(line, seconds)

    def _in_order(self, line: DeviceLine, seconds: float) -> tuple[DeviceLine | None, list[Reason]]:
        device = self._devices.setdefault(line.device, KnownDevice(line.run, line.seq, line.seq - 1))
        messages: list[Reason] = []
        if line.run != device.run:
            if line.run in device.runs:
                text = f"Two devices call themselves {line.device}: give one of them another name."
                return None, self._once(line.device, "two-devices", text)
            device.runs.add(device.run)
            device.run, device.first, device.last, device.seen = line.run, line.seq, line.seq - 1, {}
        if line.seq in device.seen or line.seq < device.first:
            return None, []  # sent again after a broken link: it is here already, or was there before somebody listened
        if line.seq < device.last:
            text = f"{line.device}: its numbers jump back; those readings are left out."
            return None, self._once(line.device, "jumps-back", text)
        if self._too_many(device, line.at, seconds):
            text = f"{line.device} sends more than {MAX_A_SECOND} readings a second; not all of them are read."
            return None, self._once(line.device, "too-many-readings", text)
        missing = line.seq - device.last - 1
        if missing:
            text = f"{line.device}: {count(missing, 'reading', 'readings')} did not arrive."
            messages = self._once(line.device, "readings-missing", text)
        else:
            self._reported = {entry for entry in self._reported if entry[0] not in (line.device, "")}
        device.last = line.seq
        device.seen[line.seq] = None
        if len(device.seen) > REMEMBERED:
            del device.seen[next(iter(device.seen))]
        return line, messages

    @staticmethod
    def _too_many(device: KnownDevice, at: str, seconds: float) -> bool:
        # What was kept while nobody read comes at once, but was not sent within one second.
        second = f"{int(seconds)} {at[:19]}"
        if second != device.second:
            device.second, device.within = second, 0
        device.within += 1
        return device.within > MAX_A_SECOND

    def _once(self, device: str, code: str, text: str) -> list[Reason]:
        if (device, code) in self._reported:
            return []
        self._reported.add((device, code))
        return [Reason(code=code, text=text)]
