"""How a check is entered: its ways, and for each way the groups of fields in the order in which they are read.

Pages lay these out; nothing of a kind is known to them. A field names a place in the document; what stands in it
is kept to the letter.
"""

from __future__ import annotations

from dataclasses import asdict, dataclass, field
from typing import Any, Literal

from ...cautions import cautions
from ...readings import ordinal

Data = dict[str, Any]


@dataclass(frozen=True, slots=True)
class Option:
    """One of a few answers."""

    value: str
    label: str
    hint: str = ""


@dataclass(frozen=True, slots=True)
class Field:
    """One field of a group. `name` is empty where the list holds plain values."""

    name: str
    label: str
    unit: str = ""
    kind: Literal["number", "length", "angle", "choice"] = "number"
    options: tuple[Option, ...] = ()
    given: bool = False
    """Filled from the way: Enter passes over it, and it may be changed."""
    optional: bool = False
    anew: bool = False
    """Asked afresh in an as-left run: what was stored before the last one is not what is stored now."""


@dataclass(frozen=True, slots=True)
class Group:
    """Fields that stand together. `path` is an object, or a list of which every entry is a row (`rows`)."""

    path: str
    title: str
    fields: tuple[Field, ...]
    rows: bool = False
    row_titles: tuple[str, ...] = ()
    note: str = ""
    most: int = 1
    more: str = ""
    """What one more row is called, where there may be more."""
    rounds: bool = False
    """Whether each row says in which round it was taken: what is set afresh between rounds is solved afresh."""


@dataclass(frozen=True, slots=True)
class Way:
    """A named way of carrying a check out: the observations it begins with, and its groups."""

    name: str
    title: str
    good_for: str
    observations: Data
    groups: tuple[Group, ...]
    steps: tuple[str, ...] = ()
    """What is done, in order, with the hands."""
    caution: tuple[str, ...] = ()
    unit: str = ""
    """The length unit this way is typed in, where it is not the person's own."""
    needs: tuple[tuple[str, tuple[str, ...]], ...] = ()
    """Facts of the instrument this way wants, where they are known: (name, what it may be)."""

    def suits(self, instrument: Data) -> bool:
        """Whether an instrument, told as a document's `instrument`, can be taken in this way."""
        return all(instrument.get(name) in (None, *allowed) for name, allowed in self.needs)

    def as_dict(self, before: tuple[str, ...]) -> Data:
        """What the web shows; `before` are the cautions every way of the kind begins with."""
        told = asdict(self)
        del told["needs"]
        told["steps"] = list(self.steps)
        told["caution"] = cautions(*dict.fromkeys((*self.caution, *before)))
        return told


HEADING = Field("heading_deg", "Heading", "°", given=True)


def looks(path: str, *asked: tuple[str, str]) -> Group:
    """Things looked at, each answered yes or no: (name, question)."""
    options = (Option("yes", "Yes"), Option("no", "No"))
    return Group(
        path, "First a look", tuple(Field(name, label, kind="choice", options=options) for name, label in asked)
    )


@dataclass(frozen=True, slots=True)
class Asks:
    """Which circumstances a kind asks for before it begins."""

    minutes_on: bool = False
    support: bool = False
    wind: bool = False
    temperature: bool = True


MOST_INDEX_TEXT = 8


@dataclass
class Where:
    """Words for paths: list names and field names of one kind."""

    names: dict[str, str] = field(default_factory=dict)

    def __call__(self, path: str) -> str:
        if path == "$":
            return "the whole document"
        words = []
        for step in path.removeprefix("observations.").split("."):
            name, _, rest = step.partition("[")
            word = self.names.get(name, name.replace("_", " "))
            # A field that is not ours may be called anything: only figures are counted.
            counted = rest[:-1].isascii() and rest[:-1].isdigit() and len(rest) < MOST_INDEX_TEXT
            words.append(f"{ordinal(int(rest[:-1]))} {word}" if counted else word)
        return ", ".join(one for one in words if one)
