"""What a levelling accuracy test says in words, and its drawing."""

from __future__ import annotations

from math import sqrt

from ...engine.drawing import deviations
from ...engine.kind import SheetProgress
from ...engine.parser import ordinal
from ...engine.rows import effect, line
from ...engine.verdict import Judgement
from ...geometry import mean
from ...results import CalculationLine, CodedText, DeviationsPicture, Effect
from ...units.formatting import figure, length_words, size
from .document import PAIRS, LevellingAccuracy, LevellingRead
from .solve import squares


def finding_of(kilometre: float, dof: int, stated: float | None) -> str:
    """The finding as one sentence; kilometre and stated in mm per kilometre of double run."""
    found = size(kilometre, kilometre, "mm/km")
    text = f", {stated:g} mm stated" if stated else ""
    return f"1 km double run: {found}{text}, with {dof} degrees of freedom."


def worked_of(
    document: LevellingAccuracy, read: LevellingRead, s: float, *, dof: int, kilometre: float, gap: float
) -> list[CalculationLine]:
    """The calculation; s and apart in mm, kilometre in mm per kilometre of double run."""
    words = length_words(document.units.length)
    lines = [line("A minus B of each pair", "r = d − mean of its set")]
    for i, listed in enumerate(read.sets, start=1):
        values = [entry.mm for entry in listed]
        lines.append(
            line(
                f"Set {i}, {len(values)} pairs",
                f"mean {words.reading(mean(values) / 1000, 1)} {words.name}, Σr² = {figure(squares(values), 3)} mm²",
            )
        )
    lines.append(line("One difference", f"s = √(Σr²/{dof}) = {figure(s, 3)} mm"))
    lines.append(
        line(
            f"1 km double run, {words.height(read.base_m)} apart",
            f"s/√2·√(1000/{read.base_m:g}) = {figure(kilometre, 3)} mm",
        )
    )
    lines.append(line("First set minus second", f"{figure(gap, 3)} mm"))
    return lines


def work_of(kilometre: float) -> Effect:
    """What such levelling gives over longer lines; kilometre in mm per kilometre of double run."""
    far = 0.5
    return effect(
        "levelled-line",
        f"A line of {far:g} km levelled there and back should close within {figure(2 * 1.96 * kilometre * sqrt(far), 1)} mm (95 %).",
    )


def draw(_document: LevellingAccuracy, read: LevellingRead, _judged: Judgement | None) -> DeviationsPicture | None:
    """Each pair's difference less the mean of its set, pair by pair."""
    points: list[tuple[str, float, float | None]] = []
    at = 0.0
    for i, listed in enumerate(read.sets, start=1):
        middle = mean([entry.mm for entry in listed]) if listed else 0.0
        for j, entry in enumerate(listed):
            at += 1.0
            label = f"set {i}" if j == 0 else ""
            points.append((label, at, entry.mm - middle))
    if not points:
        return None
    return deviations("mm", points, None, "the mean of its set", "pair by pair")


def progress_of(document: LevellingAccuracy, read: LevellingRead) -> SheetProgress:
    """What can be said while readings are still to come."""
    wanted = PAIRS[document.observations.procedure]
    reasons: list[CodedText] = []
    for i, listed in enumerate(read.sets):
        if 2 <= len(listed) < wanted or (len(listed) == wanted and i == 0 and not read.sets[1]):
            values = [entry.mm for entry in listed]
            s = sqrt(squares(values) / (len(values) - 1))
            text = f"{ordinal(i).capitalize()} set, {len(values)} of {wanted} pairs: one difference scatters by {figure(s, 2)} mm so far."
            reasons.append(("running", text))
    return SheetProgress(reasons)
