"""What is hidden in the instrument of a situation, and where it stands after some turns of its screws."""

from __future__ import annotations

import random
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import lru_cache

from naveta_core.errors import Fault, Refused, quote

from ..situations import refuse_unknown
from .lesson import InstrumentLesson, MayBeHidden
from .lessons import BY_NAME

GOOD_SHARE = 0.3
"""So many of all instruments are good."""
WORN_SHARE, PLAY = 0.25, (0.02, 0.05)
"""So many instruments have worn screws, and so much of a turn such a screw moves nothing after it is turned round."""
Turns = Mapping[str, float]
"""How far each screw has moved what it moves, in its own turns, clockwise positive; or the value that is stored."""


@dataclass(frozen=True, slots=True)
class HiddenError:
    """One error in its unit, and what a whole turn of its screw, clockwise, does to it: the sense differs."""

    spec: MayBeHidden
    value: float
    per_turn: float

    def after(self, turns: Turns) -> float:
        """What is left of it after so many turns of the screws."""
        return self.value + turns.get(self.spec.screw, 0.0) * self.per_turn

    @property
    def good(self) -> bool:
        """Whether it is left alone."""
        return abs(self.value) <= self.spec.good


@dataclass(frozen=True, eq=False, slots=True)
class Hidden:
    """The instrument of a situation: its errors by the figure that finds them."""

    lesson: InstrumentLesson
    seed: int
    errors: dict[str, HiddenError]
    play: float
    """So much of a turn its screws move nothing after they are turned round."""

    def after(self, quantity: str, turns: Turns) -> float:
        """An error after some turns, in its unit."""
        return self.errors[quantity].after(turns)

    def scene(self) -> random.Random:
        """For all that is nobody's error: ground, weather, where things stand. The same each time."""
        return random.Random(f"scene {self.lesson.name} {self.seed}")


@lru_cache(maxsize=64)
def hidden_of(lesson: str, seed: int) -> Hidden:
    """The instrument of a lesson and a number: good as a whole, or with one error at least. Raises Refused."""
    refuse_unknown(lesson, seed, BY_NAME)
    rng = random.Random(f"instrument {lesson} {seed}")
    specs = BY_NAME[lesson].hides
    good = rng.random() < GOOD_SHARE
    worst = rng.choice(specs)
    stored = {screw.name for screw in BY_NAME[lesson].screws if screw.stores}
    errors = {
        spec.quantity: _error(
            spec, rng, bad=not good and (spec is worst or rng.random() < 0.5), stored=spec.screw in stored
        )
        for spec in specs
    }
    return Hidden(BY_NAME[lesson], seed, errors, _play(lesson, seed))


def _play(lesson: str, seed: int) -> float:
    """Drawn separately from the errors, so that every number keeps its instrument."""
    rng = random.Random(f"screws {lesson} {seed}")
    return rng.uniform(*PLAY) if rng.random() < WORN_SHARE else 0.0


def _error(spec: MayBeHidden, rng: random.Random, *, bad: bool, stored: bool) -> HiddenError:
    size = rng.uniform(1.3 * spec.bad, spec.most) if bad else rng.uniform(0.0, 0.7 * spec.good)
    value = rng.choice((-1.0, 1.0)) * size
    per_turn = rng.choice((-1.0, 1.0)) * rng.uniform(*spec.per_turn)
    return HiddenError(spec, abs(value) if spec.size else value, -abs(per_turn) if spec.size or stored else per_turn)


def moved_by(hidden: Hidden, turned: Mapping[str, float | Sequence[float]]) -> dict[str, float]:
    """What the screws have moved. Of each is given where it was turned round and where it is now, or only that.

    A worn screw that is turned round moves nothing until its play is taken up. Raises Refused for a screw the instrument
    does not have, or one turned further than it goes.
    """
    screws = {screw.name: screw for screw in hidden.lesson.screws}
    moved = {}
    for name, path in turned.items():
        if name not in screws:
            raise Refused([Fault("turns", "the screw", quote(name), "one of " + ", ".join(screws))])
        places = path if isinstance(path, Sequence) else (path,)
        most = screws[name].most
        for place in places:
            if not abs(place) <= most:
                raise Refused([Fault(f"turns.{name}", "its turns", f"{place:g}", f"from {-most:g} to {most:g}")])
        moved[name] = _followed(places, 0.0 if screws[name].stores else hidden.play)
    return moved


def _followed(path: Sequence[float], play: float) -> float:
    """Where something is that is pushed by a screw with play, after the screw was turned to one place after another."""
    at = 0.0
    for place in path:
        at = min(max(at, place - play / 2), place + play / 2)
    return at
