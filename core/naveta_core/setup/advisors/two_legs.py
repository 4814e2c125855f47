"""Two legs moved so that something seen of the head becomes what is wanted: Newton's method on the mechanism."""

from __future__ import annotations

import math
from collections.abc import Callable

from ...geometry import Plane, solve
from ..equipment import MM, Equipment
from ..mechanism import State, held
from ..tripod import LEGS

STEP_M = 1e-4
MAX_ROUNDS = 6


def moved(equipment: Equipment, state: State, changes_mm: dict[str, float]) -> State:
    """The state with its legs changed."""
    legs = tuple(length + changes_mm.get(leg, 0.0) * MM for leg, length in zip(LEGS, state.legs, strict=True))
    return held(equipment, state, legs=legs)


def two_legs(
    equipment: Equipment,
    state: State,
    kept: int,
    *,
    start_m: list[float],
    wanted: Plane,
    view: Callable[[State], Plane],
    close: float,
) -> dict[str, float]:
    """Changes of the two legs other than `kept`, mm, after which `view` gives `wanted` to within `close`.

    start_m: a rough change of every leg, metres.
    """
    first, second = (i for i in range(3) if i != kept)

    def named(a: float, b: float) -> dict[str, float]:
        return {LEGS[first]: a / MM, LEGS[second]: b / MM, LEGS[kept]: 0.0}

    a, b = start_m[first], start_m[second]
    for _ in range(MAX_ROUNDS):
        here = view(moved(equipment, state, named(a, b)))
        miss = (wanted[0] - here[0], wanted[1] - here[1])
        if math.hypot(*miss) < close:
            break
        in_a = view(moved(equipment, state, named(a + STEP_M, b)))
        in_b = view(moved(equipment, state, named(a, b + STEP_M)))
        step = solve([[(in_a[i] - here[i]) / STEP_M, (in_b[i] - here[i]) / STEP_M] for i in (0, 1)], miss)
        a, b = a + step[0], b + step[1]
    return named(a, b)
