"""Filling in a document with what is known of the instrument, before preview and before saving.

The same fields are filled both times and in both places, on the server and on a device without signal, so that what a
person saw is what is stored, and the stored document alone reduces to the stored result.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any

from pydantic import BaseModel

from ..errors import Fault, Refused, quote
from .envelope import DueCheck, Earlier, Instrument, LimitSet, Noise

OWNED = ("instrument", "limits", "stored", "before", "before_at", "due")
"""Fields the server states; what a sheet or file claims in them is not taken."""
PRE_WORK = "pre-survey"
BY_CONTROL = ("free-station", "backsight")


@dataclass(frozen=True, slots=True)
class InstrumentContext:
    """What is known of an instrument: as stated, the firm's limits, noise by kind of check, earlier results newest
    first, and values in force by kind of document.

    Stored values in the unit of their names.
    """

    instrument: Instrument
    limits: Mapping[str, LimitSet] = field(default_factory=dict)
    work_limits: Mapping[str, Mapping[str, LimitSet]] = field(default_factory=dict)
    """The same for single classes of work, by their names; what is not set there holds as for all work."""
    noise: Mapping[str, Noise] = field(default_factory=dict)
    before: tuple[Earlier, ...] = ()
    control: tuple[Earlier, ...] = ()
    stored: Mapping[str, Mapping[str, float | str]] = field(default_factory=dict)
    due: tuple[DueCheck, ...] = ()
    """What is due for it when: the pre-work check begins from it."""

    def fields(self, kind: str, class_of_work: str = "") -> dict[str, Any]:
        """The models it states in a document of a kind, for a class of work; what is not known is left out."""
        noise = self.noise.get(kind)
        instrument = self.instrument.model_copy(update={"noise": noise}) if noise else self.instrument
        # Control points are compared with earlier ones, checks with earlier checks.
        before = list(self.control if kind in BY_CONTROL else self.before)
        stated = {
            "limits": {**self.limits, **self.work_limits.get(class_of_work, {})},
            "before": before,
            "stored": dict(self.stored.get(kind, {})),
            "due": list(self.due) if kind == PRE_WORK else [],
        }
        return {"instrument": instrument, **{name: value for name, value in stated.items() if value}}


def complete(document: Any, context: InstrumentContext | None, at: str) -> dict[str, Any]:
    """A document as it is stored: plain data, with what is known of its instrument. Raises Refused.

    at: now, ISO with offset; context None leaves the document alone.
    """
    completed = with_context(document, context, at)
    return completed if context is None else {name: _plain(value) for name, value in completed.items()}


def with_context(document: Any, context: InstrumentContext | None, at: str) -> dict[str, Any]:
    """The same for the parser alone: what is known stays as models, and is not read a second time. Raises Refused."""
    if not isinstance(document, dict):
        raise Refused([Fault("$", "the whole document", quote(document), "an object with kind and observations")])
    if context is None:
        return document
    typed = {key: value for key, value in document.items() if key not in OWNED}
    # Without earlier results it is still known when this one was taken, and that there were none.
    work = typed.get("work")
    class_of_work = str(work.get("class_of_work") or "") if isinstance(work, dict) else ""
    return {**typed, **context.fields(str(typed.get("kind")), class_of_work), "before_at": at}


def _plain(value: Any) -> Any:
    if isinstance(value, BaseModel):
        return value.model_dump(mode="json", exclude_unset=True)
    if isinstance(value, list) and value and isinstance(value[0], Earlier | DueCheck):
        return [_plain(earlier) for earlier in value]
    if isinstance(value, dict) and any(isinstance(limit, LimitSet) for limit in value.values()):
        return {name: _plain(limit) for name, limit in value.items()}
    return value
