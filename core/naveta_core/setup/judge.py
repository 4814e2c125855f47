"""A set-up judged: grades, reasons, what was passed over, and the result as a whole.

Source: reversal (textbook) and docs/judgement.md (Set-up).
"""

from __future__ import annotations

import math

from .. import __version__
from ..cautions import cautions
from ..results import CodedText, Finding, LimitFigures, Result, Verdict, VerdictPart, reasons
from ..stats.decision import ORDER, Decision, Grade, Limits, decide, worst
from ..stats.estimate import Estimate
from ..units.formatting import arcsec, figure, joined, length_words, limit
from .conditions import circumstances
from .document import SetUpDocument
from .findings import budget_of, finding, heights_differ, shown_of, work, worked
from .methods import method_of, steps_of
from .reading import Judged, index_limits, limits_of, passes, read
from .results import SetUpFigures, SetUpPreview

RESTS_DIFFER_DIV = 0.5
"""Two rest positions of one vial that differ by more do not belong together (three standard deviations)."""
HEIGHTS_DIFFER_M = 0.003
MANY_PASSES = 4
QUICK_PREFILLED = {"final-check", "heights", "ring-round", "turn-round"}
"""What a set-up noted afterwards still has to answer for."""


def graded(estimate: Estimate, limits: Limits) -> Decision:
    """The decision rule; what is beyond its limit is done again: there is nothing to adjust or to send away."""
    decision = decide(estimate, limits)
    if decision.grade in ("use", "watch"):
        return decision
    return Decision("repeat", ("beyond-limit",) if estimate.value > limits.use else ("not-proved",))


def passed_over(judged: Judged) -> list[str]:
    """What was not confirmed, in the words of the steps."""
    document = judged.document
    o = document.observations
    confirmed = {logged.step for logged in o.log if logged.confirmed}
    if o.level.turned.along is not None or o.ring_holds == "yes":
        confirmed |= {"turn-round", "ring-round"}
    if o.final_check_done:
        confirmed.add("final-check")
    if len(judged.heights_m) >= 2:
        confirmed.add("heights")
    if o.zero.reading is not None and str(o.zero.reading).strip():
        confirmed.add("zero")
    steps = steps_of(method_of(o), document.plummet)
    if o.quick:
        steps = [step for step in steps if step.name in QUICK_PREFILLED]
    if o.mark.free:
        steps = [step for step in steps if step.name not in ("heights", "focus", "laser-on", "laser-off")]
    return [step.confirms for step in steps if step.confirms and step.name not in confirmed]


def preview(document: SetUpDocument) -> SetUpPreview:
    """What can be said already; the whole result once it is complete."""
    judged = read(document)
    complete = not judged.parser.missing and not judged.parser.faults
    return SetUpPreview(
        complete=complete,
        missing=judged.parser.missing,
        wanted=judged.parser.wanted(),
        faults=judged.parser.faults,
        **({"reduced": _result(judged)} if complete else {}),
    )


def reduce(document: SetUpDocument) -> Result:
    """A complete set-up to its result. Raises Refused with every fault and everything missing."""
    judged = read(document)
    judged.parser.demand_complete()
    return _result(judged)


def _result(judged: Judged) -> Result:
    document = judged.document
    parts, messages = _parts(judged)
    grades: list[Grade] = [part.grade for part in parts] or ["use"]
    also = _also_watched(judged)
    if also:
        grades.append("watch")
        messages += also
    parts.sort(key=lambda part: -ORDER.index(part.grade))
    left, rounds = passed_over(judged), passes(document)
    if left:
        messages.append(("not-confirmed", f"Not confirmed: {joined(left)}."))
    if rounds >= MANY_PASSES:
        messages.append(
            ("many-passes", "Many passes were needed: check for settling feet, and check plummet and level vial.")
        )
    grade = worst(grades)
    return Result(
        kind="set-up",
        result=_figures(judged, left, rounds),
        finding=Finding(text=finding(judged)),
        verdict=Verdict(
            grade=grade, reasons=reasons(messages), next=reasons([_next(grade)]), parts=parts, set_aside=[]
        ),
        shown=shown_of(judged),
        picture=None,
        work=work(judged),
        cautions=cautions("wind"),
        worked=worked(judged),
        core_version=__version__,
    )


def _parts(judged: Judged) -> tuple[list[VerdictPart], list[CodedText]]:
    """Tilt and centring against their limits, and why."""
    limits, parts, messages = limits_of(judged.document), list[VerdictPart](), list[CodedText]()
    for name, estimate in (("tilt_arcsec", judged.tilt_estimate), ("centring_mm", judged.centring)):
        if estimate is not None:
            decision = graded(estimate, limits[name])
            parts.append(_part(name, estimate, limits[name], decision))
            messages += _reasons(judged, name, estimate, limits[name], decision)
    return parts, messages


def _also_watched(judged: Judged) -> list[CodedText]:
    """What else keeps a set-up from being good: ring, the level's own index, rest positions and heights that differ."""
    document, messages = judged.document, list[CodedText]()
    if document.observations.ring_holds == "no":
        text = "The circular bubble leaves its ring when turned: do the circular level check."
        messages.append(("ring-left", text))
    out = _level_out(judged)
    if out:
        messages.append(out)
    rests_differ = _rest_difference_div(judged)
    if rests_differ > RESTS_DIFFER_DIV:
        text = f"The two reversing points differ by {figure(rests_differ, 1)} div: something moved. Turn by 180° once more."
        messages.append(("rests-differ", text))
    gap = heights_differ(judged)
    if gap > HEIGHTS_DIFFER_M:
        words = length_words(document.units.length)
        messages.append(("heights-differ", f"The two heights differ by {words.small(gap)}: measure a third time."))
    return messages


def _part(name: str, e: Estimate, limits: Limits, decision: Decision) -> VerdictPart:
    unit = "″" if name == "tilt_arcsec" else " mm"
    return VerdictPart(
        quantity=name,
        value=e.value,
        sigma=e.sigma,
        u95=e.u95,
        dof=e.dof,
        basis="a-priori",
        proved_to=e.proved_to,
        limits=LimitFigures(use=limits.use, watch=limits.watch, adjust=limits.adjust),
        why=limits.source,
        limit_text=f"Limit {limits.use:g}{unit}: {limits.source}",
        grade=decision.grade,
    )


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
        step = "Level again" if tilt else "Slide over the mark again"
        return [("beyond-limit", f"{what} is {value} out; the limit is {bound}. {step}.")]
    if tilt and judged.index is None:
        return [
            (
                "not-turned",
                f"Seen from one side only, {bound} cannot be shown: turn by 180° and look again.",
            )
        ]
    proved = arcsec(e.proved_to) if tilt else words.small(e.proved_to / 1000.0)
    return [("not-proved", f"{what} is within {bound} as read, and within {proved} with 95 % confidence.")]


def _next(grade: Grade) -> CodedText:
    if grade == "repeat":
        return "do-again", "Correct that before you measure: nothing is lost."
    if grade == "watch":
        return "carry-on-minding", "Go on, and observe the conditions listed here."
    return (
        "carry-on",
        "Set up. Check bubble and mark again after a while, and whenever somebody has touched it.",
    )


def _level_out(judged: Judged) -> tuple[str, str] | None:
    """The level's own index, found by turning it round: the axis may be plumb, and the level still be out."""
    if judged.index is None:
        return None
    limits = index_limits(judged.document)
    if all(abs(entry) <= most for entry, most in zip(judged.index, limits, strict=True)):
        return None
    plate = judged.document.observations.level.by == "plate"
    check = "the plate vial" if plate else "the electronic level"
    size = max(abs(error) for error in judged.index)
    text = f"Index error {arcsec(size)}, limit {arcsec(limits[0])}: removed here by turning, but not in the next set-up. Check {check} at the bench."
    return "level-out", text


def _rest_difference_div(judged: Judged) -> float:
    """By how much the rest positions of the one vial differ that was read in four directions."""
    o = judged.document.observations
    if judged.index is None or o.level.by != "plate" or o.options.level_type == "two-plates":
        return 0.0
    return abs(judged.index[0] - judged.index[1]) / o.level.sensitivity_arcsec_per_div


def _figures(judged: Judged, left: list[str], rounds: int) -> SetUpFigures:
    fields: dict[str, float] = {}
    if judged.tilt_estimate is not None and judged.tilt is not None:
        fields["tilt_arcsec"] = judged.tilt_estimate.value
        fields["sigma_tilt_arcsec"] = judged.tilt_estimate.sigma
        fields["tilt_along_arcsec"], fields["tilt_across_arcsec"] = judged.tilt
    if judged.index is not None:
        fields["index_along_arcsec"], fields["index_across_arcsec"] = judged.index
        o = judged.document.observations
        if o.level.by == "plate":
            along, across = (error / o.level.sensitivity_arcsec_per_div for error in judged.index)
            fields["rest_div"] = along if o.options.level_type == "two-plates" else (along + across) / 2.0
    if judged.centring is not None:
        fields["centring_mm"], fields["sigma_centring_mm"] = judged.centring.value, judged.centring.sigma
    if judged.heights_m:
        fields["height_m"] = math.fsum(judged.heights_m) / len(judged.heights_m)
        fields["heights_apart_m"] = heights_differ(judged)
    return SetUpFigures(
        passes=rounds,
        minutes=judged.minutes,
        not_confirmed=left,
        details=circumstances(judged.document, rounds),
        budget=budget_of(judged),
        **fields,
    )
