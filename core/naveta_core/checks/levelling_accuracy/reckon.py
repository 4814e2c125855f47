"""The accuracy of a level by repeated height differences on one base (after ISO 17123-2, simplified and full).

d = a − b of each pair. Full: each set about its own mean, s = √(Σr²/38) for one difference, s_LEV = s/√2·√(1000/base)
per kilometre double run; δ = d̄₁ − d̄₂ is the staffs' zero difference, since they were exchanged. Simplified: s from the
ten pairs of the middle, and d̄₁ − d̄₂ against what is permitted (2.5 s where nothing is): a coarse look at the line of sight.
"""

from __future__ import annotations

from dataclasses import dataclass
from math import fsum, sqrt
from typing import Any

from ...blunders import find_apart
from ...numerals import DECIMAL, finest, shown_step
from ...quantiles import t_quantile
from ...readings import Range, Sheet, ordinal
from ...wording import figure, length_words
from ..sheet.answer import SoFar
from ..sheet.campaign import Found, held_against
from ..sheet.circumstances import Circumstances, Needs
from ..sheet.entry import Where
from ..sheet.figures import size
from ..sheet.judged import Judged, Said, effect, line, name_apart, row, shown
from ..sheet.pictures import deviations
from ..sheet.typed import blank, number
from .model import PAIRS, LevellingAccuracy

Data = dict[str, Any]
MAIN = "levelling_sigma_mm_per_km"
BASE_M = 60.0
USUAL_MM_PER_KM = 2.0
PERMITTED_S = 2.5
READING = Range(-0.5, 7.0, "a staff reading")
CAUTIONS: dict[str, tuple[str, ...]] = {
    "before": ("traffic", "overhead-lines"),
    "reading": ("overhead-lines",),
    "adjusting": (),
}
where = Where(
    {
        "sets": "set",
        "pairs": "pair",
        "a": "staff A",
        "b": "staff B",
        "base_m": "distance between the staffs",
        "permitted_mm": "permitted difference",
    }
)


@dataclass(frozen=True, slots=True)
class Difference:
    """a − b of one pair, mm."""

    path: str
    mm: float
    texts: tuple[str, str]
    step_mm: float
    read_mm: tuple[float, float]


@dataclass
class Read:
    sets: list[list[Difference]]
    base_m: float
    permitted_mm: float | None


def needs(_document: LevellingAccuracy) -> Needs:
    return Needs(firm_stand=True, temperature=True)


def read_document(document: LevellingAccuracy, sheet: Sheet) -> Read:
    """Every pair that can be read; faults and what is missing are in the sheet."""
    o = document.observations
    base = number(sheet, "observations.base_m", where("base_m"), o.base_m, "m", 10, 120, wanted=False)
    permitted = number(
        sheet, "observations.permitted_mm", where("permitted_mm"), o.permitted_mm, "mm", 0.01, 50, wanted=False
    )
    sets = []
    for i in range(2):
        listed = o.sets[i].pairs if i < len(o.sets) else []
        path, found = f"observations.sets[{i}].pairs", []
        for j in range(max(len(listed), PAIRS[o.procedure])):
            base_path = f"{path}[{j}]"
            a, b = (listed[j].a, listed[j].b) if j < len(listed) else (None, None)
            if j >= PAIRS[o.procedure] and blank(a, b):
                continue
            read = [
                sheet.length(f"{base_path}.{name}", where(f"{base_path}.{name}"), value, READING)
                for name, value in (("a", a), ("b", b))
            ]
            if read[0] is not None and read[1] is not None:
                step = finest((read[0].step_m, read[1].step_m)) * 1000
                both = (read[0].m * 1000, read[1].m * 1000)
                found.append(Difference(base_path, both[0] - both[1], (str(a), str(b)), step, both))
        sets.append(found)
    return Read(sets, base.value if base else BASE_M, permitted.value if permitted else None)


def mean(values: list[float]) -> float:
    return fsum(values) / len(values)


def squares(values: list[float]) -> float:
    middle = mean(values)
    return fsum((one - middle) ** 2 for one in values)


def per_km(base_m: float) -> float:
    """From the spread of one difference to that of a kilometre double run: 2.89 at 60 m."""
    return sqrt(1000.0 / base_m) / sqrt(2.0)


def judge(document: LevellingAccuracy, read: Read, _told: Circumstances) -> Judged:
    full = document.observations.procedure == "full"
    first, second = ([one.mm for one in listed] for listed in read.sets)
    counted = [first, second] if full else [first]
    dof = sum_of_dof(counted)
    s = sqrt(fsum(squares(one) for one in counted) / dof)
    # Two readings a difference, each rounded: that is taken out of what is held against the stated accuracy.
    step = finest(one.step_mm for listed in read.sets for one in listed)
    step = shown_step([value for listed in read.sets for one in listed for value in one.read_mm], step, DECIMAL)
    digit = sqrt(step**2 / 6)
    found = Found(s * per_km(read.base_m), dof, full, digit * per_km(read.base_m))
    kilometre = found.s
    apart = mean(first) - mean(second)
    stated = document.instrument.levelling_accuracy_mm_per_km
    more, then, bound_mm = _between(full, s, dof, len(first), apart, read.permitted_mm)
    quantity = held_against(
        document, MAIN, "the standard deviation", "mm/km", found, stated,
        () if full else more, then,
    )  # fmt: skip
    figures: Data = {
        MAIN: kilometre,
        f"sigma_{MAIN}": found.sigma,
        "difference_sigma_mm": s,
        "degrees_of_freedom": dof,
        "set_difference_mm": apart,
        "means_mm": [mean(first), mean(second)],
        "repeats": {"squares": 0.0, "dof": 0.0},
    }
    label = "Staffs' zeros differ" if full else "Middle less near staff"
    judged = Judged(
        [quantity], figures, _finding(kilometre, dof, stated), [
            shown(quantity, "Standard deviation, a kilometre double run", size(kilometre, kilometre, "mm/km")),
            row("difference_sigma_mm", "One height difference", size(s, s, "mm"), s, "mm"),
            row("set_difference_mm", label, f"{figure(apart, 2)} mm, up to {figure(bound_mm, 2)} mm is chance", apart, "mm"),
        ],
        _worked(document, read, s, dof, kilometre, apart), [_work(kilometre)],
    )  # fmt: skip
    if full:
        judged.reasons += more
    _name_apart(judged, read, stated)
    return judged


def sum_of_dof(sets: list[list[float]]) -> int:
    return int(fsum(len(one) - 1 for one in sets))


def _between(
    full: bool, s: float, dof: int, pairs: int, apart: float, permitted: float | None
) -> tuple[list[Said], list[Said], float]:
    """What the two sets' means say: the staffs, or the line of sight; what to do; by how much they may differ."""
    if full:
        allowed = t_quantile(0.975, dof) * s * sqrt(2.0 / pairs)
        if abs(apart) <= allowed:
            return [], [], allowed
        text = f"The staffs' zeros differ by {figure(abs(apart), 2)} mm, more than chance ({figure(allowed, 2)} mm): an even number of set-ups in each run, or one staff alone."
        return [("staffs-differ", text)], [], allowed
    allowed = permitted if permitted is not None else PERMITTED_S * s
    if abs(apart) <= allowed:
        return [], [], allowed
    why = "permitted" if permitted is not None else "2.5 times the spread"
    text = f"From the middle and from near one staff the difference is {figure(abs(apart), 2)} mm apart, {figure(allowed, 2)} mm is {why}: the line of sight is not level."
    return [("set-ups-disagree", text)], [("two-peg", "Do a two-peg test: it says by how much.")], allowed


def _name_apart(judged: Judged, read: Read, stated: float | None) -> None:
    """A pair that does not fit its set: named, and nothing concluded."""
    spread = (stated or USUAL_MM_PER_KM) / per_km(read.base_m)
    found = find_apart([[one.mm / spread for one in listed] for listed in read.sets])
    if found is None:
        return
    one = read.sets[found.group][found.index]
    fellows = [other.mm for other in read.sets[found.group] if other is not one]
    away = one.mm - mean(fellows)
    text = f"The {ordinal(found.index)} pair of the {ordinal(found.group)} set ({one.texts[0]} and {one.texts[1]}) is {figure(abs(away), 1)} mm from its fellows: take it again."
    name_apart(judged, one.path, text)


def _finding(kilometre: float, dof: int, stated: float | None) -> str:
    found = size(kilometre, kilometre, "mm/km")
    told = f", {stated:g} mm stated" if stated else ""
    return f"A kilometre double run is good to {found}{told}, by {dof} degrees of freedom."


def _worked(document: LevellingAccuracy, read: Read, s: float, dof: int, kilometre: float, apart: float) -> list[Data]:
    words = length_words(document.units.length)
    lines = [line("A less B of each pair", "r = d − mean of its set")]
    for i, listed in enumerate(read.sets, start=1):
        values = [one.mm for one in listed]
        lines.append(
            line(
                f"Set {i}, {len(values)} pairs",
                f"mean {words.reading(mean(values) / 1000, 1)} {words.name}, Σr² = {figure(squares(values), 3)} mm²",
            )
        )
    lines.append(line("One difference", f"s = √(Σr²/{dof}) = {figure(s, 3)} mm"))
    lines.append(
        line(
            f"A kilometre double run, {read.base_m:g} m apart",
            f"s/√2·√(1000/{read.base_m:g}) = {figure(kilometre, 3)} mm",
        )
    )
    lines.append(line("First set less second", f"{figure(apart, 3)} mm"))
    return lines


def _work(kilometre: float) -> Data:
    far = 0.5
    return effect(
        "levelled-line",
        f"A line of {far:g} km levelled there and back should close within {figure(2 * 1.96 * kilometre * sqrt(far), 1)} mm, nineteen times in twenty.",
    )


def drawn(_document: LevellingAccuracy, read: Read, _judged: Judged | None) -> Data | None:
    """Each pair's difference less the mean of its set, pair by pair."""
    marks: list[tuple[str, float, float | None]] = []
    at = 0.0
    for i, listed in enumerate(read.sets, start=1):
        middle = mean([one.mm for one in listed]) if listed else 0.0
        for j, one in enumerate(listed):
            at += 1.0
            label = f"set {i}" if j == 0 else ""
            marks.append((label, at, one.mm - middle))
    if not marks:
        return None
    return deviations("mm", marks, None, "the mean of its set", "pair by pair")


def so_far(document: LevellingAccuracy, read: Read) -> SoFar:
    wanted = PAIRS[document.observations.procedure]
    said: list[Said] = []
    for i, listed in enumerate(read.sets):
        if 2 <= len(listed) < wanted or (len(listed) == wanted and i == 0 and not read.sets[1]):
            values = [one.mm for one in listed]
            s = sqrt(squares(values) / (len(values) - 1))
            text = f"{ordinal(i).capitalize()} set, {len(values)} of {wanted} pairs: one difference scatters by {figure(s, 2)} mm so far."
            said.append(("running", text))
    return SoFar(said)
