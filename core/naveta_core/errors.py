"""The core's errors.

NavetaError
  +-- NotJson(NavetaError, ValueError)     the bytes are not a JSON object we may read
  +-- Refused(NavetaError, ValueError)     read, but with faults; carries all of them
  +-- UnknownKind(Refused)                 no such check
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import asdict, dataclass
from typing import Any

MOST_FAULTS = 50
GIVEN_LENGTH = 80


@dataclass(frozen=True, slots=True)
class Fault:
    """One thing that is wrong with a document: where, what was given, what is wanted."""

    path: str
    where: str
    given: str
    wanted: str

    def __str__(self) -> str:
        return f"{self.path}: given {self.given}, wanted {self.wanted}"

    def as_dict(self) -> dict[str, str]:
        return asdict(self)


def quote(value: object) -> str:
    """A value as it is repeated to the person: their own characters, cut when very long."""
    if value is None:
        return "nothing"
    if isinstance(value, bool):
        return "true" if value else "false"
    if isinstance(value, dict):
        return "an object"
    if isinstance(value, list):
        return "a list"
    text = str(value)
    if text == "":
        return "nothing"
    return text if len(text) <= GIVEN_LENGTH else text[: GIVEN_LENGTH - 1] + "…"


class NavetaError(Exception):
    """Root of everything the core raises on purpose."""


class NotJson(NavetaError, ValueError):
    """The bytes are no JSON text this server reads; `reason` says why in one sentence."""

    def __init__(self, reason: str) -> None:
        self.reason = reason
        super().__init__(reason)


class Refused(NavetaError, ValueError):
    """A document with faults: all of them at once, at most 50."""

    def __init__(self, faults: Iterable[Fault]) -> None:
        self.faults = tuple(faults)[:MOST_FAULTS]
        super().__init__("; ".join(str(f) for f in self.faults))


class UnknownKind(Refused):
    """There is no check of this kind."""


def refusal(error: NotJson | Refused) -> dict[str, Any]:
    """An error as it is answered: status, code, title and every fault, the same from server and device."""
    if isinstance(error, Refused):
        count = len(error.faults)
        title = (
            "One thing is wrong; nothing was saved." if count == 1 else f"{count} things are wrong; nothing was saved."
        )
        return {"status": 422, "code": "faults", "title": title, "faults": [fault.as_dict() for fault in error.faults]}
    if "too many" in error.reason:
        return {"status": 413, "code": "too-large", "title": error.reason, "faults": []}
    return {"status": 400, "code": "not-json", "title": error.reason, "faults": []}
