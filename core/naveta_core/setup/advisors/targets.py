"""Which targets for a two-face check, before walking out: how steep, how fine, what each pair can prove.

The uncertainty a design can reach is known before anything is read (judgement: the same propagation with f = 1).
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from itertools import combinations
from typing import Annotated, Literal

from pydantic import Field

from ...checks.two_face.document import BETWEEN_SHARE, POINTING_ARCSEC, TARGET_MM, TargetType
from ...checks.two_face.solve import MIN_STEEPNESS_DEG, UNKNOWN_AXIS_ARCSEC
from ...documents.envelope import InMetres, InOwnUnit, Part
from ...geometry import ARCSEC
from ...results import Answer, Reason, reasons
from ...stats.estimate import Spread, pooled
from ...stats.least_squares import fit
from ...units.formatting import LengthWords, arcsec, count, figure, length_words
from ...units.numbers import rounded
from ..context import AdviceQuery
from ..results import AdviceResult
from .advised import Advised

MAX_POINTINGS = 10
NEAR_M = 15.0
SHIMMER_M = 80.0
HARD = ("asphalt", "concrete", "stone")
AIM_DEG = 30.0
SHOWS = 0.5
"""Share of the limit that the uncertainty may take for a faultless instrument to be graded *use*, usually."""
STEEPEST_DEG, STEP_DEG = 60, 5
NAMES = {"plate": "target plate", "sticker": "sticker", "prism": "prism, by eye", "edge": "edge or spire"}


class ProposedTarget(Part):
    """A target that could be sighted: how far, and how much higher than the telescope."""

    name: str = Field(default="", max_length=40)
    distance_m: Annotated[float, Field(ge=2, le=3000), InMetres]
    height_m: Annotated[float, Field(ge=-500, le=500), InMetres] = 0.0
    target_type: TargetType = "unknown"


class TargetsQuery(AdviceQuery):
    """Marks in sight, the instrument, and the place. The magnification has no unit."""

    advice: Literal["targets"]
    targets: list[ProposedTarget] = Field(min_length=1, max_length=6)
    angle_accuracy_arcsec: Annotated[float, Field(ge=0.01, le=60), InOwnUnit] = 5.0
    magnification: Annotated[float, Field(ge=0.01, le=100), InOwnUnit] = 30.0
    pointings: Annotated[int, Field(ge=1, le=20)] = 5
    ground: str = Field(default="", max_length=40)
    sun: bool = False


@dataclass(frozen=True, slots=True)
class Reach:
    """What a choice of targets proves with n pointings a face: ± of c and of t, seconds; t None where it is not given.

    In arcsec.
    """

    targets: tuple[int, ...]
    c: float
    t: float | None


def elevation_deg(target: ProposedTarget) -> float:
    """How steep a target is, degrees above level."""
    return math.degrees(math.atan2(target.height_m, target.distance_m))


def pointing_arcsec(query: TargetsQuery, target: ProposedTarget) -> float:
    """Spread of one pointing: circle, eye, target at its distance."""
    wide = TARGET_MM[target.target_type] / 1000 / target.distance_m * ARCSEC
    return math.hypot(query.angle_accuracy_arcsec, POINTING_ARCSEC / query.magnification, wide)


def reach(query: TargetsQuery, chosen: tuple[int, ...], pointings: int) -> Reach:
    """By the design alone: d_j = 2c/sin z + 2t·cot z, equal weights."""
    zeniths = [90.0 - elevation_deg(query.targets[i]) for i in chosen]
    found = max(zeniths) - min(zeniths) >= MIN_STEEPNESS_DEG and max(abs(90 - z) for z in zeniths) >= MIN_STEEPNESS_DEG
    rows = [[2 / math.sin(math.radians(z)), 2 / math.tan(math.radians(z))][: 2 if found else 1] for z in zeniths]
    gains = fit(rows, [0.0] * len(rows)).gain
    between = (BETWEEN_SHARE * query.angle_accuracy_arcsec) ** 2
    dof = float(4 * len(chosen) * (pointings - 1))
    halves = []
    for at, line in enumerate(gains):
        within = math.fsum(
            g * g * 2 * pointing_arcsec(query, query.targets[i]) ** 2 / pointings
            for g, i in zip(line, chosen, strict=True)
        )
        common = math.fsum(g * g * 2 * between for g in line)
        if at == 0 and not found:
            axis_share = math.fsum(g * 2 / math.tan(math.radians(z)) for g, z in zip(line, zeniths, strict=True))
            common += (UNKNOWN_AXIS_ARCSEC * axis_share) ** 2
        halves.append(pooled(0.0, within, common, Spread(dof, dof)).u95)
    return Reach(chosen, halves[0], halves[1] if found else None)


def steep_enough(query: TargetsQuery, limit: float) -> tuple[int, int] | None:
    """(targets, elevation in degrees) that show the trunnion axis to half its limit: one steep beside a level one, else one
    up and one down; None where no steepness up to 60° does. Limit in arcsec."""
    like = min(query.targets, key=lambda target: target.distance_m)
    level = like.model_copy(update={"height_m": 0.0})
    for many in (1, 2):
        for degrees in range(int(MIN_STEEPNESS_DEG), STEEPEST_DEG + 1, STEP_DEG):
            up = like.distance_m * math.tan(math.radians(degrees))
            steep, other = (like.model_copy(update={"height_m": sign * up}) for sign in (1, -1))
            tried = query.model_copy(update={"targets": [steep, level if many == 1 else other]})
            found = reach(tried, (0, 1), query.pointings).t
            if found is not None and found <= SHOWS * limit:
                return many, degrees
    return None


def needed(query: TargetsQuery, chosen: tuple[int, ...], limit: float, *, axis: bool) -> int | None:
    """The fewest pointings a face by which ± comes within the limit, or None where no handful does. Limit in arcsec."""
    for n in range(1, MAX_POINTINGS + 1):
        found = reach(query, chosen, n)
        half = found.t if axis else found.c
        if half is not None and half <= limit:
            return n
    return None


class TargetAssessed(Answer):
    """One target: how steep, what a millimetre at it is worth, how finely it is pointed at."""

    name: str
    distance_m: float
    height_m: float
    elevation_deg: float
    grain_arcsec: float
    sigma_pointing_arcsec: float
    text: str
    messages: list[Reason]


class TargetsAdvice(AdviceResult):
    """Every target, which to use, and what they prove with the pointings planned; None where t is not determined."""

    targets: list[TargetAssessed]
    take: list[int]
    least_deg: float
    aim_deg: float
    u_collimation_arcsec: float
    u_tilting_axis_arcsec: float | None
    limit_collimation_arcsec: float
    limit_tilting_axis_arcsec: float
    pointings_for_collimation: int | None
    pointings_for_tilting_axis: int | None


def advise_targets(query: TargetsQuery) -> Advised:
    """Every target looked at, every pair tried, the best named with what it proves."""
    words = length_words(query.units.length)
    names = [target.name.strip() or f"target {i + 1}" for i, target in enumerate(query.targets)]
    level = min(
        range(len(query.targets)),
        key=lambda i: (abs(elevation_deg(query.targets[i])) > 10, abs(query.targets[i].distance_m - 100)),
    )
    pairs = [reach(query, (i, j), query.pointings) for i, j in combinations(range(len(query.targets)), 2)]
    outcome = [pair for pair in pairs if pair.t is not None]
    best = min(outcome, key=lambda entry: (entry.t or 0.0, entry.c), default=None)
    chosen = tuple(sorted(best.targets, key=lambda i: abs(elevation_deg(query.targets[i])))) if best else (level,)
    limits = (max(5.0, 2 * query.angle_accuracy_arcsec), max(10.0, 3 * query.angle_accuracy_arcsec))
    found = best or reach(query, chosen, query.pointings)
    text = _shown(query, names, chosen, found=found, limits=limits, words=words)
    result = TargetsAdvice(
        targets=[_target(query, i, names[i], words) for i in range(len(query.targets))],
        take=list(chosen),
        least_deg=MIN_STEEPNESS_DEG,
        aim_deg=AIM_DEG,
        u_collimation_arcsec=rounded(found.c, 2),
        u_tilting_axis_arcsec=None if found.t is None else rounded(found.t, 2),
        limit_collimation_arcsec=limits[0],
        limit_tilting_axis_arcsec=limits[1],
        pointings_for_collimation=needed(query, chosen, limits[0], axis=False),
        pointings_for_tilting_axis=needed(query, chosen, limits[1], axis=True),
    )
    return Advised(result, text)


def _target(query: TargetsQuery, index: int, name: str, words: LengthWords) -> TargetAssessed:
    entry = query.targets[index]
    steep, width = elevation_deg(entry), TARGET_MM[entry.target_type]
    grain, pointing = ARCSEC / 1000 / entry.distance_m, pointing_arcsec(query, entry)
    return TargetAssessed(
        name=name,
        distance_m=entry.distance_m,
        height_m=entry.height_m,
        elevation_deg=rounded(steep, 2),
        grain_arcsec=rounded(grain, 2),
        sigma_pointing_arcsec=rounded(pointing, 2),
        text=f"{_steepness(steep)}; 1 mm is {arcsec(grain)} there; one pointing: {arcsec(pointing)}, of which {arcsec(width * grain)} from the target.",
        messages=reasons(_of_target(query, entry, steep, words)),
    )


def _steepness(steep: float) -> str:
    if abs(steep) < 0.5:
        return "Level"
    return f"{figure(abs(steep), 0)}° {'up' if steep > 0 else 'down'}"


def _of_target(query: TargetsQuery, entry: ProposedTarget, steep: float, words: LengthWords) -> list[tuple[str, str]]:
    rows = []
    if entry.distance_m < NEAR_M:
        rows.append(
            (
                "near-target",
                f"Nearer than {words.distance(NEAR_M)}: the target must be sharp. Farther away, focus is closer to your work.",
            )
        )
    if query.sun and query.ground in HARD and entry.distance_m > SHIMMER_M and abs(steep) < 10:
        rows.append(
            (
                "shimmer-target",
                "Over hard ground in sun this sight shimmers: choose a shorter one over grass, or cooler weather.",
            )
        )
    if 5 <= abs(steep) < MIN_STEEPNESS_DEG:
        nearer = abs(entry.height_m) / math.tan(math.radians(AIM_DEG))
        rows.append(
            (
                "not-steep",
                f"Too level for the trunnion axis: at least 15° is needed. {words.distance(nearer)} away it is at {AIM_DEG:g}°.",
            )
        )
    if abs(steep) > 60:
        rows.append(("very-steep", "Very steep: use a diagonal eyepiece, and level carefully."))
    return rows


def _shown(
    query: TargetsQuery,
    names: list[str],
    chosen: tuple[int, ...],
    *,
    found: Reach,
    limits: tuple[float, float],
    words: LengthWords,
) -> list[str]:
    n = count(query.pointings, "pointing", "pointings")
    rows = [
        f"Use {' and '.join(names[i] for i in chosen)}: {n} a face give c to ± {arcsec(found.c, found.c)}"
        + (f" and the trunnion axis error to ± {arcsec(found.t, found.t)}." if found.t is not None else ".")
    ]
    for noun, limit, axis in (("c", limits[0], False), ("the trunnion axis", limits[1], True)):
        if axis and found.t is None:
            rows.append(
                f"None of these shows the trunnion axis: a target {AIM_DEG:g}° up, {words.distance(20)} away, is {words.distance(20 * math.tan(math.radians(AIM_DEG)))} above the telescope."
            )
            continue
        least = needed(query, chosen, limit, axis=axis)
        half = found.t if axis else found.c
        if axis and half is not None and half > SHOWS * limit:
            rows.append(_too_little(query, chosen, half, limit))
        if least is None and not axis:
            rows.append(
                f"For {noun} the limit of {arcsec(limit, 10)} cannot be reached with these targets: choose a more level one."
            )
        elif least is not None and half is not None and half > limit:
            rows.append(
                f"For {noun} within its limit of {arcsec(limit, 10)}: {count(least, 'pointing', 'pointings')} a face."
            )
    return rows


def _too_little(query: TargetsQuery, chosen: tuple[int, ...], half: float, limit: float) -> str:
    """Return the advice for targets that show the trunnion axis too weakly. In arcsec."""
    lead = f"The trunnion axis shows to ± {arcsec(half, half)} only, limit {arcsec(limit, 10)}: a faultless one may end as watch."
    found = steep_enough(query, limit)
    often = needed(query, chosen, SHOWS * limit, axis=True)
    more = f", or take {count(often, 'pointing', 'pointings')} a face" if often else ""
    if found is None:
        return f"{lead} No targets show more with this instrument{more}."
    many, degrees = found
    how = f"choose one {degrees}° steep or more" if many == 1 else f"choose two, {degrees}° up and {degrees}° down"
    return f"{lead} To prove it, {how}{more}."
