"""A reader of device lines that remembers by what it answers: one question, one answer."""

from __future__ import annotations

from typing import Any

from pydantic import Field

from ..documents.envelope import Part
from ..results import Answer, Reason
from .lines import DeviceLine, DeviceLines, KnownDevice
from .placing import LIVE, asked_for


class DeviceState(Part):
    """One device as a reader knows it."""

    run: str
    first: int
    last: int
    seen: list[int]
    runs: list[str]
    second: int
    within: int


class ReaderState(Part):
    """What a reader remembers: the beginning of a line, the devices, what was said of which."""

    rest: str
    devices: dict[str, DeviceState]
    said: list[tuple[str, str]]

    def as_reader(self) -> DeviceLines:
        """The reader as it was."""
        devices = {
            name: KnownDevice(
                one.run, one.first, one.last, dict.fromkeys(one.seen), set(one.runs), one.second, one.within
            )
            for name, one in self.devices.items()
        }
        return DeviceLines(self.rest.encode(), devices, set(self.said))


def state_of(reader: DeviceLines) -> dict[str, Any]:
    """The same as plain data."""
    rest, devices, said = reader.state
    known = {
        name: DeviceState(
            run=one.run,
            first=one.first,
            last=one.last,
            seen=list(one.seen),
            runs=sorted(one.runs),
            second=one.second,
            within=one.within,
        )
        for name, one in devices.items()
    }
    return ReaderState(rest=rest.decode("utf-8", "replace"), devices=known, said=sorted(said)).model_dump(mode="json")


class ReadingQuestion(Part):
    """Text that arrived, and what the reader answered before; none for a new one. `clock_s`: the asker's own clock, s."""

    verb: str
    text: str = Field(max_length=100_000)
    clock_s: float = Field(ge=0)
    state: ReaderState | None = None


class Arrived(Answer):
    """Good readings in their order, those sent all the time apart, what is said, and the reader as it is now."""

    lines: list[DeviceLine]
    live: list[DeviceLine]
    said: list[Reason]
    state: dict[str, Any]


def arrive(question: dict[str, Any]) -> Arrived:
    """Read what arrived. Raises Refused."""
    asked = asked_for(ReadingQuestion, question)
    reader = DeviceLines() if asked.state is None else asked.state.as_reader()
    good, said = reader.feed(asked.text.encode("utf-8", "replace"), asked.clock_s)
    one_by_one = [line for line in good if line.quantity not in LIVE]
    live = [line for line in good if line.quantity in LIVE]
    return Arrived(lines=one_by_one, live=live, said=said, state=state_of(reader))
