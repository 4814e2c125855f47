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
SHIMMER_FACTOR = {"none": 1.0, "some": 1.5}
"""How many times as much a reading through the air scatters. Ours; experience, not measured."""
HARD_GROUND = ("asphalt", "stone", "gravel")
STEP_KELVIN = 10.0
FRESH_DAYS = 31.0


@dataclass(frozen=True, slots=True)
class Needs:
    """What a kind needs of its circumstances. Warm-up in minutes."""

    minutes_on: float | None = None
    firm_stand: bool = False
    wind: bool = False
    proved_first: tuple[str, ...] = ()
    """One of these checks must have passed lately, and nothing have happened since."""
    temperature: bool = False
    by_hand: bool = False
    """A staff out of plumb or a finger on the key shows in its readings."""
    tracks: bool = False
    """It follows a prism."""
    shaded: bool = False
    """Sun on the instrument moves what is checked."""
    through_air: bool = False
    """It sights so far that heat shimmer and the ground between matter."""


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
        found.weak.append(("tripod-stand", "On a tripod: do not walk around it or touch it while reading."))
    if needs.wind and outcome.wind in WIND_FACTOR and outcome.wind != "calm":
        found.factor = WIND_FACTOR[outcome.wind]
        strong = "Strong wind" if outcome.wind == "strong" else "A breeze"
        text = f"{strong}: readings scatter about {found.factor:g} times as much, so the ± is larger."
        found.weak.append(("wind", text))
    if needs.temperature:
        found.weak += _temperature(document)
    if needs.by_hand and outcome.staff_held == "hand":
        found.weak.append(("staff-by-hand", "Staff held by hand: rock it gently and read the smallest."))
    if needs.by_hand and outcome.distances_by == "paced":
        found.weak.append(("paced", "Distances paced: measure them where the result is close to a limit."))
    if needs.tracks and outcome.regained == "no":
        text = "It did not find the hidden prism again: clean its glass and the prism, and try again before work."
        found.weak.append(("not-regained", text))
    if needs.shaded and outcome.sky == "sun":
        found.weak.append(("sun-on-it", "Sun on the instrument moves its axes: shade it, wait 10 minutes, then read."))
    if needs.through_air:
        _through_air(document, found)
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


def _through_air(document: Envelope, found: Circumstances) -> None:
    """Heat shimmer: strong must wait, some makes pointings scatter more; hard ground in the sun is named."""
    outcome = document.conditions
    if outcome.shimmer == "strong":
        found.blocked.append(("shimmer", "Strong heat shimmer: wait for cloud or for the early morning, then read."))
        return
    factor = SHIMMER_FACTOR.get(outcome.shimmer or "", 1.0)
    if factor > 1:
        found.weak.append(("shimmer", f"Heat shimmer: expect about {factor:g} times the usual scatter."))
    if outcome.ground in HARD_GROUND and outcome.sky != "cloud":
        text = "Sun on hard ground: the air above it bends the sight. Sight over grass, or well above the ground."
        found.weak.append(("hot-ground", text))


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
    """By what factor readings scatter more or less than the default spread: what earlier tests taught, and the air today.

    No unit.
    """
    noise = document.instrument.noise
    return (noise.factor if noise else 1.0) * SHIMMER_FACTOR.get(document.conditions.shimmer or "", 1.0)
