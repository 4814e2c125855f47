"""What a check of target tracking says in words, and its drawing."""

from __future__ import annotations

from ...engine.drawing import circle
from ...engine.reports import figures_of
from ...engine.rows import effect, line, row, shown
from ...engine.verdict import JudgedQuantity, Judgement
from ...engine.work import words_of
from ...geometry import mean, mean_direction, wrapped
from ...results import CalculationLine, CirclePicture, Effect, Shown
from ...stats.estimate import Estimate
from ...units.angles import ARCSEC_PER_RADIAN
from ...units.formatting import arcsec, figure
from ..two_face.document import sine
from .document import Tracker, TrackerFigures, TrackerRead
from .solve import TrackerOffset


def finding_of(hz: Estimate, v: Estimate) -> str:
    """The finding as one sentence: what it is, how much, ± (95 %)."""
    parts = [
        f"{arcsec(abs(e.value), e.u95)} {plus if e.value > 0 else minus}"
        for e, plus, minus in ((hz, "right", "left"), (v, "low", "high"))
        if abs(e.value) > e.u95
    ]
    u = max(hz.u95, v.u95)
    if not parts:
        worst = max(hz.proved_to, v.proved_to)
        return f"Tracker: no error found, within {arcsec(worst, worst)}."
    return f"Tracked pointing is off by {' and '.join(parts)}, ± {arcsec(u, u)}."


def shown_of(quantities: list[JudgedQuantity], read: TrackerRead) -> list[Shown]:
    """The figures of the result as rows: what it is, its value, its ±."""
    rows = [
        shown(quantities[0], "Tracker horizontal, right is plus"),
        shown(quantities[1], "Tracker vertical, low is plus"),
    ]
    for quantity, label in zip(quantities, ("across", "in height"), strict=True):
        if quantity.name in read.before.old:
            before = read.before.old[quantity.name]
            rows.append(
                row(
                    f"before_{quantity.name}",
                    f"Stored before, {label}",
                    f"{figure(before, 1)}″",
                    value=before,
                    unit="arcsec",
                )
            )
    return rows


def worked_of(read: TrackerRead, offsets: list[TrackerOffset], e: Estimate) -> list[CalculationLine]:
    """The calculation line by line, with the figures put in."""
    lines = [
        line("Horizontal: half the difference of the faces", "sin z·[(L auto − L eye) − (R auto − R eye)]/2"),
        line("Vertical: half the sum of the faces", "[(L auto − L eye) + (R auto − R eye)]/2"),
    ]
    for prism, offset in zip(read.prisms, offsets, strict=True):
        lines.append(
            line(
                prism.name.capitalize(),
                f"across {figure(offset.hz, 2)}″, in height {figure(offset.v, 2)}″; alike in both faces {figure(offset.common_hz, 2)}″, {figure(offset.common_v, 2)}″",
            )
        )
    lines.append(line("Standard uncertainty, degrees of freedom", f"{figure(e.sigma, 2)}″, {figure(e.dof, 1)}"))
    return lines


def work_of(document: Tracker, hz: Estimate, v: Estimate) -> list[Effect]:
    """What the error does to the work, at the sights or lengths named."""
    far, words = document.work.sight_m if "sight_m" in document.work.model_fields_set else 100.0, words_of(document)
    aside, high = (words.small(abs(offset.value) / ARCSEC_PER_RADIAN * far) for offset in (hz, v))
    return [
        effect(
            "tracked-point",
            f"A point tracked in one face is off by {aside} sideways and {high} in height at {words.height(far)}.",
        )
    ]


def draw(_document: Tracker, read: TrackerRead, judgement: Judgement | None) -> CirclePicture:
    """Automatic less by eye, face by face: left about tracker offset, right opposite across and alike in height."""
    points = []
    for prism in read.prisms:
        if any(not listed for listed in prism.lists.values()):
            continue
        z = sine(prism.zenith_deg)
        for face, sign in (("left", 1.0), ("right", -1.0)):
            hz, v = (
                mean_direction([p.hz for p in prism.lists["manual", face]]),
                mean([p.v for p in prism.lists["manual", face]]),
            )
            for i, p in enumerate(prism.lists["auto", face]):
                label = f"face {face}" if i == 0 and prism is read.prisms[0] else ""
                points.append((sign * wrapped(p.hz - hz) * 3600 * z, -(p.v - v) * 3600, label, p.path))
    figures = figures_of(judgement, TrackerFigures)
    centre = (figures.tracker_hz_arcsec, -figures.tracker_v_arcsec) if figures else None
    limit = judgement.quantities[0].limits.use if judgement else None
    return circle(
        "arcsec",
        points,
        centre,
        radius=None,
        centre_label="tracker offset",
        radius_label="",
        x="horizontal",
        y="vertical",
        limit=limit,
        view="Where the tracker points relative to the telescope (centre).",
    )
