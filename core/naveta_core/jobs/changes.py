"""What would make an instrument fit: the largest part of its budget, and how far the crew can bring it down.

A random part p of a total |b| + 2√(σ² + p²) has to come down to p' = √(((T − |b|)/2)² − σ²) for a tolerance T; a
systematic one to what is left beside the others. Each change stays within what people can do on site, and goes no
further than is needed beside the others.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from math import ceil, sqrt

from ..budget import Budget, Part
from ..documents.envelope import Instrument
from ..units.formatting import LengthWords, arcsec, count
from .accuracy import UNCERTAIN, Working, wanted_of
from .needs import JobNeeds

CLOSEST_CENTRING_MM = 0.3
CLOSEST_TARGET_MM = 0.5
CLOSEST_HEIGHT_MM = 0.5
FINEST_TILT_ARCSEC = 3.0
MIN_IMBALANCE_M = 1.0
MAX_POINTINGS = 9
MAX_STEPS = 12
"""A budget has no more parts than that: every one was tried."""


@dataclass(frozen=True, slots=True)
class Change:
    """One change of how the work is done: what it does to it, and how it is stated ("" for a check, which says itself)."""

    code: str
    apply: Callable[[Working], Working]
    text: str = ""


@dataclass(frozen=True, slots=True)
class Excess:
    """A budget beyond what the job allows, and one part of it; millimetres, or seconds of arc for an angle."""

    entry: Budget
    wanted: float
    part: Part

    @property
    def needed(self) -> float:
        """What the part may still be, in its unit: 0 where even nothing of it is not enough."""
        others = Budget(self.entry.quantity, tuple(p for p in self.entry.parts if p.name != self.part.name))
        if self.part.systematic:
            return max(0.0, self.wanted - others.total95)
        room = (self.wanted - abs(self.entry.bias)) / 2
        square = room**2 - others.sigma**2
        return sqrt(square) if room > 0 and square > 0 else 0.0

    @property
    def share(self) -> float:
        """What is left of the part, as a share of what it is."""
        return self.needed / abs(self.part.value)


def excess_of(working: Working, needs: JobNeeds) -> list[Excess]:
    """Everything of the budgets beyond what the job allows, part by part: first the one whose going helps most."""
    found = []
    for entry in working.budgets():
        wanted = wanted_of(needs, entry, working.given)
        if wanted is not None and entry.total95 > wanted:
            parts = [part for part in entry.parts if part.value]
            found += [(entry.without(part.name) / wanted, Excess(entry, wanted, part)) for part in parts]
    return [excess for _, excess in sorted(found, key=lambda pair: pair[0])]


def changes_for(working: Working, needs: JobNeeds, instrument: Instrument, words: LengthWords) -> list[Change]:
    """Every change that is needed and can be made, each to what is needed; not enough where the job cannot be met."""
    made: list[Change] = []
    for _ in range(MAX_STEPS):
        change = _first(applied(working, made), needs, instrument, words)
        if change is None:
            break
        made = [*(entry for entry in made if entry.code != change.code), change]
    if excess_of(applied(working, made), needs):
        return made
    for entry in list(made):
        others = [change for change in made if change.code != entry.code]
        eased = _first(applied(working, others), needs, instrument, words, entry.code)
        if eased is None and not excess_of(applied(working, others), needs):
            made = others
        elif eased is not None and not excess_of(applied(working, [*others, eased]), needs):
            made = [*others, eased]
    return made


def applied(working: Working, changes: Sequence[Change]) -> Working:
    """How the work is done with every change in it."""
    for change in changes:
        working = change.apply(working)
    return working


def _first(
    working: Working, needs: JobNeeds, instrument: Instrument, words: LengthWords, code: str = ""
) -> Change | None:
    """The least effort that is enough on its own; where no single change is, the one that brings the largest part down.
    Only of one code, where one is given."""
    found = [
        change
        for excess in excess_of(working, needs)
        if (change := _change(excess, working, needs, instrument, words)) and code in ("", change.code)
    ]
    enough = [change for change in found if not excess_of(change.apply(working), needs)]
    return min(enough, key=_effort) if enough else next(iter(found), None)


def _effort(change: Change) -> int:
    return EFFORTS.index(change.code) if change.code in EFFORTS else len(EFFORTS)


def _change(
    excess: Excess, working: Working, needs: JobNeeds, instrument: Instrument, words: LengthWords
) -> Change | None:
    name = excess.part.name
    if name.endswith(UNCERTAIN):
        return _renewed(excess, working)
    if name in ("collimation", "tilting-axis", "index"):
        return None if working.given.both_faces or instrument.plunges is False else BOTH_FACES
    if name in ("pointing", "staffs"):
        return _pointings(excess, working)
    return _smaller(excess, working, needs, words) if name in INPUTS else None


def _renewed(excess: Excess, working: Working) -> Change | None:
    part = excess.part.name.removesuffix(UNCERTAIN)
    error = next(error for error in working.errors if error.felt.part == part)
    check = error.felt.check
    if check in working.renewed or error.fresh_sigma >= error.sigma:
        return None
    return Change(f"check-{check}", lambda way: replace(way, renewed=way.renewed | {check}))


def _in_both_faces(way: Working) -> Working:
    return replace(way, given=way.given.model_copy(update={"both_faces": True}))


EFFORTS = (
    "imbalance_m",
    "centring_mm",
    "target_mm",
    "instrument_height_mm",
    "target_height_mm",
    "tilt_arcsec",
    "both-faces",
    "pointings",
)
"""Changes from the least effort to the greatest; a check comes last."""
BOTH_FACES = Change("both-faces", _in_both_faces, "Observe in both faces.")


def _pointings(excess: Excess, working: Working) -> Change | None:
    room = (working.spread * excess.share) ** 2 - working.between**2
    times = working.within**2 / room if room > 0 else MAX_POINTINGS
    number = min(MAX_POINTINGS, max(2, ceil(times - 1e-9)))
    if number <= working.pointings:
        return None
    often = count(number, "time", "times")
    text = f"Read each staff {often}." if working.given.levelling else f"Point at each target {often}."
    return Change("pointings", lambda way: replace(way, pointings=number), f"{text[:-1]} and use the mean.")


@dataclass(frozen=True, slots=True)
class Input:
    """An input of the budget that causes its part in proportion: how small it can be made, in its unit, and how that is stated."""

    field: str
    least: float
    text: Callable[[float, LengthWords], str]


def _equal(value: float, words: LengthWords) -> str:
    return f"Keep backsight and foresight equal within {words.distance(value)}."


EQUAL_SIGHTS = Input("imbalance_m", MIN_IMBALANCE_M, _equal)
INPUTS = {
    "line-of-sight": EQUAL_SIGHTS,
    "curvature": EQUAL_SIGHTS,
    "centring": Input("centring_mm", CLOSEST_CENTRING_MM, lambda v, words: f"Centre within {words.small(v / 1000)}."),
    "targets": Input(
        "target_mm", CLOSEST_TARGET_MM, lambda v, words: f"Centre the targets within {words.small(v / 1000)}."
    ),
    "instrument-height": Input(
        "instrument_height_mm",
        CLOSEST_HEIGHT_MM,
        lambda v, words: f"Measure the instrument height to {words.small(v / 1000)}.",
    ),
    "target-height": Input(
        "target_height_mm", CLOSEST_HEIGHT_MM, lambda v, words: f"Measure target heights to {words.small(v / 1000)}."
    ),
    "levelling": Input("tilt_arcsec", FINEST_TILT_ARCSEC, lambda v, _: f"Level to {arcsec(v)} or better."),
}


def _smaller(excess: Excess, working: Working, needs: JobNeeds, words: LengthWords) -> Change | None:
    """An input brought down as far as its quantity needs; as far as people can, where that is not enough."""
    of = INPUTS[excess.part.name]

    def with_input(way: Working, value: float) -> Working:
        return replace(way, given=way.given.model_copy(update={of.field: value}))

    def meets(value: float) -> bool:
        over = excess_of(with_input(working, value), needs)
        return not any(entry.entry.quantity == excess.entry.quantity for entry in over)

    now = float(getattr(working.given, of.field))
    if of.least >= now:
        return None
    low, high = of.least, now
    for _ in range(14 if meets(of.least) else 0):
        middle = (low + high) / 2
        low, high = (middle, high) if meets(middle) else (low, middle)
    # Rounded down to a tenth: what is stated is enough.
    value = max(of.least, int(low * 10 + 1e-9) / 10)
    return Change(of.field, lambda way: with_input(way, value), of.text(value, words))
