"""The verdict on a two-peg test: grade, reasons, what to do next."""

from __future__ import annotations

from dataclasses import dataclass, field
from math import fsum, sqrt

from ...angles import ARCSEC_PER_RADIAN
from ...blunders import Apart, find_apart, likely_slip
from ...envelope import days_between
from ...judgement import (
    SCATTER_REFUSED,
    Decision,
    Estimate,
    Evidence,
    Grade,
    Limits,
    confirmed_by_record,
    decide,
    may_turn_screws,
    scatter_factor,
    worst,
)
from ...lengths import METRES
from ...readings import ordinal
from ...wording import LengthWords, arcsec, count, joined, length_words
from ...wording import limit as limit_words
from .model import TwoPeg
from .read import WEAK_IMBALANCE_SPREAD_M, Seen, stadia_disagrees
from .solve import Priors, Setups, Solution, bound_with, middle_wire_c, solve, standardised, within_variance

QUANTITY = "collimation_arcsec"
FINE_CLASS, FINE_LIMIT, FINE_ADJUST = 1.0, 6.0, 60.0
SITE_LIMIT, SITE_ADJUST = 10.0, 120.0
WIRES_FLOOR_M = 0.002
MOST_MORE_READINGS = 6
COSTLY_M = 0.001
"""An error in a height that people notice: how long an imbalance may be is told for one millimetre."""

Said = tuple[str, str]


@dataclass
class Judged:
    """Everything the verdict says, gathered while the rules are gone through."""

    solution: Solution
    limits: Limits
    decision: Decision
    grade: Grade
    reasons: list[Said] = field(default_factory=list)
    next: list[Said] = field(default_factory=list)
    set_aside: list[str] = field(default_factory=list)
    refused: list[Said] = field(default_factory=list)
    target_c: float = 0.0
    middle_c: float | None = None
    confirmed: Estimate | None = None
    priors: Priors = field(default_factory=Priors)


def limits_of(document: TwoPeg) -> Limits:
    """The limits that apply, and where they come from."""
    own = document.limits.get(QUANTITY)
    s_km = document.instrument.levelling_accuracy_mm_per_km
    fine = s_km is not None and s_km <= FINE_CLASS
    if own is None:
        use = FINE_LIMIT if fine else SITE_LIMIT
        what = f"levels of {s_km:g} mm per km" if s_km is not None else "levels whose accuracy is not stated"
        return Limits(use, 2 * use, FINE_ADJUST if fine else SITE_ADJUST, f"opening value for {what}")
    watch = own.watch if own.watch is not None else own.use
    adjust = own.adjust if own.adjust is not None else max(watch, FINE_ADJUST if fine else SITE_ADJUST)
    return Limits(own.use, watch, adjust, own.source or "stated in the document")


def judge(document: TwoPeg, setups: Setups) -> Judged:
    """Solve and judge a complete test."""
    priors, curvature = Priors.of(document), document.observations.curvature
    solution = solve(setups, priors, curvature=curvature)
    limits = limits_of(document)
    judged = Judged(solution, limits, Decision("use"), "use", priors=priors)
    refused = _apart(document, judged, setups) + _wires(judged, setups) + _disagreement(judged)
    _weak_signs(document, judged, setups)
    judged.target_c = judged.solution.c
    if not any(code == "wires-disagree" for code, _ in refused):
        _middle_wire(document, judged)  # a misread wire makes a reticle look unsymmetrical: it is not concluded from
    judged.decision = decide(judged.solution.estimate, limits)
    judged.confirmed = _evidence(document, judged)
    _grade(document, judged, refused)
    return judged


def _grade(document: TwoPeg, judged: Judged, refused: list[Said]) -> None:
    decision, words = judged.decision, length_words(document.units.length)
    if document.observations.looks.line_returns == "no":
        judged.grade = "service"
        judged.reasons.insert(0, ("sticking", "The line does not come back after a tap: the compensator sticks."))
        judged.next = [
            ("out-of-use", "Put it aside and mark it."),
            ("send-to-service", "A sticking compensator is work for a service, not for a screw."),
        ]
        return
    judged.refused = refused
    if refused:
        judged.grade = worst([decision.grade, "repeat"]) if decision.grade == "service" else "repeat"
        judged.reasons[:0] = refused
        judged.next = [("read-again", "Read again what is named here; the rest can stay.")]
        return
    judged.grade = decision.grade
    judged.reasons[:0] = _decision_reasons(judged)
    judged.next = _next(judged, words)
    _looks(document, judged)


def _decision_reasons(judged: Judged) -> list[Said]:
    e, limits = judged.solution.estimate, judged.limits
    limit, size = limit_words(limits.use), arcsec(abs(e.value), e.u95)
    proved = arcsec(e.proved_to)
    if judged.confirmed is not None:
        text = f"Alone it proves {proved}; together with the last good test it proves {arcsec(judged.confirmed.proved_to)}, limit {limit}."
        return [("confirmed-by-record", text)]
    if judged.grade == "use":
        return [("proved", f"Proved good to {proved}; the limit is {limit}.")]
    near = "conditional" not in judged.decision.codes
    texts = {
        "near-limit": f"Close to the limit of {limit}: proved only to {proved}." if near else f"Proved to {proved}.",
        "not-proved": f"These readings prove it only to {proved}; the limit is {limit}.",
        "conditional": f"{size} is beyond the limit of {limit}, but within the {limit_words(limits.watch)} that balanced sights allow.",
        "confirm": f"{size} with ± {arcsec(e.u95)} cannot be told from noise at a limit of {limit}.",
        "beyond-adjusting": f"{size} is beyond the {limit_words(limits.adjust)} a reticle screw should take up.",
    }
    reasons = [(code, texts[code]) for code in judged.decision.codes]
    if judged.grade == "adjust":
        reasons.append(("beyond-limit", f"{size} is beyond the limit of {limit}, and more than noise explains."))
    return reasons


def _next(judged: Judged, words: LengthWords) -> list[Said]:
    e, limits, codes = judged.solution.estimate, judged.limits, judged.decision.codes
    if judged.confirmed is not None or judged.grade == "use":
        return [("carry-on", "Take it: the next check can lean on this one.")]
    if judged.grade == "service":
        return [
            ("save-as-found", "Save as found."),
            ("out-of-use", "Put it aside and mark it."),
            ("send-to-service", "Send it to service with this finding."),
        ]
    if judged.grade == "adjust" and may_turn_screws(e, limits):
        return [("save-as-found", "Save as found first."), ("adjust-reticle", _turn(judged, words))]
    if judged.grade in ("adjust", "repeat"):
        return [
            ("other-end", "Before anything is turned: run it again from the other end. Both runs count together."),
            *_settle(judged),
        ]
    steps = _settle(judged) if "not-proved" in codes else []
    if "conditional" in codes:
        steps.append(("balance-sights", _balance(judged, words)))
        if may_turn_screws(e, limits):
            steps.append(("adjust-if-wanted", "Or save as found and adjust it. " + _turn(judged, words)))
    elif "near-limit" in codes:
        steps.append(("check-sooner", "Usable. Keep back and fore sight alike, and test it again before fine work."))
    return steps


def longest_last(setups: Setups) -> Seen:
    """The sight to adjust by: the longer one of the last set-up, where the level still stands."""
    return max(setups[-1], key=lambda seen: seen.sight_m)


def target_m(judged: Judged, seen: Seen) -> float:
    """What a staff must read, level untouched, once the line of sight is right: reading less c times distance."""
    return (seen.middle_m if judged.middle_c is not None else seen.mean_m) - judged.target_c * seen.sight_m


def _turn(judged: Judged, words: LengthWords) -> str:
    seen = longest_last(judged.solution.setups)
    return f"This stand untouched, turn the reticle until staff {seen.staff} reads {words.reading(target_m(judged, seen))}."


def _balance(judged: Judged, words: LengthWords) -> str:
    within = COSTLY_M / abs(judged.solution.c)
    return f"Use it with balanced sights only: {words.distance(round(within))} of difference already costs {words.small(COSTLY_M)}."


def _settle(judged: Judged) -> list[Said]:
    """How many more readings would settle it, when a handful can."""
    limits, size = judged.limits, abs(judged.solution.estimate.value)
    fewest = min(len(s.pointings) for setup in judged.solution.setups for s in setup)
    for more in range(1, MOST_MORE_READINGS + 1):
        b = bound_with(judged.solution, (fewest + more) / fewest, judged.priors)
        if b <= limits.use / 2 or size + b <= limits.use:
            return [
                (
                    "more-readings",
                    f"{count(more, 'more reading', 'more readings').capitalize()} at every sight would likely settle it.",
                )
            ]
    return [
        ("longer-sights", "More readings alone will not settle it: take a layout with a larger difference of sights.")
    ]


def _looks(document: TwoPeg, judged: Judged) -> None:
    looks = document.observations.looks
    if looks.bubble_holds == "no":
        judged.grade = worst([judged.grade, "watch"])
        judged.reasons.append(("bubble-does-not-hold", "The circular bubble leaves its ring when the level is turned."))
        judged.next.append(
            ("set-circular-bubble", "Half of it by the foot screws, half by the vial's own screws; then test again.")
        )
    if "not-looked" in (looks.bubble_holds, looks.line_returns):
        judged.reasons.append(
            ("not-looked", "Bubble and tap were not both looked at: a sticking compensator would go unseen.")
        )


def _apart(document: TwoPeg, judged: Judged, setups: Setups) -> list[Said]:
    """Readings that stand apart: at most one a sight and two a document are set aside, visibly."""
    priors, curvature = judged.priors, document.observations.curvature
    current, before = setups, judged.solution
    for _ in range(2):
        found = find_apart(standardised(current, priors))
        if found is None:
            break
        seen = current[found.group // 2][found.group % 2]
        if found.sole_pair:
            return [
                (
                    "readings-differ",
                    f"The two readings of {seen.where} differ by more than reading explains: take a third.",
                )
            ]
        judged.reasons.append(("set-aside", apart_text(document, seen, found.index, priors)))
        judged.set_aside.append(seen.pointings[found.index].path)
        current = _without(current, found)
        judged.solution = solve(current, priors, curvature=curvature)
    else:
        if find_apart(standardised(current, priors)):
            return [("too-many-apart", "More than two readings stand apart: read all sights again.")]
    if len({path.rpartition(".")[0] for path in judged.set_aside}) < len(judged.set_aside):
        return [("too-many-apart", "Two readings of one sight stand apart: read that staff again.")]
    if (
        judged.set_aside
        and decide(before.estimate, judged.limits).grade != decide(judged.solution.estimate, judged.limits).grade
    ):
        return [("apart-decides", "With and without the reading set aside the verdict differs: take one more there.")]
    return []


def _without(setups: Setups, found: Apart) -> Setups:
    changed = [list(setup) for setup in setups]
    row, column = divmod(found.group, 2)
    changed[row][column] = changed[row][column].without(found.index)
    return [(a, b) for a, b in changed]


def apart_text(document: TwoPeg, seen: Seen, index: int, priors: Priors) -> str:
    """Names the reading that stands apart, and what was perhaps meant."""
    one = seen.pointings[index]
    rest = [p.m for i, p in enumerate(seen.pointings) if i != index]
    mean, sigma = fsum(rest) / len(rest), within_variance(seen, priors) ** 0.5
    words, unit = length_words(document.units.length), METRES[document.units.length]
    away = words.small(abs(one.m - mean))
    text = f"{one.text} ({seen.where}) lies {away} from its fellows and is set aside."
    slip = None if seen.three_wire else likely_slip(one.text, mean / unit, 3 * sigma / unit)
    return f"{text} Typed {one.text} for {slip}?" if slip else text


def _wires(judged: Judged, setups: Setups) -> list[Said]:
    """Half-intervals that differ: a misread wire, unless they differ everywhere in proportion to the distance."""
    seens = [seen for setup in setups for seen in setup if seen.three_wire]
    if not seens:
        return []
    share = fsum(s.unequal_m * s.sight_m for s in seens) / fsum(s.sight_m**2 for s in seens)
    if len(seens) > 2 and not any(_unequal(s, s.unequal_m - share * s.sight_m, judged.priors) for s in seens):
        return []
    bad = [s for s in seens if _unequal(s, s.unequal_m, judged.priors)]
    return (
        [("wires-disagree", f"The half-intervals of the wires disagree: read {joined([s.where for s in bad])} again.")]
        if bad
        else []
    )


def _unequal(seen: Seen, difference_m: float, priors: Priors) -> bool:
    sigma = priors.spread(seen.sight_m).within_mm / 1000
    return abs(difference_m) > max(WIRES_FLOOR_M, 3 * sqrt(6) * sigma / sqrt(len(seen.pointings)))


def _middle_wire(document: TwoPeg, judged: Judged) -> None:
    middle = middle_wire_c(judged.solution.setups, curvature=document.observations.curvature)
    if middle is None:
        return
    e = judged.solution.estimate
    apart = (middle - judged.solution.c) * ARCSEC_PER_RADIAN
    if abs(apart) > e.u95:
        judged.middle_c = judged.target_c = middle
        text = f"The reticle is not symmetrical: its middle wire points {arcsec(e.value + apart)}, the mean of three {arcsec(e.value)}. Adjust by the middle wire."
        judged.reasons.append(("unsymmetrical-reticle", text))


def _disagreement(judged: Judged) -> list[Said]:
    solution = judged.solution
    factor = scatter_factor(solution.redundant, judged.priors.dof)
    if factor is not None:
        return [("setups-disagree", _which(judged))]
    factor = scatter_factor(solution.spread, judged.priors.dof)
    if factor is None:
        return []
    text = f"The readings scatter {factor:.1f} times as much as such readings do."
    if factor > SCATTER_REFUSED:
        return [("scatter", text)]
    judged.reasons.append(("scatter", text))
    return []


def _which(judged: Judged) -> str:
    """With four set-ups or more, the one without which the others agree; else all of them."""
    setups, priors = judged.solution.setups, judged.priors
    moved = "a peg, a staff or the level moved"
    if len(setups) > 3:
        rests = {i: setups[:i] + setups[i + 1 :] for i in range(len(setups))}
        found = {i: solve(rest, priors, curvature=True).redundant for i, rest in rests.items() if _spans(rest)}
        best = min(found, key=lambda i: found[i].squares, default=None)
        if best is not None and scatter_factor(found[best], priors.dof) is None:
            return f"The {ordinal(best)} set-up does not fit the others: {moved}."
    return f"The set-ups do not fit one line of sight: {moved} between them."


def _spans(setups: Setups) -> bool:
    one = [a.sight_m - b.sight_m for a, b in setups]
    return max(one) - min(one) >= WEAK_IMBALANCE_SPREAD_M


def _weak_signs(document: TwoPeg, judged: Judged, setups: Setups) -> None:
    words = length_words(document.units.length)
    if judged.solution.weak < WEAK_IMBALANCE_SPREAD_M:
        text = f"The differences of sights lie only {words.distance(judged.solution.weak)} apart: a weak layout, as the ± shows."
        judged.reasons.append(("weak-geometry", text))
    for seen in (s for setup in setups for s in setup):
        stadia = stadia_disagrees(seen)
        if stadia is not None:
            text = f"{seen.where.capitalize()}: the wires give {words.distance(stadia)}, typed is {words.distance(seen.sight_m)}. One of them is wrong."
            judged.reasons.append(("distance-disagrees", text))
    if document.conditions.wind == "strong":
        judged.reasons.append(("strong-wind", "Strong wind moves staff and bubble: repeat in the lee if it is close."))


def _evidence(document: TwoPeg, judged: Judged) -> Estimate | None:
    """Today's not-proved result carried by the last good one, as far as the rule allows."""
    if "not-proved" not in judged.decision.codes or document.before_at is None:
        return None
    good = next((one for one in document.before if one.check == "two-peg" and one.grade == "use"), None)
    if good is None:
        return None
    days = days_between(good.at, document.before_at)
    value, sigma = good.figure(QUANTITY), good.figure(f"sigma_{QUANTITY}")
    if value is None or not sigma:
        return None
    here, there = document.conditions.temperature_c, good.temperature_c
    kelvin = abs(here - there) if here is not None and there is not None else None
    joined_estimate = confirmed_by_record(judged.solution.estimate, judged.limits, Evidence(value, sigma, days, kelvin))
    if joined_estimate is not None:
        judged.decision = Decision("use", ("confirmed-by-record",))
    return joined_estimate
