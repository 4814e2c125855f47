"""Circumstances of a check, judged: what must wait, what only makes it weaker and by how much, what is worth saying."""

from __future__ import annotations

from dataclasses import dataclass, field

from ..documents.envelope import Earlier, Envelope, days_between
from ..stats.estimate import PRIOR_DOF
from ..units.formatting import figure

CodedPair = tuple[str, str]
Prerequisites = tuple[tuple[tuple[str, ...], str], ...]
"""Kinds of check, one of which should have passed lately, and what they check."""
WIND_FACTOR = {"calm": 1.0, "breeze": 1.25, "strong": 2.0}
"""How many times as much a bubble or a mark scatters. Ours; experience, not measured."""
STEP_KELVIN = 10.0
FRESH_DAYS = 31.0


@dataclass(frozen=True, slots=True)
class Needs:
    """What a kind wants of its circumstances. Warm-up in minutes."""

    minutes_on: float | None = None
    firm_stand: bool = False
    wind: bool = False
    proved_first: tuple[str, ...] = ()
    """One of these checks must have passed lately, and nothing have happened since."""
    temperature: bool = False


NOTHING_NEEDED = Needs()


@dataclass
class Circumstances:
    """What follows: what must wait, what is weaker, by what factor readings scatter more. The factor has no unit."""

    blocked: list[CodedPair] = field(default_factory=list)
    weak: list[CodedPair] = field(default_factory=list)
    factor: float = 1.0
    proved: bool = True
    check_first: list[CodedPair] = field(default_factory=list)


def circumstances(document: Envelope, needs: Needs, prerequisites: Prerequisites = ()) -> Circumstances:
    """Judge what was entered of the circumstances.

    prerequisites: checks one of which should have passed lately; held against the history, where one is known.
    """
    outcome, found = document.conditions, Circumstances()
    if needs.minutes_on is not None:
        if outcome.minutes_on is None:
            text = f"Warm-up time not entered: at least {needs.minutes_on:g} minutes needed."
            found.weak.append(("warm-up-not-entered", text))
        elif outcome.minutes_on < needs.minutes_on:
            left = needs.minutes_on - outcome.minutes_on
            more = "one minute" if left <= 1 else f"{figure(left, 0)} minutes"
            text = f"Warm-up {outcome.minutes_on:g} min: wait {more} more, then read."
            found.blocked.append(("not-warm", text))
    if needs.firm_stand and outcome.steady is False:
        found.blocked.append(("stand-not-steady", "The tripod moves: find firm ground, press the feet in, then read."))
    elif needs.firm_stand and outcome.support == "tripod":
        found.weak.append(("tripod-stand", "On a tripod: do not walk around it or lean on it while reading."))
    if needs.wind and outcome.wind in WIND_FACTOR and outcome.wind != "calm":
        found.factor = WIND_FACTOR[outcome.wind]
        strong = "Strong wind" if outcome.wind == "strong" else "A breeze"
        text = f"{strong}: readings scatter about {found.factor:g} times as much, so the ± is larger."
        found.weak.append(("wind", text))
    if needs.temperature:
        found.weak += _temperature(document)
    if needs.proved_first:
        found.proved = any(
            earlier.check in needs.proved_first and _passed(earlier, document.before_at) for earlier in document.before
        )
    if document.before_at is not None and prerequisites:
        passed = {earlier.check for earlier in document.before if _passed(earlier, document.before_at)}
        found.check_first = [
            ("fresh-first", f"{what} has no recent pass: check it first.")
            for kinds, what in prerequisites
            if not passed.intersection(kinds)
        ]
    return found


def _temperature(document: Envelope) -> list[CodedPair]:
    """How much warmer or colder than when it was last checked."""
    here = document.conditions.temperature_c
    last = next(
        (
            earlier
            for earlier in document.before
            if earlier.check == document.kind and earlier.temperature_c is not None
        ),
        None,
    )
    if here is None or last is None or last.temperature_c is None or abs(here - last.temperature_c) <= STEP_KELVIN:
        return []
    way = "warmer" if here > last.temperature_c else "colder"
    text = f"It is {figure(abs(here - last.temperature_c), 0)} K {way} than at the last check: today's result is valid near this temperature."
    return [("temperature-step", text)]


def _passed(earlier: Earlier, now: str | None) -> bool:
    if not earlier.good:
        return False
    if now is None:
        return True
    return days_between(earlier.at, now) <= FRESH_DAYS


def prior_dof(document: Envelope) -> float:
    """Degrees of freedom of the a-priori spread, learned from earlier tests where there are any."""
    noise = document.instrument.noise
    return noise.dof if noise else PRIOR_DOF


def noise_factor(document: Envelope) -> float:
    """By what factor this instrument scatters more or less than its default spread."""
    noise = document.instrument.noise
    return noise.factor if noise else 1.0
