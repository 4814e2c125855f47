"""Directions to several targets in both faces, set after set: means, residuals and their spread (after ISO 17123-3).

The mean of both faces is x = (I + II ± 180°)/2, x′ = x less that of the first target, x̄′ over the sets. d_jk = x̄′_k − x′_jk,
d̄_j over all targets of a set, the first included; r = d − d̄_j. Its spread s = √(Σr²/((n−1)(t−1))) is that of one direction
measured once in both faces.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import fsum, sqrt

from ..geometry import mean, wrapped
from .parser import Parser

FAR_OFF_DEG = 0.5
"""No instrument is out by half a degree: beyond it something was typed or sighted wrongly."""
GON_HALF = 200.0


@dataclass(frozen=True, slots=True)
class Shot:
    """A circle reading at a target, degrees; the worth of its last digit, seconds."""

    path: str
    target: str
    value: float
    step_arcsec: float
    text: str


def of_both_faces(left: float, right: float) -> float:
    """A direction from both faces. All in degrees."""
    return (left + wrapped(right + 180.0 - left) / 2) % 360.0


def twice_c_arcsec(left: float, right: float) -> float:
    """Face left minus face right minus 180°."""
    return wrapped(left - right - 180.0) * 3600.0


@dataclass(frozen=True, slots=True)
class Series:
    """A series reduced: directions from the first target, degrees; residuals by set and target, seconds."""

    means: list[float]
    residuals: list[list[float]]
    squares: float
    dof: int

    @property
    def s(self) -> float:
        """Standard deviation of one direction in both faces, seconds."""
        return sqrt(self.squares / self.dof) if self.dof else 0.0


def reduced(sets: Sequence[Sequence[float]]) -> Series:
    """Sets of directions, the same targets in the same order, the first of each the one they are given from.

    All in degrees, clockwise positive.
    """
    turned = [[wrapped(x - set_[0]) for x in set_] for set_ in sets]
    n, t = len(turned), len(turned[0])
    anchored = [[turned[0][k] + wrapped(entry[k] - turned[0][k]) for k in range(t)] for entry in turned]
    means = [fsum(entry[k] for entry in anchored) / n for k in range(t)]
    residuals = []
    for entry in anchored:
        d = [(means[k] - entry[k]) * 3600.0 for k in range(t)]
        shift = mean(d)
        residuals.append([value - shift for value in d])
    squares = fsum(r * r for residual in residuals for r in residual)
    return Series([value % 360.0 for value in means], residuals, squares, (n - 1) * (t - 1))


def faces_agree(parser: Parser, what: str, left: Shot, right: Shot) -> None:
    """A fault where one and the same target does not read 180° apart in both faces."""
    away = wrapped(left.value - right.value - 180.0)
    if abs(away) <= FAR_OFF_DEG:
        return
    if abs(wrapped(left.value - right.value)) < FAR_OFF_DEG:
        messages = "; these are equal: was the telescope not turned over?"
    elif abs(abs(left.value - right.value) - GON_HALF) < 1.0:
        messages = "; these differ by 200: are they gon? change the unit"
    else:
        messages = f": these are {abs(away):.3f}° off. A whole degree or minute mistyped, or another target?"
    wanted = "two that differ by 180°" + messages
    parser.fault(right.path, what, f"{left.text} and {right.text}", wanted)
