"""An angle accuracy test as it is typed: series of sets, each set all targets in face left and back in face right."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Literal

from pydantic import Field as Bounds

from ...documents.envelope import CheckDocument, Part, Typed
from ...engine.directions import FAR_OFF_DEG, Shot, faces_agree
from ...engine.fields import Angle, Choice, Option, Rows, Text, where_of
from ...engine.parser import blank
from ...engine.reader import Reader
from ...results import Figures, Repeats

MAIN = "direction_sigma_arcsec"
SERIES = {"simplified": 1, "full": 4}
SETS = 3
TARGET_COUNTS = {
    ("horizontal", "simplified"): 4,
    ("horizontal", "full"): 5,
    ("vertical", "simplified"): 4,
    ("vertical", "full"): 4,
}


class AccuracyReading(Part):
    """One circle reading at a target."""

    target: Annotated[str, Bounds(max_length=12), Text("Target", prefilled=True)] = ""
    reading: Annotated[Typed | None, Angle("Circle")] = None


class FaceSet(Part):
    """All targets once in each face."""

    left: Annotated[list[AccuracyReading], Rows("reading in face left", 8, branch=("face", "left"))] = []
    right: Annotated[list[AccuracyReading], Rows("reading in face right", 8, branch=("face", "right"))] = []


class SetSeries(Part):
    """Three sets, one after the other."""

    sets: Annotated[list[FaceSet], Rows("set", 4, 1, number="set")] = []


class DirectionAccuracyObservations(Part):
    """Which circle, which procedure, and its series: one for simplified, four for full."""

    circle: Annotated[
        Literal["horizontal", "vertical"],
        Choice("Circle", Option("horizontal", "Horizontal"), Option("vertical", "Vertical")),
    ] = "horizontal"
    procedure: Annotated[
        Literal["simplified", "full"], Choice("Procedure", Option("simplified", "Simplified"), Option("full", "Full"))
    ] = "simplified"
    series: Annotated[list[SetSeries], Rows("series", 4, 1, number="series")] = []


class DirectionAccuracy(CheckDocument):
    """What an instrument, its stand and those who use it reach in directions or zenith angles."""

    kind: Literal["direction-accuracy"]
    observations: DirectionAccuracyObservations


class DirectionAccuracyFigures(Figures):
    """The standard deviation of one direction or zenith angle in both faces, and what falls out beside it."""

    direction_sigma_arcsec: float
    sigma_direction_sigma_arcsec: float
    degrees_of_freedom: int
    circle: str
    series_sigma_arcsec: list[float]
    collimation_arcsec: float | None
    index_arcsec: float | None
    repeats: Repeats


where = where_of(DirectionAccuracyObservations, reading="")


@dataclass(frozen=True, slots=True)
class AccuracySet:
    """A set: every target in both faces, in one order of targets."""

    series: int
    number: int
    left: dict[str, Shot]
    right: dict[str, Shot]

    @property
    def targets(self) -> list[str]:
        """The targets of the set, in the order of face left."""
        return [name for name in self.left if name in self.right]


@dataclass
class AccuracyRead:
    """Series of sets as read, circles in degrees."""

    series: list[list[AccuracySet]]


def marks_of(document: DirectionAccuracy) -> int:
    """How many targets the procedure needs."""
    o = document.observations
    return TARGET_COUNTS[o.circle, o.procedure]


def read_document(document: DirectionAccuracy, reader: Reader) -> AccuracyRead:
    """Every reading; faults and what is missing are in the reader."""
    o = document.observations
    series = []
    for i in range(max(len(o.series), SERIES[o.procedure])):
        sets = []
        held = o.series[i].sets if i < len(o.series) else []
        for j in range(max(len(held), SETS)):
            path = f"observations.series[{i}].sets[{j}]"
            face_set = held[j] if j < len(held) else FaceSet()
            left, right = (_face(document, reader, face_set, face, path) for face in ("left", "right"))
            sets.append(AccuracySet(i, j, left, right))
        series.append(sets)
    read = AccuracyRead(series)
    if not reader.missing and not reader.faults:
        _fitting(document, reader, read)
    return read


def _face(document: DirectionAccuracy, reader: Reader, item: FaceSet, face: str, base: str) -> dict[str, Shot]:
    found: dict[str, Shot] = {}
    listed: list[AccuracyReading] = getattr(item, face)
    names = [entry.target.strip() or str(i + 1) for i, entry in enumerate(listed)]
    rows = {row.index: row for row in reader.rows(item, face, base, fewest=marks_of(document))}
    for i, entry in enumerate(listed):
        path = f"{base}.{face}[{i}]"
        if i >= marks_of(document) and blank(entry.reading):
            continue
        if names[i] in names[:i]:
            reader.fault(f"{path}.target", where(path), names[i], "each target once in a face")
        elif i in rows:
            row, value = rows[i], rows[i]["reading"] % 360.0
            found[names[i]] = Shot(f"{path}.reading", names[i], value, row.step("reading") * 3600, row.text("reading"))
    return found


def _fitting(document: DirectionAccuracy, reader: Reader, read: AccuracyRead) -> None:
    """The same targets in every face and set; both faces of each half a turn apart, or summing to a whole one."""
    for sets in read.series:
        names = set(sets[0].left)
        for set_ in sets:
            path = f"observations.series[{set_.series}].sets[{set_.number}]"
            for face, shots in (("left", set_.left), ("right", set_.right)):
                if set(shots) != names:
                    given, wanted = (
                        ", ".join(sorted(shots)),
                        "the targets of the first set: " + ", ".join(sorted(names)),
                    )
                    reader.fault(f"{path}.{face}", f"{where(path)}, face {face}", f"targets {given}", wanted)
                    return
            for name in set_.targets:
                what = f"{where(path)}, target {name}"
                if document.observations.circle == "horizontal":
                    faces_agree(reader, what, set_.left[name], set_.right[name])
                else:
                    _zenith(reader, what, set_.left[name], set_.right[name])


def _zenith(reader: Reader, what: str, left: Shot, right: Shot) -> None:
    total = left.value + right.value
    if left.value > 180.0 > right.value and abs(total - 360.0) <= FAR_OFF_DEG:
        reader.fault(left.path, what, f"{left.text} and {right.text}", "face left below 180°: are the faces swapped?")
    elif abs(total - 360.0) > FAR_OFF_DEG:
        reader.fault(
            right.path, what, f"{left.text} and {right.text}",
            f"zenith angles that sum to 360°; these sum to {total:.3f}°. Elevations, gon, or a whole degree mistyped?",
        )  # fmt: skip
