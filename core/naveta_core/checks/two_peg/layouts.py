"""The common ways of laying out a two-peg test, and where the level then stands between or beyond the pegs."""

from __future__ import annotations

from math import fsum

from ..kind import Layout

LAYOUTS = (
    Layout(
        "middle-then-near",
        "Middle, then close to one peg",
        "Strong and quick: the far sight shows nearly the whole error, the near one almost none.",
        ((30, 30), (56, 4)),
        ((100, 100), (188, 12)),
    ),
    Layout(
        "middle-then-three-quarter",
        "Middle, then a quarter from one peg",
        "Where the level cannot focus close; wants more readings for the same proof.",
        ((30, 30), (45, 15)),
        ((100, 100), (150, 50)),
    ),
    Layout(
        "middle-then-beyond",
        "Middle, then beyond one peg",
        "Both staffs in one direction: no turning about between the two readings.",
        ((30, 30), (64, 4)),
        ((100, 100), (212, 12)),
    ),
    Layout(
        "thirds-inside",
        "Both inside, at the thirds",
        "Symmetrical: refraction and focusing act alike in both set-ups.",
        ((20, 40), (40, 20)),
        ((66, 132), (132, 66)),
    ),
    Layout(
        "outside-both",
        "Beyond one peg, then beyond the other",
        "The strongest difference of sights for pegs close together.",
        ((4, 64), (64, 4)),
        ((12, 212), (212, 12)),
    ),
    Layout(
        "free",
        "As it came",
        "Any two or more set-ups whose differences of sights are not alike; measure both distances each time.",
        (),
        (),
    ),
)
BEYOND = {"middle-then-beyond": (False, True), "outside-both": (True, True)}
TOLERANCE_M, TOLERANCE_SHARE = 1.0, 0.02


def baseline_m(pairs: list[tuple[float, float]], layout: str | None) -> float:
    """Distance of the pegs that fits most set-ups, given (Da, Db) each; between the pegs wins over beyond them."""
    beyond = BEYOND.get(layout or "", ())
    if beyond and beyond[0]:
        return abs(pairs[0][0] - pairs[0][1])
    candidates = [da + db for da, db in pairs] + [abs(da - db) for da, db in pairs]
    return max(candidates, key=lambda base: sum(_fits(base, pair) for pair in pairs))


def _fits(base: float, pair: tuple[float, float]) -> bool:
    slack = TOLERANCE_M + TOLERANCE_SHARE * base
    return abs(fsum(pair) - base) <= slack or abs(abs(pair[0] - pair[1]) - base) <= slack


def place_m(base: float, da: float, db: float) -> float:
    """Where the level stands along the line from A (0) to B (base): negative beyond A, above base beyond B."""
    if abs(da + db - base) <= abs(abs(da - db) - base):
        return base * da / (da + db)
    return -da if da < db else da
