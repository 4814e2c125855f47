"""Rounds of directions as they are typed: targets in both faces, the reference first, its closing sight last."""

from __future__ import annotations

from dataclasses import dataclass, field, replace
from typing import Annotated, Literal

from pydantic import Field as Bounds

from ...documents.envelope import CheckDocument, Part, Typed
from ...engine.directions import Shot, faces_agree
from ...engine.fields import Angle, Rows, Text, where_of
from ...engine.parser import blank
from ...engine.reader import Reader
from ...engine.repeats import Repeated
from ...geometry import mean, mean_direction
from ...results import Answer, Figures, Repeats

COLLIMATION = "collimation_arcsec"
FACES = ("left", "right")
MIN_TARGETS = 2


class DirectionSight(Repeated):
    """One pointing: which target, which face, the circles."""

    target: Annotated[str, Bounds(max_length=40), Text("Target", "target", prefilled=True)] = ""
    face: Annotated[Literal["left", "right"], Text("Face", prefilled=True)] = "left"
    hz: Annotated[Typed | None, Angle("Horizontal", "horizontal circle", quantity="hz")] = None
    v: Annotated[Typed | None, Angle("Zenith angle", "vertical circle", optional=True, quantity="v")] = None


class DirectionSet(Part):
    """Pointings in the order in which they were taken."""

    pointings: Annotated[list[DirectionSight], Rows("pointing", 60, 0, "One more pointing")] = []


class DirectionRoundsObservations(Part):
    """Rounds, the circle set again between them; the first target pointed at is the reference."""

    rounds: Annotated[list[DirectionSet], Rows("round", 9, 1, number="set")] = []


class DirectionRounds(CheckDocument):
    """Directions to several targets from a reference, and what the instrument shows in them."""

    kind: Literal["direction-rounds"]
    observations: DirectionRoundsObservations


class ReducedDirection(Answer):
    """A direction from the reference, and c at its target."""

    target: str
    direction_deg: float
    collimation_arcsec: float


class ClosingDifference(Answer):
    """Last less first reading of the reference. In seconds of arc."""

    round: int
    face: str
    difference: float


class DirectionRoundsFigures(Figures):
    """c by all targets, the reduced directions and how sure they are, what the reference did."""

    collimation_arcsec: float
    sigma_collimation_arcsec: float
    directions: list[ReducedDirection]
    direction_sigma_arcsec: float | None
    sigma_mean_direction_arcsec: float
    closing_arcsec: list[ClosingDifference]
    repeats: Repeats


where = where_of(DirectionRoundsObservations)


@dataclass
class FaceOfSet:
    """One face of a round: the first pointing at every target, what the reference reads at the end, zenith angles.

    All in degrees.
    """

    shots: dict[str, list[Shot]] = field(default_factory=dict)
    zeniths: dict[str, list[float]] = field(default_factory=dict)

    def closing(self, reference: str) -> Shot | None:
        """The reference as it reads at the end, where it was pointed at again."""
        shots = self.shots.get(reference, [])
        return shots[-1] if len(shots) > 1 else None

    def direction(self, target: str) -> float:
        """The mean direction to a target in this face, degrees."""
        return mean_direction([shot.value for shot in self.shots[target]])


@dataclass
class ReadSet:
    """A round in both faces."""

    path: str
    number: int
    left: FaceOfSet
    right: FaceOfSet

    @property
    def targets(self) -> list[str]:
        """Seen in both faces, in the order of face left."""
        return [name for name in self.left.shots if name in self.right.shots]

    def zenith_deg(self, target: str) -> float:
        """90 where the vertical circle was not read."""
        left, right = self.left.zeniths.get(target, []), self.right.zeniths.get(target, [])
        return (mean(left) + 360.0 - mean(right)) / 2 if left and right else 90.0


@dataclass
class DirectionsRead:
    """Rounds as read, circles in degrees."""

    rounds: list[ReadSet]

    @property
    def reference(self) -> str:
        """The target the directions are given from."""
        return next(iter(self.rounds[0].left.shots), "") if self.rounds else ""


def read_document(document: DirectionRounds, reader: Reader) -> DirectionsRead:
    """Every pointing; faults and what is missing are in the sheet."""
    rounds: list[ReadSet] = []
    for i, entry in enumerate(document.observations.rounds):
        path = f"observations.rounds[{i}]"
        for number in sorted({sight.repeat or 1 for sight in entry.pointings}):
            faces = {face: FaceOfSet() for face in FACES}
            for j, sight in enumerate(entry.pointings):
                if (sight.repeat or 1) == number:
                    _take(reader, f"{path}.pointings[{j}]", sight, faces[sight.face])
            rounds.append(ReadSet(path, len(rounds) + 1, faces["left"], faces["right"]))
    rounds = [round_ for round_ in rounds if round_.left.shots or round_.right.shots] or rounds[:1]
    rounds = [replace(round_, number=n) for n, round_ in enumerate(rounds, start=1)]
    if not rounds:
        reader.missing_at("observations.rounds[0].pointings[0].hz")
    if not reader.missing and not reader.faults:
        _fitting(reader, rounds)
    return DirectionsRead(rounds)


def _take(reader: Reader, path: str, sight: DirectionSight, face: FaceOfSet) -> None:
    name = sight.target.strip()
    if not name:
        if not blank(sight.hz, sight.v):
            reader.fault_at(f"{path}.target", "nothing", "which target this is")
        return
    hz, v = reader.figure(sight, "hz", path), reader.figure(sight, "v", path)
    if hz is not None:
        shot = Shot(f"{path}.hz", name, hz.value % 360.0, hz.step * 3600, str(sight.hz))
        face.shots.setdefault(name, []).append(shot)
    if v is not None:
        face.zeniths.setdefault(name, []).append(v.value % 360.0)


def _fitting(reader: Reader, rounds: list[ReadSet]) -> None:
    """Every target in both faces and in every round; both faces half a turn apart."""
    targets = set(rounds[0].left.shots)
    for round_ in rounds:
        path, called = f"{round_.path}.pointings", f"set {round_.number}"
        lonely = sorted(set(round_.left.shots) ^ set(round_.right.shots))
        if lonely:
            given = f"{', '.join(lonely)} in one face only"
            reader.fault(path, called, given, "every target in face left and in face right")
            return
        if len(round_.targets) < MIN_TARGETS:
            reader.fault(
                path,
                called,
                f"the target {', '.join(round_.targets)}",
                "two targets or more: a direction is measured from a reference",
            )
            return
        if set(round_.left.shots) != targets:
            given, wanted = ", ".join(sorted(round_.left.shots)), ", ".join(sorted(targets))
            reader.fault(path, called, f"targets {given}", f"the targets of the first set: {wanted}")
            return
        for name in round_.targets:
            faces_agree(reader, f"{called}, target {name}", round_.left.shots[name][0], round_.right.shots[name][0])
            _faces_right(reader, path, f"{called}, target {name}", round_, name)


def _faces_right(reader: Reader, path: str, called: str, entry: ReadSet, name: str) -> None:
    left, right = entry.left.zeniths.get(name), entry.right.zeniths.get(name)
    if left and right and left[0] > 180.0 > right[0]:
        reader.fault(
            path,
            called,
            f"{left[0]:.4f}° face left",
            "face left below 180° and face right above: are the faces swapped?",
        )
    elif left and right and abs(left[0] + right[0] - 360.0) > 0.5:
        total = left[0] + right[0]
        reader.fault(
            path,
            called,
            f"{left[0]:.4f}° and {right[0]:.4f}°",
            f"zenith angles that sum to 360°; these sum to {total:.3f}°",
        )
