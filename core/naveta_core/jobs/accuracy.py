"""The error budget of one instrument at one job: its own errors and how sure they are, its accuracy, how it is set up.

Source: `budget`; an error's uncertainty acts as the error itself does, but at random.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from math import hypot, sqrt

from ..budget import Budget, Given, Part, budget
from ..documents.envelope import Earlier, Instrument
from ..setup.advisors.budget import Allowed, Forecast, forecast
from ..stats.noise import staff_spread
from ..units.formatting import LengthWords
from .errors_in_force import LEVEL_KINDS, ErrorInForce, measured_spread
from .needs import JobNeeds

USUAL_CENTRING_MM = 1.0
USUAL_TILT_ARCSEC = 10.0
"""Of an axis levelled by a plate bubble, where nothing compensates it."""
UNCERTAIN = "-uncertainty"
COMMON_TO_A_FACE = 0.4
"""Of a direction's standard deviation, what all pointings in one face share (docs/judgement.md)."""


@dataclass(frozen=True, slots=True)
class Practice:
    """How set-ups end with those who do the job: how far off the mark, how far out of plumb; None where it is not known."""

    centring_mm: float | None = None
    tilt_arcsec: float | None = None


@dataclass(frozen=True, slots=True)
class Working:
    """How an instrument would be used at the job: what a change of method changes is here."""

    given: Given
    errors: tuple[ErrorInForce, ...]
    within: float
    """One standard deviation of one pointing, seconds, or of one reading of a staff, mm, that repeating reduces."""
    between: float = 0.0
    """What all pointings of a sight have in common, seconds, or mm: no repeating reduces it."""
    pointings: int = 1
    """So many pointings, or readings of a staff, are taken and their mean used."""
    renewed: frozenset[str] = frozenset()
    """Checks that are made before: what they find is as sure as a fresh check makes it."""

    @property
    def spread(self) -> float:
        """One standard deviation of the mean of the pointings of a sight, seconds, or of a staff's readings, mm."""
        return hypot(self.within / sqrt(self.pointings), self.between)

    def sigma(self, error: ErrorInForce) -> float:
        """One standard deviation of an error as it will then be, seconds."""
        return error.fresh_sigma if error.felt.check in self.renewed else error.sigma

    def budgets(self) -> list[Budget]:
        """The budgets, with the uncertainty of each error as a part of its own."""
        field = "staff_mm" if self.given.levelling else "angle_accuracy_arcsec"
        given = self.given.model_copy(
            update={
                field: self.spread,
                **{error.felt.budget_field: error.value for error in self.errors},
            }
        )
        found = budget(given)
        for error in self.errors:
            found = [_with(entry, part) for entry, part in zip(found, self._uncertain(given, error), strict=True)]
        return found

    def _uncertain(self, given: Given, error: ErrorInForce) -> list[Part]:
        alone = {other.felt.budget_field: 0.0 for other in self.errors} | {error.felt.budget_field: self.sigma(error)}
        return [
            next(
                (
                    Part(f"{part.name}{UNCERTAIN}", abs(part.value))
                    for part in entry.parts
                    if part.name == error.felt.part
                ),
                Part(f"{error.felt.part}{UNCERTAIN}", 0.0),
            )
            for entry in budget(given.model_copy(update=alone))
        ]


def _with(entry: Budget, part: Part) -> Budget:
    return replace(entry, parts=(*entry.parts, part)) if part.value else entry


def working(
    instrument: Instrument,
    errors: Sequence[ErrorInForce],
    before: Sequence[Earlier],
    needs: JobNeeds,
    practice: Practice,
) -> Working:
    """An instrument at a job, as the crew usually works."""
    if instrument.kind in LEVEL_KINDS:
        own = measured_spread(before, "levelling-accuracy", "levelling_sigma_mm_per_km")
        per_km = own if own is not None else instrument.levelling_accuracy_mm_per_km
        staff = staff_spread(needs.sight_m, instrument.reading, per_km)
        return Working(_level(needs), tuple(errors), staff.within_mm, staff.between_mm)
    own = measured_spread(before, "direction-accuracy", "direction_sigma_arcsec")
    given = _angles(instrument, needs, practice)
    # A mean of both faces was tested; one pointing in one face scatters by √2 more.
    direction = own * sqrt(2) if own is not None else instrument.angle_accuracy_arcsec or given.angle_accuracy_arcsec
    between = COMMON_TO_A_FACE * direction
    return Working(given, tuple(errors), sqrt(direction**2 - between**2), between)


def _level(needs: JobNeeds) -> Given:
    return Given(levelling=True, back_m=needs.sight_m, fore_m=needs.sight_m, imbalance_m=needs.imbalance_m)


def _angles(instrument: Instrument, needs: JobNeeds, practice: Practice) -> Given:
    centring = needs.centring_mm or practice.centring_mm or USUAL_CENTRING_MM
    stated = {name: getattr(instrument, name) for name in ("distance_accuracy_mm", "distance_accuracy_ppm")}
    compensated = instrument.kind != "theodolite" or instrument.compensator_range_arcmin is not None
    given = Given(
        back_m=needs.back_m,
        fore_m=needs.sight_m,
        elevation_deg=needs.elevation_deg,
        both_faces=needs.both_faces and instrument.plunges is not False,
        centring_mm=centring,
        target_mm=needs.target_mm,
        compensated=compensated,
        tilt_arcsec=0.0 if compensated else practice.tilt_arcsec or USUAL_TILT_ARCSEC,
    )
    return given.model_copy(update={name: value for name, value in stated.items() if value is not None})


def wanted_of(needs: JobNeeds, entry: Budget, given: Given) -> float | None:
    """What the job allows of a budget's quantity; millimetres, or seconds for an angle."""
    if given.levelling:
        return needs.levelling_mm
    return {"angle": needs.angle_arcsec, "position": needs.position_mm, "height": needs.height_mm}[entry.quantity]


def forecasts(working: Working, needs: JobNeeds, words: LengthWords) -> list[Forecast]:
    """The budgets of what the job wants, as they are shown."""
    shown = []
    for entry in working.budgets():
        wanted = wanted_of(needs, entry, working.given)
        if wanted is not None:
            allowed = {"angle_arcsec": wanted} if entry.quantity == "angle" else {f"{entry.quantity}_mm": wanted}
            shown.append(forecast(entry, Allowed(**allowed), words))
    return shown
