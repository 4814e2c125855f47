"""What a level's line of sight means: what is an outlier, what the wires and set-ups say, its limits, and the reticle.

Source: limits from the stated accuracy, docs/judgement.md (Two-peg test).
"""

from __future__ import annotations

from dataclasses import dataclass, field
from math import fsum, sqrt
from typing import Any

from ...engine.adjusting import adjusting_of
from ...engine.conditions import Circumstances, Needs
from ...engine.parser import Parser, ordinal
from ...engine.verdict import JudgedQuantity, Judgement
from ...errors import Refused
from ...geometry import curvature_and_refraction_m
from ...results import Adjusting, AdjustingStep, CodedText, PegPicture, Repeats, Sensitivity
from ...stats.decision import Grade, Limits, decide
from ...stats.estimate import SCATTER_REFUSED, scatter_factor
from ...stats.outliers import Outlier
from ...units.angles import ARCSEC_PER_RADIAN
from ...units.formatting import LengthWords, arcsec, capital, joined, length_words
from ...units.lengths import in_unit
from .document import (
    QUANTITY,
    STAFF,
    PegSetUpFigures,
    PegsRead,
    Setups,
    StaffSight,
    TwoPeg,
    TwoPegFigures,
    limits_of,
    stadia_disagrees,
)
from .solve import PegFinding, PegSolution, ReadingPriors, by_middle_wire, outlier_among, solve_pegs
from .text import draw_pegs, misclosure_m, outlier_text, texts_of

WEAK_IMBALANCE_SPREAD_M = 10.0
WIRES_FLOOR_M = 0.002
COSTLY_M = 0.001
"""An error in a height that people notice: how long an imbalance may be is given for one millimetre."""
FAR_OFF_M = 0.05
"""A reticle never moves a reading by more in one turn: such a reading is of another staff, stand or line."""
CAUTIONS: dict[str, tuple[str, ...]] = {
    "before": ("sun", "overhead-lines", "storm", "traffic", "nail", "press-feet"),
    "reading": ("sun", "wind"),
    "adjusting": ("reticle-screw", "focus-stop"),
    "carrying": ("carry",),
}
STICKING = "The line does not return after the tap: the compensator sticks."


def _quantity(document: TwoPeg, found: PegFinding, limits: Limits) -> JudgedQuantity:
    """The line of sight against its limits, and what is turned."""
    words, solution = length_words(document.units.length), found.solution
    return JudgedQuantity(
        QUANTITY,
        "the line of sight",
        "arcsec",
        estimate=solution.estimate,
        limits=limits,
        q_within=solution.q_within,
        q_between=solution.q_between,
        condition=_balance(found, words),
        condition_code="balance-sights",
        turn=_turn(found, words),
        turn_code="adjust-reticle",
        under="with balanced sights",
        beyond="a reticle screw",
        sooner="Usable. Keep backsight and foresight equal, and test again before precise work.",
    )


def needs(_document: TwoPeg) -> Needs:
    """The circumstances this check depends on."""
    return Needs(through_air=True, by_hand=True)


def judge(document: TwoPeg, read: PegsRead, _circumstances: Circumstances) -> Judgement:
    """Set aside what is an outlier, solve, and hold the line of sight against its limits."""
    limits, priors = limits_of(document), ReadingPriors.of(document)
    set_aside = _set_aside(document, read.setups, limits, priors)
    solution = set_aside.solution
    refused = [*set_aside.refused, *_wires(read.setups, priors)]
    scatter_refused, scatter = _disagreement(document, solution, priors)
    refused += scatter_refused
    # A misread wire makes a reticle look unsymmetrical: it is not concluded from.
    misread = any(code == "wires-disagree" for code, _ in refused)
    found = (
        PegFinding(solution, priors, solution.c)
        if misread
        else by_middle_wire(solution, priors, curvature=document.observations.curvature)
    )
    quantity, texts = _quantity(document, found, limits), texts_of(document, found)
    judgement = Judgement(
        [quantity],
        _figures(document, found, texts.sensitivity),
        texts.finding,
        shown=texts.shown,
        worked=texts.calculation,
        work=texts.work,
        repeats=solution.spread,
        more_readings=("reading at every sight", "readings at every sight"),
        taken=min(len(seen.readings) for setup in solution.setups for seen in setup),
        repeat_text="Before you turn anything, run it again from the other end. Both runs count together.",
        repeat_code="other-end",
        no_more=(
            "longer-sights",
            "More readings alone will not help: use a layout with a larger sight imbalance.",
        ),
        service_text="Send it to service with this result.",
    )
    judgement.refused, judgement.set_aside, judgement.solved = refused, set_aside.paths, found
    judgement.reasons = [*set_aside.reasons, *scatter, *_weak_signs(document, solution, read.setups)]
    judgement.reasons += _reticle(found)
    _looks(document, judgement)
    return judgement


def _figures(document: TwoPeg, found: PegFinding, sensitivity: list[Sensitivity]) -> TwoPegFigures:
    solution = found.solution
    setups = [
        PegSetUpFigures(
            height_difference_m=a.mean_m - b.mean_m,
            imbalance_m=imbalance_m,
            corrected_a_m=_corrected(document, found, a),
            corrected_b_m=_corrected(document, found, b),
            target_a_m=found.target_m(a),
            target_b_m=found.target_m(b),
        )
        for (a, b), imbalance_m in zip(solution.setups, solution.imbalances_m, strict=True)
    ]
    middle = found.middle_c
    return TwoPegFigures(
        collimation_arcsec=solution.estimate.value,
        collimation_mm_per_m=solution.c * 1000,
        sigma_collimation_arcsec=solution.estimate.sigma,
        height_difference_m=solution.height_difference_m,
        misclosure_m=misclosure_m(found),
        setups=setups,
        sensitivity=sensitivity,
        repeats=Repeats(squares=solution.spread.squares, dof=solution.spread.dof),
        **({} if middle is None else {"collimation_middle_wire_arcsec": middle * ARCSEC_PER_RADIAN}),
    )


def _corrected(document: TwoPeg, found: PegFinding, seen: StaffSight) -> float:
    bent = curvature_and_refraction_m(seen.sight_m) if document.observations.curvature else 0.0
    return seen.mean_m - found.solution.c * seen.sight_m - bent


def _turn(found: PegFinding, words: LengthWords) -> str:
    seen = found.longest_last
    return f"Without moving the level, turn the reticle until staff {seen.staff} reads {words.reading(found.target_m(seen))}."


def _balance(found: PegFinding, words: LengthWords) -> str:
    if not found.solution.c:
        return ""
    within = COSTLY_M / abs(found.solution.c)
    return f"Use balanced sights only: an imbalance of {words.distance(round(within))} already adds {words.small(COSTLY_M)}."


def _looks(document: TwoPeg, judgement: Judgement) -> None:
    looks = document.observations.looks
    if looks.line_returns == "no":
        judgement.service.append(("sticking", STICKING))
        judgement.service_text = "A sticking compensator is work for service: do not adjust."
    if looks.bubble_holds == "no":
        judgement.least = "watch"
        judgement.reasons.append(
            ("bubble-does-not-hold", "The circular bubble leaves its ring when you turn the level.")
        )
        judgement.extra_actions.append(
            (
                "set-circular-bubble",
                "Correct half with the foot screws, half with the level vial screws; then test again.",
            )
        )
    if "not-looked" in (looks.bubble_holds, looks.line_returns):
        judgement.reasons.append(
            ("not-looked", "Bubble and tap test were not both done: a sticking compensator would not be noticed.")
        )


@dataclass
class SetAside:
    """A test solved without the readings that are outliers, and what is stated of them."""

    solution: PegSolution
    paths: list[str] = field(default_factory=list)
    reasons: list[CodedText] = field(default_factory=list)
    refused: list[CodedText] = field(default_factory=list)


def _set_aside(document: TwoPeg, setups: Setups, limits: Limits, priors: ReadingPriors) -> SetAside:
    """Readings that are outliers: at most one a sight and two a document are set aside, visibly."""
    curvature, current = document.observations.curvature, setups
    before = solve_pegs(setups, priors, curvature=curvature)
    aside = SetAside(before)
    for _ in range(2):
        found = outlier_among(current, priors)
        if found is None:
            break
        seen = current[found.group // 2][found.group % 2]
        if found.sole_pair:
            text = f"The two readings of {seen.called} differ by more than reading error: take a third."
            aside.refused = [("readings-differ", text)]
            return aside
        aside.reasons.append(("set-aside", outlier_text(document, seen, found.index, priors)))
        aside.paths.append(seen.readings[found.index].path)
        current = _without(current, found)
        aside.solution = solve_pegs(current, priors, curvature=curvature)
    else:
        if outlier_among(current, priors):
            aside.refused = [("too-many-outliers", "More than two outliers: read all sights again.")]
            return aside
    if len({path.rpartition(".")[0] for path in aside.paths}) < len(aside.paths):
        aside.refused = [("too-many-outliers", "Two outliers in one sight: read that staff again.")]
    elif aside.paths and decide(before.estimate, limits).grade != decide(aside.solution.estimate, limits).grade:
        text = "The verdict depends on the reading set aside: take one more there."
        aside.refused = [("outlier-decides", text)]
    return aside


def _without(setups: Setups, found: Outlier) -> Setups:
    changed = [list(setup) for setup in setups]
    row, column = divmod(found.group, 2)
    changed[row][column] = changed[row][column].without(found.index)
    return [(a, b) for a, b in changed]


def _wires(setups: Setups, priors: ReadingPriors) -> list[CodedText]:
    """Half-intervals that differ: a misread wire, unless they differ everywhere in proportion to the distance."""
    seens = [seen for setup in setups for seen in setup if seen.three_wire]
    if not seens:
        return []
    share = fsum(s.unequal_m * s.sight_m for s in seens) / fsum(s.sight_m**2 for s in seens)
    if len(seens) > 2 and not any(_unequal(s, s.unequal_m - share * s.sight_m, priors) for s in seens):
        return []
    bad = [s.called for s in seens if _unequal(s, s.unequal_m, priors)]
    text = f"The stadia half-intervals disagree: read {joined(bad)} again."
    return [("wires-disagree", text)] if bad else []


def _unequal(seen: StaffSight, difference_m: float, priors: ReadingPriors) -> bool:
    sigma = priors.spread(seen.sight_m).within_mm / 1000
    return abs(difference_m) > max(WIRES_FLOOR_M, 3 * sqrt(6) * sigma / sqrt(len(seen.readings)))


def _reticle(found: PegFinding) -> list[CodedText]:
    if found.middle_c is None:
        return []
    value, middle = found.solution.estimate.value, found.middle_c * ARCSEC_PER_RADIAN
    text = f"The reticle is not symmetrical: middle hair {arcsec(middle)}, mean of three {arcsec(value)}. Adjust with the middle hair."
    return [("unsymmetrical-reticle", text)]


def _disagreement(
    document: TwoPeg, solution: PegSolution, priors: ReadingPriors
) -> tuple[list[CodedText], list[CodedText]]:
    """Scatter beyond what such readings show: (refused, said)."""
    if scatter_factor(solution.redundant, priors.dof) is not None:
        return [("setups-disagree", _which(document, solution, priors))], []
    factor = scatter_factor(solution.spread, priors.dof)
    if factor is None:
        return [], []
    rows = [("scatter", f"The readings scatter {factor:.1f} times as much as expected.")]
    return (rows, []) if factor > SCATTER_REFUSED else ([], rows)


def _which(document: TwoPeg, solution: PegSolution, priors: ReadingPriors) -> str:
    """With four set-ups or more, the one without which the others agree; else all of them."""
    setups = solution.setups
    moved = "a peg, a staff or the level moved"
    if len(setups) > 3:
        rests = {i: setups[:i] + setups[i + 1 :] for i in range(len(setups))}
        found = {
            i: solve_pegs(rest, priors, curvature=document.observations.curvature).redundant
            for i, rest in rests.items()
            if _spans(rest)
        }
        best = min(found, key=lambda i: found[i].squares, default=None)
        if best is not None and scatter_factor(found[best], priors.dof) is None:
            return f"The {ordinal(best)} set-up does not agree with the others: {moved}."
    return f"The set-ups do not agree on one line of sight: {moved} between them."


def _spans(setups: Setups) -> bool:
    rows = [a.sight_m - b.sight_m for a, b in setups]
    return max(rows) - min(rows) >= WEAK_IMBALANCE_SPREAD_M


def _weak_signs(document: TwoPeg, solution: PegSolution, setups: Setups) -> list[CodedText]:
    words, messages = length_words(document.units.length), list[CodedText]()
    if solution.weak < WEAK_IMBALANCE_SPREAD_M:
        text = f"The sight imbalances differ by only {words.distance(solution.weak)}: a weak layout, so the ± is large."
        messages.append(("weak-geometry", text))
    for seen in (s for setup in setups for s in setup):
        stadia = stadia_disagrees(seen)
        if stadia is not None:
            text = f"{capital(seen.called)}: the stadia hairs give {words.distance(stadia)}, typed: {words.distance(seen.sight_m)}. One of them is wrong."
            messages.append(("distance-disagrees", text))
    if document.conditions.wind == "strong":
        messages.append(
            (
                "strong-wind",
                "Strong wind moves staff and bubble: if the result is close to a limit, repeat out of the wind.",
            )
        )
    return messages


def draw(document: TwoPeg, read: PegsRead, judgement: Judgement | None) -> PegPicture:
    """The drawing of the readings, in the unit of the check; with the result once there is one."""
    if judgement is None:
        return draw_pegs(document, read.setups, None, None)
    solution = judgement.solved.solution
    return draw_pegs(document, solution.setups, solution.c, solution.height_difference_m)


def reticle_to_target(
    document: TwoPeg, _read: PegsRead, judgement: Judgement, _grade: Grade, reads_now: list[Any]
) -> Adjusting:
    """Where the reticle has to go, and what each reading taken since leaves to be done. Raises Refused."""
    found: PegFinding = judgement.solved
    limits = judgement.quantities[0].limits
    words, seen = length_words(document.units.length), found.longest_last
    target, start = found.target_m(seen), found.target_m(seen) + found.target_c * seen.sight_m
    turned = Parser(document.units.length)
    read_now = [turned.length(f"reads_now[{i}]", "it reads now", typed, STAFF) for i, typed in enumerate(reads_now)]
    if turned.faults:
        raise Refused(turned.faults)
    steps = [
        _step(found, seen, str(typed), away=entry.m - target, limits=limits, unit=document.units.length)
        for typed, entry in zip(reads_now, read_now, strict=True)
        if entry is not None
    ]
    return adjusting_of(
        f"Do not move the level. Bring staff {seen.staff} from {words.reading(start)} to {words.reading(target)}.",
        allowed=judgement.quantities[0].may_turn(),
        inputs=("",),
        prompt=f"Staff {seen.staff} reads now",
        unit=words.name,
        from_text=words.reading(start),
        target_text=words.reading(target),
        tool="The instrument's own adjusting pin or key.",
        screw="The reticle screw is under the cover below or above the eyepiece. Loosen one side as you tighten the other.",
        steps=steps,
    )


def _step(found: PegFinding, seen: StaffSight, given: str, *, away: float, limits: Limits, unit: str) -> AdjustingStep:
    words, left = length_words(unit), away / seen.sight_m * ARCSEC_PER_RADIAN
    done = abs(left) <= limits.use / 4
    if abs(away - found.target_c * seen.sight_m) > FAR_OFF_M:
        text = f"{words.small(abs(away))} from the target: too far for a reticle. Is it staff {seen.staff}, the same set-up, the middle hair?"
    elif done:
        text = f"{words.small(abs(away))} off the target, {arcsec(abs(left))}: done. Check the near staff, then test again."
    else:
        turn = "lower" if away > 0 else "raise"
        text = f"{words.small(abs(away))} too {'high' if away > 0 else 'low'}, {arcsec(abs(left))} left: {turn} the line a little more."
    return AdjustingStep(given=given, left=in_unit(away, unit), done=done, text=text)
