"""What can be said of two faces while the pointings go in: running c and i, spread, one apart, pointings in the wrong face."""

from __future__ import annotations

from typing import Any

from ...blunders import find_apart, find_moved
from ...readings import ordinal
from ...wording import arcsec, capital, count
from ..sheet.answer import SoFar
from ..sheet.directions import mean, mean_direction, wrapped
from ..sheet.judged import Said, noise_factor
from .mends import sorted_by_face
from .model import TwoFace
from .read import Pointed, Read, Seen, sine, where

Data = dict[str, Any]
CIRCLE = ("horizontal", "vertical")
FAR_SPREAD_ARCSEC = 600.0
"""Beyond it a pointing was typed wrongly, and that is said beside it."""


def so_far(document: TwoFace, seen: Read) -> SoFar:
    said: list[Said] = []
    sole = [one for one in seen.seen if one.left and one.right]
    if sole and len(sole) < len(seen.seen):
        hz = (
            wrapped(
                mean_direction([p.hz for p in sole[0].left]) - mean_direction([p.hz for p in sole[0].right]) - 180.0
            )
            * 3600
        )
        v = (mean([p.v for p in sole[0].left]) + mean([p.v for p in sole[0].right]) - 360.0) * 3600
        said.append(
            (
                "running",
                f"{capital(sole[0].name)} so far: 2c {arcsec(hz * sine(sole[0].zenith_deg))}, 2i {arcsec(v)}; half of each is the instrument's.",
            )
        )
    return SoFar(
        [*said, *_spread_so_far(seen), *_moves_so_far(document, seen)],
        _apart_so_far(document, seen),
        _mends(document, seen),
    )


def _listed(seen: Read) -> list[tuple[Seen, str, list[Pointed]]]:
    """Every face of every mark with enough pointings to hold them against each other."""
    return [
        (one, face, pointings)
        for one in seen.seen
        for face, pointings in (("left", one.left), ("right", one.right))
        if len(pointings) > 2
    ]


def _groups(document: TwoFace, seen: Read) -> list[list[float]]:
    """Their pointings over their own spread: horizontal, then vertical, face by face."""
    groups = []
    for one, _, pointings in _listed(seen):
        spread = one.within_arcsec(document) * noise_factor(document)
        groups.append([wrapped(p.hz - pointings[0].hz) * 3600 / spread for p in pointings])
        groups.append([(p.v - pointings[0].v) * 3600 / spread for p in pointings])
    return groups


def _apart_so_far(document: TwoFace, seen: Read) -> Said | None:
    """A pointing that stands apart in its face already, before the other face is in."""
    apart = find_apart(_groups(document, seen))
    if apart is None:
        return None
    pointings = _listed(seen)[apart.group // 2][2]
    text = f"Stands apart in the {CIRCLE[apart.group % 2]} circle: was it typed as read? Else point once more here."
    return pointings[apart.index].path, text


def _moves_so_far(document: TwoFace, seen: Read) -> list[Said]:
    """A face whose later pointings lie elsewhere than its first ones: said while one still stands there."""
    groups = _groups(document, seen)
    moved, apart = find_moved(groups), find_apart(groups)
    if moved is None or (apart is not None and apart.deviation > moved.deviation):
        return []
    one, face, _ = _listed(seen)[moved.group // 2]
    text = f"{capital(one.name)}, face {face}: from the {ordinal(moved.index)} pointing on the {CIRCLE[moved.group % 2]} circle reads otherwise. Something moves or settles: look at level and feet, then take this face again."
    return [("moves-so-far", text)]


def _mends(document: TwoFace, seen: Read) -> list[Data]:
    """Pointings that stand in the wrong face, mark by mark."""
    found: list[Data] = []
    for i, target in enumerate(document.observations.targets):
        path = f"observations.targets[{i}]"
        own = [one for one in seen.seen if one.path == path]
        read = {"left": [p for one in own for p in one.left], "right": [p for one in own for p in one.right]}
        lists = {"left": target.left, "right": target.right}
        found += sorted_by_face(path, target.name.strip() or where(path), lists, read)
    return found


def _spread_so_far(seen: Read) -> list[Said]:
    """How the pointings of the face at hand scatter, from the second on."""
    latest = next((p for one in reversed(seen.seen) for p in (one.right, one.left) if len(p) > 1), None)
    if latest is None:
        return []
    hz = [wrapped(p.hz - latest[0].hz) * 3600 for p in latest]
    v = [(p.v - latest[0].v) * 3600 for p in latest]
    if max(max(hz) - min(hz), max(v) - min(v)) > FAR_SPREAD_ARCSEC:
        return []
    text = f"{count(len(latest), 'pointing', 'pointings').capitalize()} of this face: from lowest to highest {arcsec(max(hz) - min(hz))} in the horizontal circle, {arcsec(max(v) - min(v))} in the vertical."
    return [("spread-so-far", text)]
