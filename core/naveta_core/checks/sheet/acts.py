"""Turning, storing or mending what a check found: the readings on the way, or only the acts where nothing is read."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import asdict, dataclass
from typing import Any

from ...errors import Fault, Refused, said
from ...judgement import Grade
from ...wording import capital
from .figures import size
from .judged import Judged, next_of, offers_adjusting

NOT_PROVED = (
    "These readings do not prove the error well enough to turn a screw. Repeat the check, or take more readings."
)
Data = dict[str, Any]
Acting = Callable[[Any, Any, Judged, Grade, list[Any]], "Guide"]


@dataclass
class Guide:
    """What is done now, and what each reading since the first turn leaves. Without wells nothing is read on the way."""

    text: str
    allowed: bool
    wells: tuple[str, ...] = ()
    asked: str = ""
    unit: str = ""
    from_text: str = ""
    target_text: str = ""
    tool: str = ""
    screw: str = ""
    steps: tuple[Data, ...] = ()

    def as_dict(self) -> Data:
        told = asdict(self)
        if self.wells and not self.allowed:
            told["text"] = NOT_PROVED
        return {**told, "wells": list(self.wells), "steps": list(self.steps)}


def by_hand(_document: Any, _read: Any, judged: Judged, grade: Grade, reads_now: list[Any]) -> Guide:
    """What is stored by the instrument's own routine, or mended: only the acts the finding calls for. Raises Refused."""
    if reads_now:
        given = ", ".join(said(one) for one in reads_now)
        raise Refused([Fault("reads_now", "it is now at", given, "nothing: it is done, then the check is run again")])
    acts = [text for code, text in next_of(judged, grade) if code == "adjust" or (code, text) in judged.to_mend]
    # What may be adjusted without having to be is led through all the same.
    acts = acts or [one.turn for one in judged.quantities if one.turn and offers_adjusting(one)]
    return Guide(" ".join(dict.fromkeys(acts)) if acts else _why_not(judged), bool(acts))


def _why_not(judged: Judged) -> str:
    """Why nothing is done by a finding: it calls for nothing, or does not prove what it calls for."""
    unproved = [one for one in judged.quantities if one.grade in ("adjust", "watch") and not one.may_turn()]
    if not unproved:
        return "Nothing needs to be stored or repaired. Repeat the check first, or take more readings."
    one = max(unproved, key=lambda quantity: quantity.estimate.u95)
    wanted = size(one.fine * one.limits.use, one.fine * one.limits.use, one.unit)
    known = size(one.estimate.u95, one.estimate.u95, one.unit)
    return f"{capital(one.noun)}: known only to ± {known}. To store or repair it needs ± {wanted} or better: repeat the check with more readings."
