"""What can be said of two faces while the pointings go in: running c and i, spread, one apart, pointings in the wrong face."""

from __future__ import annotations

from typing import Any

from ...blunders import find_apart
from ...wording import arcsec, count
from ..sheet.answer import SoFar
from ..sheet.directions import mean, mean_direction, wrapped
from ..sheet.judged import Said, noise_factor
from .mends import sorted_by_face
from .model import TwoFace
from .read import Read, sine, where

Data = dict[str, Any]
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
                f"{sole[0].name} so far: 2c {arcsec(hz * sine(sole[0].zenith_deg))}, 2i {arcsec(v)}; half of each is the instrument's.",
            )
        )
    return SoFar([*said, *_spread_so_far(seen)], _apart_so_far(document, seen), _mends(document, seen))


def _apart_so_far(document: TwoFace, seen: Read) -> Said | None:
    """A pointing that stands apart in its face already, before the other face is in."""
    listed = [(one, p) for one in seen.seen for p in (one.left, one.right) if len(p) > 2]
    groups, at = [], []
    for one, pointings in listed:
        spread = one.within_arcsec(document) * noise_factor(document)
        groups.append([wrapped(p.hz - pointings[0].hz) * 3600 / spread for p in pointings])
        groups.append([(p.v - pointings[0].v) * 3600 / spread for p in pointings])
        at += [pointings, pointings]
    apart = find_apart(groups)
    if apart is None:
        return None
    circle_said = "horizontal" if apart.group % 2 == 0 else "vertical"
    text = f"Stands apart in the {circle_said} circle: was it typed as read? Else point once more here."
    return at[apart.group][apart.index].path, text


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
