"""What is hidden in the instrument of a situation, and where it stands after some turns of its screws."""

from __future__ import annotations

import random
from collections.abc import Mapping
from dataclasses import dataclass
from functools import lru_cache

from naveta_core.errors import Fault, Refused, quote

from ..situations import refuse_unknown
from .lesson import MOST_TURNS, InstrumentLesson, MayBeHidden
from .lessons import BY_NAME

GOOD_SHARE = 0.3
"""So many of all instruments are good."""
Turns = Mapping[str, float]


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
    errors = {
        spec.quantity: _error(spec, rng, bad=not good and (spec is worst or rng.random() < 0.5)) for spec in specs
    }
    return Hidden(BY_NAME[lesson], seed, errors)


def _error(spec: MayBeHidden, rng: random.Random, *, bad: bool) -> HiddenError:
    size = rng.uniform(1.3 * spec.bad, spec.most) if bad else rng.uniform(0.0, 0.7 * spec.good)
    value = rng.choice((-1.0, 1.0)) * size
    return HiddenError(spec, value, rng.choice((-1.0, 1.0)) * rng.uniform(*spec.per_turn))


def refuse_turns(lesson: InstrumentLesson, turns: Turns) -> None:
    """Raises Refused for a screw the instrument does not have, or one turned further than it goes."""
    names = [screw.name for screw in lesson.screws]
    for name, turned in turns.items():
        if name not in names:
            raise Refused([Fault("turns", "the screw", quote(name), "one of " + ", ".join(names))])
        if not abs(turned) <= MOST_TURNS:
            wanted = f"from {-MOST_TURNS:g} to {MOST_TURNS:g}"
            raise Refused([Fault(f"turns.{name}", "its turns", f"{turned:g}", wanted)])
