"""What a kind of check states about itself, so that everything else can be shared."""

from __future__ import annotations

import random
from collections.abc import Callable
from dataclasses import asdict, dataclass
from typing import Any

from ..cautions import cautions
from ..envelope import Envelope
from .sheet.entry import Asks, Way

Data = dict[str, Any]


NOTHING_ASKED = Asks()


def _any(_instrument: Data) -> bool:
    return True


@dataclass(frozen=True, slots=True)
class Layout:
    """A named way of carrying a check out, with the distances people usually take."""

    name: str
    title: str
    good_for: str
    distances_m: tuple[tuple[float, float], ...]
    distances_ft: tuple[tuple[float, float], ...]


@dataclass(frozen=True, slots=True)
class Kind:
    """One kind of check: its document, its functions, and what people are told before they start."""

    name: str
    title: str
    model: type[Envelope]
    preview: Callable[[Any], Data]
    reduce: Callable[[Any], Data]
    adjusting: Callable[[Any, list[Any]], Data] | None
    where: Callable[[str], str]
    applies_to: tuple[str, ...]
    minutes: int
    interval_days: int
    bring: tuple[str, ...]
    before_you_start: tuple[str, ...]
    who_adjusts: tuple[str, ...]
    when_bad: tuple[tuple[str, str, str], ...]
    """(code, what to ask or do, why): a bad finding is led through in this order."""
    caution_codes: dict[str, tuple[str, ...]]
    watch_condition: str
    main_quantity: str
    quantity_label: str
    csv_columns: tuple[str, ...]
    read_csv: Callable[[str], Data]
    write_csv: Callable[[Any], str]
    layouts: tuple[Layout, ...]
    simulate: Callable[[random.Random, Data], Data]
    ways: tuple[Way, ...] = ()
    """How a check of rows is entered; a kind without them has a page of its own."""
    asks: Asks = NOTHING_ASKED
    why: str = ""
    """What it is for, in a sentence."""
    unit: str = "arcsec"
    """Of the main quantity: arcsec, mm, div or ppm."""
    gates: bool = True
    """Whether an instrument on which this was never done, or long ago, has to be checked first before it goes out.
    Opening rule until planning brings its own: a bad finding of any check holds it all the same."""
    scheduled: bool = True
    """Whether it comes due: what is taken only when it is wanted is never overdue."""
    order: int = 50
    """In which order the checks of an instrument make sense: what others lean on comes first."""
    quick: tuple[str, int] | None = None
    """Of a check that belongs into the round before the work: the way it is taken in there, and its minutes."""
    carries: tuple[str, ...] = ()
    """Figures of the as-found that its as-left holds itself against: they go into `observations.found`."""
    kept: tuple[str, ...] = ()
    """Figures of the result that later work leans on: rest positions, offsets."""
    fits: Callable[[Data], bool] = _any
    """Whether an instrument of a fitting kind has what is checked, told as a document's `instrument`."""

    voids: tuple[str, ...] = ()
    """Other checks whose last results no longer hold once this was adjusted: they were measured through it."""
    joins: bool = True
    """Whether a run taken on another day may be joined to a record; where something moves between runs, a fresh check."""

    def ways_for(self, instrument: Data) -> list[str]:
        """The ways in which an instrument, told as a document's `instrument`, can be taken, the usual one first."""
        return [one.name for one in self.ways if one.suits(instrument)]

    def about(self) -> Data:
        """What the web shows before a check begins."""
        return {
            "kind": self.name,
            "title": self.title,
            "applies_to": list(self.applies_to),
            "minutes": self.minutes,
            "interval_days": self.interval_days,
            "bring": list(self.bring),
            "before_you_start": list(self.before_you_start),
            "who_adjusts": list(self.who_adjusts),
            "when_bad": [{"code": code, "title": title, "text": text} for code, title, text in self.when_bad],
            "cautions": {act: cautions(*codes) for act, codes in self.caution_codes.items()},
            "watch_condition": self.watch_condition,
            "main_quantity": self.main_quantity,
            "quantity_label": self.quantity_label,
            "csv_columns": list(self.csv_columns),
            "why": self.why,
            "order": self.order,
            "unit": self.unit,
            "adjustable": self.adjusting is not None,
            "joins": self.joins,
            "carries": list(self.carries),
            "quick": None if self.quick is None else {"way": self.quick[0], "minutes": self.quick[1]},
            "asks": asdict(self.asks),
            "ways": [one.as_dict(self.caution_codes["before"]) for one in self.ways],
            "layouts": [
                {
                    "name": one.name,
                    "title": one.title,
                    "good_for": one.good_for,
                    "distances_m": [list(pair) for pair in one.distances_m],
                    "distances_ft": [list(pair) for pair in one.distances_ft],
                }
                for one in self.layouts
            ],
        }
