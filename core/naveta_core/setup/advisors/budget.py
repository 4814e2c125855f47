"""The error budget as an answer: parts with their own value, the largest named, and what would remove it."""

from __future__ import annotations

from typing import Literal

from ...budget import Budget, Given, Quantity, Small, SmallMm, budget, shares
from ...documents.envelope import Part
from ...documents.typed_figures import as_typed
from ...results import Answer
from ...units.formatting import ROUND_SIGHTS, LengthWords, arcsec, length_words
from ...units.numbers import rounded
from ..context import AdviceQuery
from ..results import AdviceResult
from .advised import Advised

LABELS = {
    "centring": "centring of the instrument",
    "targets": "target centring",
    "pointing": "pointing, as stated",
    "levelling": "axis out of plumb",
    "collimation": "collimation error c",
    "tilting-axis": "trunnion axis error t",
    "orientation": "reference direction",
    "distance": "distance, as stated",
    "instrument-height": "instrument height",
    "target-height": "target height",
    "refraction": "refraction",
    "curvature": "earth curvature over unequal sights",
    "index": "vertical index error i",
    "line-of-sight": "collimation over unequal sights",
    "staffs": "staff reading",
    "collimation-uncertainty": "how sure c is",
    "tilting-axis-uncertainty": "how sure t is",
    "index-uncertainty": "how sure i is",
    "line-of-sight-uncertainty": "how sure the collimation error is",
}
REMEDIES = {
    "centring": "centre more closely, or use a longer backsight",
    "targets": "centre the targets more closely, or use longer sights",
    "pointing": "point more often, in both faces",
    "levelling": "level more finely, or switch the compensator on",
    "collimation": "observe in both faces, or store a new value",
    "tilting-axis": "observe in both faces",
    "orientation": "use a longer backsight",
    "distance": "measure from closer, or with a better prism",
    "instrument-height": "measure the instrument height twice, with the tape straight",
    "target-height": "measure the target height again",
    "refraction": "keep the sight short, or observe from both ends",
    "curvature": "keep backsight and foresight equal",
    "index": "observe in both faces, or store a new value",
    "line-of-sight": "keep backsight and foresight equal",
    "staffs": "read each staff more than once",
    "collimation-uncertainty": "check it again: the last check is old or coarse",
    "tilting-axis-uncertainty": "do the full two-face check, with a steep target",
    "index-uncertainty": "check it again: the last check is old or coarse",
    "line-of-sight-uncertainty": "do the two-peg test again: the last one is old or coarse",
}
TITLES = {"angle": "an angle", "position": "a point set out", "height": "a height"}


class Allowed(Part):
    """What the job allows, at 95 percent; None where it says nothing."""

    angle_arcsec: Small | None = None
    position_mm: SmallMm | None = None
    height_mm: SmallMm | None = None


class BudgetQuery(AdviceQuery, Given):
    """What is known, and what the job allows."""

    advice: Literal["budget"]
    allowed: Allowed = Allowed()


class ForecastPart(Answer):
    """One part of a budget: its value with its sign when systematic, one standard deviation otherwise.

    In the unit given by its forecast; the share has no unit.
    """

    name: str
    label: str
    value: float
    systematic: bool
    share: float
    text: str


class Forecast(Answer):
    """The budget of one quantity: parts, bias, spread, total at 95 percent, and what the job allows.

    In the unit given by `unit`.
    """

    quantity: Quantity
    unit: str
    parts: list[ForecastPart]
    bias: float
    sigma: float
    total95: float
    total_text: str
    allowed: float | None
    allowed_text: str | None
    enough: bool | None
    text: str


class BudgetAdvice(AdviceResult):
    """Every budget that applies, and what it was calculated with, defaults where nothing was given."""

    budgets: list[Forecast]
    given: Given
    usual: dict[str, str]
    """The same as somebody would type it: distances in the unit of the query, small lengths in millimetres or in it."""


def advise_budget(query: BudgetQuery) -> Advised:
    """`budgets`: for each quantity its parts, bias, spread, total at 95 percent, what is allowed, and the sentence;
    `given`: what it was calculated with, the usual values where nothing was given."""
    words, far = length_words(query.units.length), ROUND_SIGHTS.get(query.units.length)
    if far is not None:
        query = query.model_copy(
            update={name: far for name in ("back_m", "fore_m") if name not in query.model_fields_set}
        )
    budgets = [forecast(budget_, query.allowed, words) for budget_ in budget(query)]
    given = Given(**query.model_dump(include=set(Given.model_fields), exclude_none=True))
    advice = BudgetAdvice(budgets=budgets, given=given, usual=as_typed(given, words, STATED))
    return Advised(advice, [forecast.text for forecast in budgets])


STATED = ("distance_accuracy_mm",)
"""In millimetres for everybody, as makers state it."""


def forecast(entry: Budget, allowed: Allowed, words: LengthWords) -> Forecast:
    """A budget as it is shown, with what is allowed of it and the sentence that names its largest part."""
    limit = {"angle": allowed.angle_arcsec, "position": allowed.position_mm, "height": allowed.height_mm}[
        entry.quantity
    ]
    parts = [
        ForecastPart(
            name=part.name,
            label=LABELS[part.name],
            value=rounded(part.value, 4),
            systematic=part.systematic,
            share=rounded(share, 4),
            text=_size(entry, abs(part.value), words),
        )
        for part, share in sorted(shares(entry), key=lambda pair: -pair[1])
    ]
    return Forecast(
        quantity=entry.quantity,
        unit="arcsec" if entry.quantity == "angle" else "mm",
        parts=parts,
        bias=rounded(entry.bias, 4),
        sigma=rounded(entry.sigma, 4),
        total95=rounded(entry.total95, 4),
        total_text=_size(entry, entry.total95, words),
        allowed=limit,
        allowed_text=None if limit is None else _size(entry, limit, words),
        enough=None if limit is None else entry.total95 <= limit,
        text=_sentence(entry, limit, words),
    )


def _size(entry: Budget, value: float, words: LengthWords) -> str:
    return arcsec(value) if entry.quantity == "angle" else words.small(value / 1000.0)


def _sentence(entry: Budget, limit: float | None, words: LengthWords) -> str:
    what, total = TITLES[entry.quantity], _size(entry, entry.total95, words)
    head = f"{what.capitalize()}: within {total}"
    if limit is not None:
        head += (
            f", allowed {_size(entry, limit, words)}"
            if entry.total95 > limit
            else f" of the {_size(entry, limit, words)} allowed"
        )
    largest = entry.largest()
    if largest is None:
        return f"{head}."
    left = _size(entry, entry.without(largest.name), words)
    return f"{head}. Largest part: {LABELS[largest.name]}. To reduce it, {REMEDIES[largest.name]} (without it: {left})."
