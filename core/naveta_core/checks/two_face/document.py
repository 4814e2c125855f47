"""A two-face check as it is typed: targets pointed at in both faces, a closing sight; and what is wrong with the whole."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import KW_ONLY, dataclass, field
from functools import cached_property
from itertools import pairwise
from math import fsum, hypot, radians, sin
from statistics import median
from typing import Annotated, Literal

from pydantic import Field as Bounds

from ...documents.envelope import CheckDocument, Envelope, Part, Typed
from ...engine.at_best import Faultless
from ...engine.directions import FAR_OFF_DEG
from ...engine.fields import Angle, Choice, Length, Option, Rows, Text, where_of
from ...engine.limits import limits_from
from ...engine.parser import Range, blank
from ...engine.reader import Reader, Row
from ...engine.repeats import Repeated
from ...engine.storing import Before, StoredField, StoredValue, Stores, read_before
from ...geometry import mean, mean_direction, wrapped
from ...results import Answer, Figures, Repeats
from ...stats.decision import Limits
from ...units.angles import ARCSEC_PER_RADIAN
from ...units.formatting import capital
from ...units.numbers import SEXAGESIMAL, finest, shown_step

TargetType = Literal["plate", "sticker", "prism", "round-about-prism", "nail", "pole", "edge", "unknown"]
COLLIMATION, INDEX, AXIS = "collimation_arcsec", "index_arcsec", "tilting_axis_arcsec"
DISTANCE = Range(2.0, 3000.0, "a distance to the target")
STORED_FIGURES = (
    StoredValue(COLLIMATION, "before_collimation_arcsec", "c"),
    StoredValue(INDEX, "before_index_arcsec", "i"),
    StoredValue(AXIS, "before_tilting_axis_arcsec", "t"),
)
DEFAULT_ACCURACY_ARCSEC = 5.0
POINTING_ARCSEC = 30.0
"""A telescope of magnification M points to 30″/M."""
TARGET_MM = {
    "plate": 0.2,
    "sticker": 0.3,
    "prism": 0.5,
    "round-about-prism": 2.0,
    "nail": 0.5,
    "pole": 0.5,
    "edge": 1.0,
    "unknown": 0.5,
}
USUAL_DISTANCE_M = 60.0
BETWEEN_SHARE = 0.4
GON_SUM, GON_WITHIN = 400.0, 2.0
MIN_ZENITH_DEG = 3.0
TARGET_TYPES = (
    Option("plate", "Target plate"),
    Option("sticker", "Sticker"),
    Option("prism", "Prism, by eye"),
    Option("edge", "Edge, spire"),
)


class CirclePointing(Repeated):
    """Both circles at one pointing, in the document's angle unit."""

    hz: Annotated[Typed | None, Angle("Horizontal", "horizontal circle", quantity="hz")] = None
    v: Annotated[Typed | None, Angle("Zenith angle", "vertical circle", quantity="v")] = None


class FaceTarget(Part):
    """One target, seen in face left and in face right."""

    name: Annotated[str, Bounds(max_length=40), Text("Name")] = ""
    distance_m: Annotated[Typed | None, Length("Distance", DISTANCE, optional=True, quantity="distance")] = None
    target_type: Annotated[
        TargetType | None, Choice("Target type", *TARGET_TYPES, words="target type", optional=True)
    ] = None
    left: Annotated[
        list[CirclePointing], Rows("pointing in face left", 20, 1, "One more pointing", branch=("face", "left"))
    ] = []
    right: Annotated[
        list[CirclePointing], Rows("pointing in face right", 20, 1, "One more pointing", branch=("face", "right"))
    ] = []


class TwoFaceObservations(Stores):
    """Targets in the order in which they were first sighted; a closing sight of the first, face left."""

    before_collimation_arcsec: Annotated[Typed | None, StoredField("c")] = None
    before_index_arcsec: Annotated[Typed | None, StoredField("i")] = None
    before_tilting_axis_arcsec: Annotated[Typed | None, StoredField("t")] = None
    targets: Annotated[list[FaceTarget], Rows("target", 6, 1, number="target")] = []
    closing: Annotated[
        list[CirclePointing], Rows("closing pointing", 10, 0, "One more pointing", branch=("face", "closing"))
    ] = []


class TwoFace(CheckDocument):
    """Horizontal collimation, vertical index and, with a steep target, the trunnion axis."""

    kind: Literal["two-face"]
    observations: TwoFaceObservations


class FaceDifference(Answer):
    """What the faces of a target differ by."""

    name: str
    zenith_deg: float
    double_collimation_arcsec: float
    index_sum_arcsec: float


class TwoFaceFigures(Figures):
    """c, i and, where it was determined, t."""

    collimation_arcsec: float
    index_arcsec: float
    tilting_axis_arcsec: float | None
    sigma_collimation_arcsec: float
    sigma_index_arcsec: float
    sigma_tilting_axis_arcsec: float | None
    targets: list[FaceDifference]
    repeats: Repeats


where = where_of(TwoFaceObservations, found="found before")


@dataclass(slots=True)
class ReadPointing:
    """One pointing, degrees as read, and the worth of the last digit in seconds: the finest of the sheet."""

    path: str
    hz: float
    v: float
    _: KW_ONLY
    step_arcsec: float
    texts: tuple[str, str]
    repeat: int = 1


@dataclass
class SightedTarget:
    """One target as far as it was seen in one round: the circle may lie otherwise in the next."""

    path: str
    name: str
    distance_m: float | None
    _: KW_ONLY
    target_type: str
    left: list[ReadPointing]
    right: list[ReadPointing]
    repeat: int = 1

    @cached_property
    def hz_left_deg(self) -> float:
        """The horizontal circle in face left: the mean of the pointings."""
        return mean_direction([p.hz for p in self.left])

    @cached_property
    def hz_right_deg(self) -> float:
        """The same in face right, half a turn away."""
        return mean_direction([p.hz for p in self.right])

    @cached_property
    def zenith_deg(self) -> float:
        """The target's zenith angle, the faces' mean; the index falls out."""
        return (mean([p.v for p in self.left]) + 360.0 - mean([p.v for p in self.right])) / 2

    @property
    def middle_zenith_deg(self) -> float:
        """The zenith angle as far as it was sighted: of both faces, or of the one at hand."""
        if self.left and self.right:
            return self.zenith_deg
        return mean([p.v for p in self.left]) if self.left else 360.0 - mean([p.v for p in self.right])

    def within_arcsec(self, document: TwoFace) -> float:
        """Spread of one pointing: circle, eye, target at its distance."""
        s = accuracy(document)
        eye = POINTING_ARCSEC / (document.instrument.magnification or 30.0)
        width = TARGET_MM[self.target_type] / 1000 / (self.distance_m or USUAL_DISTANCE_M) * ARCSEC_PER_RADIAN
        return hypot(s, eye, width)


@dataclass
class TwoFaceRead:
    """Marks, the closing sight, what was stored before."""

    targets: list[SightedTarget]
    closing: list[ReadPointing]
    before: Before = field(default_factory=Before)


def accuracy(document: Envelope) -> float:
    """Stated standard deviation of a direction, seconds; the default where none is stated."""
    return document.instrument.angle_accuracy_arcsec or DEFAULT_ACCURACY_ARCSEC


def read_document(document: TwoFace, reader: Reader) -> TwoFaceRead:
    """Every pointing that can be read; faults and what is missing are in the reader."""
    o = document.observations
    targets = []
    for i, target in enumerate(o.targets or [FaceTarget()]):
        path = f"observations.targets[{i}]"
        distance = reader.figure(target, "distance_m", path)
        lists = [pointings_of(reader, target, face, path) for face in ("left", "right")]
        want_in_every_repeat(reader, {f"{path}.{face}": getattr(target, face) for face in ("left", "right")})
        name, far = target.name.strip() or where(path), distance.value if distance else None
        for n, (left, right) in by_repeats(lists):
            called = name if n == 1 else f"{name}, repeat {n}"
            targets.append(
                SightedTarget(
                    path, called, far, target_type=target.target_type or "unknown", left=left, right=right, repeat=n
                )
            )
    closing = pointings_of(reader, o, "closing", "observations")
    alike([*closing, *(p for entry in targets for p in (*entry.left, *entry.right))])
    targets.sort(key=lambda entry: entry.repeat)
    if not reader.missing and not reader.faults:
        for entry in targets:
            _plausible(document, reader, entry)
        _same_sense(reader, targets)
    return TwoFaceRead(targets, closing, read_before(document, reader, STORED_FIGURES))


def pointings_of(reader: Reader, holder: Part, name: str, base: str) -> list[ReadPointing]:
    """Pointings of one list, both circles in degrees."""
    return [_pointing(row) for row in reader.rows(holder, name, base)]


def _pointing(row: Row) -> ReadPointing:
    hz, v = row.figures["hz"], row.figures["v"]
    texts = row.text("hz"), row.text("v")
    return ReadPointing(
        row.path,
        hz.value % 360.0,
        v.value % 360.0,
        step_arcsec=finest((hz.step, v.step)) * 3600,
        texts=texts,
        repeat=row.repeat,
    )


def alike(pointings: Iterable[ReadPointing]) -> None:
    """Give every pointing the finest last digit of the sheet: a zero dropped at the end is no coarser reading."""
    listed = list(pointings)
    step = finest(entry.step_arcsec for entry in listed)
    step = shown_step([value * 3600 for entry in listed for value in (entry.hz, entry.v)], step, SEXAGESIMAL)
    for entry in listed:
        entry.step_arcsec = step


def want_in_every_repeat(reader: Reader, lists: dict[str, list[CirclePointing]]) -> None:
    """Note what is missing where a repeat was begun in one list and not in another."""
    begun = {
        path: {pointing.repeat or 1 for pointing in listed if not blank(pointing.hz, pointing.v)}
        for path, listed in lists.items()
    }
    all_begun = set[int]().union(*begun.values())
    for path, listed in lists.items():
        for n in sorted(all_begun - begun[path]):
            at = next((i for i, entry in enumerate(listed) if (entry.repeat or 1) == n), len(listed))
            for name in ("hz", "v"):
                reader.missing_at(f"{path}[{at}].{name}")


def by_repeats(lists: list[list[ReadPointing]]) -> list[tuple[int, list[list[ReadPointing]]]]:
    """The lists of one target, repeat by repeat."""
    repeats = sorted({entry.repeat for listed in lists for entry in listed} or {1})
    return [(n, [[entry for entry in listed if entry.repeat == n] for listed in lists]) for n in repeats]


def _plausible(document: TwoFace, reader: Reader, target: SightedTarget) -> None:
    """Faces swapped, elevations for zenith angles, gon for degrees, another target, a circle that turned along."""
    # By the middle one of each face: a single mistyped pointing is then named on its own, not as a wrong target.
    v_left, v_right = median(p.v for p in target.left), median(p.v for p in target.right)
    given = f"{target.left[0].texts[1]} and {target.right[0].texts[1]}"
    circles = f"{target.name}, vertical circles"
    if abs(v_left + v_right - 360.0) > FAR_OFF_DEG:
        reader.fault(target.path, circles, given, _wanted_of_verticals(document, target, v_left, v_right))
    elif v_left > 180.0:
        wanted = "face left below 180° and face right above: are the faces swapped?"
        reader.fault(target.path, f"{target.name}, the faces", given, wanted)
    elif not MIN_ZENITH_DEG < target.zenith_deg < 180.0 - MIN_ZENITH_DEG:
        reader.fault(target.path, circles, given, "a target that is not straight up or down")
    else:
        _half_a_turn(reader, target)


def _wanted_of_verticals(document: TwoFace, target: SightedTarget, v_left: float, v_right: float) -> str:
    """What is wanted instead of vertical circles that do not sum to 360°."""
    plain = [_plain(p.texts[1]) for p in (target.left[0], target.right[0])]
    if document.units.angle != "gon" and abs(fsum(plain) - GON_SUM) < GON_WITHIN:
        return "degrees; these sum to 400: are they gon? Change the unit"
    alike = abs(v_left + v_right - 180.0) < FAR_OFF_DEG or abs(wrapped(v_left - v_right)) < FAR_OFF_DEG
    if (v_left < 90 and v_right < 90) or alike:
        return "zenith angles: 0 straight up, 90 level, face right 360 less it"
    return f"two that sum to 360°: these sum to {v_left + v_right:.3f}°. A whole degree or minute mistyped?"


def _half_a_turn(reader: Reader, entry: SightedTarget) -> None:
    """A fault where the horizontal circles of the two faces do not differ by half a turn."""
    first = entry.left[0].hz
    left = median(wrapped(p.hz - first) for p in entry.left)
    hz = wrapped(left - median(wrapped(p.hz - first - 180.0) for p in entry.right) - 180.0)
    if abs(abs(hz) - 180.0) <= FAR_OFF_DEG:
        return
    circles = f"{entry.left[0].texts[0]} and {entry.right[0].texts[0]}"
    alike = (
        "; these are equal: was the circle held, or the telescope not turned over?"
        if abs(hz) < FAR_OFF_DEG
        else f"; these differ by {abs(hz):.3f}°: the same target, circle not touched?"
    )
    reader.fault(entry.path, f"{entry.name}, horizontal circles", circles, "two that differ by 180°" + alike)


def _same_sense(reader: Reader, targets: list[SightedTarget]) -> None:
    """Whether from target to target both faces turn the same way."""
    for first, second in pairwise(targets):
        if reader.faults or first.repeat != second.repeat:
            continue
        left = wrapped(second.hz_left_deg - first.hz_left_deg)
        right = wrapped(second.hz_right_deg - first.hz_right_deg)
        if abs(left - right) > FAR_OFF_DEG and abs(left + right) < FAR_OFF_DEG:
            reader.fault(
                "observations.targets",
                "the horizontal circles",
                f"{left:.2f}° and {right:.2f}° from target to target",
                "the same turn in both faces: one counts in the other direction",
            )


def _plain(text: str) -> float:
    try:
        return float(text.replace(",", "."))
    except ValueError:
        return 0.0


def sine(zenith_deg: float) -> float:
    """Sine of a zenith angle in degrees."""
    return sin(radians(zenith_deg))


FAULTLESS_FACES = Faultless(
    (
        ("*left.*.hz", "30.0007"),
        ("*left.*.v", "90.0003"),
        ("*right.*.hz", "210.0007"),
        ("*right.*.v", "269.5957"),
        ("closing.*.hz", "30.0007"),
        ("closing.*.v", "90.0003"),
    )
)
"""Circle readings of a faultless instrument on a level target, in both faces."""


def limits_of(document: Envelope, name: str) -> Limits:
    """The limits of one of its errors that apply, and where they come from; of the document only what is known of the
    instrument and the work."""
    s = accuracy(document)
    optical = document.instrument.kind == "theodolite" and document.instrument.reading == "optical"
    both = document.work.both_faces
    if name == AXIS:
        use, most, share = max(10.0, 3 * s), 60.0, 2.0
        watch = share * use if both else use
    else:
        use, most = max(10.0 if optical else 5.0, 2 * s), 180.0
        watch = max(use, 4 * s) if both else use
    # What the instrument can store is what can be adjusted; where that is not stated, what they usually store.
    most = max(watch, document.instrument.storable_arcsec or most)
    work = "for work in both faces" if both else "for work in one face"
    why = f"default limit for angles of {s:g}″, {work}; stated accuracy is scatter, not a limit"
    limits = limits_from(document, name, Limits(use, watch, most, why))
    return _raw(limits, name) if document.instrument.judged_raw and name != AXIS else limits


def _raw(limits: Limits, name: str) -> Limits:
    """A firm that judges 2c and 2i: half of the figure is judged, so half of its limit."""
    twice = "2c" if name == COLLIMATION else "2i"
    why = f"your firm limits the raw {twice} to {limits.use:g}″, half of that for the error. {capital(limits.source)}"
    return Limits(limits.use / 2, limits.watch / 2, limits.adjust, why)
