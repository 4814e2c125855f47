"""What judging an orientation has in common, over a control point or anywhere: tolerance, closing sight, the series.

A misfit within its own σ (two-sided, 1 percent: several are looked at in every figure) and within the job's tolerance may be
used; beyond what the instrument explains it is `repeat`: a mark, a height, a prism or a name is wrong. A known mark is never
shifted to fit.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, field

from ..history.series import jump
from ..stats.decision import Grade, Limits, worst
from ..stats.estimate import PRIOR_DOF, Estimate
from ..stats.outliers import likely_slip
from ..stats.quantiles import t_quantile
from ..units.angles import ARCSEC_PER_RADIAN
from ..units.formatting import LengthWords, arcsec, length_words
from ..units.lengths import in_unit, parse_length
from .document import Oriented
from .figures import Heights, PointMisfit, Strength
from .read import Read, Sight
from .solve import Solution, Spreads, spreads_of, wrapped
from .suspects import Suspect

TOLERANCE_MM = 5.0
OUTLIER = 0.995
WANDERS_MM = 1.0


@dataclass
class Judged:
    """Everything known of an orientation. The scale in ppm."""

    read: Read
    spreads: Spreads
    limits: Limits
    words: LengthWords
    solution: Solution | None = None
    """Free station only."""
    orientation_deg: float | None = None
    orientation: Estimate | None = None
    points: list[PointMisfit] = field(default_factory=list)
    heights: Heights | None = None
    strength: Strength | None = None
    suspect: Suspect | None = None
    misfit: Estimate | None = None
    """What is judged, in millimetres: the base of two points, else the largest disagreement."""
    series_mm: float | None = None
    """What goes into the instrument's series of disagreements: signed where there is one, else their root mean square."""
    series_sigma_mm: float | None = None
    base_m: tuple[float, float] | None = None
    closing_arcsec: tuple[float, float] | None = None
    scale: tuple[float, float] | None = None
    reasons: list[tuple[str, str]] = field(default_factory=list)
    grades: list[Grade] = field(default_factory=list)

    def say(self, grade: Grade, code: str, text: str) -> None:
        """Note a sentence by its code."""
        self.grades.append(grade)
        self.reasons.append((code, text))

    @property
    def grade(self) -> Grade:
        """The grade of the whole."""
        return worst(self.grades or ["use"])


def begun(found: Read) -> Judged:
    """An orientation judged as far as it was read, before anything was said."""
    o: Oriented = found.document.observations
    given = found.document.limits.get("disagreement_mm")
    use = given.use if given else TOLERANCE_MM
    source = (given.source if given and given.source else None) or "default limit where the job names none"
    return Judged(
        found,
        spreads_of(found.document.instrument, o.target_sigma_mm),
        Limits(use, use, use, source, adjustable=False),
        length_words(found.document.units.length),
    )


def say_counts_otherwise(judged: Judged) -> None:
    """The circle counts the other way than given: nothing is wrong with points or names."""
    oriented: Oriented = judged.read.document.observations
    other = "anticlockwise" if oriented.counts == "clockwise" else "clockwise"
    text = f"If the circle counts {other}, everything agrees: set that, and keep the points and their names."
    judged.say("repeat", "counts-otherwise", text)


def explained(sigma: float, dof: float = PRIOR_DOF) -> float:
    """How large a misfit of this σ chance still explains, in the unit of σ."""
    return t_quantile(OUTLIER, dof) * sigma


def hold_misfit(judged: Judged, what: str, more: str = "", *, own: bool = True) -> None:
    """Hold what is judged against its own σ (when `own`) and the job's tolerance; `what` says it, `more` what to look at."""
    e, use, words = judged.misfit, judged.limits.use, judged.words
    assert e is not None
    size, bound, allowed = abs(e.value), explained(e.sigma, e.dof), words.small(use / 1000.0)
    scatters = words.small(bound / 1000.0)
    if size > use and size <= bound:
        text = f"{what}: beyond the allowed {allowed}, but within the scatter of this instrument ({scatters}). Sight it again."
        judged.say("watch", "within-noise", text)
    elif size > use:
        judged.say("repeat", "beyond-tolerance", f"{what}; allowed: {allowed}.{more}")
    elif size > bound and own:
        judged.say(
            "repeat", "more-than-its-sigma", f"{what}, more than instrument scatter ({scatters}) explains.{more}"
        )


def height_meant(judged: Judged, typed: str, sight: Sight, off: float) -> str | None:
    """The target height a slip of which explains it. A target typed too high makes its point look too low.

    Off in metres.
    """
    if not typed.strip():
        return None
    unit = judged.read.document.units.length
    try:
        height = parse_length(typed, unit).m
    except ValueError:
        return None
    sigma = judged.spreads.height_m(sight.horizontal_m or 50.0)
    return likely_slip(typed.strip(), in_unit(height + off, unit), in_unit(max(0.003, 3.0 * sigma), unit))


def closing_sight(judged: Judged) -> None:
    """What the closing sight says of the first one."""
    closing = judged.read.closing
    if closing is None:
        return
    point, hz, _ = closing
    first = next((sight for sight in judged.read.sights if sight.point.name == point.name), None)
    if first is None:
        return
    away = math.degrees(wrapped(math.radians(hz - first.hz_deg))) * 3600.0
    far = first.horizontal_m or 50.0
    sigma = math.sqrt(2.0) * judged.spreads.direction_arcsec(far)
    judged.closing_arcsec = (away, sigma)
    if abs(away) > explained(sigma):
        side = abs(away) / ARCSEC_PER_RADIAN * far
        judged.say(
            "repeat",
            "stand-moved",
            f"In the closing sight {point.name} reads {arcsec(abs(away))} differently ({judged.words.small(side)} there): the tripod has moved.",
        )


def control_jump(judged: Judged) -> None:
    """Against earlier disagreements of this instrument: a jump is a reason to look at the instrument itself."""
    if judged.series_mm is None or judged.series_sigma_mm is None:
        return
    earlier = [
        (value, sigma)
        for earlier in reversed(judged.read.document.before)
        if (value := earlier.figure("disagreement_mm")) is not None
        and (sigma := earlier.figure("sigma_disagreement_mm")) is not None
    ]
    away = jump(earlier, judged.series_mm, judged.series_sigma_mm, WANDERS_MM)
    if away is None:
        return
    # Signed or not, only what agrees worse than before counts: agreeing better is no fault.
    worse = abs(judged.series_mm) - abs(judged.series_mm - away)
    if worse > 0:
        judged.say(
            "watch",
            "control-jump",
            f"Until now this instrument agreed with control points {judged.words.small(worse / 1000.0)} better: do a two-face check.",
        )
