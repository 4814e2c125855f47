"""An orientation judged: does it agree, which point is suspect, is the figure strong enough, did the stand move.

A misfit within t(0.975) of its own σ and within the job's tolerance may be used; beyond either it is `repeat`: a mark, a
height, a prism or a name is wrong. A known mark is never shifted to fit.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, field
from typing import Any

from ..angles import ARCSEC_PER_RADIAN
from ..blunders import likely_slip
from ..judgement import Estimate, Grade, Limits, worst
from ..numerals import numeral
from ..quantiles import t_quantile
from ..series import jump
from ..wording import LengthWords, arcsec, figure, joined, length_words
from .figures import Heights, PointMisfit, Strength, base_misfit_m, found_in, heights_of, misfits, strength_of
from .model import Oriented
from .read import Known, Read, Sight
from .solve import Solution, Spreads, bearing_rad, distance_m, observations, solve, spreads_of, wrapped
from .suspects import PRIOR_DOF, Suspect, closes, feet_for_metres, suspect

Data = dict[str, Any]
TOLERANCE_MM = 5.0
OUTLIER = 0.995
WANDERS_MM = 1.0
STANDS_OUT_PPM = 20.0
FITS_M = 0.02
WORTH_A_SIGN_M = 0.1


@dataclass
class Judged:
    """Everything known of an orientation."""

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
        self.grades.append(grade)
        self.reasons.append((code, text))

    @property
    def grade(self) -> Grade:
        return worst(self.grades or ["use"])


def begun(found: Read) -> Judged:
    o: Oriented = found.document.observations
    given = found.document.limits.get("disagreement_mm")
    use = given.use if given else TOLERANCE_MM
    source = (given.source if given and given.source else None) or "opening value where the job names none"
    return Judged(
        found,
        spreads_of(found.document.instrument, o.target_sigma_mm),
        Limits(use, use, use, source, adjustable=False),
        length_words(found.document.units.length),
    )


def judge_free(found: Read) -> Judged:
    """A free station."""
    judged = begun(found)
    o: Any = found.document.observations
    observed = observations(found.sights, judged.spreads)
    scaled = solve(observed, extra="scale") if o.solve_scale else None
    judged.solution = scaled or solve(observed)
    feet = feet_for_metres(found.sights)
    if feet is not None:
        other = "metres" if feet == "feet" else "feet"
        judged.say(
            "repeat",
            "feet-and-metres",
            f"The distances look like {feet} beside coordinates in {other}: set the unit, or type it behind them.",
        )
    elif judged.solution is None or not closes(judged.solution):
        _does_not_close(judged)
    if judged.suspect is not None:
        # What is drawn and told is how it would be without the fault: beside a gross one everything looks wrong.
        judged.solution = judged.suspect.solution
    if judged.solution is None or feet is not None:
        judged.solution = None if feet is not None else judged.solution
        return judged
    solution = judged.solution
    swapped = judged.suspect is not None and judged.suspect.kind == "swapped"
    judged.heights = None if swapped else heights_of(found.sights, judged.spreads)
    judged.points = misfits(solution, found.sights, judged.heights)
    judged.strength = strength_of(solution, found.sights)
    judged.orientation_deg = solution.orientation_deg
    judged.orientation = _scaled(
        solution, solution.orientation_rad * ARCSEC_PER_RADIAN, solution.covariance(2, 2) * ARCSEC_PER_RADIAN**2
    )
    judged.base_m = base_misfit_m(found.sights, judged.spreads)
    _scale(judged, observed)
    _misfit(judged)
    if judged.base_m is not None:
        judged.say(
            "watch",
            "two-points-only",
            "Two points share the misfit out between them: which one is wrong they cannot say. A third look tells.",
        )
    _strong_enough(judged)
    if judged.suspect is None:
        _heights(judged)
    _closing(judged)
    _control_jump(judged)
    return judged


def _scaled(solution: Solution, value: float, variance: float) -> Estimate:
    from .figures import estimate

    return estimate(solution, value, variance)


def _does_not_close(judged: Judged) -> None:
    sights = judged.read.sights
    names = {one.point.name for one in sights}
    judged.suspect = suspect(sights, judged.spreads)
    found, words = judged.suspect, judged.words
    unit = judged.read.document.units.angle
    if found is None and _other_angle_fits(judged):
        other = "degrees" if unit == "gon" else "gon"
        judged.say("repeat", "angle-unit", f"Read as {other} the angles fit together: set the unit of the circle.")
        return
    if judged.solution is None and all(one.horizontal_m is None for one in sights):
        judged.suspect = None
        judged.say(
            "repeat",
            "danger-circle",
            "These directions fix no place: you may stand on the circle through the points. Measure a distance, or move.",
        )
        return
    if found is None:
        if len(names) > 2:
            judged.say(
                "repeat",
                "does-not-close",
                "The sights do not fit together, and no single point, swap or constant explains it: take them again.",
            )
        elif judged.solution is None:
            judged.say(
                "repeat", "no-solution", "No place fits these sights: read names, circle and distances once more."
            )
        return
    if found.kind == "point":
        name = found.names[0]
        text = f"{name} lies {words.small(found.size)} from where the others see it"
        judged.say(
            "repeat",
            "point-apart",
            f"{text}. Look at the mark, the prism and the name; leave it out to see the rest agree.",
        )
    elif found.kind == "swapped":
        judged.say(
            "repeat",
            "points-swapped",
            f"{joined(list(found.names))} look swapped: the other way round everything fits.",
        )
    elif found.kind == "constant":
        more = "long" if found.size > 0 else "short"
        judged.say(
            "repeat",
            "constant",
            f"Every distance is {words.small(abs(found.size))} too {more}: is the prism constant set for this prism?",
        )
    else:
        judged.say(
            "repeat",
            "scale",
            f"The distances are {figure(found.size * 1e6, 0)} ppm off the coordinates: grid and ground mixed, or a scale left set?",
        )


def _other_angle_fits(judged: Judged) -> bool:
    """Whether the sights close once their angles are taken in the other unit."""
    sights = judged.read.sights
    o: Oriented = judged.read.document.observations
    factor = 1.0 / 0.9 if judged.read.document.units.angle == "gon" else 0.9
    turned = []
    for one in sights:
        hz, v = _plain(o.shots[one.index].hz), _plain(o.shots[one.index].v)
        if hz is None or (one.z_deg is not None and v is None):
            return False
        if judged.read.document.units.angle == "gon":
            hz, v = hz * 0.9, None if v is None else v * 0.9
        flat = one.horizontal_m
        if flat is not None and v is not None and one.z_deg is not None:
            flat = flat / math.sin(math.radians(one.z_deg)) * abs(math.sin(math.radians(v * factor)))
        turned.append(Sight(one.index, one.point, hz * factor % 360.0, None, flat, None))
    if len({one.point.name for one in sights}) < 2 or len(turned) < 2:
        return False
    solution = solve(observations(turned, judged.spreads))
    return solution is not None and solution.dof > 0 and closes(solution)


def _plain(typed: Any) -> float | None:
    """The number that was typed, whatever it means."""
    try:
        return numeral(typed).value if isinstance(typed, str) else float(typed)
    except (TypeError, ValueError):
        return None


def _scale(judged: Judged, observed: Any) -> None:
    if sum(one.kind == "distance" for one in observed) < 2:
        return
    with_scale = solve(observed, extra="scale")
    if with_scale is not None and with_scale.extra is not None:
        judged.scale = (with_scale.extra * 1e6, math.sqrt(with_scale.covariance(3, 3)) * 1e6)


def _misfit(judged: Judged) -> None:
    solution, limits, words = judged.solution, judged.limits, judged.words
    assert solution is not None
    dof = PRIOR_DOF + max(0.0, float(solution.dof))
    if judged.base_m is not None:
        off, sigma = judged.base_m
        judged.misfit = Estimate(off * 1000.0, sigma * 1000.0, PRIOR_DOF)
        judged.series_mm, judged.series_sigma_mm = off * 1000.0, sigma * 1000.0
        what = f"The measured base is {words.small(abs(off))} {'longer' if off > 0 else 'shorter'} than the known one"
    else:
        worst_point = max(judged.points, key=lambda one: one.off_m, default=None)
        if worst_point is None or solution.dof <= 0:
            judged.say(
                "watch", "nothing-to-spare", "Nothing to spare: every sight is needed for the place, none checks it."
            )
            return
        own = math.hypot(worst_point.sigma_along_m or 0.0, worst_point.sigma_across_m or 0.0) or 0.001
        judged.misfit = Estimate(worst_point.off_m * 1000.0, own * 1000.0, dof)
        squares = math.fsum((one.along_m or 0.0) ** 2 + (one.across_m or 0.0) ** 2 for one in judged.points)
        judged.series_mm = 1000.0 * math.sqrt(squares / solution.dof)
        judged.series_sigma_mm = own * 1000.0 / math.sqrt(2.0 * solution.dof)
        what = f"{worst_point.sight.point.name} is {words.small(worst_point.off_m)} off"
    if judged.suspect is not None or "does-not-close" in dict(judged.reasons):
        return
    size, bound = abs(judged.misfit.value), t_quantile(OUTLIER, judged.misfit.dof) * judged.misfit.sigma
    if size > limits.use and size <= bound:
        scatter = words.small(bound / 1000.0)
        judged.say(
            "watch",
            "within-noise",
            f"{what}: beyond the {words.small(limits.use / 1000.0)} allowed, no more than this instrument scatters ({scatter}). Sight it again.",
        )
    elif size > limits.use:
        judged.say("repeat", "beyond-tolerance", f"{what}; allowed are {words.small(limits.use / 1000.0)}.")
    elif size > bound and judged.base_m is not None:
        judged.say(
            "repeat",
            "more-than-its-sigma",
            f"{what}, more than the instrument explains ({words.small(bound / 1000.0)}).",
        )


def _strong_enough(judged: Judged) -> None:
    s, tolerance = judged.strength, judged.limits.use / 1000.0
    assert s is not None
    if s.on_danger_circle:
        judged.say(
            "repeat",
            "danger-circle",
            "You stand on the circle through the points: from there directions fix no place. Measure a distance, or move.",
        )
    elif s.longest_m > tolerance and judged.grade != "repeat":
        judged.say(
            "watch",
            "weak-figure",
            f"The figure fixes the place within {judged.words.small(s.longest_m)} only: sight a point more across, or nearer.",
        )


def _heights(judged: Judged) -> None:
    heights = judged.heights
    if heights is None or not heights.off_m:
        return
    m = len(heights.off_m)
    bound = t_quantile(1.0 - 0.005 / max(1, m), PRIOR_DOF)
    apart = {i: off for i, off in heights.off_m.items() if abs(off) > bound * heights.sigma_off_m[i]}
    if not apart:
        return
    index = max(apart, key=lambda i: abs(apart[i]) / heights.sigma_off_m[i])
    off, words = apart[index], judged.words
    sight = next(one for one in judged.read.sights if one.index == index)
    if m == 2:
        judged.say(
            "repeat",
            "heights-differ",
            f"The two heights differ by {words.small(abs(off))}: a target height, or the height of a point.",
        )
        return
    o: Oriented = judged.read.document.observations
    typed = str(o.shots[index].target_height or "")
    meant = _height_meant(judged, typed, sight, off)
    hint = f" Typed {typed} for {meant}?" if meant else ""
    judged.say(
        "repeat",
        "height-apart",
        f"The height by {sight.point.name} is {words.small(abs(off))} off the others: its target height?{hint}",
    )


def _height_meant(judged: Judged, typed: str, sight: Sight, off: float) -> str | None:
    """The target height a slip of which explains it. A target typed too high makes its point look too low."""
    from ..lengths import in_unit, parse_length

    if not typed.strip():
        return None
    unit = judged.read.document.units.length
    try:
        height = parse_length(typed, unit).m
    except ValueError:
        return None
    sigma = judged.spreads.height_m(sight.horizontal_m or 50.0)
    return likely_slip(typed.strip(), in_unit(height + off, unit), in_unit(max(0.003, 3.0 * sigma), unit))


def _closing(judged: Judged) -> None:
    closing = judged.read.closing
    if closing is None:
        return
    point, hz, _ = closing
    first = next((one for one in judged.read.sights if one.point.name == point.name), None)
    if first is None:
        return
    away = math.degrees(wrapped(math.radians(hz - first.hz_deg))) * 3600.0
    far = first.horizontal_m or 50.0
    sigma = math.sqrt(2.0) * judged.spreads.direction_arcsec(far)
    judged.closing_arcsec = (away, sigma)
    if abs(away) > t_quantile(OUTLIER, PRIOR_DOF) * sigma:
        side = abs(away) / ARCSEC_PER_RADIAN * far
        judged.say(
            "repeat",
            "stand-moved",
            f"At the closing look {point.name} reads {arcsec(abs(away))} otherwise ({judged.words.small(side)} there): the stand moved since.",
        )


def _control_jump(judged: Judged) -> None:
    """Against earlier disagreements of this instrument: a jump is a reason to look at the instrument itself."""
    if judged.series_mm is None or judged.series_sigma_mm is None:
        return
    earlier = [
        (float(one.result["disagreement_mm"]), float(one.result["sigma_disagreement_mm"]))
        for one in reversed(judged.read.document.before)
        if one.result.get("disagreement_mm") is not None
    ]
    away = jump(earlier, judged.series_mm, judged.series_sigma_mm, WANDERS_MM)
    if away is not None:
        judged.say(
            "watch",
            "control-jump",
            f"This instrument has agreed with known points {judged.words.small(abs(away) / 1000.0)} better until now: look at it in two faces.",
        )


def judge_back(found: Read) -> Judged:
    """Over a known point, looking back at others."""
    judged = begun(found)
    station = found.station
    assert station is not None
    turns = []
    for sight in found.sights:
        far = distance_m(station.e, station.n, sight.point)
        sigma = judged.spreads.direction_arcsec(far) / ARCSEC_PER_RADIAN
        turns.append((wrapped(bearing_rad(station.e, station.n, sight.point) - math.radians(sight.hz_deg)), sigma))
    reference = turns[0][0]
    weights = [1.0 / sigma**2 for _, sigma in turns]
    mean = reference + math.fsum(
        w * wrapped(t - reference) for w, (t, _) in zip(weights, turns, strict=True)
    ) / math.fsum(weights)
    judged.orientation_deg = math.degrees(mean) % 360.0
    judged.orientation = Estimate(
        mean * ARCSEC_PER_RADIAN, ARCSEC_PER_RADIAN / math.sqrt(math.fsum(weights)), PRIOR_DOF
    )
    judged.points = [_backsight_point(judged, station, sight, mean, len(turns)) for sight in found.sights]
    _backsight_misfit(judged, station)
    _closing(judged)
    _control_jump(judged)
    return judged


def _backsight_point(judged: Judged, station: Known, sight: Sight, turn: float, count: int) -> PointMisfit:
    far = distance_m(station.e, station.n, sight.point)
    along = None if sight.horizontal_m is None else sight.horizontal_m - far
    # hz too large by so much: seen too far clockwise.
    across = (
        None
        if count < 2
        else wrapped(math.radians(sight.hz_deg) + turn - bearing_rad(station.e, station.n, sight.point)) * far
    )
    height = None
    if sight.rise_m is not None and sight.point.h is not None and station.h is not None:
        height = station.h + sight.rise_m - sight.point.h
    across_sigma = (
        judged.spreads.direction_arcsec(far) / ARCSEC_PER_RADIAN * far * math.sqrt(1.0 - 1.0 / count)
        if count > 1
        else None
    )
    return PointMisfit(
        sight,
        along,
        across,
        height,
        judged.spreads.distance_m(far),
        across_sigma,
        None if height is None else judged.spreads.height_m(far),
    )


def _backsight_misfit(judged: Judged, station: Known) -> None:
    words, limits = judged.words, judged.limits
    with_distance = [one for one in judged.points if one.along_m is not None]
    if not with_distance:
        judged.say(
            "watch",
            "direction-only",
            "A direction alone checks nothing: measure the distance, or sight a second point.",
        )
    else:
        worst_point = max(with_distance, key=lambda one: abs(one.along_m or 0.0))
        along, sigma = worst_point.along_m or 0.0, worst_point.sigma_along_m or 0.001
        judged.misfit = Estimate(along * 1000.0, sigma * 1000.0, PRIOR_DOF)
        judged.series_mm, judged.series_sigma_mm = along * 1000.0, sigma * 1000.0
        bound = t_quantile(OUTLIER, PRIOR_DOF) * sigma
        if abs(along) > min(limits.use / 1000.0, bound):
            allowed = min(limits.use / 1000.0, bound)
            name = worst_point.sight.point.name
            text = f"{name} is {words.small(abs(along))} {'farther' if along > 0 else 'nearer'} than it should be (allowed {words.small(allowed)})"
            judged.say("repeat", "beyond-tolerance", f"{text}.{_other_point(judged, station, worst_point.sight)}")
    for one in judged.points:
        if (
            one.across_m is not None
            and one.sigma_across_m
            and abs(one.across_m) > t_quantile(OUTLIER, PRIOR_DOF) * one.sigma_across_m
        ):
            judged.say(
                "repeat",
                "directions-differ",
                f"The directions do not agree: {one.sight.point.name} is {words.small(abs(one.across_m))} to one side.",
            )
            break
    for one in judged.points:
        _backsight_height(judged, station, one)


def _backsight_height(judged: Judged, station: Known, one: PointMisfit) -> None:
    if (
        one.height_m is None
        or one.sigma_height_m is None
        or abs(one.height_m) <= t_quantile(OUTLIER, PRIOR_DOF) * one.sigma_height_m
    ):
        return
    assert one.sight.point.h is not None
    assert station.h is not None
    assert one.sight.rise_m is not None
    fall = one.sight.point.h - station.h
    if abs(fall) > WORTH_A_SIGN_M and abs(one.sight.rise_m + fall) < FITS_M:
        judged.say(
            "repeat",
            "ends-swapped",
            f"The heights fit the other way round: do you stand over {one.sight.point.name} and look at {station.name}?",
        )
        return
    meant = _height_meant(judged, _target_typed(judged, one.sight), one.sight, one.height_m)
    hint = f" Typed {_target_typed(judged, one.sight)} for {meant}?" if meant else ""
    judged.say(
        "repeat",
        "height-apart",
        f"The height of {one.sight.point.name} comes out {judged.words.small(abs(one.height_m))} {'high' if one.height_m > 0 else 'low'}: height of the instrument or of the target?{hint}",
    )


def _target_typed(judged: Judged, sight: Sight) -> str:
    o: Oriented = judged.read.document.observations
    return str(o.shots[sight.index].target_height or "")


def _other_point(judged: Judged, station: Known, sight: Sight) -> str:
    """Another known point at just this distance."""
    assert sight.horizontal_m is not None
    fits = [
        (abs(distance_m(station.e, station.n, one) - sight.horizontal_m), one.name)
        for one in judged.read.control
        if one.name != sight.point.name and math.hypot(one.e - station.e, one.n - station.n) > 1.0
    ]
    off, name = min(fits, default=(math.inf, ""))
    return (
        f" The distance fits {name}: is that what you sighted?"
        if off < FITS_M
        else " Right mark, right prism, right constant?"
    )


__all__ = ["Judged", "begun", "found_in", "judge_back", "judge_free"]
