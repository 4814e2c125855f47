"""Largest error a job allows, and whether a check can prove it.

A condition that no check can prove is never given. Both faces or more equal sights come first, until the allowed error
reaches the least a fresh check proves (1.645 of its standard deviations); otherwise the instrument is not fit.
"""

from __future__ import annotations

from collections.abc import Set as AbstractSet
from dataclasses import replace

from ..checks import KINDS
from ..documents.envelope import Instrument
from ..results import Reason
from ..setup.advisors.budget import LABELS
from ..units.formatting import LengthWords, arcsec
from .accuracy import Working
from .changes import BOTH_FACES, EQUAL_SIGHTS, Change, excess_of
from .errors_in_force import ErrorInForce
from .needs import JobNeeds

ONE_SIDED = 1.645
"""A fresh check proves an error to this many of its standard deviations, at best."""


def largest_errors(way: Working, checks: AbstractSet[str], needs: JobNeeds) -> list[Reason]:
    """Return the conditions on a check before the job, where the job allows less than the limit of the check."""
    found = []
    for error in _renewed(way, checks):
        most = most_of(way, error, needs)
        if most is not None and most < error.limit:
            label = LABELS[error.felt.part]
            text = f"{KINDS[error.felt.check].title}: {label} at most {arcsec(most)}, this job asks for less than its limit of {error.limit:g}″."
            found.append(Reason(code=f"most-{error.felt.part}", text=text))
    return found


def below_proof(way: Working, checks: AbstractSet[str], needs: JobNeeds) -> list[Reason]:
    """Return the reason why an instrument is not fit: an allowed error below what a check can prove; empty if none."""
    for error in _renewed(way, checks):
        most = most_of(way, error, needs)
        if most is not None and most < provable_arcsec(error):
            label, check = LABELS[error.felt.part], KINDS[error.felt.check].title
            text = f"{label[0].upper()}{label[1:]} would have to be below {arcsec(provable_arcsec(error))}, the least a {check.lower()} can prove: it takes another instrument, or shorter sights."
            return [Reason(code="below-proof", text=text)]
    return []


def provable_changes(
    way: Working, checks: AbstractSet[str], needs: JobNeeds, instrument: Instrument, words: LengthWords
) -> list[Change]:
    """Return the changes of method that raise the allowed errors to what a check can prove."""
    made: list[Change] = []
    for error in _renewed(way, checks):
        most = most_of(way, error, needs)
        if most is None or most >= provable_arcsec(error):
            continue
        change = _equal_enough(way, error, needs, words) if way.given.levelling else _other_face(way, instrument)
        if change is not None:
            way = change.apply(way)
            made = [*(one for one in made if one.code != change.code), change]
    return made


def provable_arcsec(error: ErrorInForce) -> float:
    """Return the smallest bound a fresh check can prove, arcsec."""
    return ONE_SIDED * error.fresh_sigma


def most_of(way: Working, error: ErrorInForce, needs: JobNeeds) -> float | None:
    """Return the largest error that still meets the job, arcsec, or None if the whole limit does."""
    field, limit = error.felt.budget_field, error.limit

    def meets(size: float) -> bool:
        for value in (size, -size):
            errors = tuple(replace(e, value=value) if e.felt.budget_field == field else e for e in way.errors)
            if excess_of(replace(way, errors=errors), needs):
                return False
        return True

    if meets(limit):
        return None
    low, high = 0.0, limit
    for _ in range(12):
        middle = (low + high) / 2
        low, high = (middle, high) if meets(middle) else (low, middle)
    return int(low * 10) / 10


def _renewed(way: Working, checks: AbstractSet[str]) -> list[ErrorInForce]:
    return [error for error in way.errors if error.felt.check in checks]


def _other_face(way: Working, instrument: Instrument) -> Change | None:
    return None if way.given.both_faces or instrument.plunges is False else BOTH_FACES


def _equal_enough(way: Working, error: ErrorInForce, needs: JobNeeds, words: LengthWords) -> Change | None:
    """Return the imbalance of sights that is small enough, or None if it is below what crews can keep."""

    def with_sights(at: Working, value: float) -> Working:
        return replace(at, given=at.given.model_copy(update={EQUAL_SIGHTS.field: value}))

    def enough(value: float) -> bool:
        most = most_of(with_sights(way, value), error, needs)
        return most is None or most >= provable_arcsec(error)

    low, high = EQUAL_SIGHTS.least, way.given.imbalance_m
    if low >= high or not enough(low):
        return None
    for _ in range(14):
        middle = (low + high) / 2
        low, high = (middle, high) if enough(middle) else (low, middle)
    value = max(EQUAL_SIGHTS.least, int(low * 10 + 1e-9) / 10)
    return Change(EQUAL_SIGHTS.field, lambda at: with_sights(at, value), EQUAL_SIGHTS.text(value, words))
