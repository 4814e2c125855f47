"""The answers of a check of rows: the result of a complete document, and what can be said of one still being filled."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from typing import Any

from ... import __version__
from ...cautions import cautions
from ...judgement import Estimate, Grade
from ...readings import Sheet
from .circumstances import NOTHING_NEEDED, Circumstances, Needs, circumstances
from .figures import bound
from .judged import Judged, Quantity, Said, grade_of, headline, next_of

Data = dict[str, Any]


@dataclass
class SoFar:
    """What can be said before a check is complete, beside its circumstances."""

    said: list[Said]
    apart: tuple[str, str] | None = None
    """The path of a figure that stands apart, and what is to be done about it."""
    mends: list[Data] = field(default_factory=list)
    """Slips of entry that one touch mends: code, text, and what is to stand where (`puts`)."""


@dataclass(frozen=True, slots=True)
class Recipe:
    """How one kind of check is read, judged and drawn."""

    name: str
    read: Callable[[Any, Sheet], Any]
    judge: Callable[[Any, Any, Circumstances], Judged]
    so_far: Callable[[Any, Any], SoFar]
    picture: Callable[[Any, Any, Judged | None], Data | None]
    caution_codes: dict[str, tuple[str, ...]]
    where: Callable[[str], str]
    needs: Callable[[Any], Needs] = lambda _: NOTHING_NEEDED
    """What a document of this kind wants of its circumstances."""
    leans_on: tuple[tuple[tuple[str, ...], str], ...] = ()
    """What should be fresh before this one: (kinds of which one will do, what to look at first)."""

    def judged(self, document: Any) -> tuple[Any, Judged, Grade]:
        """A complete document as read, judged and graded. Raises Refused with every fault and everything missing."""
        sheet = Sheet(document.units.length)
        read = self.read(document, sheet)
        sheet.demand_complete()
        return read, *self._graded(document, read)

    def reduce(self, document: Any) -> Data:
        """A complete document to its result. Raises Refused with every fault and everything missing."""
        read, judged, grade = self.judged(document)
        return self._result(document, read, judged, grade)

    def _graded(self, document: Any, read: Any) -> tuple[Judged, Grade]:
        told = circumstances(document, self.needs(document))
        judged = self.judge(document, read, told)
        judged.refused = [*told.blocked, *judged.refused]
        judged.reasons = [*told.weak, *judged.reasons, *self._first(document)]
        return judged, grade_of(document, judged)

    def _first(self, document: Any) -> list[Said]:
        """What should have been looked at before, and was not lately; only where the instrument's history is known."""
        if document.before_at is None:
            return []
        from .. import kinds_for  # the registry knows this module

        applying = {one.name for one in kinds_for(document.instrument.model_dump(exclude_none=True))}
        return [
            ("fresh-first", f"{what} has not passed lately: look at it first.")
            for kinds, what in self.leans_on
            if (document.instrument.kind is None or applying.intersection(kinds))
            and not circumstances(document, Needs(proved_first=kinds)).proved
        ]

    def preview(self, document: Any) -> Data:
        """What can be said already; faults only about what was typed, the whole result once it is complete."""
        sheet = Sheet(document.units.length)
        read = self.read(document, sheet)
        complete = not sheet.missing and not sheet.faults
        so_far = self.so_far(document, read)
        answer = {
            "complete": complete,
            "missing": sheet.missing,
            "faults": [fault.as_dict() for fault in sheet.faults],
        }
        if not complete:
            return {
                **answer,
                "partial": self._partial(document, sheet, so_far),
                "picture": self.picture(document, read, None),
            }
        judged, grade = self._graded(document, read)
        so_far.apart = judged.apart or so_far.apart
        result = self._result(document, read, judged, grade)
        return {
            **answer,
            "partial": self._partial(document, sheet, so_far),
            "picture": result["picture"],
            "reduced": result,
        }

    def _partial(self, document: Any, sheet: Sheet, so_far: SoFar) -> Data:
        path = sheet.missing[0] if sheet.missing else None
        told = circumstances(document, self.needs(document))
        return {
            "sights": [],
            "setups": [],
            "expected": None,
            "unit": document.units.length,
            "next": None if path is None else {"path": path, "where": self.where(path)},
            "looks": _coded(told.blocked),
            "said": _coded([*told.weak, *so_far.said, *self._first(document)]),
            "apart": None if so_far.apart is None else {"path": so_far.apart[0], "text": so_far.apart[1]},
            "mends": so_far.mends,
        }

    def _result(self, document: Any, read: Any, judged: Judged, grade: Grade) -> Data:
        return {
            "kind": self.name,
            "result": judged.figures,
            "finding": {"text": headline(judged.finding, grade, judged.refused, judged.reasons)},
            "verdict": {
                "grade": grade,
                "reasons": _coded(judged.reasons),
                "next": _coded(next_of(judged, grade)),
                "parts": [_part(one) for one in judged.quantities],
                "set_aside": judged.set_aside,
            },
            "shown": judged.shown,
            "picture": self.picture(document, read, judged),
            "work": judged.work,
            "cautions": cautions(*self.caution_codes["adjusting" if grade == "adjust" else "reading"]),
            "worked": judged.worked,
            "core_version": __version__,
        }


def _coded(said: list[Said]) -> list[Data]:
    return [{"code": code, "text": text} for code, text in said]


def _part(one: Quantity) -> Data:
    e: Estimate = one.estimate
    limits = one.limits
    conditional = f", {bound(limits.watch, one.unit)} under a condition" if limits.watch > limits.use else ""
    return {
        "quantity": one.name,
        "value": e.value,
        "sigma": e.sigma,
        "u95": e.u95,
        "dof": e.dof,
        "basis": "pooled" if e.pooled else "a-priori",
        "proved_to": e.proved_to if one.confirmed is None else one.confirmed.proved_to,
        "limits": {"use": limits.use, "watch": limits.watch, "adjust": limits.adjust},
        "why": limits.source,
        "limit_text": f"Limit {bound(limits.use, one.unit)}{conditional}: {limits.source}",
        "grade": one.grade,
    }
