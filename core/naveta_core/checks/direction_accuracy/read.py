"""Reading an angle accuracy procedure: every set complete, the same marks throughout, both faces fitting each other."""

from __future__ import annotations

from dataclasses import dataclass

from ...readings import Sheet
from ..sheet.directions import FAR_OFF_DEG, Shot, faces_agree
from ..sheet.entry import Where
from ..sheet.typed import angle, blank
from .model import DirectionAccuracy, Sighted

SERIES = {"simplified": 1, "full": 4}
SETS = 3
MARKS = {
    ("horizontal", "simplified"): 4,
    ("horizontal", "full"): 5,
    ("vertical", "simplified"): 4,
    ("vertical", "full"): 4,
}
where = Where(
    {"series": "series", "sets": "set", "left": "reading in face left", "right": "reading in face right", "reading": ""}
)


@dataclass(frozen=True, slots=True)
class OneSet:
    """A set: every mark in both faces, in one order of marks."""

    series: int
    number: int
    left: dict[str, Shot]
    right: dict[str, Shot]

    @property
    def marks(self) -> list[str]:
        return [name for name in self.left if name in self.right]


@dataclass
class Read:
    series: list[list[OneSet]]


def marks_of(document: DirectionAccuracy) -> int:
    o = document.observations
    return MARKS[o.circle, o.procedure]


def read_document(document: DirectionAccuracy, sheet: Sheet) -> Read:
    """Every reading; faults and what is missing are in the sheet."""
    o = document.observations
    series = []
    for i in range(max(len(o.series), SERIES[o.procedure])):
        sets = []
        held = o.series[i].sets if i < len(o.series) else []
        for j in range(max(len(held), SETS)):
            path = f"observations.series[{i}].sets[{j}]"
            faces = {
                face: _face(document, sheet, f"{path}.{face}", getattr(held[j], face) if j < len(held) else [])
                for face in ("left", "right")
            }
            sets.append(OneSet(i, j, faces["left"], faces["right"]))
        series.append(sets)
    read = Read(series)
    if not sheet.missing and not sheet.faults:
        _fitting(document, sheet, read)
    return read


def _face(document: DirectionAccuracy, sheet: Sheet, path: str, listed: list[Sighted]) -> dict[str, Shot]:
    found: dict[str, Shot] = {}
    for i, one in enumerate(listed):
        base = f"{path}[{i}]"
        if i >= marks_of(document) and blank(one.reading):
            continue
        read = angle(sheet, f"{base}.reading", where(base), one.reading, document.units.angle)
        name = one.target.strip() or str(i + 1)
        if name in found:
            sheet.fault(f"{base}.target", where(base), name, "each mark once in a face")
        elif read is not None:
            found[name] = Shot(f"{base}.reading", name, read.value % 360.0, read.step * 3600, str(one.reading))
    for i in range(len(listed), marks_of(document)):
        sheet.want(f"{path}[{i}].reading", where(f"{path}[{i}]"))
    return found


def _fitting(document: DirectionAccuracy, sheet: Sheet, read: Read) -> None:
    """The same marks in every face and set; both faces of each half a turn apart, or summing to a whole one."""
    for sets in read.series:
        names = set(sets[0].left)
        for one in sets:
            path = f"observations.series[{one.series}].sets[{one.number}]"
            for face, shots in (("left", one.left), ("right", one.right)):
                if set(shots) != names:
                    given, wanted = ", ".join(sorted(shots)), "the marks of the first set: " + ", ".join(sorted(names))
                    sheet.fault(f"{path}.{face}", f"{where(path)}, face {face}", f"marks {given}", wanted)
                    return
            for name in one.marks:
                what = f"{where(path)}, mark {name}"
                if document.observations.circle == "horizontal":
                    faces_agree(sheet, what, one.left[name], one.right[name])
                else:
                    _zenith(sheet, what, one.left[name], one.right[name])


def _zenith(sheet: Sheet, what: str, left: Shot, right: Shot) -> None:
    total = left.value + right.value
    if left.value > 180.0 > right.value and abs(total - 360.0) <= FAR_OFF_DEG:
        sheet.fault(left.path, what, f"{left.text} and {right.text}", "face left below 180°: the faces look swapped")
    elif abs(total - 360.0) > FAR_OFF_DEG:
        sheet.fault(
            right.path, what, f"{left.text} and {right.text}",
            f"zenith angles that sum to 360°; these to {total:.3f}°. Elevations, gon, or a whole degree mistyped?",
        )  # fmt: skip
