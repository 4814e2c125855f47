"""What a method can show at best, before anything is read: the judgement of readings a faultless instrument would give.

Only the expected scatter counts, not what these made-up readings show of it. Source: docs/judgement.md, *What a method can
show*.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from fnmatch import fnmatch
from typing import Any

from ..documents.envelope import Envelope
from ..results import CodedText
from ..units.formatting import bound, size
from .form import Method
from .parser import empty
from .verdict import JudgedQuantity, Judgement

Shown = tuple[tuple[str, str], ...]
"""(pattern of a path in the observations, what is typed there)."""


@dataclass(frozen=True, slots=True)
class Faultless:
    """What a faultless instrument shows: its readings, and what is usual of the rest where nothing is given."""

    readings: Shown = ()
    usual: Shown = ()


NOT_KNOWN = Faultless()


def faultless(document: Envelope, shown: Faultless) -> Envelope | None:
    """Return the document with every reading of a faultless instrument; None where any was read already, or none is asked for."""
    plain = document.model_dump(mode="json")
    places = list(_places(plain["observations"], "", shown.readings))
    if not places or any(not empty(holder[key]) for holder, key, _ in places):
        return None
    usual = [place for place in _places(plain["observations"], "", shown.usual) if empty(place[0][place[1]])]
    for holder, key, text in [*places, *usual]:
        holder[key] = text
    return type(document).model_validate(plain)


def _places(part: Any, path: str, shown: Shown) -> Iterator[tuple[Any, Any, str]]:
    """Every place of a reading: its holder, its key or place there, what is shown there."""
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
"""A document judged; None where it is not complete."""


def ahead(document: Envelope, shown: Faultless, tried: Tried, methods: Sequence[Method]) -> list[CodedText]:
    """Return what is said before the first reading where the method cannot show an instrument to be good; else nothing.

    methods: those the instrument can be taken by, for what shows more.
    """
    first = _short_of(document, shown, tried)
    if first is None:
        return []
    own = next((method for method in methods if method.name == getattr(document, "method", None)), None)
    others = [method for method in methods if own is not None and method is not own and _alike(method, own)]
    better = next((m.title for m in others if _short_of(_begun(document, m), shown, tried, first.name) is None), "")
    u, limit = first.at_best_u95, first.limits.use
    text = f"This shows {first.noun} to ± {size(u, u, first.unit)} at best; the limit is {bound(limit, first.unit)}. A faultless one usually ends as watch, not as use."
    return [("watch-at-best", f"{text} More is shown by: {better}." if better else text)]


def _short_of(document: Envelope, shown: Faultless, tried: Tried, name: str = "") -> JudgedQuantity | None:
    """The first quantity (or the one named) whose ± is beyond its limit at best; None where there is none, or no telling."""
    perfect = faultless(document, shown)
    judgement = tried(perfect) if perfect is not None else None
    if judgement is None:
        return None
    quantities = [quantity for quantity in judgement.quantities if name in ("", quantity.name)]
    return next((quantity for quantity in quantities if quantity.at_best_u95 > quantity.limits.use), None)


def _alike(one: Method, other: Method) -> bool:
    """Whether two methods are for the same thing: what they begin with differs in its lists alone."""
    settings = [{k: v for k, v in m.observations.items() if not isinstance(v, list)} for m in (one, other)]
    return settings[0] == settings[1]


def _begun(document: Envelope, method: Method) -> Envelope:
    """The same instrument and place by another method, as its sheet begins."""
    plain = document.model_dump(mode="json", exclude_none=True)
    begins = method.in_feet if document.units.length != "m" and method.in_feet else method.observations
    return type(document).model_validate({**plain, "method": method.name, "observations": begins})
