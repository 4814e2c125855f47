"""Bringing a point to its target, turn by turn: a plummet's cross, a bubble. One axis at a time."""

from __future__ import annotations

from math import hypot
from typing import Any

from ..errors import Fault, Refused, quote
from ..results import AdjustingStep
from ..units.formatting import aside, figure
from ..units.numbers import numeral

Plane = tuple[float, float]
FAR_OFF_MM = 30.0


def read_points(reads_now: list[Any]) -> list[tuple[str, Plane]]:
    """Points typed as two numbers, 'x y'. Raises Refused."""
    found: list[tuple[str, Plane]] = []
    faults = []
    for i, value in enumerate(reads_now):
        parts = str(value).replace(";", " ").split()
        try:
            if len(parts) != 2:
                raise ValueError("two numbers, right and away: 0.4 -0.2")
            x, y = (numeral(part).value for part in parts)
        except ValueError as error:
            faults.append(Fault(f"reads_now[{i}]", "the value now", quote(value), str(error)))
            continue
        found.append((str(value), (x, y)))
    if faults:
        raise Refused(faults)
    return found


def converging(
    steps: list[tuple[str, Plane]], start: Plane, target: Plane, done_mm: float, what: str
) -> list[AdjustingStep]:
    """What each reading since the first turn leaves, and where the next turn should bring it."""
    rows, before = [], start
    for text, now in steps:
        away = (target[0] - now[0], target[1] - now[1])
        left = hypot(*away)
        done = left <= done_mm
        if left > FAR_OFF_MM:
            sentence = f"{figure(left, 0)} mm from the target: too far for these screws. Is it the same paper, the same heading?"
        elif done:
            sentence = f"{figure(left, 2)} mm left: done. Centre and level again, then check again."
        else:
            axis = "right and left" if abs(away[0]) >= abs(away[1]) else "away and towards you"
            nxt = (target[0], now[1]) if abs(away[0]) >= abs(away[1]) else (now[0], target[1])
            worse = hypot(before[0] - target[0], before[1] - target[1]) < left
            turn = " Wrong direction: turn back." if worse else ""
            sentence = f"{figure(left, 2)} mm left, {what} {aside(*away)}.{turn} Next, the pair that moves it {axis}: to {figure(nxt[0], 1)}, {figure(nxt[1], 1)}."
        rows.append(AdjustingStep(given=text, left=left, done=done, text=sentence))
        before = now
    return rows
