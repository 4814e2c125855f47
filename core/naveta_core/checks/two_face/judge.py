"""What c, i and t mean, and what is wrong with pointings: outliers, moves, scatter, a target that cannot say.

Source: textbook; defaults and scatter of pointings: docs/judgement.md (Two-face check).
"""

from __future__ import annotations

from dataclasses import dataclass, field, replace
from math import sqrt

from ...engine.conditions import Circumstances, Needs
from ...engine.parser import ordinal
from ...engine.reports import repeats_of
from ...engine.storing import report_before, report_proved
from ...engine.verdict import JudgedQuantity, Judgement
from ...engine.work import words_of
from ...geometry import mean, wrapped
from ...results import CodedText
from ...stats.decision import Grade, decide
from ...stats.estimate import SCATTER_REFUSED, Estimate, scatter_factor
from ...stats.outliers import find_moved, find_outlier, left_between, likely_slip, too_scattered
from ...units.formatting import arcsec, figure
from .document import (
    AXIS,
    COLLIMATION,
    INDEX,
    STORED_FIGURES,
    FaceDifference,
    ReadPointing,
    TwoFace,
    TwoFaceFigures,
    TwoFaceRead,
    limits_of,
    where,
)
from .solve import TwoFaceSolution, groups_of, solve, steps_of
from .text import finding_of, shown_of, work_of, worked_of

CAUTIONS: dict[str, tuple[str, ...]] = {
    "before": ("sun", "traffic", "turns-by-itself", "hold", "no-plunge"),
    "reading": ("sun", "turns-by-itself", "no-plunge"),
    "adjusting": ("hold", "focus-stop"),
}
STORE = "Follow the instrument's own routine and store; then check again, as left."


def needs(_document: TwoFace) -> Needs:
    """The circumstances this check depends on."""
    return Needs(minutes_on=3.0, firm_stand=True, temperature=True, shaded=True, through_air=True)


def judge(document: TwoFace, read: TwoFaceRead, _circumstances: Circumstances) -> Judgement:
    """Set aside what is an outlier, solve, and hold c, i and t against their limits."""
    faults = find_faults(document, read)
    solution = faults.solution
    quantities = _quantities(document, solution)
    figures = _figures(solution)
    judgement = Judgement(
        quantities,
        figures,
        finding_of(solution),
        shown=shown_of(quantities, solution),
        worked=worked_of(solution),
        work=work_of(document, solution),
        repeats=solution.repeats,
        more_readings=("run of pointings", "runs of pointings"),
        repeat_text="Do the full check, five pointings a face, before you store anything. Both runs count together.",
    )
    judgement.set_aside = faults.aside
    judgement.refused += [*faults.refused, *too_steep(solution), *far_from_last(document, solution)]
    if solution.axis is None and len(solution.faces) > 1:
        words = words_of(document)
        text = f"For the trunnion axis: a second target at least 15° higher or lower; at {words.distance(20)} it must be {words.distance(5.4)} above the telescope. Plan the targets first."
        judgement.extra_actions.append(("steeper-target", text))
    report_before(judgement, document, read.before, STORED_FIGURES)
    report_proved(judgement, document, STORED_FIGURES)
    judgement.reasons += [*faults.reasons, *_signs(read, solution, quantities)]
    if faults.marked is not None:
        judgement.outlier = faults.marked
    if faults.aside and not faults.refused and _grades(document, solve(document, read)) != _grades(document, solution):
        judgement.refused.append(
            ("outlier-decides", "The verdict depends on what was set aside: measure that face again.")
        )
    return judgement


def _grades(document: TwoFace, solution: TwoFaceSolution) -> list[Grade]:
    return [decide(quantity.estimate, quantity.limits).grade for quantity in _quantities(document, solution)]


def _quantities(document: TwoFace, solution: TwoFaceSolution) -> list[JudgedQuantity]:
    rows: list[tuple[str, str, str, Estimate | None]] = [
        (COLLIMATION, "collimation error c", "c", solution.collimation),
        (INDEX, "vertical index error i", "i", solution.index),
        (AXIS, "trunnion axis error t", "t", solution.axis),
    ]
    return [
        JudgedQuantity(
            name,
            f"the {noun}",
            "arcsec",
            estimate=estimate,
            limits=limits_of(document, name),
            q_within=solution.q[key][0],
            q_between=solution.q[key][1],
            condition="Both faces only: the mean is free of it.",
            turn=STORE,
            beyond="what the instrument can store",
            storing=name != AXIS,
            careful=name == AXIS,
        )
        for name, noun, key, estimate in rows
        if estimate is not None
    ]


def _figures(solution: TwoFaceSolution) -> TwoFaceFigures:
    c, i, t = solution.collimation, solution.index, solution.axis
    targets = [
        FaceDifference(
            name=face.target.name,
            zenith_deg=face.zenith_deg,
            double_collimation_arcsec=face.double_c,
            index_sum_arcsec=face.index_sum,
        )
        for face in solution.faces
    ]
    return TwoFaceFigures(
        collimation_arcsec=c.value,
        index_arcsec=i.value,
        tilting_axis_arcsec=t.value if t else None,
        sigma_collimation_arcsec=c.sigma,
        sigma_index_arcsec=i.sigma,
        sigma_tilting_axis_arcsec=t.sigma if t else None,
        targets=targets,
        repeats=repeats_of(solution.repeats),
    )


def _signs(read: TwoFaceRead, solution: TwoFaceSolution, quantities: list[JudgedQuantity]) -> list[CodedText]:
    """What the geometry and the numbers of pointings say."""
    reasons: list[CodedText] = []
    if solution.axis is None:
        reasons.append(
            (
                "not-determined",
                "Trunnion axis not determined: it needs a second target at least 15° higher or lower. Its possible 5″ is included in c.",
            )
        )
    if any(len(face.target.left) != len(face.target.right) for face in solution.faces):
        reasons.append(
            (
                "unequal-faces",
                "Fewer pointings in one face than in the other: the face with fewer limits the accuracy.",
            )
        )
    if {sight.repeat for sight in read.targets} - {pointing.repeat for pointing in read.closing}:
        reasons.append(
            (
                "no-closing-look",
                "Without a closing sight to the first target, movement between the faces is hidden in c and i.",
            )
        )
    if any(quantity.estimate.u95 > quantity.limits.use for quantity in quantities):
        surest = max(quantity.estimate.u95 for quantity in quantities)
        reasons.append(("quick", f"Quick check: ± {arcsec(surest, surest)} at best. Do not store values from it."))
    return reasons


LEVEL_WITHIN_DEG = 10.0
FAR_FROM_LAST_ARCSEC = 60.0
CIRCLES = (
    "face left, horizontal circle",
    "face left, vertical circle",
    "face right, horizontal circle",
    "face right, vertical circle",
)


def without(read: TwoFaceRead, aside: list[str]) -> TwoFaceRead:
    """The targets with the pointings at these paths left out."""
    if not aside:
        return read
    kept = [
        replace(
            sight,
            left=[p for p in sight.left if p.path not in aside],
            right=[p for p in sight.right if p.path not in aside],
        )
        for sight in read.targets
    ]
    return TwoFaceRead(kept, read.closing, read.before)


@dataclass
class FoundFaults:
    """What is refused, what is stated, the pointings set aside, the one to be marked; the solution without those."""

    solution: TwoFaceSolution
    refused: list[CodedText] = field(default_factory=list)
    reasons: list[CodedText] = field(default_factory=list)
    aside: list[str] = field(default_factory=list)
    marked: CodedText | None = None


def find_faults(document: TwoFace, read: TwoFaceRead) -> FoundFaults:
    """Set aside what is an outlier, one pointing after the other, until the rest fits or is refused."""
    found = FoundFaults(solve(document, read))
    faces_hit: set[int] = set()
    while True:
        current, groups = without(read, found.aside), groups_of(found.solution.faces)
        steps = steps_of(found.solution.faces)
        moved, outlier = find_moved(groups, steps), find_outlier(groups, steps)
        if moved is not None and (outlier is None or moved.deviation >= outlier.deviation):
            text = f"Something moved ({_called(current, moved.group)}) between the {ordinal(moved.index - 1)} and the {ordinal(moved.index)} pointing: measure that face again."
            found.refused = [("moved", text)]
            return found
        if outlier is None:
            break
        called = _called(current, outlier.group)
        if outlier.sole_pair:
            text = f"The two pointings of {called} differ by more than pointing error: take a third."
            found.refused = [("readings-differ", text)]
            return found
        if len(found.aside) == 2 or outlier.group // 2 in faces_hit:
            text = f"More than one outlier: measure {called} again."
            found.refused = [("too-many-outliers", text)]
            return found
        faces_hit.add(outlier.group // 2)
        path, text = _outlier_text(document, current, found.solution, outlier.group, outlier.index)
        found.aside.append(path)
        found.reasons.append(("set-aside", text))
        found.marked = (path, "Outlier: take one more pointing here.")
        found.solution = solve(document, without(read, found.aside))
    found.refused = _scattered(read, found.solution, groups) + _closing(current, found.solution, groups)
    return found


def _listed(read: TwoFaceRead, group: int) -> tuple[list[ReadPointing], str]:
    entry = read.targets[group // 4]
    return entry.left if group % 4 < 2 else entry.right, "hz" if group % 2 == 0 else "v"


def _called(read: TwoFaceRead, group: int) -> str:
    return f"{read.targets[group // 4].name}, {CIRCLES[group % 4]}"


def _outlier_text(document: TwoFace, read: TwoFaceRead, solution: TwoFaceSolution, group: int, index: int) -> CodedText:
    listed, circle_name = _listed(read, group)
    point = listed[index]
    rest = [
        wrapped(getattr(p, circle_name) - getattr(point, circle_name)) * 3600
        for i, p in enumerate(listed)
        if i != index
    ]
    away = mean(rest)
    typed = point.texts[0 if circle_name == "hz" else 1]
    text = f"{typed} ({where(point.path)}, {circle_name}) is {arcsec(abs(away))} from the others and is set aside as an outlier."
    if document.units.angle != "dms":
        return point.path, text
    expected = getattr(point, circle_name) + away / 3600
    slip = _slip(typed, expected, 3 * sqrt(solution.faces[group // 4].within))
    return point.path, f"{text} Typed {typed} for {slip}?" if slip else text


def _slip(typed: str, expected_deg: float, tolerance_arcsec: float) -> str | None:
    """A packed angle with two digits swapped or one changed that comes near what was expected."""
    total = expected_deg * 3600
    degrees, rest = divmod(total, 3600)
    minutes, seconds = divmod(rest, 60)
    packed = degrees + minutes / 100 + seconds / 10000
    return likely_slip(typed, packed, tolerance_arcsec / 10000)


def _scattered(read: TwoFaceRead, solution: TwoFaceSolution, groups: list[list[float]]) -> list[CodedText]:
    at = too_scattered(groups, steps_of(solution.faces))
    if at is not None:
        return [
            ("face-scatters", f"{_called(read, at)}: its pointings scatter far more than the others. Measure it again.")
        ]
    factor = scatter_factor(solution.repeats)
    if factor is not None and factor > SCATTER_REFUSED:
        return [
            (
                "scatter",
                f"The pointings scatter {factor:.1f} times as much as expected: shimmer, soft ground, parallax?",
            )
        ]
    return []


def _closing(read: TwoFaceRead, solution: TwoFaceSolution, groups: list[list[float]]) -> list[CodedText]:
    """The closing sight of each round against its first target, face left."""
    for n in sorted({p.repeat for p in read.closing}):
        at = next((i for i, sight in enumerate(read.targets) if sight.repeat == n), None)
        if at is None:
            continue
        first, spread, found = read.targets[at].left, sqrt(solution.faces[at].within), []
        step = solution.faces[at].step / spread
        for name, group in (("hz", groups[4 * at]), ("v", groups[4 * at + 1])):
            looked = [pointing for pointing in read.closing if pointing.repeat == n]
            closing = [wrapped(getattr(p, name) - getattr(first[0], name)) * 3600 / spread for p in looked]
            away = left_between(group, closing, groups, step)
            if away is not None:
                circle_unit = "horizontal" if name == "hz" else "vertical"
                found.append(f"{arcsec(abs(away) * spread)} in the {circle_unit} circle")
        if found:
            text = f"The closing sight to {read.targets[at].name} differs by {' and '.join(found)}: something moved between the faces. Measure again."
            return [("moved-between", text)]
    return []


def far_from_last(document: TwoFace, solution: TwoFaceSolution) -> list[CodedText]:
    """One pointing a face cannot be held against its others: what lies far from the last finding is asked about."""
    if any(len(face.target.left) > 1 or len(face.target.right) > 1 for face in solution.faces):
        return []
    last = next((earlier.result for earlier in document.before if earlier.check == "two-face"), {})
    reasons: list[CodedText] = []
    for name, letter, e in ((COLLIMATION, "c", solution.collimation), (INDEX, "i", solution.index)):
        was = last.get(name)
        if isinstance(was, int | float) and abs(e.value - was) > FAR_FROM_LAST_ARCSEC:
            text = f"{letter} is {arcsec(abs(e.value - was), 10)} away from the last result, from one pointing a face: a minute or ten seconds mistyped? Point once more in both faces."
            reasons.append(("far-from-last", text))
    return reasons


def too_steep(solution: TwoFaceSolution) -> list[CodedText]:
    """A sole target far from level: the trunnion axis hides in c, and no number of pointings parts them."""
    sole = solution.faces[0]
    away = abs(sole.zenith_deg - 90.0)
    if len({face.target.path for face in solution.faces}) > 1 or away <= LEVEL_WITHIN_DEG:
        return []
    text = f"The only target is {figure(away, 0)}° from level: trunnion axis error is hidden in c. Use a level target."
    return [("no-level-target", text)]
