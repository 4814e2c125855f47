"""The index of an electronic level or compensator, apart from the tilt of the stand.

along = T·u(θ) + i_along, across = T·u(θ + 90°) + i_across. Turned by half a turn a perfect one shows the same figures
with opposite signs. A plate bubble read beside it is settled by the same half-turn: neither is taken on trust.
"""

from __future__ import annotations

from itertools import product
from math import fsum, hypot, sqrt
from typing import Any

from ...judgement import Limits
from ...numerals import finest
from ...stand.vectors import polar
from ...wording import arcsec, figure
from ..plate_vial.reckon import Tube, placed, spreads
from ..plate_vial.reckon import find as find_rest
from ..sheet.answer import SoFar
from ..sheet.circumstances import Circumstances, Needs
from ..sheet.fits import OPPOSITE_DEG, Solved, apart_deg, solve, stands_apart, widest_deg
from ..sheet.judged import Judged, Quantity, Said, limits_from, name_apart, prior_dof, repeats_of, tell_scatter
from ..sheet.pictures import circle
from ..sheet.rounds import by_round, last_round
from ..sheet.stored import tell_before, tell_proved
from .solve import (
    ACROSS,
    ALONG,
    DEGREES_LOOK_LIKE,
    KEPT,
    OTHER_SENSE_SHARE,
    WARM_MINUTES,
    DualAxisLevel,
    Read,
    equations_of,
    solve_level,
    where,
)
from .words import finding_of, shown_of, work_of, worked_of

Data = dict[str, Any]


def _limits(document: DualAxisLevel, name: str, read: Read) -> Limits:
    s = document.instrument.angle_accuracy_arcsec
    step = document.instrument.electronic_level_step_arcsec or finest(read.steps)
    use = max(4.0, 1.5 * (s or 0.0), 2 * step)
    why = "the larger of 4″, one and a half times the stated accuracy and two steps of its display"
    return limits_from(document, name, Limits(use, use, 60.0, f"opening value: {why}"))


def needs(_document: DualAxisLevel) -> Needs:
    return Needs(minutes_on=WARM_MINUTES, firm_stand=True, wind=True, temperature=True)


def judge(document: DualAxisLevel, read: Read, told: Circumstances) -> Judged:
    solved = solve_level(document, read, told.factor)
    quantities = [
        Quantity(
            name, f"the index {word} the sight", "arcsec", solved.estimate(at), _limits(document, name, read),
            solved.q_within(at), solved.between, False, "", STORE, "what is stored in the field",
        )
        for at, name, word in ((1, ALONG, "along"), (0, ACROSS, "across"))
    ]  # fmt: skip
    along, across = (one.estimate.value for one in quantities)
    bearing, size = polar(solved.fit.unknowns[-2], solved.fit.unknowns[-1])
    figures: Data = {
        ALONG: along,
        ACROSS: across,
        f"sigma_{ALONG}": quantities[0].estimate.sigma,
        f"sigma_{ACROSS}": quantities[1].estimate.sigma,
        "tilt_arcsec": size,
        "tilt_bearing_deg": bearing,
        "misfit_arcsec": _rms(solved),
        "repeats": repeats_of(solved.spread),
    }
    judged = Judged(
        quantities, figures, finding_of(quantities, size), shown_of(quantities, bearing, size), worked_of(read, solved, quantities), work_of(document, along, across),
        solved.spread, one_more=("round of headings", "rounds of headings"),
        again="Take the round once more before anything is stored. Both count together.",
        send="Send it to service: an index this large is not for the field to store away.",
    )  # fmt: skip
    judged.reasons.append(
        (
            "index-and-tilt",
            f"Index is what stays when it is turned, {arcsec(along)} and {arcsec(across)}; tilt is what turns, {arcsec(size)}. Only the index is the instrument's.",
        )
    )
    judged.reasons.append(
        (
            "order",
            "First this, then two faces: its index goes one to one into them, and a newly stored one makes their stored values void.",
        )
    )
    judged.reasons += [*_sense(read, solved), *_beside(document, read, quantities, told.factor)]
    tell_before(judged, document, read.before, KEPT)
    tell_proved(judged, document, KEPT)
    if all(abs(v) < DEGREES_LOOK_LIKE for one in read.figures for v in (one.along, one.across)) and any(
        one.along or one.across for one in read.figures
    ):
        judged.refused.append(
            (
                "looks-like-degrees",
                "All figures lie under a twentieth of a second: were they typed in degrees? Type seconds.",
            )
        )
    tell_scatter(judged, solved, "headings")
    at = stands_apart(solved)
    if at is not None:
        name_apart(
            judged,
            read.figures[at // 2].path,
            f"The {where(read.figures[at // 2].path)} does not fit the others: let it settle and read it again.",
        )
    return judged


def _rms(solved: Solved) -> float:
    return sqrt(fsum(v * v for v in solved.fit.residuals) / len(solved.fit.residuals))


STORE = "Run the instrument's own level calibration, both ways round, store; then run this check again, as left."


def _sense(read: Read, solved: Solved) -> list[Said]:
    """Whether another sense of the display fits four headings much better."""
    if len(read.figures) < 4:
        return []
    mine = fsum(v * v for v in solved.fit.residuals)
    for along, across in product((1.0, -1.0), repeat=2):
        if along == across:
            continue  # both turned round is the same figure with the tilt the other way
        other = fsum(v * v for v in solve(by_round(equations_of(read, along, across)), 1.0, 0.0, 6.0).fit.residuals)
        if other < OTHER_SENSE_SHARE * mine and mine > 4 * (solved.within + solved.between):
            return [
                (
                    "display-sense",
                    "The figures fit far better when one of the two counts the other way: say on the model which way its display counts.",
                )
            ]
    return []


def _beside(document: DualAxisLevel, read: Read, quantities: list[Quantity], factor: float) -> list[Said]:
    """Plate bubble and electronic level read together: the half-turn says which of them is out."""
    tubes = [
        Tube(one.path, one.heading_deg + 90.0, one.bubble, 1, one.round)
        for one in last_round(read.figures)
        if one.bubble is not None
    ]
    if read.seconds_per_div is None or len(tubes) < 2 or widest_deg([one.heading_deg for one in tubes]) < OPPOSITE_DEG:
        return []
    within, between = spreads(document, tubes, read.bubble_steps, factor)
    rest = find_rest(tubes, read.seconds_per_div, within, between, prior_dof(document)).solved.estimate(0)
    own = hypot(quantities[0].estimate.value, quantities[1].estimate.value)
    vial = abs(rest.value) * read.seconds_per_div
    text = f"Read together and turned: the electronic level is {arcsec(own, 10)} out, the plate bubble {figure(vial, 0)}″ (it rests {placed(rest.value)})."
    closer = (
        "The half-turn settles it: the electronic level is nearer the truth."
        if own < vial
        else "The half-turn settles it: the plate bubble is nearer the truth."
    )
    return [("settled-by-turning", f"{text} {closer}")]


def drawn(_document: DualAxisLevel, read: Read, judged: Judged | None) -> Data | None:
    centre = (judged.figures[ACROSS], judged.figures[ALONG]) if judged else None
    radius = judged.figures["tilt_arcsec"] if judged else None
    points = [(one.across, one.along, f"{one.heading_deg:g}°", one.path) for one in last_round(read.figures)]
    limit = judged.quantities[0].limits.use if judged else None
    return circle("arcsec", points, centre, radius, "index", "tilt of the stand", x="across", y="along", limit=limit)


def so_far(document: DualAxisLevel, read: Read) -> SoFar:
    figures, said = last_round(read.figures), list[Said]()
    if len(figures) == 1:
        text = "Turn by half a turn, let the figures settle, read both again. A perfect one shows the same with the signs changed."
        said.append(("turn-now", text))
    elif len(read.figures) < len(document.observations.readings):
        said += [
            (
                "running",
                f"Two opposite headings say: index {arcsec((a.along + b.along) / 2)} along, {arcsec((a.across + b.across) / 2)} across. The others will prove it.",
            )
            for i, a in enumerate(figures)
            for b in figures[i + 1 :]
            if apart_deg(a.heading_deg, b.heading_deg) > 179
        ][:1]
    return SoFar(said)
