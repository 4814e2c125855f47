"""A free station judged: does the figure close, what spoils it when not, is it strong enough."""

from __future__ import annotations

import math
from dataclasses import replace
from typing import Any

from ..stats.estimate import PRIOR_DOF, Estimate
from ..stats.quantiles import t_quantile
from ..units.angles import ARCSEC_PER_RADIAN
from ..units.formatting import figure, joined
from ..units.numbers import numeral
from .document import Oriented
from .figures import base_misfit_m, estimate, heights_of, misfits, strength_of
from .read import Read, Sight
from .solve import observations, solve
from .suspects import Suspect, closes, feet_for_metres, suspect
from .verdict import Judged, begun, closing_sight, control_jump, height_meant, hold_misfit, say_counts_otherwise


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
            f"The distances look like {feet} beside coordinates in {other}: set the unit, or type it after the number.",
        )
    elif judged.solution is None or not closes(judged.solution):
        _does_not_close(judged)
    if judged.suspect is not None:
        # What is drawn and given is how it would be without the fault: beside a gross one everything looks wrong.
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
    judged.orientation = estimate(
        solution, solution.orientation_rad * ARCSEC_PER_RADIAN, solution.covariance(2, 2) * ARCSEC_PER_RADIAN**2
    )
    judged.base_m = base_misfit_m(found.sights, judged.spreads)
    _scale(judged, observed)
    _misfit(judged)
    if judged.base_m is not None:
        judged.say(
            "watch",
            "two-points-only",
            "Two points cannot show which of them is wrong. Sight a third.",
        )
    _strong_enough(judged)
    if judged.suspect is None:
        _heights(judged)
    closing_sight(judged)
    control_jump(judged)
    return judged


def _does_not_close(judged: Judged) -> None:
    sights = judged.read.sights
    names = {sight.point.name for sight in sights}
    if counts_otherwise(judged):
        return
    judged.suspect = suspect(sights, judged.spreads)
    found = judged.suspect
    unit = judged.read.document.units.angle
    if found is None and _other_angle_fits(judged):
        other = "degrees" if unit == "gon" else "gon"
        judged.say("repeat", "angle-unit", f"Read as {other} the angles agree: set the circle unit.")
        return
    if found is None and judged.solution is None and all(sight.horizontal_m is None for sight in sights):
        judged.say(
            "repeat",
            "danger-circle",
            "These directions give no position: you may be on the circle through the points. Measure a distance, or move.",
        )
        return
    if found is None:
        if len(names) > 2:
            judged.say(
                "repeat",
                "does-not-close",
                "The sights do not agree, and no single point, swap or constant explains it: measure them again.",
            )
        elif judged.solution is None:
            judged.say(
                "repeat", "no-solution", "No position agrees with these sights: check names, circle and distances."
            )
        return
    _say_suspect(judged, found)


def _say_suspect(judged: Judged, found: Suspect) -> None:
    """What the sights say is wrong, and what is done about it."""
    words = judged.words
    if found.kind == "point":
        text = f"{found.names[0]} is {words.small(found.size)} from where the others put it. Check point, prism and name; leave it out and see if the others agree."
        judged.say("repeat", "point-outlier", text)
    elif found.kind == "swapped":
        text = f"{joined(list(found.names))} seem swapped: exchanged, everything agrees."
        judged.say("repeat", "points-swapped", text)
    elif found.kind == "constant":
        more = "long" if found.size > 0 else "short"
        text = (
            f"Every distance is {words.small(abs(found.size))} too {more}: is the prism constant right for this prism?"
        )
        judged.say("repeat", "constant", text)
    else:
        text = f"The distances are {figure(found.size * 1e6, 0)} ppm off the coordinates: grid and ground distances mixed, or a scale factor left set?"
        judged.say("repeat", "scale", text)


def counts_otherwise(judged: Judged) -> bool:
    """The first suspect: a circle that counts the other way. Whether everything fits then is stated, and nothing else."""
    sights = [replace(sight, hz_deg=(360.0 - sight.hz_deg) % 360.0) for sight in judged.read.sights]
    if len({sight.point.name for sight in sights}) < 2:
        return False
    solution = solve(observations(sights, judged.spreads))
    if solution is None or solution.dof <= 0 or not closes(solution):
        return False
    say_counts_otherwise(judged)
    judged.solution = None
    return True


def _other_angle_fits(judged: Judged) -> bool:
    """Whether the sights close once their angles are taken in the other unit."""
    sights = judged.read.sights
    o: Oriented = judged.read.document.observations
    factor = 1.0 / 0.9 if judged.read.document.units.angle == "gon" else 0.9
    turned = []
    for entry in sights:
        hz, v = _plain(o.shots[entry.index].hz), _plain(o.shots[entry.index].v)
        if hz is None or (entry.z_deg is not None and v is None):
            return False
        if judged.read.document.units.angle == "gon":
            hz, v = hz * 0.9, None if v is None else v * 0.9
        flat = entry.horizontal_m
        if flat is not None and v is not None and entry.z_deg is not None:
            flat = flat / math.sin(math.radians(entry.z_deg)) * abs(math.sin(math.radians(v * factor)))
        turned.append(Sight(entry.index, entry.point, hz * factor % 360.0, z_deg=None, horizontal_m=flat, rise_m=None))
    if len({sight.point.name for sight in sights}) < 2 or len(turned) < 2:
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
    if sum(entry.kind == "distance" for entry in observed) < 2:
        return
    with_scale = solve(observed, extra="scale")
    if with_scale is not None and with_scale.extra is not None:
        judged.scale = (with_scale.extra * 1e6, math.sqrt(with_scale.covariance(3, 3)) * 1e6)


def _misfit(judged: Judged) -> None:
    solution, words = judged.solution, judged.words
    assert solution is not None
    dof = PRIOR_DOF + max(0.0, float(solution.dof))
    if judged.base_m is not None:
        off, sigma = judged.base_m
        judged.misfit = Estimate(off * 1000.0, sigma * 1000.0, PRIOR_DOF)
        judged.series_mm, judged.series_sigma_mm = off * 1000.0, sigma * 1000.0
        what = f"The measured distance between the points is {words.small(abs(off))} {'longer' if off > 0 else 'shorter'} than the known one"
    else:
        worst_point = max(judged.points, key=lambda entry: entry.off_m, default=None)
        if worst_point is None or solution.dof <= 0:
            judged.say(
                "watch", "nothing-to-spare", "No redundancy: every sight is needed for the position, none checks it."
            )
            return
        own = math.hypot(worst_point.sigma_along_m or 0.0, worst_point.sigma_across_m or 0.0) or 0.001
        judged.misfit = Estimate(worst_point.off_m * 1000.0, own * 1000.0, dof)
        squares = math.fsum((point.along_m or 0.0) ** 2 + (point.across_m or 0.0) ** 2 for point in judged.points)
        judged.series_mm = 1000.0 * math.sqrt(squares / solution.dof)
        judged.series_sigma_mm = own * 1000.0 / math.sqrt(2.0 * solution.dof)
        what = f"{worst_point.sight.point.name} is {words.small(worst_point.off_m)} off"
    if judged.suspect is not None or "does-not-close" in dict(judged.reasons):
        return
    # Of one point among several its own σ is asked about together with all the others': whether the figure closes.
    hold_misfit(judged, what, own=judged.base_m is not None)


def _strong_enough(judged: Judged) -> None:
    s, tolerance = judged.strength, judged.limits.use / 1000.0
    assert s is not None
    if s.on_danger_circle:
        judged.say(
            "repeat",
            "danger-circle",
            "You are on the circle through the points: directions give no position here. Measure a distance, or move.",
        )
    elif s.longest_m > tolerance and judged.grade != "repeat":
        judged.say(
            "watch",
            "weak-figure",
            f"Weak geometry: position only within {judged.words.small(s.longest_m)}. Sight a point to the side, or nearer.",
        )


def _heights(judged: Judged) -> None:
    heights = judged.heights
    if heights is None or not heights.off_m:
        return
    m = len(heights.off_m)
    bound = t_quantile(1.0 - 0.005 / max(1, m), PRIOR_DOF)
    gap = {i: off for i, off in heights.off_m.items() if abs(off) > bound * heights.sigma_off_m[i]}
    if not gap:
        return
    index = max(gap, key=lambda i: abs(gap[i]) / heights.sigma_off_m[i])
    off, words = gap[index], judged.words
    sight = next(sight for sight in judged.read.sights if sight.index == index)
    if m == 2:
        judged.say(
            "repeat",
            "heights-differ",
            f"The two heights differ by {words.small(abs(off))}: a target height, or the height of a point.",
        )
        return
    o: Oriented = judged.read.document.observations
    typed = str(o.shots[index].target_height or "")
    meant = height_meant(judged, typed, sight, off)
    hint = f" Typed {typed} for {meant}?" if meant else ""
    judged.say(
        "repeat",
        "height-outlier",
        f"The height by {sight.point.name} is {words.small(abs(off))} off the others: check its target height.{hint}",
    )
