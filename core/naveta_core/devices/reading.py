"""A reader of device lines that remembers by what it answers: one question, one answer."""

from __future__ import annotations

from typing import Any

from pydantic import Field

from ..documents.envelope import Part
from ..results import Answer, Reason
from .lines import DeviceLine, DeviceLines, KnownDevice
from .placing import LIVE, read_query


class DeviceState(Part):
    """One device as a reader knows it."""

    run: str
    first: int
    last: int
    seen: list[int]
    runs: list[str]
    second: str
    within: int


class ReaderState(Part):
    """What a reader remembers: the beginning of a line, the devices, what was said of which."""

    rest: str
    devices: dict[str, DeviceState]
    reported: list[list[str]]

    def as_reader(self) -> DeviceLines:
        """The reader as it was."""
        devices = {
            name: KnownDevice(
                device.run,
                device.first,
                device.last,
                seen=dict.fromkeys(device.seen),
                runs=set(device.runs),
                second=device.second,
                within=device.within,
            )
            for name, device in self.devices.items()
        }
        return DeviceLines(self.rest.encode(), devices, {(device, code) for device, code in self.reported})


def state_of(reader: DeviceLines) -> dict[str, Any]:
    """The same as plain data."""
    rest, devices, reported = reader.state
    by_name = {
        name: DeviceState(
            run=device.run,
            first=device.first,
            last=device.last,
            seen=list(device.seen),
            runs=sorted(device.runs),
            second=device.second,
            within=device.within,
        )
        for name, device in devices.items()
    }
    return ReaderState(
        rest=rest.decode("utf-8", "replace"), devices=by_name, reported=[list(each) for each in sorted(reported)]
    ).model_dump(mode="json")


class ReadingQuestion(Part):
    """Text that arrived, and what the reader answered before; none for a new device. `clock_s`: the asker's own clock, s."""

    verb: str
    text: str = Field(max_length=100_000)
    clock_s: float = Field(ge=0)
    state: ReaderState | None = None


class Arrived(Answer):
    """Good readings in their order, those sent all the time apart, what is stated, and the reader as it is now."""

    lines: list[DeviceLine]
    live: list[DeviceLine]
    messages: list[Reason]
    state: dict[str, Any]


def arrive(question: dict[str, Any]) -> Arrived:
    """Read what arrived. Raises Refused."""
    query = read_query(ReadingQuestion, question)
    reader = DeviceLines() if query.state is None else query.state.as_reader()
    good, messages = reader.feed(query.text.encode("utf-8", "replace"), query.clock_s)
    one_by_one = [line for line in good if line.quantity not in LIVE]
    live = [line for line in good if line.quantity in LIVE]
    return Arrived(lines=one_by_one, live=live, messages=messages, state=state_of(reader))
