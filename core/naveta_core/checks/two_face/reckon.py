"""The verdict on a two-face measurement: what moved, what stands apart, c, i and t against their limits."""

from __future__ import annotations

from typing import Any

from ...judgement import Estimate, Grade, Limits, decide
from ...wording import arcsec, capital
from ..sheet.circumstances import Circumstances, Needs
from ..sheet.directions import mean_direction, wrapped
from ..sheet.judged import Judged, Quantity, Said, limits_from, repeats_of
from ..sheet.pictures import circle
from ..sheet.stored import tell_before, tell_proved
from .model import AXIS, COLLIMATION, INDEX, KEPT, TwoFace
from .read import Read, accuracy, sine
from .slips import far_from_last, find_faults, too_steep, without
from .solve import Solution, solve
from .words import finding_of, shown_of, work_of, worked_of

Data = dict[str, Any]
CAUTIONS: dict[str, tuple[str, ...]] = {
    "before": ("sun", "hold", "no-plunge"),
    "reading": ("sun", "hold", "no-plunge"),
    "adjusting": ("hold", "focus-stop"),
}
STORE = "Measure as the instrument's own routine asks, store; then a second round, as left."


def needs(_document: TwoFace) -> Needs:
    return Needs(minutes_on=3.0, firm_stand=True, temperature=True)


def judge(document: TwoFace, seen: Read, _told: Circumstances) -> Judged:
    """Set aside what stands apart, solve, and hold c, i and t against their limits."""
    refused, reasons, aside, apart = find_faults(document, seen)
    solution = solve(document, without(seen, aside))
    quantities = _quantities(document, solution)
    figures = _figures(solution)
    judged = Judged(
        quantities,
        figures,
        finding_of(solution),
        shown_of(quantities, solution),
        worked_of(solution),
        work_of(document, solution),
        solution.repeats,
        one_more=("round of pointings", "rounds of pointings"),
        again="Take the full test before anything is stored: five pointings a face. Both count together.",
    )
    judged.set_aside = aside
    judged.refused += [*refused, *too_steep(solution), *far_from_last(document, solution)]
    if solution.axis is None and len(solution.faces) > 1:
        text = "For the tilting axis: a second mark 15° or more higher or lower; 20 m away it must stand 5.4 m above the telescope. Plan the marks first."
        judged.then.append(("steeper-mark", text))
    tell_before(judged, document, seen.before, KEPT)
    tell_proved(judged, document, KEPT)
    judged.reasons += [*reasons, *_signs(seen, solution, quantities)]
    if apart is not None:
        judged.apart = apart
    before = solve(document, seen)
    if aside and not refused and _grades(document, before) != _grades(document, solution):
        judged.refused.append(
            ("apart-decides", "With and without what is set aside the verdict differs: take that face again.")
        )
    return judged


def _grades(document: TwoFace, solution: Solution) -> list[Grade]:
    return [decide(one.estimate, one.limits).grade for one in _quantities(document, solution)]


def _limits(document: TwoFace, name: str) -> Limits:
    s = accuracy(document)
    optical = document.instrument.kind == "theodolite" and document.instrument.reading == "optical"
    both = document.work.both_faces
    if name == AXIS:
        use, most, share = max(10.0, 3 * s), 60.0, 2.0
        watch = share * use if both else use
    else:
        use, most = max(10.0 if optical else 5.0, 2 * s), 180.0
        watch = max(use, 4 * s) if both else use
    # What the instrument can store is what can be adjusted; without knowing it, what they usually store.
    most = max(watch, document.instrument.storable_arcsec or most)
    work = "for work in both faces" if both else "for work in one face"
    why = f"opening value for angles of {s:g}″, {work}; the stated accuracy is a scatter of readings, not a limit"
    limits = limits_from(document, name, Limits(use, watch, most, why))
    return _raw(limits, name) if document.instrument.judged_raw and name != AXIS else limits


def _raw(limits: Limits, name: str) -> Limits:
    """A firm that judges 2c and 2i: half of the figure is judged, so half of its limit."""
    twice = "2c" if name == COLLIMATION else "2i"
    why = f"the firm judges the raw {twice}, limit {limits.use:g}″: half of it for the error. {capital(limits.source)}"
    return Limits(limits.use / 2, limits.watch / 2, limits.adjust, why)


def _quantities(document: TwoFace, solution: Solution) -> list[Quantity]:
    told: list[tuple[str, str, str, Estimate | None]] = [
        (COLLIMATION, "sighting error c", "c", solution.collimation),
        (INDEX, "vertical index i", "i", solution.index),
        (AXIS, "tilting axis t", "t", solution.axis),
    ]
    return [
        Quantity(
            name, f"the {noun}", "arcsec", estimate, _limits(document, name), *solution.q[key],
            condition="In both faces only: the mean of both is free of it.", turn=STORE, beyond="what can be stored", storing=name != AXIS,
        )
        for name, noun, key, estimate in told
        if estimate is not None
    ]  # fmt: skip


def _figures(solution: Solution) -> Data:
    return {
        COLLIMATION: solution.collimation.value,
        INDEX: solution.index.value,
        AXIS: solution.axis.value if solution.axis else None,
        f"sigma_{COLLIMATION}": solution.collimation.sigma,
        f"sigma_{INDEX}": solution.index.sigma,
        f"sigma_{AXIS}": solution.axis.sigma if solution.axis else None,
        "targets": [
            {
                "name": one.seen.name,
                "zenith_deg": one.zenith_deg,
                "double_collimation_arcsec": one.double_c,
                "index_sum_arcsec": one.index_sum,
            }
            for one in solution.faces
        ],
        "repeats": repeats_of(solution.repeats),
    }


def _signs(seen: Read, solution: Solution, quantities: list[Quantity]) -> list[Said]:
    """What the geometry and the numbers of pointings say."""
    said: list[Said] = []
    if solution.axis is None:
        said.append(
            (
                "not-determined",
                "The tilting axis was not determined: it wants a second mark 15° or more higher or lower. It is counted in c with 5″.",
            )
        )
    if any(len(one.seen.left) != len(one.seen.right) for one in solution.faces):
        said.append(
            (
                "unequal-faces",
                "Not as many pointings in one face as in the other: the fewer ones decide how sure it is.",
            )
        )
    if {one.round for one in seen.seen} - {one.round for one in seen.closing}:
        said.append(
            (
                "no-closing-look",
                "Without a closing look at the first mark a move between the faces would hide in c and i.",
            )
        )
    if any(one.estimate.u95 > one.limits.use for one in quantities):
        surest = max(one.estimate.u95 for one in quantities)
        said.append(("quick", f"Quick: it shows ± {arcsec(surest, surest)} at best. Nothing is stored from it."))
    return said


def drawn(_document: TwoFace, seen: Read, judged: Judged | None) -> Data | None:
    """Every pointing against the mean of both faces, seconds, as face left reads: left to one side, right opposite."""
    points = []
    for number, one in enumerate(seen.seen, start=1):
        if not one.left or not one.right:
            continue
        middle = mean_direction(
            [mean_direction([p.hz for p in one.left]), (mean_direction([p.hz for p in one.right]) + 180.0) % 360.0]
        )
        zenith = one.zenith_deg
        for face, listed in (("left", one.left), ("right", one.right)):
            for i, p in enumerate(listed):
                hz = p.hz if face == "left" else p.hz + 180.0
                v = p.v if face == "left" else 360.0 - p.v
                label = f"face {face}" if number == 1 and i == 0 else ""
                points.append((wrapped(hz - middle) * 3600 * sine(zenith), (v - zenith) * 3600, label, p.path))
    centre = (judged.figures[COLLIMATION], judged.figures[INDEX]) if judged else None
    limit = judged.quantities[0].limits.use if judged else None
    return circle(
        "arcsec", points, centre, None, "c to the right, i upwards", "", x="horizontal", y="vertical", limit=limit,
        seen="Each pointing less the mean of both faces.",
    )  # fmt: skip
