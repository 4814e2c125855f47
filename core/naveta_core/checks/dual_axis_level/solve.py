"""The index of an electronic level or compensator, apart from the tilt of the stand.

along = T·u(θ) + i_along, across = T·u(θ + 90°) + i_across. Turned by half a turn a perfect one shows the same figures
with opposite signs. A plate bubble read beside it is settled by the same half-turn: neither is taken on trust.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any, Literal

from pydantic import Field as Bounds

from ...envelope import Envelope, Typed
from ...priors import ELECTRONIC_BETWEEN_ARCSEC, electronic_within_arcsec
from ...readings import Sheet
from ..plate_vial.reckon import MOST_DIV
from ..sheet.entry import Where
from ..sheet.fits import Solved, solve
from ..sheet.judged import noise_factor, prior_dof
from ..sheet.rounds import Equation, InRound, by_round, demand_opposite, turned_vector
from ..sheet.stored import Before, Kept, Stores, read_before, words_of
from ..sheet.typed import blank, filled, number, rounding

Data = dict[str, Any]
ALONG, ACROSS = "index_along_arcsec", "index_across_arcsec"
MOST_ARCSEC = 3600.0
WARM_MINUTES = 3.0
OTHER_SENSE_SHARE = 0.25
DEGREES_LOOK_LIKE = 0.05
TYPED = ("heading_deg", "along_arcsec", "across_arcsec", "bubble_div")
KEPT = (Kept(ALONG, "before_along_arcsec", "along", sense=0), Kept(ACROSS, "before_across_arcsec", "across", sense=1))
CAUTIONS = {"before": ("hold",), "reading": ("wind", "hold"), "adjusting": ("hold",)}
where = Where(
    {
        "readings": "reading",
        "heading_deg": "heading",
        "along_arcsec": "figure along the sight",
        "across_arcsec": "figure across the sight",
        "bubble_div": "plate bubble",
        "sensitivity_arcsec_per_div": "what a division of the plate vial is worth",
        **words_of(KEPT),
    }
)


class LevelReading(InRound):
    """Both figures of an electronic level at a heading, and the plate bubble beside it where one is read."""

    heading_deg: Typed | None = None
    along_arcsec: Typed | None = None
    across_arcsec: Typed | None = None
    bubble_div: Typed | None = None


class Observations(Stores):
    readings: list[LevelReading] = Bounds(default=[], max_length=24)
    sensitivity_arcsec_per_div: Typed | None = None
    before_along_arcsec: Typed | None = None
    before_across_arcsec: Typed | None = None


class DualAxisLevel(Envelope):
    """A check of an electronic level or dual-axis compensator."""

    kind: Literal["dual-axis-level"]
    observations: Observations


@dataclass(frozen=True, slots=True)
class Shown:
    """Both figures at one heading, high side forward and high side right positive."""

    path: str
    heading_deg: float
    along: float
    across: float
    bubble: float | None
    round: int = 1


@dataclass
class Read:
    """What could be read."""

    figures: list[Shown]
    steps: list[float]
    seconds_per_div: float | None
    bubble_steps: list[float]
    before: Before


def read_document(document: DualAxisLevel, sheet: Sheet) -> Read:
    o, (sa, sc) = document.observations, document.instrument.senses
    found, steps, bubble_steps = [], [], []
    for i, one in enumerate(o.readings):
        base = f"observations.readings[{i}]"
        if i >= 2 and blank(*(getattr(one, name) for name in TYPED)):
            continue
        heading = number(sheet, f"{base}.heading_deg", where(f"{base}.heading_deg"), one.heading_deg, "deg", -360, 360)
        along, across = (
            number(
                sheet,
                f"{base}.{name}",
                where(f"{base}.{name}"),
                getattr(one, name),
                "arcsec",
                -MOST_ARCSEC,
                MOST_ARCSEC,
            )
            for name in ("along_arcsec", "across_arcsec")
        )
        bubble = number(
            sheet,
            f"{base}.bubble_div",
            where(f"{base}.bubble_div"),
            one.bubble_div,
            "div",
            -MOST_DIV,
            MOST_DIV,
            wanted=False,
        )
        if heading is None or along is None or across is None:
            continue
        beside = bubble.value if bubble else None
        found.append(Shown(base, heading.value, along.value * sa, across.value * sc, beside, one.round or 1))
        steps += [along.step, across.step]
        bubble_steps += [bubble.step] if bubble else []
    for i in range(len(o.readings), 2):
        for name in ("along_arcsec", "across_arcsec"):
            sheet.want(f"observations.readings[{i}].{name}", where(f"observations.readings[{i}].{name}"))
    if len(found) >= max(2, filled(o.readings, *TYPED)):
        wanted = "two headings half a turn apart: only turned does the index show"
        demand_opposite(sheet, "observations.readings", "the readings", found, wanted)
    worth = None
    if any(one.bubble is not None for one in found):
        stated, path = document.instrument.plate_vial_arcsec_per_div, "observations.sensitivity_arcsec_per_div"
        typed = number(sheet, path, where(path), o.sensitivity_arcsec_per_div, "arcsec", 2, 600, wanted=stated is None)
        worth = typed.value if typed else stated
    return Read(found, steps, worth, bubble_steps, read_before(document, sheet, KEPT, where))


def solve_level(document: DualAxisLevel, read: Read, factor: float) -> Solved:
    stated = document.instrument.electronic_level_step_arcsec or 0.0
    own = (document.instrument.prior or {}).get(
        "electronic_level_arcsec", electronic_within_arcsec(document.instrument.angle_accuracy_arcsec)
    )
    within = (own * noise_factor(document) * factor) ** 2 + max(rounding(read.steps), stated**2 / 12)
    return solve(by_round(equations_of(read)), within, ELECTRONIC_BETWEEN_ARCSEC**2, prior_dof(document))


def equations_of(read: Read, along: float = 1.0, across: float = 1.0) -> list[Equation]:
    """Unknowns: index across, index along, and each round's tilt; `along` and `across` turn a display's counting round."""
    return [
        equation
        for one in read.figures
        for equation in turned_vector(one.heading_deg, one.across * across, one.along * along, one.round)
    ]
