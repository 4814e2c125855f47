"""What is wrong with an instrument as far as its checks know: each error a job feels, how sure it is, and how old.

An error that was measured wanders slowly (stats/decision.py), so that its uncertainty grows with its age. One that was
never measured is assumed to lie within twice its limit, with 95 percent confidence: wider than one that a check found
just within the limit, which is half the limit wider than its value.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import KW_ONLY, dataclass
from math import sqrt

from ..checks.two_face.document import limits_of as two_face_limits
from ..checks.two_peg.document import limits_of as two_peg_limits
from ..documents.envelope import Earlier, Envelope, Instrument, LimitSet, Work, days_between
from ..stats.decision import Limits, wandering

ANGLE_KINDS = ("theodolite", "total-station", "robotic-total-station")
LEVEL_KINDS = ("level", "digital-level")


@dataclass(frozen=True, slots=True)
class FeltError:
    """An error that work feels: the check and figure it comes from, and the part of a budget it is."""

    check: str
    figure: str
    budget_field: str
    _: KW_ONLY
    part: str
    kinds: tuple[str, ...]
    limit: Callable[[Envelope], Limits]


FELT = (
    FeltError(
        "two-face",
        "collimation_arcsec",
        "collimation_arcsec",
        part="collimation",
        kinds=ANGLE_KINDS,
        limit=lambda document: two_face_limits(document, "collimation_arcsec"),
    ),
    FeltError(
        "two-face",
        "index_arcsec",
        "index_arcsec",
        part="index",
        kinds=ANGLE_KINDS,
        limit=lambda document: two_face_limits(document, "index_arcsec"),
    ),
    FeltError(
        "two-face",
        "tilting_axis_arcsec",
        "tilting_axis_arcsec",
        part="tilting-axis",
        kinds=ANGLE_KINDS,
        limit=lambda document: two_face_limits(document, "tilting_axis_arcsec"),
    ),
    FeltError(
        "two-peg",
        "collimation_arcsec",
        "line_of_sight_arcsec",
        part="line-of-sight",
        kinds=LEVEL_KINDS,
        limit=two_peg_limits,
    ),
)


@dataclass(frozen=True, slots=True)
class ErrorInForce:
    """One error as it has to be taken today, in seconds: its value (0 where it was never measured), one standard
    deviation with its age in it, the same as a fresh check would give it, its limit, and its age in days."""

    felt: FeltError
    value: float
    sigma: float
    _: KW_ONLY
    fresh_sigma: float
    limit: float
    days: float | None


def errors_in_force(
    instrument: Instrument, limits: Mapping[str, LimitSet], before: Sequence[Earlier], now: str
) -> list[ErrorInForce]:
    """Every error of an instrument that work feels. before: its earlier results, newest first; now: ISO with offset."""
    about = Envelope(kind="job", instrument=instrument, limits=dict(limits), work=Work(), observations=None)
    return [
        _in_force(felt, felt.limit(about).use, before, now) for felt in FELT if (instrument.kind or "") in felt.kinds
    ]


def _in_force(felt: FeltError, limit: float, before: Sequence[Earlier], now: str) -> ErrorInForce:
    for earlier in before:
        if earlier.check != felt.check or earlier.grade == "repeat":
            continue
        value, sigma = earlier.figure(felt.figure), earlier.figure(f"sigma_{felt.figure}")
        if value is not None and sigma is not None:
            days = max(0.0, days_between(earlier.at, now))
            aged = sqrt(sigma**2 + wandering(limit, days))
            return ErrorInForce(felt, value, aged, fresh_sigma=min(sigma, limit / 4), limit=limit, days=days)
    # A full check is good to half the limit at 95 percent, a quarter of it as a standard deviation. An error that
    # was never measured may be larger than one that a check found within the limit.
    return ErrorInForce(felt, 0.0, limit, fresh_sigma=limit / 4, limit=limit, days=None)


def measured_spread(before: Sequence[Earlier], check: str, figure: str) -> float | None:
    """What an accuracy test of this instrument found, the latest that was not to be repeated; None where none was made."""
    for earlier in before:
        if earlier.check == check and earlier.grade != "repeat":
            return earlier.figure(figure)
    return None
