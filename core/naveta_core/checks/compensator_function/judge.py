"""What a compensator's shifts mean: its limits by class, what sticks, and nothing to turn.

Source: limits from the stated accuracy, docs/judgement.md (Compensator).
"""

from __future__ import annotations

from dataclasses import replace
from math import fsum, sqrt

from ...engine.conditions import Circumstances, prior_dof
from ...engine.drawing import deviations
from ...engine.kind import SheetProgress
from ...engine.limits import limits_from, raised
from ...engine.reports import repeats_of
from ...engine.verdict import JudgedQuantity, Judgement
from ...engine.work import words_of
from ...results import CodedText, DeviationsPicture
from ...stats.decision import Limits
from ...stats.estimate import Estimate, Spread, pooled
from ...stats.outliers import likely_slip, repeats
from ...stats.quantiles import t_quantile
from ...units.angles import ARCSEC_PER_RADIAN
from ...units.formatting import arcsec, figure, length_words
from ...units.lengths import METRES
from .document import (
    PLACES,
    QUANTITY,
    SIDES,
    WORDS,
    CompensatorFigures,
    CompensatorFunction,
    CompensatorRead,
    PositionShift,
    where,
)
from .solve import mean_of, outlier_of, standardised, variances
from .text import finding_of, pattern_of, running, shown_of, work_of, worked_of

GOOD_M = (30.0, 60.0)
USUAL_M, USUAL_READINGS, PROVABLE_DOF, PASSES = 45.0, 5, 24.0, 0.8
CAUTIONS: dict[str, tuple[str, ...]] = {
    "before": ("overhead-lines", "storm", "traffic"),
    "reading": ("sun", "tap"),
    "adjusting": ("focus-stop",),
}


def _class_limit(document: CompensatorFunction, tilt: float | None) -> Limits:
    s = document.instrument.levelling_accuracy_mm_per_km
    step = 0 if s is not None and s <= 1.0 else 1 if s is not None and s <= 2.0 else 2
    what = f"levels of {s:g} mm per km" if s is not None else "a level without stated accuracy"
    use, why = (3.0, 6.0, 10.0)[step], "bubble at the ring"
    if tilt is not None:
        use, why = (0.5, 1.0, 1.5)[step] * tilt, f"per minute of tilt, {tilt:g}′"
    return Limits(use, use, use, f"default limit for {what}, {why}", adjustable=False)


def _limit(document: CompensatorFunction, tilt: float | None) -> Limits:
    """The limit of its class, but never below what five readings a place can show at the distance that shows most."""
    read = CompensatorRead({}, [], USUAL_M, tilt)
    within, between = variances(document, read)
    sigma = sqrt(2 * (within / USUAL_READINGS + between)) * ARCSEC_PER_RADIAN / USUAL_M
    # Of a faultless one the largest shift of four stays below this four times in five: so much it can be proved to.
    seen = t_quantile((1 + PASSES ** (1 / len(SIDES))) / 2, PROVABLE_DOF) * sigma
    least = Estimate(seen, sigma, PROVABLE_DOF, of=len(SIDES)).proved_to
    what = f"{USUAL_READINGS} readings a place at {words_of(document).height(USUAL_M)}"
    return raised(_class_limit(document, tilt), least, "arcsec", what)


def judge(document: CompensatorFunction, read: CompensatorRead, _given: Circumstances) -> Judgement:
    """What the figures mean: quantities against their limits, what is refused, what to do. Figures in the units of their names."""
    assert read.distance_m is not None
    within, between = variances(document, read)
    aside, refused = _set_aside(read, within, document.units.length)
    groups = {name: [entry for entry in read.at[name] if entry.path not in aside] for name in PLACES}
    scale, centre = ARCSEC_PER_RADIAN / read.distance_m, mean_of(groups["centre"])
    shifts = {name: (mean_of(groups[name]) - centre) * scale for name in SIDES}
    spread = repeats(standardised(groups, within))
    largest = max(SIDES, key=lambda name: abs(shifts[name]))
    q_within = within * (1 / len(groups[largest]) + 1 / len(groups["centre"])) * scale**2
    q_between = 2 * between * scale**2
    found = pooled(shifts[largest], q_within, q_between, spread, prior_dof(document))
    estimate = replace(found, of=len(SIDES))
    quantity = JudgedQuantity(
        QUANTITY,
        "the compensator",
        "arcsec",
        estimate=estimate,
        limits=limits_from(document, QUANTITY, _limit(document, read.tilt_arcmin)),
        q_within=q_within,
        q_between=q_between,
    )
    fore_aft, across = (shifts["toward"] - shifts["away"]) / 2, (shifts["right"] - shifts["left"]) / 2
    rows = [
        PositionShift(position=name, shift_mm=shifts[name] / scale * 1000, shift_arcsec=shifts[name]) for name in SIDES
    ]
    per_minute = {"arcsec_per_arcmin": abs(estimate.value) / read.tilt_arcmin} if read.tilt_arcmin else {}
    figures = CompensatorFigures(
        largest_shift_arcsec=estimate.value,
        sigma_largest_shift_arcsec=estimate.sigma,
        shifts=rows,
        fore_and_aft_arcsec=fore_aft,
        left_and_right_arcsec=across,
        repeats=repeats_of(spread),
        **per_minute,
    )
    judgement = Judgement(
        [quantity], figures, finding_of(estimate.value, estimate.u95, WORDS[largest]), shown=shown_of(quantity, figures),
        worked=worked_of(document, groups, shifts), work=work_of(document, estimate.value), repeats=spread,
        more_readings=("reading at every position", "readings at every position"),
        repeat_text="Without moving the level, read once more at every position. Both runs count together.",
        service_text="Compensator faults are work for service: never adjust them in the field.",
    )  # fmt: skip
    judgement.set_aside = list(aside)
    judgement.refused += refused
    judgement.service += _sticking(document, read, centre, within, between)
    pattern = pattern_of(fore_aft, across, estimate.u95)
    judgement.reasons += [*aside.values(), *pattern, *_circumstances(document, read)]
    return judgement


def _circumstances(document: CompensatorFunction, read: CompensatorRead) -> list[CodedText]:
    """What the tap and the distance say of how far this can be trusted."""
    reasons: list[CodedText] = []
    if document.observations.returns is None and not read.after_tap:
        reasons.append(("not-tapped", "The tap test was not done: a sticking compensator would not be noticed."))
    if read.distance_m is not None and not GOOD_M[0] <= read.distance_m <= GOOD_M[1]:
        words = words_of(document)
        far = words.distance(read.distance_m)
        reasons.append(
            ("distance", f"Best at {words.distance(40)} to {words.distance(50)}; at {far} the result is less certain.")
        )
    return reasons


def _set_aside(read: CompensatorRead, within: float, unit: str) -> tuple[dict[str, CodedText], list[CodedText]]:
    """The reading that is an outlier, set aside in sight where three or more stand beside it."""
    found = outlier_of(read, within)
    if found is None:
        return {}, []
    group = read.at[PLACES[found.group]]
    if found.sole_pair:
        return {}, [
            (
                "readings-differ",
                f"The two readings with {WORDS[PLACES[found.group]]} differ by more than reading error: take a third.",
            )
        ]
    entry = group[found.index]
    rest = fsum(x.value for x in group if x is not entry) / (len(group) - 1)
    away = length_words(unit).small(abs(entry.value - rest))
    slip = likely_slip(entry.text, rest / METRES[unit], 3 * sqrt(within) / METRES[unit])
    text = f"{entry.text} ({where(entry.path)}) is {away} from the others and is set aside as an outlier." + (
        f" Typed {entry.text} for {slip}?" if slip else ""
    )
    return {entry.path: ("set-aside", text)}, []


def _sticking(
    document: CompensatorFunction, read: CompensatorRead, centre: float, within: float, between: float
) -> list[CodedText]:
    text = "The line does not return after the tap: the compensator sticks."
    if document.observations.returns == "no":
        return [("sticking", text)]
    if not read.after_tap:
        return []
    off = abs(mean_of(read.after_tap) - centre)
    bound = 3 * sqrt(within * (1 / len(read.after_tap) + 1 / len(read.at["centre"])) + 2 * between)
    return (
        [("sticking", f"{text} It remains {length_words(document.units.length).small(off)} off.")]
        if off > max(bound, 0.0005)
        else []
    )


def draw(document: CompensatorFunction, read: CompensatorRead, judgement: Judgement | None) -> DeviationsPicture:
    """The drawing of the readings, in the unit of the check; with the result once there is one."""
    if not read.at["centre"] or read.distance_m is None:
        return deviations(
            "arcsec", [(WORDS[name], float(i), None) for i, name in enumerate(SIDES)], None, "bubble in the middle", ""
        )
    centre, scale = mean_of(read.at["centre"]), ARCSEC_PER_RADIAN / read.distance_m
    marks = [
        (WORDS[name], float(i), (mean_of(read.at[name]) - centre) * scale if read.at[name] else None)
        for i, name in enumerate(SIDES)
    ]
    limit = judgement.quantities[0].limits.use if judgement else _limit(document, read.tilt_arcmin).use
    return deviations("arcsec", marks, limit, "bubble in the middle", "")


def progress_of(document: CompensatorFunction, read: CompensatorRead) -> SheetProgress:
    """What can be said while readings are still to come."""
    reasons: list[CodedText] = []
    within, between = variances(document, read)
    if read.distance_m:
        n = max(1, *(len(g) for g in read.at.values()))
        scale = ARCSEC_PER_RADIAN / read.distance_m
        u = pooled(0.0, 2 * within / n * scale**2, 2 * between * scale**2, Spread(), prior_dof(document)).u95
        readings = "one reading" if n == 1 else f"{n} readings"
        reasons.append(
            (
                "expected",
                f"With {readings} at each position this shows a shift to about ± {arcsec(u, u)}; the limit is {figure(_limit(document, read.tilt_arcmin).use, 1)}″.",
            )
        )
        reasons += running(read, scale)
    found = outlier_of(read, within)
    if found is None or found.sole_pair:
        return SheetProgress(reasons)
    entry = read.at[PLACES[found.group]][found.index]
    return SheetProgress(reasons, (entry.path, f"{entry.text} is an outlier: read once more there."))
