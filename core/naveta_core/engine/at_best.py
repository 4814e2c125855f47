"""Uncertainty that a method reaches at best, before anything is read.

The kind judges the readings of a faultless instrument; only the expected scatter counts, not the scatter of these
readings. Source: docs/judgement.md, *What a method can show*.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from fnmatch import fnmatch
from typing import Any

from ..documents.envelope import Envelope
from ..results import CodedText
from ..units.formatting import bound, capital, size
from .form import Method
from .parser import empty
from .verdict import JudgedQuantity, Judgement

Shown = tuple[tuple[str, str], ...]
"""Pairs of a path pattern in the observations and the text typed there."""


@dataclass(frozen=True, slots=True)
class Faultless:
    """Readings of a faultless instrument, and usual values of other fields that are still empty."""

    readings: Shown = ()
    usual: Shown = ()


NOT_KNOWN = Faultless()


def faultless(document: Envelope, shown: Faultless) -> Envelope | None:
    """Return the document with the readings of a faultless instrument, or None once anything was read."""
    if not shown.readings:
        return None
    observations = document.model_dump(mode="json", include={"observations"})["observations"]
    places = list(_places(observations, "", shown.readings))
    if not places or any(not empty(holder[key]) for holder, key, _ in places):
        return None
    usual = [place for place in _places(observations, "", shown.usual) if empty(place[0][place[1]])]
    for holder, key, text in [*places, *usual]:
        holder[key] = text
    return type(document).model_validate({**document.model_dump(mode="json"), "observations": observations})


def _places(part: Any, path: str, shown: Shown) -> Iterator[tuple[Any, Any, str]]:
    """Yield the holder, the key and the new text of every field that matches a pattern."""
    listed = part.items() if isinstance(part, dict) else enumerate(part) if isinstance(part, list) else ()
    for key, inner in listed:
        here = f"{path}.{key}" if path else str(key)
        if isinstance(inner, dict | list):
            yield from _places(inner, here, shown)
            continue
        text = next((text for pattern, text in shown if fnmatch(here, pattern)), None)
        if text is not None:
            yield part, key, text


Tried = Callable[[Envelope], Judgement | None]
"""Judgement of a document, or None while it is incomplete."""


def ahead(
    document: Envelope, shown: Faultless, tried: Tried, methods: Sequence[Method], *, expected: bool
) -> list[CodedText]:
    """Return the warning that this method cannot show the instrument to be good, before the first reading; else an empty list.

    methods: all methods for this instrument, to name a finer one; expected: whether the sheet already gives the figure.
    """
    first = _short_of(document, shown, tried)
    if first is None:
        return []
    own = next((method for method in methods if method.name == getattr(document, "method", None)), None)
    others = [method for method in methods if own is not None and method is not own and _alike(method, own)]
    better = next((m.title for m in others if _short_of(_begun(document, m), shown, tried, first.name) is None), "")
    u, limit = first.at_best_u95, first.limits.use
    figure = f"{capital(first.noun)}: this method is sure to ± {size(u, u, first.unit)} at best; the limit is {bound(limit, first.unit)}. "
    text = f"{'' if expected else figure}A faultless instrument usually ends as watch, not as use."
    return [("watch-at-best", f"{text} A finer method: {better}." if better else text)]


def _short_of(document: Envelope, shown: Faultless, tried: Tried, name: str = "") -> JudgedQuantity | None:
    """Return the first quantity (or the named one) whose uncertainty exceeds its limit at best, or None."""
    perfect = faultless(document, shown)
    judgement = tried(perfect) if perfect is not None else None
    if judgement is None:
        return None
    quantities = [quantity for quantity in judgement.quantities if name in ("", quantity.name)]
    return next((quantity for quantity in quantities if quantity.at_best_u95 > quantity.limits.use), None)


def _alike(one: Method, other: Method) -> bool:
    """Return whether two methods begin with the same settings, so that one can stand in for the other."""
    settings = [{k: v for k, v in m.observations.items() if not isinstance(v, list)} for m in (one, other)]
    return settings[0] == settings[1]


def _begun(document: Envelope, method: Method) -> Envelope:
    """Return an empty sheet of another method for the same instrument and place."""
    plain = document.model_dump(mode="json", exclude_none=True)
    begins = method.in_feet if document.units.length != "m" and method.in_feet else method.observations
    return type(document).model_validate({**plain, "method": method.name, "observations": begins})
