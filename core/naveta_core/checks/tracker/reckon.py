"""A tracker against the telescope it sits in.

By face, automatic less by eye: half the faces' difference is the tracker's (across, times sin z), half the sum in the
vertical circle too. What both faces have in common across is no tracker's: bad pointing, or a prism turned away.
"""

from __future__ import annotations

from dataclasses import dataclass
from math import fsum, hypot, sqrt
from typing import Any

from ...angles import ARCSEC_PER_RADIAN
from ...blunders import find_apart, repeats
from ...judgement import Estimate, Limits, pooled
from ...quantiles import t_quantile
from ...readings import Sheet
from ...wording import arcsec, figure
from ..sheet.answer import SoFar
from ..sheet.circumstances import Circumstances, Needs
from ..sheet.directions import FAR_OFF_DEG, mean, mean_direction, wrapped
from ..sheet.entry import Where
from ..sheet.judged import (
    Judged,
    Quantity,
    Said,
    effect,
    limits_from,
    line,
    noise_factor,
    prior_dof,
    repeats_of,
    row,
    shown,
)
from ..sheet.pictures import circle
from ..sheet.stored import Before, read_before, tell_before, tell_proved, words_of
from ..sheet.typed import number
from ..two_face.read import (
    BETWEEN_SHARE,
    DEFAULT_ACCURACY_ARCSEC,
    MARK_MM,
    POINTING_ARCSEC,
    Pointed,
    alike,
    by_rounds,
    pointings_of,
    sine,
    want_in_every_round,
)
from .model import KEPT, Prism, Tracker

Data = dict[str, Any]
HZ, V = "tracker_hz_arcsec", "tracker_v_arcsec"
AUTO_SHARE, AUTO_MM, AUTO_BETWEEN = 0.5, 1.0, 0.3
USUAL_DISTANCE_M = 100.0
ALIKE_PROBABILITY = 0.9975
"""Two figures are looked at: one false alarm in a hundred."""
CAUTIONS: dict[str, tuple[str, ...]] = {
    "before": ("sun", "turns-by-itself", "no-plunge"),
    "reading": ("sun", "turns-by-itself"),
    "adjusting": ("turns-by-itself",),
}
LISTS = tuple((how, face) for how in ("manual", "auto") for face in ("left", "right"))
where = Where(
    {
        "targets": "prism",
        "manual": "by eye",
        "auto": "by the tracker",
        "left": "pointing in face left",
        "right": "pointing in face right",
        "hz": "horizontal circle",
        "v": "vertical circle",
        "distance_m": "distance",
        **words_of(KEPT),
    }
)


@dataclass
class Seen:
    """One prism as far as it was pointed at in one round: lists by (how, face)."""

    path: str
    distance_m: float | None
    lists: dict[tuple[str, str], list[Pointed]]
    round: int = 1

    @property
    def name(self) -> str:
        return where(self.path) if self.round == 1 else f"{where(self.path)}, round {self.round}"

    @property
    def zenith_deg(self) -> float:
        left, right = (mean([p.v for p in self.lists["manual", face]]) for face in ("left", "right"))
        return (left + 360.0 - right) / 2


@dataclass
class Read:
    seen: list[Seen]
    before: Before


def read_document(document: Tracker, sheet: Sheet) -> Read:
    """Every pointing that can be read; faults and what is missing are in the sheet."""
    o, seen = document.observations, []
    for i, target in enumerate(o.targets or [Prism()]):
        path = f"observations.targets[{i}]"
        distance = number(
            sheet, f"{path}.distance_m", where(f"{path}.distance_m"), target.distance_m, "m", 5, 1500, wanted=False
        )
        typed = {f"{path}.{how}.{face}": getattr(getattr(target, how), face) for how, face in LISTS}
        lists = [pointings_of(document, sheet, one, listed, 1, where) for one, listed in typed.items()]
        want_in_every_round(sheet, typed, where)
        far = distance.value if distance else None
        seen += [Seen(path, far, dict(zip(LISTS, of_round, strict=True)), n) for n, of_round in by_rounds(lists)]
    alike(p for one in seen for listed in one.lists.values() for p in listed)
    if not sheet.missing and not sheet.faults:
        for prism in seen:
            _same_prism(sheet, prism)
    return Read(seen, read_before(document, sheet, KEPT, where))


def _same_prism(sheet: Sheet, one: Seen) -> None:
    """By eye and by the tracker the same prism, each face in its own list."""
    for face in ("left", "right"):
        by_eye, by_tracker = one.lists["manual", face], one.lists["auto", face]
        hz = abs(wrapped(mean_direction([p.hz for p in by_tracker]) - mean_direction([p.hz for p in by_eye])))
        v = abs(mean([p.v for p in by_tracker]) - mean([p.v for p in by_eye]))
        if max(hz, v) > FAR_OFF_DEG:
            given = f"{by_eye[0].texts[0]}, {by_eye[0].texts[1]} and {by_tracker[0].texts[0]}, {by_tracker[0].texts[1]}"
            sheet.fault(
                f"{one.path}.auto.{face}",
                f"{one.name}, face {face}",
                given,
                "the same prism by eye and by the tracker: these are half a degree apart or more",
            )
    if not sheet.faults and mean([p.v for p in one.lists["manual", "left"]]) > 180.0:
        sheet.fault(
            one.path,
            one.name,
            "face left above 180°",
            "face left below 180° and face right above: the faces look swapped",
        )


def _spreads(document: Tracker, one: Seen, how: str) -> tuple[float, float]:
    """Variances of one pointing, and common to a face, by eye or by the tracker."""
    s = document.instrument.angle_accuracy_arcsec or DEFAULT_ACCURACY_ARCSEC
    per_mm = ARCSEC_PER_RADIAN / 1000 / (one.distance_m or USUAL_DISTANCE_M)
    if how == "auto":
        within, between = hypot(AUTO_SHARE * s, AUTO_MM * per_mm), AUTO_BETWEEN * s
    else:
        eye = POINTING_ARCSEC / (document.instrument.magnification or 30.0)
        within, between = sqrt(s**2 + eye**2 + (MARK_MM["prism"] * per_mm) ** 2), BETWEEN_SHARE * s
    step = max(p.step_arcsec for face in ("left", "right") for p in one.lists[how, face])
    return (within * noise_factor(document)) ** 2 + step**2 / 12, between**2


def groups_of(document: Tracker, seen: list[Seen]) -> list[list[float]]:
    """Pointings over their own spread: prism by prism, list by list, Hz then V."""
    groups = []
    for one in seen:
        for how, face in LISTS:
            listed, spread = one.lists[how, face], sqrt(_spreads(document, one, how)[0])
            groups.append([wrapped(p.hz - listed[0].hz) * 3600 / spread for p in listed])
            groups.append([(p.v - listed[0].v) * 3600 / spread for p in listed])
    return groups


@dataclass(frozen=True, slots=True)
class Offset:
    """What the tracker is out by, and what both faces have in common, seconds; variances of either."""

    hz: float
    v: float
    common_hz: float
    common_v: float
    q_within: float
    q_between: float


def offset_of(document: Tracker, one: Seen) -> Offset:
    """The equations above for one prism."""
    z = sine(one.zenith_deg)
    d_hz, d_v = {}, {}
    for face in ("left", "right"):
        by_eye, by_tracker = one.lists["manual", face], one.lists["auto", face]
        d_hz[face] = (
            wrapped(mean_direction([p.hz for p in by_tracker]) - mean_direction([p.hz for p in by_eye])) * 3600 * z
        )
        d_v[face] = (mean([p.v for p in by_tracker]) - mean([p.v for p in by_eye])) * 3600
    q_w = q_b = 0.0
    for how, face in LISTS:
        within, between = _spreads(document, one, how)
        q_w += within / len(one.lists[how, face]) / 4
        q_b += between / 4
    return Offset(
        (d_hz["left"] - d_hz["right"]) / 2,
        (d_v["left"] + d_v["right"]) / 2,
        (d_hz["left"] + d_hz["right"]) / 2,
        (d_v["left"] - d_v["right"]) / 2,
        q_w,
        q_b,
    )


def needs(_document: Tracker) -> Needs:
    return Needs(minutes_on=3.0, firm_stand=True, temperature=True)


def judge(document: Tracker, read: Read, _told: Circumstances) -> Judged:
    """The mean over all prisms against the limit; what both faces share is at fault, not the tracker."""
    offsets = [offset_of(document, one) for one in read.seen]
    n = len(offsets)
    groups = groups_of(document, read.seen)
    spread = repeats(groups)
    q_w, q_b = fsum(o.q_within for o in offsets) / n**2, fsum(o.q_between for o in offsets) / n**2
    dof = prior_dof(document)

    def estimate(values: list[float]) -> Estimate:
        return pooled(fsum(values) / n, q_w, q_b, spread, dof)

    hz, v = estimate([o.hz for o in offsets]), estimate([o.v for o in offsets])
    s = document.instrument.angle_accuracy_arcsec or DEFAULT_ACCURACY_ARCSEC
    opening = Limits(max(5.0, 2 * s), max(5.0, 2 * s), 60.0, f"opening value for angles of {s:g}″")
    turn = "Run the instrument's own tracker calibration on a clean prism about 100 m away, store; then a second round, as left."
    quantities = [
        Quantity(
            name,
            f"the tracker {word}",
            "arcsec",
            e,
            limits_from(document, name, opening),
            q_w,
            q_b,
            turn=turn,
            beyond="what can be stored",
        )
        for name, word, e in ((HZ, "across", hz), (V, "in height", v))
    ]
    judged = Judged(
        quantities,
        {
            HZ: hz.value,
            V: v.value,
            f"sigma_{HZ}": hz.sigma,
            f"sigma_{V}": v.sigma,
            "common_hz_arcsec": fsum(o.common_hz for o in offsets) / n,
            "common_v_arcsec": fsum(o.common_v for o in offsets) / n,
            "repeats": repeats_of(spread),
        },
        _finding(hz, v),
        _shown(quantities, read),
        _worked(read, offsets, hz),
        _work(document, hz, v),
        spread,
        one_more=("round of pointings", "rounds of pointings"),
        again="Take it once more, three pointings a face, before anything is stored. Both count together.",
    )
    judged.refused += _shared(offsets, estimate) + _apart(read, groups)
    judged.reasons += _ground(document)
    tell_before(judged, document, read.before, KEPT)
    tell_proved(judged, document, KEPT)
    return judged


def _shared(offsets: list[Offset], estimate: Any) -> list[Said]:
    """What both faces have in common is no tracker's."""
    for values in ([o.common_hz for o in offsets], [o.common_v for o in offsets]):
        e = estimate(values)
        if abs(e.value) > t_quantile(ALIKE_PROBABILITY, e.dof) * e.sigma:
            return [
                (
                    "both-faces-alike",
                    f"By eye and by the tracker differ by {arcsec(abs(e.value), e.u95)} alike in both faces: that is no tracker's. Point again by eye; is the prism clean and turned to you?",
                )
            ]
    return []


def _apart(read: Read, groups: list[list[float]]) -> list[Said]:
    found = find_apart(groups)
    if found is None:
        return []
    how, face = LISTS[found.group % 8 // 2]
    called = f"{read.seen[found.group // 8].name}, {'by eye' if how == 'manual' else 'by the tracker'}, face {face}"
    if found.sole_pair:
        return [
            ("readings-differ", f"The two pointings of {called} differ by more than pointing explains: take a third.")
        ]
    point = read.seen[found.group // 8].lists[how, face][found.index]
    return [("stands-apart", f"{point.texts[found.group % 2]} ({called}) does not fit its fellows: point again there.")]


def _ground(document: Tracker) -> list[Said]:
    if document.conditions.ground in ("asphalt", "concrete", "stone"):
        return [
            ("shimmer", "Over hard ground in the sun the air shimmers: a cool or cloudy hour, over grass, tells more.")
        ]
    return []


def _finding(hz: Estimate, v: Estimate) -> str:
    parts = [
        f"{arcsec(abs(e.value), e.u95)} {plus if e.value > 0 else minus}"
        for e, plus, minus in ((hz, "right", "left"), (v, "low", "high"))
        if abs(e.value) > e.u95
    ]
    u = max(hz.u95, v.u95)
    if not parts:
        worst = max(hz.proved_to, v.proved_to)
        return f"No error shown: the tracker points where the telescope does, proved within {arcsec(worst, worst)}."
    return f"Tracked, a prism reads {' and '.join(parts)} of where the eye points, ± {arcsec(u, u)}."


def _shown(quantities: list[Quantity], read: Read) -> list[Data]:
    rows = [
        shown(quantities[0], "Tracker across, right is plus"),
        shown(quantities[1], "Tracker in height, low is plus"),
    ]
    for one, label in zip(quantities, ("across", "in height"), strict=True):
        if one.name in read.before.old:
            before = read.before.old[one.name]
            rows.append(row(f"before_{one.name}", f"Stored before, {label}", f"{figure(before, 1)}″", before, "arcsec"))
    return rows


def _worked(read: Read, offsets: list[Offset], e: Estimate) -> list[Data]:
    lines = [
        line("Across: half the faces' difference", "sin z·[(L auto − L eye) − (R auto − R eye)]/2"),
        line("In height: half the faces' sum", "[(L auto − L eye) + (R auto − R eye)]/2"),
    ]
    for prism, one in zip(read.seen, offsets, strict=True):
        lines.append(
            line(
                prism.name.capitalize(),
                f"across {figure(one.hz, 2)}″, in height {figure(one.v, 2)}″; alike in both faces {figure(one.common_hz, 2)}″, {figure(one.common_v, 2)}″",
            )
        )
    lines.append(line("Standard uncertainty, degrees of freedom", f"{figure(e.sigma, 2)}″, {figure(e.dof, 1)}"))
    return lines


def _work(document: Tracker, hz: Estimate, v: Estimate) -> list[Data]:
    far = document.work.sight_m if "sight_m" in document.work.model_fields_set else 100.0
    per = far / ARCSEC_PER_RADIAN * 1000
    return [
        effect(
            "tracked-point",
            f"A point tracked in one face lies {figure(abs(hz.value) * per, 1)} mm aside and {figure(abs(v.value) * per, 1)} mm in height at {far:g} m.",
        )
    ]


def drawn(_document: Tracker, read: Read, judged: Judged | None) -> Data | None:
    """Automatic less by eye, face by face: left about the tracker's offset, right opposite across and alike in height."""
    points = []
    for one in read.seen:
        if any(not listed for listed in one.lists.values()):
            continue
        z = sine(one.zenith_deg)
        for face, sign in (("left", 1.0), ("right", -1.0)):
            hz, v = (
                mean_direction([p.hz for p in one.lists["manual", face]]),
                mean([p.v for p in one.lists["manual", face]]),
            )
            for i, p in enumerate(one.lists["auto", face]):
                label = f"face {face}" if i == 0 and one is read.seen[0] else ""
                points.append((sign * wrapped(p.hz - hz) * 3600 * z, -(p.v - v) * 3600, label, p.path))
    centre = (judged.figures[HZ], -judged.figures[V]) if judged else None
    limit = judged.quantities[0].limits.use if judged else None
    return circle(
        "arcsec", points, centre, None, "the tracker's offset", "", x="horizontal", y="vertical", limit=limit,
        seen="Where the tracker points, the telescope in the middle.",
    )  # fmt: skip


def so_far(document: Tracker, _read: Read) -> SoFar:
    return SoFar(_ground(document))
