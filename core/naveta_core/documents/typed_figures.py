"""Figures of a model as somebody would type them, in the unit they work in."""

from __future__ import annotations

from collections.abc import Sequence

from pydantic import BaseModel

from ..units.formatting import LengthWords
from ..units.lengths import in_unit


def as_typed(model: BaseModel, words: LengthWords, in_millimetres: Sequence[str] = ()) -> dict[str, str]:
    """Every figure of a model that is known: distances in the unit of the words, small lengths in millimetres or the small
    unit that goes with it. in_millimetres: fields that are in millimetres for everybody."""
    texts = {}
    for name, value in model.model_dump(exclude_none=True).items():
        if isinstance(value, bool) or not isinstance(value, int | float):
            continue
        if name.endswith("_m"):
            texts[name] = f"{round(in_unit(value, words.unit), 1):g}"
        elif name.endswith("_mm") and name not in in_millimetres:
            texts[name] = f"{round(in_unit(value / 1000, words.small_unit), min(4, words.small_decimals + 1)):g}"
        else:
            texts[name] = f"{value:g}"
    return texts
