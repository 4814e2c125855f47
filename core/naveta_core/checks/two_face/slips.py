"""What is wrong with pointings: apart, moved, scattered, a closing look that left, a mark that cannot tell, one far from the last."""

from __future__ import annotations

from dataclasses import replace
from math import sqrt

from ...blunders import find_apart, find_moved, left_between, likely_slip, too_scattered
from ...judgement import SCATTER_REFUSED, scatter_factor
from ...readings import ordinal
from ...wording import arcsec, figure
from ..sheet.directions import mean, wrapped
from ..sheet.judged import Said
from .model import COLLIMATION, INDEX, TwoFace
from .read import Pointed, Read, where
from .solve import Solution, groups_of, solve

LEVEL_WITHIN_DEG = 10.0
FAR_FROM_LAST_ARCSEC = 60.0
CIRCLES = (
    "face left, horizontal circle",
    "face left, vertical circle",
    "face right, horizontal circle",
    "face right, vertical circle",
)


def without(seen: Read, aside: list[str]) -> Read:
    kept = [
        replace(
            one, left=[p for p in one.left if p.path not in aside], right=[p for p in one.right if p.path not in aside]
        )
        for one in seen.seen
    ]
    return Read(kept, seen.closing, seen.before)


def find_faults(document: TwoFace, seen: Read) -> tuple[list[Said], list[Said], list[str], Said | None]:
    """What is refused, what is told, the pointings set aside, and the one to be marked."""
    reasons: list[Said] = []
    aside: list[str] = []
    marked: Said | None = None
    faces_hit: set[int] = set()
    for _ in range(3):
        current = without(seen, aside)
        solution = solve(document, current)
        groups = groups_of(solution.faces)
        moved, apart = find_moved(groups), find_apart(groups)
        if moved is not None and (apart is None or moved.deviation >= apart.deviation):
            text = f"Something moved in {_called(current, moved.group)} between the {ordinal(moved.index - 1)} and the {ordinal(moved.index)} pointing: take that face again."
            return [("moved", text)], reasons, aside, marked
        if apart is None:
            break
        if apart.sole_pair:
            return (
                [
                    (
                        "readings-differ",
                        f"The two pointings of {_called(current, apart.group)} differ by more than pointing explains: take a third.",
                    )
                ],
                reasons,
                aside,
                marked,
            )
        if len(aside) == 2 or apart.group // 2 in faces_hit:
            return (
                [
                    (
                        "too-many-apart",
                        f"More than one pointing stands apart: take {_called(current, apart.group)} again.",
                    )
                ],
                reasons,
                aside,
                marked,
            )
        faces_hit.add(apart.group // 2)
        path, text = _apart_text(document, current, solution, apart.group, apart.index)
        aside.append(path)
        reasons.append(("set-aside", text))
        marked = (path, "Stands apart: take one more pointing here.")
    refused = _scattered(seen, solution, groups) + _closing(current, solution, groups)
    return refused, reasons, aside, marked


def _listed(seen: Read, group: int) -> tuple[list[Pointed], str]:
    one = seen.seen[group // 4]
    return one.left if group % 4 < 2 else one.right, "hz" if group % 2 == 0 else "v"


def _called(seen: Read, group: int) -> str:
    return f"{seen.seen[group // 4].name}, {CIRCLES[group % 4]}"


def _apart_text(document: TwoFace, seen: Read, solution: Solution, group: int, index: int) -> Said:
    listed, circle_name = _listed(seen, group)
    point = listed[index]
    rest = [
        wrapped(getattr(p, circle_name) - getattr(point, circle_name)) * 3600
        for i, p in enumerate(listed)
        if i != index
    ]
    away = mean(rest)
    typed = point.texts[0 if circle_name == "hz" else 1]
    text = f"{typed} ({where(point.path)}, {circle_name}) lies {arcsec(abs(away))} from its fellows and is set aside."
    if document.units.angle != "dms":
        return point.path, text
    expected = getattr(point, circle_name) + away / 3600
    slip = _slip(typed, expected, 3 * sqrt(solution.faces[group // 4].within))
    return point.path, f"{text} Typed {typed} for {slip}?" if slip else text


def _slip(typed: str, expected_deg: float, tolerance_arcsec: float) -> str | None:
    """A packed angle with two digits swapped or one changed that comes near what was expected."""
    total = expected_deg * 3600
    degrees, rest = divmod(total, 3600)
    minutes, seconds = divmod(rest, 60)
    packed = degrees + minutes / 100 + seconds / 10000
    return likely_slip(typed, packed, tolerance_arcsec / 10000)


def _scattered(seen: Read, solution: Solution, groups: list[list[float]]) -> list[Said]:
    at = too_scattered(groups)
    if at is not None:
        return [
            ("face-scatters", f"{_called(seen, at)}: its pointings scatter far more than the others. Take it again.")
        ]
    factor = scatter_factor(solution.repeats)
    if factor is not None and factor > SCATTER_REFUSED:
        return [
            (
                "scatter",
                f"The pointings scatter {factor:.1f} times as much as such pointings do: shimmer, a soft stand, parallax?",
            )
        ]
    return []


def _closing(seen: Read, solution: Solution, groups: list[list[float]]) -> list[Said]:
    """The closing look of each round against its first mark, face left."""
    for n in sorted({p.round for p in seen.closing}):
        at = next((i for i, one in enumerate(seen.seen) if one.round == n), None)
        if at is None:
            continue
        first, spread, found = seen.seen[at].left, sqrt(solution.faces[at].within), []
        for name, group in (("hz", groups[4 * at]), ("v", groups[4 * at + 1])):
            looked = [one for one in seen.closing if one.round == n]
            closing = [wrapped(getattr(p, name) - getattr(first[0], name)) * 3600 / spread for p in looked]
            away = left_between(group, closing, groups)
            if away is not None:
                circle_said = "horizontal" if name == "hz" else "vertical"
                found.append(f"{arcsec(abs(away) * spread)} in the {circle_said} circle")
        if found:
            text = f"The closing look at {seen.seen[at].name} differs by {' and '.join(found)}: something moved between the faces, and it would hide in c and i. Take it again."
            return [("moved-between", text)]
    return []


def far_from_last(document: TwoFace, solution: Solution) -> list[Said]:
    """One pointing a face cannot be held against its fellows: what lies far from the last finding is asked about."""
    if any(len(one.seen.left) > 1 or len(one.seen.right) > 1 for one in solution.faces):
        return []
    last = next((one.result for one in document.before if one.check == "two-face"), {})
    said: list[Said] = []
    for name, letter, e in ((COLLIMATION, "c", solution.collimation), (INDEX, "i", solution.index)):
        was = last.get(name)
        if isinstance(was, int | float) and abs(e.value - was) > FAR_FROM_LAST_ARCSEC:
            text = f"{letter} is {arcsec(abs(e.value - was), 10)} away from the last finding, by one pointing a face: a minute or ten seconds mistyped? Point once more in both faces."
            said.append(("far-from-last", text))
    return said


def too_steep(solution: Solution) -> list[Said]:
    """A sole mark far from level: the tilting axis hides in c, and no number of pointings parts them."""
    sole = solution.faces[0]
    away = abs(sole.zenith_deg - 90.0)
    if len({one.seen.path for one in solution.faces}) > 1 or away <= LEVEL_WITHIN_DEG:
        return []
    text = f"The only mark is {figure(away, 0)}° from level: the axis hides in c. Take a level one."
    return [("no-level-target", text)]
