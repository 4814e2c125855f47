"""Reading rounds of directions: marks in both faces, the reference first, its closing look last."""

from __future__ import annotations

from dataclasses import dataclass, field, replace

from ...readings import Sheet
from ..sheet.directions import Shot, faces_agree, mean, mean_direction
from ..sheet.entry import Where
from ..sheet.typed import angle, blank
from .model import DirectionRounds, Sight

FACES = ("left", "right")
FEWEST_MARKS = 2
where = Where(
    {"rounds": "round", "pointings": "pointing", "hz": "horizontal circle", "v": "vertical circle", "target": "mark"}
)


@dataclass
class Face:
    """One face of a round: the first pointing at every mark, what the reference reads at the end, zenith angles."""

    shots: dict[str, list[Shot]] = field(default_factory=dict)
    zeniths: dict[str, list[float]] = field(default_factory=dict)

    def closing(self, reference: str) -> Shot | None:
        """The reference as it reads at the end, where it was pointed at again."""
        shots = self.shots.get(reference, [])
        return shots[-1] if len(shots) > 1 else None

    def direction(self, mark: str) -> float:
        return mean_direction([one.value for one in self.shots[mark]])


@dataclass
class Round:
    """A round in both faces."""

    path: str
    number: int
    left: Face
    right: Face

    @property
    def marks(self) -> list[str]:
        """Seen in both faces, in the order of face left."""
        return [name for name in self.left.shots if name in self.right.shots]

    def zenith_deg(self, mark: str) -> float:
        """90 where the vertical circle was not read."""
        left, right = self.left.zeniths.get(mark, []), self.right.zeniths.get(mark, [])
        return (mean(left) + 360.0 - mean(right)) / 2 if left and right else 90.0


@dataclass
class Read:
    rounds: list[Round]

    @property
    def reference(self) -> str:
        return next(iter(self.rounds[0].left.shots), "") if self.rounds else ""


def read_document(document: DirectionRounds, sheet: Sheet) -> Read:
    """Every pointing; faults and what is missing are in the sheet."""
    rounds: list[Round] = []
    for i, one in enumerate(document.observations.rounds):
        path = f"observations.rounds[{i}]"
        for number in sorted({sight.round or 1 for sight in one.pointings}):
            faces = {face: Face() for face in FACES}
            for j, sight in enumerate(one.pointings):
                if (sight.round or 1) == number:
                    _take(document, sheet, f"{path}.pointings[{j}]", sight, faces[sight.face])
            rounds.append(Round(path, len(rounds) + 1, faces["left"], faces["right"]))
    rounds = [one for one in rounds if one.left.shots or one.right.shots] or rounds[:1]
    rounds = [replace(one, number=n) for n, one in enumerate(rounds, start=1)]
    if not rounds:
        sheet.want("observations.rounds[0].pointings[0].hz", where("rounds[0].pointings[0].hz"))
    if not sheet.missing and not sheet.faults:
        _fitting(sheet, rounds)
    return Read(rounds)


def _take(document: DirectionRounds, sheet: Sheet, path: str, sight: Sight, face: Face) -> None:
    name = sight.target.strip()
    if not name:
        if not blank(sight.hz, sight.v):
            sheet.fault(f"{path}.target", where(f"{path}.target"), "nothing", "which mark this is")
        return
    hz = angle(sheet, f"{path}.hz", where(f"{path}.hz"), sight.hz, document.units.angle)
    if hz is not None:
        shot = Shot(f"{path}.hz", name, hz.value % 360.0, hz.step * 3600, str(sight.hz))
        face.shots.setdefault(name, []).append(shot)
    if not blank(sight.v):
        v = angle(sheet, f"{path}.v", where(f"{path}.v"), sight.v, document.units.angle)
        if v is not None:
            face.zeniths.setdefault(name, []).append(v.value % 360.0)


def _fitting(sheet: Sheet, rounds: list[Round]) -> None:
    """Every mark in both faces and in every round; both faces half a turn apart."""
    marks = set(rounds[0].left.shots)
    for one in rounds:
        path, called = f"{one.path}.pointings", f"round {one.number}"
        lonely = sorted(set(one.left.shots) ^ set(one.right.shots))
        if lonely:
            given = f"{', '.join(lonely)} in one face only"
            sheet.fault(path, called, given, "every mark in face left and in face right")
            return
        if len(one.marks) < FEWEST_MARKS:
            sheet.fault(
                path,
                called,
                f"the mark {', '.join(one.marks)}",
                "two marks or more: a direction is told from a reference",
            )
            return
        if set(one.left.shots) != marks:
            given, wanted = ", ".join(sorted(one.left.shots)), ", ".join(sorted(marks))
            sheet.fault(path, called, f"marks {given}", f"the marks of the first round: {wanted}")
            return
        for name in one.marks:
            faces_agree(sheet, f"{called}, mark {name}", one.left.shots[name][0], one.right.shots[name][0])
            _faces_right(sheet, path, f"{called}, mark {name}", one, name)


def _faces_right(sheet: Sheet, path: str, called: str, one: Round, name: str) -> None:
    left, right = one.left.zeniths.get(name), one.right.zeniths.get(name)
    if left and right and left[0] > 180.0 > right[0]:
        sheet.fault(
            path,
            called,
            f"{left[0]:.4f}° face left",
            "face left below 180° and face right above: the faces look swapped",
        )
    elif left and right and abs(left[0] + right[0] - 360.0) > 0.5:
        total = left[0] + right[0]
        sheet.fault(
            path,
            called,
            f"{left[0]:.4f}° and {right[0]:.4f}°",
            f"zenith angles that sum to 360°; these to {total:.3f}°",
        )
