"""From circle readings to seconds: every pointing, what it is worth, and what is wrong with the whole."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, field
from itertools import pairwise
from math import fsum, hypot, radians, sin
from statistics import median

from ...angles import ARCSEC_PER_RADIAN
from ...envelope import Envelope
from ...numerals import SEXAGESIMAL, finest, shown_step
from ...readings import Sheet
from ..sheet.directions import FAR_OFF_DEG, mean, mean_direction, wrapped
from ..sheet.entry import Where
from ..sheet.stored import Before, read_before, words_of
from ..sheet.typed import angle, blank, number
from .model import KEPT, Pointing, Target, TwoFace

DEFAULT_ACCURACY_ARCSEC = 5.0
POINTING_ARCSEC = 30.0
"""A telescope of magnification M points to 30″/M."""
MARK_MM = {
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
LEAST_ZENITH_DEG = 3.0
where = Where(
    {
        "targets": "mark",
        "left": "pointing in face left",
        "right": "pointing in face right",
        "closing": "closing pointing",
        "hz": "horizontal circle",
        "v": "vertical circle",
        "distance_m": "distance",
        **words_of(KEPT),
    }
)


@dataclass(slots=True)
class Pointed:
    """One pointing, degrees as read, and the worth of the last digit in seconds: the finest of the sheet."""

    path: str
    hz: float
    v: float
    step_arcsec: float
    texts: tuple[str, str]
    round: int = 1


@dataclass
class Seen:
    """One mark as far as it was seen in one round: the circle may lie otherwise in the next."""

    path: str
    name: str
    distance_m: float | None
    mark: str
    left: list[Pointed]
    right: list[Pointed]
    round: int = 1

    @property
    def zenith_deg(self) -> float:
        """The mark's zenith angle, the faces' mean; the index falls out."""
        return (mean([p.v for p in self.left]) + 360.0 - mean([p.v for p in self.right])) / 2

    def within_arcsec(self, document: TwoFace) -> float:
        """Spread of one pointing: circle, eye, mark at its distance."""
        s = accuracy(document)
        eye = POINTING_ARCSEC / (document.instrument.magnification or 30.0)
        mark = MARK_MM[self.mark] / 1000 / (self.distance_m or USUAL_DISTANCE_M) * ARCSEC_PER_RADIAN
        return hypot(s, eye, mark)


@dataclass
class Read:
    """Marks, the closing look, what was stored before."""

    seen: list[Seen]
    closing: list[Pointed]
    before: Before = field(default_factory=Before)


def accuracy(document: TwoFace) -> float:
    return document.instrument.angle_accuracy_arcsec or DEFAULT_ACCURACY_ARCSEC


def read_document(document: TwoFace, sheet: Sheet) -> Read:
    """Every pointing that can be read; faults and what is missing are in the sheet."""
    o = document.observations
    seen = []
    for i, target in enumerate(o.targets or [Target()]):
        path = f"observations.targets[{i}]"
        distance = number(
            sheet, f"{path}.distance_m", where(f"{path}.distance_m"), target.distance_m, "m", 2, 3000, wanted=False
        )
        typed = {f"{path}.{face}": getattr(target, face) for face in ("left", "right")}
        lists = {one: pointings_of(document, sheet, one, listed, 1) for one, listed in typed.items()}
        want_in_every_round(sheet, typed)
        name, far = target.name.strip() or where(path), distance.value if distance else None
        for n, (left, right) in by_rounds(list(lists.values())):
            called = name if n == 1 else f"{name}, round {n}"
            seen.append(Seen(path, called, far, target.mark or "unknown", left, right, n))
    closing = pointings_of(document, sheet, "observations.closing", o.closing, 0)
    alike([*closing, *(p for one in seen for p in (*one.left, *one.right))])
    seen.sort(key=lambda one: one.round)
    if not sheet.missing and not sheet.faults:
        for one in seen:
            _plausible(document, sheet, one)
        _same_sense(sheet, seen)
    return Read(seen, closing, read_before(document, sheet, KEPT, where))


def pointings_of(
    document: Envelope, sheet: Sheet, path: str, listed: list[Pointing], fewest: int, words: Where = where
) -> list[Pointed]:
    """Pointings of one list, both circles in degrees; `words` names its places."""
    found = []
    for i, one in enumerate(listed):
        if i >= fewest and blank(one.hz, one.v):
            continue
        base = f"{path}[{i}]"
        hz, v = (
            angle(sheet, f"{base}.{name}", words(f"{base}.{name}"), getattr(one, name), document.units.angle)
            for name in ("hz", "v")
        )
        if hz is not None and v is not None:
            step = finest((hz.step, v.step)) * 3600
            texts = (str(one.hz), str(one.v))
            found.append(Pointed(base, hz.value % 360.0, v.value % 360.0, step, texts, one.round or 1))
    for i in range(len(listed), fewest):
        for name in ("hz", "v"):
            sheet.want(f"{path}[{i}].{name}", words(f"{path}[{i}].{name}"))
    return found


def alike(pointings: Iterable[Pointed]) -> None:
    """Give every pointing the finest last digit of the sheet: a zero dropped at the end is no coarser reading."""
    listed = list(pointings)
    step = finest(one.step_arcsec for one in listed)
    step = shown_step([value * 3600 for one in listed for value in (one.hz, one.v)], step, SEXAGESIMAL)
    for one in listed:
        one.step_arcsec = step


def want_in_every_round(sheet: Sheet, lists: dict[str, list[Pointing]], words: Where = where) -> None:
    """Note what is missing where a round was begun in one list and not in another."""
    begun = {one.round or 1 for listed in lists.values() for one in listed if not blank(one.hz, one.v)}
    for path, listed in lists.items():
        for n in sorted(begun - {one.round or 1 for one in listed if not blank(one.hz, one.v)}):
            at = next((i for i, one in enumerate(listed) if (one.round or 1) == n), len(listed))
            for name in ("hz", "v"):
                sheet.want(f"{path}[{at}].{name}", words(f"{path}[{at}].{name}"))


def by_rounds(lists: list[list[Pointed]]) -> list[tuple[int, list[list[Pointed]]]]:
    """The lists of one mark, round by round."""
    rounds = sorted({one.round for listed in lists for one in listed} or {1})
    return [(n, [[one for one in listed if one.round == n] for listed in lists]) for n in rounds]


def _plausible(document: TwoFace, sheet: Sheet, one: Seen) -> None:
    """Faces swapped, elevations for zenith angles, gon for degrees, another mark, a circle that turned along."""
    # By the middle one of each face: a single mistyped pointing is then named by itself, not as a wrong mark.
    v_left, v_right = median(p.v for p in one.left), median(p.v for p in one.right)
    first = one.left[0].hz
    hz = wrapped(
        median(wrapped(p.hz - first) for p in one.left)
        - median(wrapped(p.hz - first - 180.0) for p in one.right)
        - 180.0
    )
    given = f"{one.left[0].texts[1]} and {one.right[0].texts[1]}"
    if abs(v_left + v_right - 360.0) > FAR_OFF_DEG:
        plain = [_plain(p.texts[1]) for p in (one.left[0], one.right[0])]
        if document.units.angle != "gon" and abs(fsum(plain) - GON_SUM) < GON_WITHIN:
            sheet.fault(
                one.path,
                f"{one.name}, vertical circles",
                given,
                "degrees; these sum to 400: are they gon? change the unit",
            )
        elif (
            (v_left < 90 and v_right < 90)
            or abs(v_left + v_right - 180.0) < FAR_OFF_DEG
            or abs(wrapped(v_left - v_right)) < FAR_OFF_DEG
        ):
            sheet.fault(
                one.path,
                f"{one.name}, vertical circles",
                given,
                "zenith angles: 0 straight up, 90 level, face right 360 less it",
            )
        else:
            sheet.fault(
                one.path,
                f"{one.name}, vertical circles",
                given,
                f"two that sum to 360°: these to {v_left + v_right:.3f}°. A whole degree or minute mistyped?",
            )
        return
    if v_left > 180.0:
        sheet.fault(
            one.path,
            f"{one.name}, the faces",
            given,
            "face left below 180° and face right above: the faces look swapped",
        )
        return
    if not LEAST_ZENITH_DEG < one.zenith_deg < 180.0 - LEAST_ZENITH_DEG:
        sheet.fault(one.path, f"{one.name}, vertical circles", given, "a mark that is not straight up or down")
        return
    if abs(abs(hz) - 180.0) > FAR_OFF_DEG:
        circles = f"{one.left[0].texts[0]} and {one.right[0].texts[0]}"
        alike = (
            "; these are alike: was the circle held, or the telescope not turned through?"
            if abs(hz) < FAR_OFF_DEG
            else f"; these differ by {abs(hz):.3f}°: the same mark, the circle not touched?"
        )
        sheet.fault(one.path, f"{one.name}, horizontal circles", circles, "two that differ by 180°" + alike)


def _same_sense(sheet: Sheet, seen: list[Seen]) -> None:
    """Whether from mark to mark both faces turn the same way."""
    for first, second in pairwise(seen):
        if sheet.faults or first.round != second.round:
            continue
        left = wrapped(mean_direction([p.hz for p in second.left]) - mean_direction([p.hz for p in first.left]))
        right = wrapped(mean_direction([p.hz for p in second.right]) - mean_direction([p.hz for p in first.right]))
        if abs(left - right) > FAR_OFF_DEG and abs(left + right) < FAR_OFF_DEG:
            sheet.fault(
                "observations.targets",
                "the horizontal circles",
                f"{left:.2f}° and {right:.2f}° from mark to mark",
                "the same turn in both faces: one counts the other way",
            )


def _plain(text: str) -> float:
    try:
        return float(text.replace(",", "."))
    except ValueError:
        return 0.0


def sine(zenith_deg: float) -> float:
    return sin(radians(zenith_deg))
