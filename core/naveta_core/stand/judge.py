"""A set-up judged: grades, reasons, what was passed over, and the result as a whole."""

from __future__ import annotations

import math
from typing import Any

from .. import __version__
from ..cautions import cautions
from ..judgement import ORDER, Decision, Estimate, Limits, decide, worst
from ..wording import arcsec, figure, joined, length_words, limit
from .circumstances import circumstances
from .findings import budget_of, finding, heights_apart, shown, work, worked
from .reading import Judged, index_limits, limits_of, passes, read
from .set_up import SetUpDocument
from .ways import acts_of, way_of

Data = dict[str, Any]
RESTS_APART_DIV = 0.5
"""Two rest positions of one vial that differ by more do not belong together (three standard deviations)."""
HEIGHTS_APART_M = 0.003
MANY_PASSES = 4
KEPT_WHEN_QUICK = {"last-look", "heights", "ring-round", "turn-round"}
"""What a set-up noted afterwards still has to answer for."""


def graded(estimate: Estimate, limits: Limits) -> Decision:
    """The decision rule; what is beyond its limit is done again: there is nothing to adjust or to send away."""
    decision = decide(estimate, limits)
    if decision.grade in ("use", "watch"):
        return decision
    return Decision("repeat", ("beyond-limit",) if estimate.value > limits.use else ("not-proved",))


def passed_over(judged: Judged) -> list[str]:
    """What was not confirmed, in the words of the acts."""
    document = judged.document
    o = document.observations
    confirmed = {one.act for one in o.log if one.confirmed}
    if o.level.turned.along is not None or o.ring_holds == "yes":
        confirmed |= {"turn-round", "ring-round"}
    if o.looked_last:
        confirmed.add("last-look")
    if len(judged.heights_m) >= 2:
        confirmed.add("heights")
    if o.zero.reading is not None and str(o.zero.reading).strip():
        confirmed.add("zero")
    acts = acts_of(way_of(o), document.plummet)
    if o.quick:
        acts = [one for one in acts if one.name in KEPT_WHEN_QUICK]
    if o.mark.free:
        acts = [one for one in acts if one.name not in ("heights", "focus", "laser-on", "laser-off")]
    return [one.confirms for one in acts if one.confirms and one.name not in confirmed]


def preview(document: SetUpDocument) -> Data:
    """What can be said already; the whole result once it is complete."""
    judged = read(document)
    complete = not judged.sheet.missing and not judged.sheet.faults
    return {
        "complete": complete,
        "missing": judged.sheet.missing,
        "wanted": judged.sheet.wanted(),
        "faults": [fault.as_dict() for fault in judged.sheet.faults],
        **({"reduced": _result(judged)} if complete else {}),
    }


def reduce(document: SetUpDocument) -> Data:
    """A complete set-up to its result. Raises Refused with every fault and everything missing."""
    judged = read(document)
    judged.sheet.demand_complete()
    return _result(judged)


def _result(judged: Judged) -> Data:
    document = judged.document
    limits = limits_of(document)
    parts, reasons = [], []
    for name, estimate in (("tilt_arcsec", judged.tilt_estimate), ("centring_mm", judged.centring)):
        if estimate is not None:
            decision = graded(estimate, limits[name])
            parts.append(_part(name, estimate, limits[name], decision))
            reasons += _reasons(judged, name, estimate, limits[name], decision)
    grades = [part["grade"] for part in parts] or ["use"]
    if document.observations.ring_holds == "no":
        grades.append("watch")
        reasons.append(
            ("ring-left", "The circular bubble leaves its ring when turned: its vial is out. Check it at the bench.")
        )
    out = _level_out(judged)
    if out:
        grades.append("watch")
        reasons.append(out)
    rests_apart = _rests_apart_div(judged)
    if rests_apart > RESTS_APART_DIV:
        grades.append("watch")
        reasons.append(
            (
                "rests-differ",
                f"One vial, two rest positions {figure(rests_apart, 1)} div apart: something moved between the looks."
                " Turn it round once more.",
            )
        )
    apart = heights_apart(judged)
    if apart > HEIGHTS_APART_M:
        grades.append("watch")
        reasons.append(
            (
                "heights-differ",
                f"The two heights differ by {length_words(document.units.length).small(apart)}: measure a third time.",
            )
        )
    parts.sort(key=lambda part: -ORDER.index(part["grade"]))
    left = passed_over(judged)
    if left:
        reasons.append(("not-confirmed", f"Not confirmed: {joined(left)}."))
    rounds = passes(document)
    if rounds >= MANY_PASSES:
        reasons.append(
            ("many-passes", "It took many passes: feet that settle, a plummet or a vial that is out. Check those.")
        )
    grade = worst(grades)
    return {
        "kind": "set-up",
        "result": _figures(judged, left, rounds),
        "finding": {"text": finding(judged)},
        "verdict": {
            "grade": grade,
            "reasons": [{"code": code, "text": text} for code, text in reasons],
            "next": [_next(grade)],
            "parts": parts,
            "set_aside": [],
        },
        "shown": shown(judged),
        "picture": None,
        "work": work(judged),
        "cautions": cautions("wind"),
        "worked": worked(judged),
        "core_version": __version__,
    }


def _part(name: str, e: Estimate, limits: Limits, decision: Decision) -> Data:
    unit = "″" if name == "tilt_arcsec" else " mm"
    return {
        "quantity": name,
        "value": e.value,
        "sigma": e.sigma,
        "u95": e.u95,
        "dof": e.dof,
        "basis": "a-priori",
        "proved_to": e.proved_to,
        "limits": {"use": limits.use, "watch": limits.watch, "adjust": limits.adjust},
        "why": limits.source,
        "limit_text": f"Limit {limits.use:g}{unit}: {limits.source}",
        "grade": decision.grade,
    }


def _reasons(judged: Judged, name: str, e: Estimate, limits: Limits, decision: Decision) -> list[tuple[str, str]]:
    if decision.grade == "use":
        return []
    words = length_words(judged.document.units.length)
    tilt = name == "tilt_arcsec"
    value, bound = (
        (arcsec(e.value), limit(limits.use))
        if tilt
        else (words.small(e.value / 1000.0), words.small(limits.use / 1000.0))
    )
    what = "The axis" if tilt else "The plummet"
    if "beyond-limit" in decision.codes:
        act = "Level it once more" if tilt else "Slide it over once more"
        return [("beyond-limit", f"{what} is {value} out; the limit is {bound}. {act}.")]
    if tilt and judged.index is None:
        return [
            (
                "not-turned",
                f"Seen from one side only it is not proved within {bound}: turn it half round and look again.",
            )
        ]
    proved = arcsec(e.proved_to) if tilt else words.small(e.proved_to / 1000.0)
    return [("not-proved", f"{what} is within {bound} as seen, and proved within {proved}.")]


def _next(grade: str) -> Data:
    if grade == "repeat":
        return {"code": "do-again", "text": "Put that right before you measure: nothing is lost, the log goes on."}
    if grade == "watch":
        return {"code": "carry-on-minding", "text": "Go on, minding what is said here."}
    return {
        "code": "carry-on",
        "text": "Set up. Look at bubble and mark again after a while, and whenever somebody leaned on it.",
    }


def _level_out(judged: Judged) -> tuple[str, str] | None:
    """The level's own index, found by turning it round: the axis may be plumb, and the level is out all the same."""
    if judged.index is None:
        return None
    limits = index_limits(judged.document)
    if all(abs(one) <= most for one, most in zip(judged.index, limits, strict=True)):
        return None
    plate = judged.document.observations.level.by == "plate"
    check = "the plate vial" if plate else "the electronic level"
    size = max(abs(one) for one in judged.index)
    text = f"The level itself is out by {arcsec(size)}, limit {arcsec(limits[0])}: turned half round it is taken out here, not in the next set-up. Check {check} at the bench."
    return "level-out", text


def _rests_apart_div(judged: Judged) -> float:
    """By how much the rest positions of the one vial differ that was read in four directions."""
    o = judged.document.observations
    if judged.index is None or o.level.by != "plate" or o.options.fine == "two-plates":
        return 0.0
    return abs(judged.index[0] - judged.index[1]) / o.level.sensitivity_arcsec_per_div


def _figures(judged: Judged, left: list[str], rounds: int) -> Data:
    figures: Data = {
        "passes": rounds,
        "minutes": judged.minutes,
        "not_confirmed": left,
        "told": circumstances(judged.document, rounds),
        "budget": budget_of(judged),
    }
    if judged.tilt_estimate is not None and judged.tilt is not None:
        figures["tilt_arcsec"] = judged.tilt_estimate.value
        figures["sigma_tilt_arcsec"] = judged.tilt_estimate.sigma
        figures["tilt_along_arcsec"], figures["tilt_across_arcsec"] = judged.tilt
    if judged.index is not None:
        figures["index_along_arcsec"], figures["index_across_arcsec"] = judged.index
        if judged.document.observations.level.by == "plate":
            o = judged.document.observations
            along, across = (one / o.level.sensitivity_arcsec_per_div for one in judged.index)
            figures["rest_div"] = along if o.options.fine == "two-plates" else (along + across) / 2.0
    if judged.centring is not None:
        figures["centring_mm"], figures["sigma_centring_mm"] = judged.centring.value, judged.centring.sigma
    if judged.heights_m:
        figures["height_m"] = math.fsum(judged.heights_m) / len(judged.heights_m)
        figures["heights_apart_m"] = heights_apart(judged)
    return figures
