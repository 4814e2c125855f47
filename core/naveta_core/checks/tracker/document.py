"""A check of target tracking as it is typed: the same prism pointed at by eye and by tracker, in both faces."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Literal

from pydantic import Field as Bounds

from ...documents.envelope import CheckDocument, Part, Typed
from ...engine.directions import FAR_OFF_DEG
from ...engine.fields import Branch, Length, Rows, Text, where_of
from ...engine.parser import Range
from ...engine.reader import Reader
from ...engine.storing import Before, StoredField, StoredValue, Stores, read_before
from ...geometry import mean, mean_direction, wrapped
from ...results import Figures, Repeats
from ..two_face.document import CirclePointing, ReadPointing, alike, by_repeats, pointings_of, want_in_every_repeat

HZ, V = "tracker_hz_arcsec", "tracker_v_arcsec"
DISTANCE = Range(5.0, 1500.0, "a distance to the prism")
STORED_FIGURES = (
    StoredValue("tracker_hz_arcsec", "before_hz_arcsec", "across"),
    StoredValue("tracker_v_arcsec", "before_v_arcsec", "in height"),
)
LISTS = tuple((how, face) for how in ("manual", "auto") for face in ("left", "right"))


class FacePointings(Part):
    """Pointings in face left and in face right."""

    left: Annotated[
        list[CirclePointing], Rows("pointing in face left", 20, 1, "One more pointing", branch=("face", "left"))
    ] = []
    right: Annotated[
        list[CirclePointing], Rows("pointing in face right", 20, 1, "One more pointing", branch=("face", "right"))
    ] = []


class TrackedPrism(Part):
    """One prism, by eye and by tracker."""

    name: Annotated[str, Bounds(max_length=40), Text("Name", column=None)] = ""
    distance_m: Annotated[Typed | None, Length("Distance", DISTANCE, optional=True, quantity="distance")] = None
    manual: Annotated[FacePointings, Branch("how", "manual", "by eye")] = FacePointings()
    auto: Annotated[FacePointings, Branch("how", "auto", "by tracker")] = FacePointings()


class TrackerObservations(Stores):
    """Prisms, and the tracker's stored values where they were noted."""

    before_hz_arcsec: Annotated[Typed | None, StoredField("across")] = None
    before_v_arcsec: Annotated[Typed | None, StoredField("in height")] = None
    targets: Annotated[list[TrackedPrism], Rows("prism", 4, 1, number="target")] = []


class Tracker(CheckDocument):
    """A tracker's offset from the telescope's line of prism."""

    kind: Literal["tracker"]
    observations: TrackerObservations


class TrackerFigures(Figures):
    """The tracker's offset across and in height, and what both faces have in common."""

    tracker_hz_arcsec: float
    tracker_v_arcsec: float
    sigma_tracker_hz_arcsec: float
    sigma_tracker_v_arcsec: float
    common_hz_arcsec: float
    common_v_arcsec: float
    repeats: Repeats


where = where_of(TrackerObservations, found="found before")


@dataclass
class SightedPrism:
    """One prism as far as it was pointed at in one round: lists by (how, face)."""

    path: str
    distance_m: float | None
    lists: dict[tuple[str, str], list[ReadPointing]]
    repeat: int = 1

    @property
    def name(self) -> str:
        """What the prism is called in a sentence."""
        return where(self.path) if self.repeat == 1 else f"{where(self.path)}, repeat {self.repeat}"

    @property
    def zenith_deg(self) -> float:
        """The zenith angle of the prism, both faces by eye, degrees."""
        left, right = (mean([p.v for p in self.lists["manual", face]]) for face in ("left", "right"))
        return (left + 360.0 - right) / 2


@dataclass
class TrackerRead:
    """Prisms pointed at by eye and automatically, circles in degrees."""

    prisms: list[SightedPrism]
    before: Before


def read_document(document: Tracker, reader: Reader) -> TrackerRead:
    """Every pointing that can be read; faults and what is missing are in the reader."""
    o, seen = document.observations, []
    for i, target in enumerate(o.targets or [TrackedPrism()]):
        path = f"observations.targets[{i}]"
        distance = reader.figure(target, "distance_m", path)
        lists = [pointings_of(reader, getattr(target, how), face, f"{path}.{how}") for how, face in LISTS]
        typed = {f"{path}.{how}.{face}": getattr(getattr(target, how), face) for how, face in LISTS}
        want_in_every_repeat(reader, typed)
        far = distance.value if distance else None
        seen += [SightedPrism(path, far, dict(zip(LISTS, some, strict=True)), n) for n, some in by_repeats(lists)]
    alike(p for prism in seen for listed in prism.lists.values() for p in listed)
    if not reader.missing and not reader.faults:
        for prism in seen:
            _same_prism(reader, prism)
    return TrackerRead(seen, read_before(document, reader, STORED_FIGURES))


def _same_prism(reader: Reader, prism: SightedPrism) -> None:
    """By eye and by tracker the same prism, each face in its own list."""
    for face in ("left", "right"):
        by_eye, by_tracker = prism.lists["manual", face], prism.lists["auto", face]
        hz = abs(wrapped(mean_direction([p.hz for p in by_tracker]) - mean_direction([p.hz for p in by_eye])))
        v = abs(mean([p.v for p in by_tracker]) - mean([p.v for p in by_eye]))
        if max(hz, v) > FAR_OFF_DEG:
            given = f"{by_eye[0].texts[0]}, {by_eye[0].texts[1]} and {by_tracker[0].texts[0]}, {by_tracker[0].texts[1]}"
            reader.fault(
                f"{prism.path}.auto.{face}",
                f"{prism.name}, face {face}",
                given,
                "the same prism by eye and by tracker: these differ by 0.5° or more",
            )
    if not reader.faults and mean([p.v for p in prism.lists["manual", "left"]]) > 180.0:
        reader.fault(
            prism.path,
            prism.name,
            "face left above 180°",
            "face left below 180° and face right above: are the faces swapped?",
        )
