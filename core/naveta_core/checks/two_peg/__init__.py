"""The two-peg test: does a level's line of sight stay level?

Source: the classical two-peg test, any layout, as one least-squares problem (see solve.py).
"""

from __future__ import annotations

from typing import Any

from ... import __version__
from ...angles import ARCSEC_PER_RADIAN
from ...cautions import cautions
from ...envelope import Typed
from ...errors import Refused
from ...priors import curvature_and_refraction_m
from ...readings import Sheet
from ...wording import length_words
from ..kind import Kind
from ..sheet.judged import headline
from . import table, words
from .judge import QUANTITY, Judged, judge, target_m
from .layouts import LAYOUTS
from .model import TwoPeg
from .partial import partial
from .picture import picture
from .read import STAFF, Seen, read, where
from .simulate import simulate
from .solve import Setups

Data = dict[str, Any]

CAUTIONS = {
    "before": ("traffic", "overhead-lines", "sun", "tread", "nail"),
    "reading": ("sun", "wind"),
    "adjusting": ("reticle-screw", "focus-stop"),
    "carrying": ("carry",),
}


def reduce(document: TwoPeg) -> Data:
    """A complete two-peg document to its result. Raises Refused with every fault and everything missing."""
    setups, sheet = read(document)
    sheet.demand_complete()
    return _result(document, setups)


def preview(document: TwoPeg) -> Data:
    """What can be said already. Faults only about what was typed; the whole result once it is complete."""
    setups, sheet = read(document)
    complete = not sheet.missing and not sheet.faults
    answer = {
        "complete": complete,
        "missing": sheet.missing,
        "faults": [fault.as_dict() for fault in sheet.faults],
        "partial": partial(document, setups, sheet),
        "picture": None,
    }
    if complete:
        result = _result(document, setups)
        return {**answer, "picture": result["picture"], "reduced": result}
    return {**answer, "picture": _drawn(document, setups, None, None)}


def adjusting(document: TwoPeg, reads_now: list[Typed]) -> Data:
    """The reticle's target and what is left after each reading typed since. Raises Refused."""
    setups, sheet = read(document)
    sheet.demand_complete()
    steps = []
    turned = Sheet(document.units.length)
    for i, value in enumerate(reads_now):
        length = turned.length(f"reads_now[{i}]", "it reads now", value, STAFF)
        if length is not None:
            steps.append((str(value), length.m))
    if turned.faults:
        raise Refused(turned.faults)
    return words.adjusting(document, judge(document, setups), steps)


def _result(document: TwoPeg, setups: Setups) -> Data:
    judged = judge(document, setups)
    solution = judged.solution
    return {
        "kind": "two-peg",
        "result": _figures(document, judged),
        "finding": {"text": headline(words.finding(document, judged), judged.grade, judged.refused, judged.reasons)},
        "verdict": {
            "grade": judged.grade,
            "reasons": _coded(judged.reasons),
            "next": _coded(judged.next),
            "parts": [_part(judged)],
            "set_aside": judged.set_aside,
        },
        "shown": words.shown(document, judged),
        "picture": _drawn(document, solution.setups, solution.c, solution.height_difference_m),
        "work": words.work(document, judged),
        "cautions": cautions(*CAUTIONS["adjusting" if judged.grade == "adjust" else "reading"]),
        "worked": words.worked(document, judged),
        "core_version": __version__,
    }


def _drawn(document: TwoPeg, setups: Setups, c: float | None, dh: float | None) -> Data:
    return picture(setups, length_words(document.units.length), document.observations.layout, c, dh)


def _coded(said: list[tuple[str, str]]) -> list[Data]:
    return [{"code": code, "text": text} for code, text in said]


def _part(judged: Judged) -> Data:
    e, limits = judged.solution.estimate, judged.limits
    return {
        "quantity": QUANTITY,
        "value": e.value,
        "sigma": e.sigma,
        "u95": e.u95,
        "dof": e.dof,
        "basis": "pooled" if e.pooled else "a-priori",
        "proved_to": e.proved_to if judged.confirmed is None else judged.confirmed.proved_to,
        "limits": {"use": limits.use, "watch": limits.watch, "adjust": limits.adjust},
        "why": limits.source,
        "limit_text": words.limit_text(limits),
        "grade": judged.grade,
    }


def _figures(document: TwoPeg, judged: Judged) -> Data:
    solution = judged.solution
    figures = {
        "collimation_arcsec": solution.estimate.value,
        "collimation_mm_per_m": solution.c * 1000,
        "sigma_collimation_arcsec": solution.estimate.sigma,
        "height_difference_m": solution.height_difference_m,
        "misclosure_m": words.misclosure_m(judged),
        "setups": [
            _setup_figures(document, judged, *one) for one in zip(solution.setups, solution.imbalances_m, strict=True)
        ],
        "sensitivity": words.sensitivity(document, judged),
        "repeats": {"squares": solution.spread.squares, "dof": solution.spread.dof},
    }
    if judged.middle_c is not None:
        figures["collimation_middle_wire_arcsec"] = judged.middle_c * ARCSEC_PER_RADIAN
    return figures


def _setup_figures(document: TwoPeg, judged: Judged, setup: tuple[Seen, Seen], imbalance_m: float) -> Data:
    a, b = setup
    return {
        "height_difference_m": a.mean_m - b.mean_m,
        "imbalance_m": imbalance_m,
        "corrected_a_m": _corrected(document, judged, a),
        "corrected_b_m": _corrected(document, judged, b),
        "target_a_m": target_m(judged, a),
        "target_b_m": target_m(judged, b),
    }


def _corrected(document: TwoPeg, judged: Judged, seen: Seen) -> float:
    bent = curvature_and_refraction_m(seen.sight_m) if document.observations.curvature else 0.0
    return seen.mean_m - judged.solution.c * seen.sight_m - bent


KIND = Kind(
    name="two-peg",
    title="Two-peg test",
    model=TwoPeg,
    preview=preview,
    reduce=reduce,
    adjusting=adjusting,
    where=where,
    applies_to=("level", "digital-level"),
    minutes=15,
    interval_days=30,
    bring=(
        "Level, tripod and two staffs (or one, carried over), with staff levels",
        "Two firm marks 40 to 60 m apart on near level ground: pegs, nails, ground plates",
        "A steel tape, or the stadia wires, for the distances",
    ),
    before_you_start=(
        "Let the level take on the outside temperature: ten minutes out of the case, longer after a warm van.",
        "Turn it once round: does the circular bubble stay in its ring?",
        "Sight a staff and tap the tripod lightly: does the line come back to the same reading?",
    ),
    who_adjusts=("manager", "crew"),
    when_bad=words.WHEN_BAD,
    caution_codes=CAUTIONS,
    watch_condition="Balanced sights only: keep back and fore sight alike.",
    main_quantity=QUANTITY,
    quantity_label="line of sight",
    csv_columns=table.COLUMNS,
    read_csv=table.read_csv,
    write_csv=table.write_csv,
    layouts=LAYOUTS,
    simulate=simulate,
    why="A line of sight that points up or down puts a slope into every run whose sights differ.",
    quick=("", 10),
    order=50,
)
