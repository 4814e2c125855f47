"""What a two-face check says in words: finding, raw figures and halves, effect, calculation, drawing, and while it grows."""

from __future__ import annotations

from math import cos, radians, sin, tan
from typing import Any

from ...engine.conditions import noise_factor
from ...engine.drawing import circle
from ...engine.kind import SheetProgress
from ...engine.parser import ordinal
from ...engine.reports import figures_of
from ...engine.rows import effect, line, row, shown
from ...engine.verdict import JudgedQuantity, Judgement
from ...engine.work import words_of, work_sight_m
from ...geometry import mean, mean_direction, wrapped
from ...results import CalculationLine, CirclePicture, CodedText, Edit, Effect, Fix, Shown
from ...stats.estimate import Estimate
from ...stats.outliers import Moved, Outlier, find_moved, find_outlier
from ...units.angles import ARCSEC_PER_RADIAN
from ...units.formatting import arcsec, capital, count, figure, joined
from ...units.formatting import signed as with_sign
from .document import (
    AXIS,
    CirclePointing,
    ReadPointing,
    SightedTarget,
    TwoFace,
    TwoFaceFigures,
    TwoFaceRead,
    limits_of,
    sine,
    where,
)
from .solve import MIN_STEEPNESS_DEG, TwoFaceSolution, axis_u95


def signed(value: float) -> str:
    """A value in arcsec with its sign, a true minus and the unit."""
    return f"{with_sign(value, 1)}″"


def finding_of(solution: TwoFaceSolution) -> str:
    """One sentence: what is beyond its own ±, and what is not."""
    rows: list[tuple[str, Estimate]] = [("c", solution.collimation), ("i", solution.index)]
    if solution.axis is not None:
        rows.append(("t", solution.axis))
    beyond = [f"{name} {signed(e.value)} ± {arcsec(e.u95, e.u95)}" for name, e in rows if abs(e.value) > e.u95]
    quiet = [f"{name} within {arcsec(e.proved_to, e.proved_to)}" for name, e in rows if abs(e.value) <= e.u95]
    if not beyond:
        return f"No error found: {joined(quiet)}."
    return f"Face left reads too large by {joined(beyond)}" + (f"; {joined(quiet)}." if quiet else ".")


def shown_of(quantities: list[JudgedQuantity], solution: TwoFaceSolution) -> list[Shown]:
    """The figures of the result as rows: what it is, its value, its ±."""
    names = {
        "collimation_arcsec": "Collimation error c",
        "index_arcsec": "Vertical index error i",
        "tilting_axis_arcsec": "Trunnion axis error t",
    }
    rows = [shown(quantity, names[quantity.name], signed(quantity.estimate.value)) for quantity in quantities]
    for face in solution.faces:
        raw = f"2c {signed(face.double_c * sin(radians(face.zenith_deg)))}, 2i {signed(face.index_sum)}"
        rows.append(
            row(
                f"raw_{len(rows)}",
                f"Raw, {face.target.name}: difference of the faces",
                raw,
                value=face.double_c,
                unit="arcsec",
            )
        )
    return rows


def worked_of(solution: TwoFaceSolution) -> list[CalculationLine]:
    """The calculation line by line, with the figures put in."""
    lines = [
        line("Face left minus face right minus 180°", "d = 2c/sin z + 2t·cot z"),
        line("Face left plus face right minus 360°", "V_L + V_R − 360° = 2i"),
    ]
    for face in solution.faces:
        text = f"z {figure(face.zenith_deg, 2)}°: d = {figure(face.double_c, 1)}″, sum − 360° = {figure(face.index_sum, 1)}″"
        lines.append(line(f"{face.target.name}, {len(face.target.left)} left, {len(face.target.right)} right", text))
    if len(solution.faces) == 1:
        face = solution.faces[0]
        lines.append(
            line(
                "Half of it, at its zenith angle",
                f"c = {figure(face.double_c, 1)}·sin z/2 = {figure(solution.collimation.value, 2)}″",
            )
        )
    else:
        t = "" if solution.axis is None else f", t = {figure(solution.axis.value, 2)}″"
        lines.append(line("Least squares over all targets", f"c = {figure(solution.collimation.value, 2)}″{t}"))
    lines.append(line("Half the sum", f"i = {figure(solution.index.value, 2)}″"))
    for name, e in (("c", solution.collimation), ("i", solution.index), ("t", solution.axis)):
        if e is not None:
            lines.append(
                line(
                    f"Standard uncertainty of {name}, degrees of freedom", f"{figure(e.sigma, 2)}″, {figure(e.dof, 1)}"
                )
            )
    return lines


def work_of(document: TwoFace, solution: TwoFaceSolution) -> list[Effect]:
    """The effect of one face alone at the sights of the work."""
    far, steep = work_sight_m(document), min(abs(document.work.elevation_deg), 80.0)
    c, i = abs(solution.collimation.value), abs(solution.index.value)
    words = words_of(document)
    aside, high = (words.small(value / ARCSEC_PER_RADIAN * far, 1) for value in (c, i))
    rows = [
        effect(
            "one-face",
            f"In one face: {aside} sideways and {high} of height at {words.height(far)}. The mean of both faces is free of both.",
        )
    ]
    t = abs(solution.axis.value) if solution.axis else 0.0
    turned = abs(c / cos(radians(steep)) - c) + t * tan(radians(steep))
    if steep > 1:
        rows.append(
            effect(
                "steep-sight",
                f"Between a level sight and one {steep:g}° steep, one face turns by up to {arcsec(turned)} more.",
            )
        )
    return rows


def draw(_document: TwoFace, read: TwoFaceRead, judgement: Judgement | None) -> CirclePicture:
    """Every pointing against the mean of both faces, seconds, as face left reads: left to one side, right opposite."""
    points = []
    for number, sight in enumerate(read.targets, start=1):
        if not sight.left or not sight.right:
            continue
        middle = mean_direction([sight.hz_left_deg, (sight.hz_right_deg + 180.0) % 360.0])
        zenith, across = sight.zenith_deg, sine(sight.zenith_deg)
        for face, listed in (("left", sight.left), ("right", sight.right)):
            for i, p in enumerate(listed):
                hz = p.hz if face == "left" else p.hz + 180.0
                v = p.v if face == "left" else 360.0 - p.v
                label = f"face {face}" if number == 1 and i == 0 else ""
                points.append((wrapped(hz - middle) * 3600 * across, (v - zenith) * 3600, label, p.path))
    figures = figures_of(judgement, TwoFaceFigures)
    centre = (figures.collimation_arcsec, figures.index_arcsec) if figures else None
    limit = judgement.quantities[0].limits.use if judgement else None
    return circle(
        "arcsec", points, centre, radius=None, centre_label="c to the right, i upwards", radius_label="", x="horizontal", y="vertical", limit=limit,
        view="Each pointing minus the mean of both faces.",
    )  # fmt: skip


CIRCLE = ("horizontal", "vertical")
FAR_SPREAD_ARCSEC = 600.0
"""Beyond it a pointing was typed wrongly, and that is stated beside it."""


def progress_of(document: TwoFace, read: TwoFaceRead) -> SheetProgress:
    """What can be said while readings are still to come."""
    reasons: list[CodedText] = []
    sole = [sight for sight in read.targets if sight.left and sight.right]
    if sole and len(sole) < len(read.targets):
        hz = wrapped(sole[0].hz_left_deg - sole[0].hz_right_deg - 180.0) * 3600
        v = (mean([p.v for p in sole[0].left]) + mean([p.v for p in sole[0].right]) - 360.0) * 3600
        reasons.append(
            (
                "running",
                f"{capital(sole[0].name)} so far: 2c {arcsec(hz * sine(sole[0].zenith_deg))}, 2i {arcsec(v)}; half of each is instrument error.",
            )
        )
    groups = _groups(document, read)
    steps = _steps(document, read)
    outlier = find_outlier(groups, steps)
    return SheetProgress(
        [
            *reasons,
            *_axis_ahead(document, read),
            *_spread_grow(read),
            *_moves_grow(read, outlier, find_moved(groups, steps)),
        ],
        _outlier_now(read, outlier),
        _fixes(document, read),
    )


def _axis_ahead(document: TwoFace, read: TwoFaceRead) -> list[CodedText]:
    """Said with the first pointing of a second target: a steepness that will not show the trunnion axis well enough."""
    seen = [sight for sight in read.targets if sight.left or sight.right]
    steep = max(seen, key=lambda sight: abs(90.0 - sight.middle_zenith_deg), default=None)
    if steep is None or len(document.observations.targets) < 2 or len({sight.path for sight in seen}) < 2:
        return []
    away, limit = abs(90.0 - steep.middle_zenith_deg), limits_of(document, AXIS).use
    if away < MIN_STEEPNESS_DEG:
        text = f"Only {figure(away, 0)}° from level: it will not show the trunnion axis. That needs 15° at least."
        return [("not-steep", text)]
    planned = max(len(steep.left), len(steep.right), *(len(target.left) for target in document.observations.targets))
    u = axis_u95(document, steep, planned)
    if u <= limit / 2:
        return []
    text = f"{figure(away, 0)}° steep with {count(planned, 'pointing', 'pointings')} a face: the trunnion axis shows to ± {arcsec(u, u)}, limit {arcsec(limit, 10)}. A faultless one may end as watch; choose a steeper target, or a second one as far the other way."
    return [("steeper-would-show", text)]


def _listed(read: TwoFaceRead) -> list[tuple[SightedTarget, str, list[ReadPointing]]]:
    """Every face of every target with enough pointings to hold them against each other."""
    return [
        (sight, face, pointings)
        for sight in read.targets
        for face, pointings in (("left", sight.left), ("right", sight.right))
        if len(pointings) > 2
    ]


def _groups(document: TwoFace, read: TwoFaceRead) -> list[list[float]]:
    """Their pointings over their own spread: horizontal, then vertical, face by face."""
    groups = []
    for entry, _, pointings in _listed(read):
        spread = entry.within_arcsec(document) * noise_factor(document)
        groups.append([wrapped(p.hz - pointings[0].hz) * 3600 / spread for p in pointings])
        groups.append([(p.v - pointings[0].v) * 3600 / spread for p in pointings])
    return groups


def _steps(document: TwoFace, read: TwoFaceRead) -> list[float]:
    """The last digit of those groups, over their spread."""
    spread = noise_factor(document)
    return [
        pointings[0].step_arcsec / (entry.within_arcsec(document) * spread)
        for entry, _, pointings in _listed(read)
        for _ in range(2)
    ]


def _outlier_now(read: TwoFaceRead, outlier: Outlier | None) -> CodedText | None:
    """A pointing that is an outlier in its face already, before the other face is in."""
    if outlier is None:
        return None
    pointings = _listed(read)[outlier.group // 2][2]
    text = f"Outlier in the {CIRCLE[outlier.group % 2]} circle: check the typing, otherwise point once more here."
    return pointings[outlier.index].path, text


def _moves_grow(read: TwoFaceRead, outlier: Outlier | None, moved: Moved | None) -> list[CodedText]:
    """A face whose later pointings lie elsewhere than its first ones: said while one still stands there."""
    if moved is None or (outlier is not None and outlier.deviation > moved.deviation):
        return []
    entry, face, _ = _listed(read)[moved.group // 2]
    text = f"{capital(entry.name)}, face {face}: from the {ordinal(moved.index)} pointing on the {CIRCLE[moved.group % 2]} circle reads differently. Something moves: check level and tripod feet, then measure this face again."
    return [("moves-so-far", text)]


def _fixes(document: TwoFace, read: TwoFaceRead) -> list[Fix]:
    """Pointings that stand in the wrong face, target by target."""
    found: list[Fix] = []
    for i, target in enumerate(document.observations.targets):
        path = f"observations.targets[{i}]"
        own = [sight for sight in read.targets if sight.path == path]
        by_face = {"left": [p for entry in own for p in entry.left], "right": [p for entry in own for p in entry.right]}
        lists = {"left": target.left, "right": target.right}
        found += sorted_by_face(path, target.name.strip() or where(path), lists, by_face)
    return found


def _spread_grow(read: TwoFaceRead) -> list[CodedText]:
    """How the pointings of the face at hand scatter, from the second on."""
    latest = next((p for sight in reversed(read.targets) for p in (sight.right, sight.left) if len(p) > 1), None)
    if latest is None:
        return []
    hz = [wrapped(p.hz - latest[0].hz) * 3600 for p in latest]
    v = [(p.v - latest[0].v) * 3600 for p in latest]
    if max(max(hz) - min(hz), max(v) - min(v)) > FAR_SPREAD_ARCSEC:
        return []
    text = f"{count(len(latest), 'pointing', 'pointings').capitalize()} of this face: range {arcsec(max(hz) - min(hz))} in the horizontal circle, {arcsec(max(v) - min(v))} in the vertical."
    return [("spread-so-far", text)]


FACES = ("left", "right")


def _face_of(pointing: ReadPointing) -> str:
    return "left" if pointing.v < 180.0 else "right"


def sorted_by_face(
    path: str, name: str, lists: dict[str, list[CirclePointing]], by_face: dict[str, list[ReadPointing]]
) -> list[Fix]:
    """How the pointings of `path`.left and .right would stand in their own faces; nothing where they do already.

    lists: as typed; by_face: those of them that could be read. Rows that could not be read stay where they are.
    """
    wrong = [(face, entry) for face in FACES for entry in by_face[face] if _face_of(entry) != face]
    if not wrong:
        return []
    places = {entry.path: _face_of(entry) for face in FACES for entry in by_face[face]}
    kept: dict[str, list[dict[str, Any]]] = {face: [] for face in FACES}
    for face in FACES:
        for i, list_ in enumerate(lists[face]):
            plain = list_.model_dump(mode="json", exclude_none=True)
            if plain.get("hz") in (None, "") and plain.get("v") in (None, ""):
                continue
            kept[places.get(f"{path}.{face}[{i}]", face)].append(plain)
    whole = len(wrong) == len(by_face["left"]) + len(by_face["right"]) and all(by_face[face] for face in FACES)
    number = count(len(wrong), "pointing", "pointings")
    text = f"{name}: swap the faces." if whole else f"{name}: move {number} to the other face."
    edits = [Edit(path=f"{path}.{face}", value=kept[face] or [{}]) for face in FACES]
    return [Fix(code="swap-faces" if whole else "sort-faces", text=capital(text), edits=edits)]
