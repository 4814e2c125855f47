"""Where a plate bubble rests when the axis is plumb, and how far the axis leans.

b·s = T·u(heading) + e·s, u = (sin, cos), b towards the vial's right end. Two opposite headings give e and one part of
the tilt; four give all of it and what does not fit. e is the known rest position: set there, the axis is plumb.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import cos, radians, sin
from typing import Any, Literal

from pydantic import Field as Bounds

from ...envelope import Envelope, Part, Typed
from ...errors import Refused
from ...judgement import Grade, Limits
from ...numerals import finest
from ...priors import TUBULAR_BETWEEN_DIV, TUBULAR_COARSE_DIV, TUBULAR_DIV
from ...readings import Sheet
from ...stand.vectors import polar, unit
from ...wording import figure
from ..sheet.acts import Guide
from ..sheet.answer import SoFar
from ..sheet.circumstances import Circumstances, Needs
from ..sheet.entry import Where
from ..sheet.fits import Solved, apart_deg, solve, stands_apart
from ..sheet.judged import (
    Judged,
    Quantity,
    Said,
    effect,
    limits_from,
    line,
    name_apart,
    noise_factor,
    prior_dof,
    repeats_of,
    row,
    shown,
    tell_scatter,
)
from ..sheet.pictures import tube
from ..sheet.rounds import Equation, InRound, by_round, demand_opposite, last_round
from ..sheet.typed import blank, filled, number, rounding

Data = dict[str, Any]
QUANTITY = "reversal_div"
MOST_DIV = 12.0
OPPOSITE_WITHIN_DEG = 15.0
REPEATS_WITHIN_DIV = 0.5
CAUTIONS = {"before": ("hold",), "reading": ("wind",), "adjusting": ("vial-screws", "hold")}
where = Where(
    {
        "readings": "reading",
        "heading_deg": "bearing of the vial's right end",
        "bubble_div": "bubble",
        "sensitivity_arcsec_per_div": "what a division is worth",
    }
)


class TubeReading(InRound):
    """A bubble in a tubular vial: divisions towards the right end, which lies on `heading_deg`."""

    heading_deg: Typed | None = None
    bubble_div: Typed | None = None
    vial: Literal[1, 2] | None = None


class Observations(Part):
    sensitivity_arcsec_per_div: Typed | None = None
    readings: list[TubeReading] = Bounds(default=[], max_length=24)


class PlateVial(Envelope):
    """A check of one plate vial, or of two."""

    kind: Literal["plate-vial"]
    observations: Observations


@dataclass(frozen=True, slots=True)
class Tube:
    """One reading of a tube."""

    path: str
    heading_deg: float
    bubble: float
    vial: int
    round: int = 1


@dataclass
class Read:
    """What could be read: tubes, seconds a division, worth of the last digits."""

    tubes: list[Tube]
    seconds: float | None
    steps: list[float]


@dataclass(frozen=True, slots=True)
class Found:
    """Rest positions in divisions; of the last round the tilt's high-side vector in seconds, or only what lies along
    the vial."""

    solved: Solved
    tilt: tuple[float, float]
    whole: bool
    second: bool
    seconds: float

    @property
    def residuals(self) -> list[float]:
        return self.solved.fit.residuals

    def rest(self, vial: int) -> float:
        return self.solved.fit.unknowns[vial - 1]


def read_document(document: PlateVial, sheet: Sheet) -> Read:
    o = document.observations
    path = "observations.sensitivity_arcsec_per_div"
    stated = document.instrument.plate_vial_arcsec_per_div
    typed = number(sheet, path, where(path), o.sensitivity_arcsec_per_div, "arcsec", 2, 600, wanted=stated is None)
    found, steps = [], []
    for i, one in enumerate(o.readings):
        base = f"observations.readings[{i}]"
        if i >= 2 and blank(one.heading_deg, one.bubble_div):
            continue
        heading = number(sheet, f"{base}.heading_deg", where(f"{base}.heading_deg"), one.heading_deg, "deg", -360, 360)
        bubble = number(
            sheet, f"{base}.bubble_div", where(f"{base}.bubble_div"), one.bubble_div, "div", -MOST_DIV, MOST_DIV
        )
        if heading is not None and bubble is not None:
            found.append(Tube(base, heading.value, bubble.value, one.vial or 1, one.round or 1))
            steps.append(bubble.step)
    for i in range(len(o.readings), 2):
        sheet.want(f"observations.readings[{i}].bubble_div", where(f"observations.readings[{i}].bubble_div"))
    if len(found) >= max(2, filled(o.readings, "heading_deg", "bubble_div")):
        _geometry(found, sheet)
    return Read(found, typed.value if typed else stated, steps)


def _geometry(tubes: list[Tube], sheet: Sheet) -> None:
    path, what = "observations.readings", "the readings"
    for vial in (1, 2):
        mine = [one for one in tubes if one.vial == vial]
        which = "" if {one.vial for one in tubes} == {1} else f" of the {'first' if vial == 1 else 'second'} vial"
        demand_opposite(sheet, path, what, mine, f"two headings{which} half a turn apart, 120° at the least")
    if not sheet.faults:
        for name in sorted({one.round for one in tubes}):
            mine = [one for one in tubes if one.round == name]
            if len(mine) == 2:
                demand_opposite(
                    sheet, path, what, mine, "two opposite headings, or a third reading", 180 - OPPOSITE_WITHIN_DEG
                )


def _whole(tubes: list[Tube]) -> bool:
    """Whether a round tells its tilt both ways: three readings, not all along one line."""
    lines = {round(one.heading_deg % 180 / OPPOSITE_WITHIN_DEG) % 12 for one in tubes}
    return len(tubes) > 2 and len(lines) > 1


def find(tubes: list[Tube], seconds: float, within: float, between: float, dof: float) -> Found:
    """Rest position of each vial, and the tilt of each round. Spreads in divisions."""
    second = any(one.vial == 2 for one in tubes)
    of_round = {name: [one for one in tubes if one.round == name] for name in {one.round for one in tubes}}
    equations = []
    for one in tubes:
        mine, u = of_round[one.round], unit(one.heading_deg)
        own = [u[0], u[1]] if _whole(mine) else [cos(radians(one.heading_deg - mine[0].heading_deg))]
        rest = [1.0, 0.0] if one.vial == 1 else [0.0, 1.0]
        equations.append(Equation(one.round, rest if second else rest[:1], own, one.bubble))
    solved = solve(by_round(equations), within, between, dof)
    last, known = last_round(tubes), solved.fit.unknowns
    if _whole(last):
        return Found(solved, (known[-2] * seconds, known[-1] * seconds), True, second, seconds)
    u = unit(last[0].heading_deg)
    return Found(solved, (u[0] * known[-1] * seconds, u[1] * known[-1] * seconds), False, second, seconds)


def spreads(document: Envelope, tubes: Sequence[Tube], steps: list[float], factor: float) -> tuple[float, float]:
    """Variances of one bubble, in divisions²: a tenth is estimated, or only halves are told apart."""
    coarse = finest(steps) >= 0.5 or (len(tubes) > 1 and all(one.bubble % 0.5 == 0 for one in tubes))
    own = (document.instrument.prior or {}).get("plate_vial_div", TUBULAR_COARSE_DIV if coarse else TUBULAR_DIV)
    return (own * noise_factor(document) * factor) ** 2 + (0.0 if coarse else rounding(steps)), TUBULAR_BETWEEN_DIV**2


def needs(_document: PlateVial) -> Needs:
    return Needs(wind=True, temperature=True)


def judge(document: PlateVial, read: Read, told: Circumstances) -> Judged:
    assert read.seconds is not None
    within, between = spreads(document, read.tubes, read.steps, told.factor)
    found = find(read.tubes, read.seconds, within, between, prior_dof(document))
    quantities = [_quantity(document, found, 0)]
    if found.second:
        quantities.append(_quantity(document, found, 1))
    e = quantities[0].estimate
    bearing, size = polar(*found.tilt)
    figures: Data = {
        QUANTITY: e.value,
        f"sigma_{QUANTITY}": e.sigma,
        "vial_error_arcsec": e.value * found.seconds,
        "tilt_arcsec": size,
        "tilt_bearing_deg": bearing,
        "residuals_div": found.residuals,
        "repeats": repeats_of(found.solved.spread),
    }
    if found.second:
        figures["reversal_2_div"] = quantities[1].estimate.value
        figures["sigma_reversal_2_div"] = quantities[1].estimate.sigma
    judged = Judged(
        quantities, figures, _finding(e.value, e.u95, found), _shown(quantities, found), _worked(read, found), _work(document, found, e.value),
        found.solved.spread, one_more=("round of headings", "rounds of headings"),
        again="Let the bubble rest, turn once more before a screw is touched. Both count together.",
    )  # fmt: skip
    judged.reasons.append(("half-and-half", _halves(read, found)))
    if not found.whole:
        alone = ", and nothing checks them" if found.solved.fit.redundancy < 1 else ""
        judged.reasons.append(("one-direction", f"Read at two headings: the tilt across them is not known{alone}."))
    tell_scatter(judged, found.solved, "headings")
    at = stands_apart(found.solved)
    if at is not None:
        name_apart(
            judged,
            read.tubes[at].path,
            f"The {where(read.tubes[at].path)} does not fit the others: let the bubble rest and read it again.",
        )
    return judged


def _quantity(document: PlateVial, found: Found, index: int) -> Quantity:
    estimate = found.solved.estimate(index)
    name = QUANTITY if index == 0 else "reversal_2_div"
    noun = "the plate bubble" if not found.second else f"the {'first' if index == 0 else 'second'} plate bubble"
    known = _known_rest(document, estimate.value) if index == 0 else None
    if known is None:
        opening = Limits(1.0, 2.0, 4.0, "opening value: one division")
    else:
        opening = Limits(2.0, 2.0, 4.0, f"its rest position repeats within half a division of {figure(known, 1)}")
    return Quantity(
        name, noun, "div", estimate, limits_from(document, name, opening), found.solved.q_within(index), found.solved.between, False,
        f"Set it {placed(estimate.value)} each time, not in the middle.",
        f"By the foot screws set the bubble {placed(estimate.value)}: now the axis is plumb. Then by the vial's own screw to the middle; each takes half of what was seen.",
    )  # fmt: skip


def _known_rest(document: PlateVial, value: float) -> float | None:
    """Where it rested at an earlier good check, when that is near enough to be called the same."""
    for one in document.before:
        rest = one.figure(QUANTITY) if one.check == "plate-vial" and one.good else None
        if rest is not None:
            return rest if abs(value - rest) <= REPEATS_WITHIN_DIV else None
    return None


def placed(div: float) -> str:
    """'1.2 div left of the middle'."""
    if abs(div) < 0.05:
        return "in the middle"
    return f"{figure(abs(div), 1)} div {'right' if div > 0 else 'left'} of the middle"


def _finding(e: float, u: float, found: Found) -> str:
    if abs(e) <= u:
        return f"No error shown: the plate bubble rests {placed(e)}, ± {figure(u, 1)} div, when the axis is plumb."
    seconds = figure(abs(e) * found.seconds, 0)
    return f"With the axis plumb the plate bubble rests {placed(e)}, ± {figure(u, 1)} div: {seconds}″ that are the vial's own."


def _halves(read: Read, found: Found) -> str:
    """What was seen at the last heading, and whose each part is."""
    last = last_round(read.tubes)[-1]
    own = found.rest(last.vial)
    tilt = last.bubble - own - found.residuals[read.tubes.index(last)]
    return f"Seen last: {figure(last.bubble, 1)} div. Of that {figure(tilt, 1)} div are the stand's tilt, {figure(own, 1)} div the vial's own."


def _shown(quantities: list[Quantity], found: Found) -> list[Data]:
    bearing, size = polar(*found.tilt)
    rows = [
        shown(one, "Rests, axis plumb" if not found.second else f"Rests, axis plumb: {one.noun.removeprefix('the ')}")
        for one in quantities
    ]
    value = quantities[0].estimate.value * found.seconds
    rows.append(row("vial_error_arcsec", "The vial's own, as an angle", f"{figure(value, 0)}″", value, "arcsec"))
    text = (
        f"{figure(size, 0)}″, high side {figure(bearing, 0)}°"
        if found.whole
        else f"{figure(size, 0)}″ along the vial, high side {figure(bearing, 0)}°"
    )
    rows.append(row("tilt_arcsec", "Tilt of the stand", text, size, "arcsec"))
    return rows


def _worked(read: Read, found: Found) -> list[Data]:
    rest, e = found.solved.fit.unknowns[0], found.solved.estimate(0)
    lines = [line("Each heading gives one equation", "b·s = T·u(heading) + e·s, u = (sin, cos)")]
    for one, v in zip(read.tubes, found.residuals, strict=True):
        misfit = "" if found.solved.fit.redundancy < 1 else f"; does not fit by {figure(v, 2)}"
        vial = f", vial {one.vial}" if found.second else ""
        lines.append(line(f"Right end at {one.heading_deg:g}°{vial}", f"b = {figure(one.bubble, 2)} div{misfit}"))
    if len(read.tubes) == 2 and not found.second:
        a, b = (one.bubble for one in read.tubes)
        lines.append(
            line(
                "Half the sum is the vial's",
                f"e = ({figure(a, 2)} + {figure(b, 2)}) / 2 = {figure(rest, 2)} div".replace("+ −", "− "),
            )
        )
    else:
        lines.append(
            line(
                "Least squares, all headings alike",
                f"e = {figure(rest, 3)} div = {figure(rest * found.seconds, 1)}″ at {found.seconds:g}″ a division",
            )
        )
    lines.append(line("Tilt, right and up", f"{figure(found.tilt[0], 1)}″, {figure(found.tilt[1], 1)}″"))
    lines.append(line("Standard uncertainty, degrees of freedom", f"{figure(e.sigma, 3)} div, {figure(e.dof, 1)}"))
    return lines


def _work(document: PlateVial, found: Found, rest: float) -> list[Data]:
    """What levelling with the bubble in the middle would do to directions at steep sights."""
    steep = document.work.elevation_deg
    tilt = abs(rest) * found.seconds
    cost = tilt * abs(sin(radians(steep))) / max(0.05, cos(radians(steep)))
    text = f"Set to the middle instead, the axis leans {figure(tilt, 0)}″: up to {figure(cost, 0)}″ in a direction at {steep:g}° steep, and both faces do not take it out."
    return [effect("set-to-middle", text), effect("set-to-rest", f"Set {placed(rest)}, it costs nothing.")]


def drawn(_document: PlateVial, read: Read, judged: Judged | None) -> Data | None:
    rest = judged.figures[QUANTITY] if judged else None
    shares: list[float | None] = [None] * len(read.tubes)
    if judged:
        rests = (judged.figures[QUANTITY], judged.figures.get("reversal_2_div", 0.0))
        misfits = judged.figures["residuals_div"]
        shares = [one.bubble - rests[one.vial - 1] - v for one, v in zip(read.tubes, misfits, strict=True)]
    half = max([3.0, *(abs(one.bubble) + 1 for one in read.tubes)])
    return tube([(f"right end {one.heading_deg:g}°", one.bubble, one.path) for one in read.tubes], rest, shares, half)


def so_far(document: PlateVial, read: Read) -> SoFar:
    tubes, said = last_round(read.tubes), list[Said]()
    if len(tubes) >= 2 and len(read.tubes) < len(document.observations.readings):
        a, b = tubes[:2]
        if a.vial == b.vial and apart_deg(a.heading_deg, b.heading_deg) > 180 - OPPOSITE_WITHIN_DEG:
            rest, part = (a.bubble + b.bubble) / 2, figure(abs(a.bubble - b.bubble) / 2, 1)
            said.append(("running", f"These two say: it rests {placed(rest)}, the stand's part is {part} div."))
    elif len(tubes) == 1:
        said.append(("turn-now", "Turn by half a turn, give the bubble a moment, read again."))
    return SoFar(said)


def to_middle(_document: Any, _read: Any, judged: Judged, _grade: Grade, reads_now: list[Any]) -> Guide:
    """Vial to the middle by its own screw, axis plumb, with what is left after each turn. Raises Refused."""
    quantity, turned = judged.quantities[0], Sheet()
    values = [
        number(turned, f"reads_now[{i}]", "the bubble is now at", v, "div", -MOST_DIV, MOST_DIV)
        for i, v in enumerate(reads_now)
    ]
    if turned.faults or turned.missing:
        raise Refused(turned.faults)
    steps = []
    for given, value in zip(reads_now, values, strict=True):
        left = value.value if value else 0.0
        done = abs(left) <= 0.2
        says = (
            "there. Turn half round: does it stay? Then run the check again."
            if done
            else f"{figure(abs(left), 1)} div {'right' if left > 0 else 'left'} still to go, by the vial's own screw only."
        )
        steps.append({"given": str(given), "left": left, "done": done, "text": says})
    return Guide(
        quantity.turn,
        quantity.may_turn(),
        ("",),
        "The bubble is now at",
        "div",
        placed(judged.figures[QUANTITY]),
        "the middle",
        "The instrument's own adjusting pin.",
        "The capstan screw at one end of the vial's mount.",
        tuple(steps),
    )
