"""The core's answers as plain data, as they leave it: what tests look figures and codes up in."""

from __future__ import annotations

from typing import Any

from naveta_core import dispatch
from naveta_core.checks import KINDS
from naveta_core.history.segment import made_of
from naveta_core.history.summary import summary_of
from naveta_core.orientation import result as orientation
from naveta_core.results import Answer
from naveta_core.setup import advisors, judge, methods
from naveta_core.setup import guide as guiding

Data = dict[str, Any]


def plain(answer: Answer) -> Data:
    return answer.plain()


def reduce_of(kind: str, document: Any) -> Data:
    return KINDS[kind].reduce(document).plain()


def preview_of(kind: str, document: Any) -> Data:
    return KINDS[kind].preview(document).plain()


def adjusting_of(kind: str, document: Any, reads_now: list[Any]) -> Data:
    return KINDS[kind].adjusting(document, reads_now).plain()


def advise(question: Any) -> Data:
    return advisors.advise(question).plain()


def guide(document: Any, act: str | None = None) -> Data:
    return guiding.guide(document, act).plain()


def fitting(instrument: Data, base: Data | None = None) -> Data:
    return methods.fitting(instrument, base).plain()


def preview_set_up(document: Any) -> Data:
    return judge.preview(document).plain()


def reduce_set_up(document: Any) -> Data:
    return judge.reduce(document).plain()


def preview_free(document: Any) -> Data:
    return orientation.preview_free(document).plain()


def asked_preview(document: Any, known: Data | None, at: str) -> Data:
    return dispatch.preview(document, known, at).plain()


def asked_guide(document: Any, known: Data | None, at: str, act: str | None = None) -> Data:
    return dispatch.guiding(document, known, at, act).plain()


def asked_adjusting(document: Any, reads_now: list[Any]) -> Data:
    return dispatch.adjusting(document, reads_now).plain()


def made_check(document: Data, result: Data, at: str, stage: str) -> Data:
    made = made_of(summary_of(document, result), at, stage)
    assert made is not None
    return made


def made_set_up(result: Data, at: str) -> Data | None:
    return made_of(summary_of({}, result), at, "as-found")
