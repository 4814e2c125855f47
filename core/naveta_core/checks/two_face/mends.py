"""Pointings typed into the wrong face, put right in one touch: a zenith angle above 180° is face right's."""

from __future__ import annotations

from typing import Any

from ...wording import capital, count
from .model import Pointing
from .read import Pointed

Data = dict[str, Any]
FACES = ("left", "right")


def _face_of(one: Pointed) -> str:
    return "left" if one.v < 180.0 else "right"


def sorted_by_face(
    path: str, name: str, lists: dict[str, list[Pointing]], read: dict[str, list[Pointed]]
) -> list[Data]:
    """How the pointings of `path`.left and .right would stand in their own faces; nothing where they do already.

    lists: as typed; read: those of them that could be read. Rows that could not be read stay where they are.
    """
    wrong = [(face, one) for face in FACES for one in read[face] if _face_of(one) != face]
    if not wrong:
        return []
    places = {one.path: _face_of(one) for face in FACES for one in read[face]}
    kept: dict[str, list[Data]] = {face: [] for face in FACES}
    for face in FACES:
        for i, one in enumerate(lists[face]):
            plain = one.model_dump(mode="json", exclude_none=True)
            if plain.get("hz") in (None, "") and plain.get("v") in (None, ""):
                continue
            kept[places.get(f"{path}.{face}[{i}]", face)].append(plain)
    whole = len(wrong) == len(read["left"]) + len(read["right"]) and all(read[face] for face in FACES)
    number = count(len(wrong), "pointing", "pointings")
    text = f"{name}: swap the two faces." if whole else f"{name}: put {number} into the other face."
    puts = [{"path": f"{path}.{face}", "value": kept[face] or [{}]} for face in FACES]
    return [{"code": "swap-faces" if whole else "sort-faces", "text": capital(text), "puts": puts}]
