"""The core's answers as plain data, as they leave it: what tests look figures and codes up in."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date
from typing import Any

from naveta_core import checks, dispatch
from naveta_core.checks import KINDS
from naveta_core.documents.envelope import Instrument
from naveta_core.documents.instrument_context import InstrumentContext
from naveta_core.engine.kind import Kind
from naveta_core.history import context as history
from naveta_core.history import standing as standings
from naveta_core.history.entries import entry_of, read_history
from naveta_core.history.facts import CheckRecord, EventRecord
from naveta_core.history.standing import Standing
from naveta_core.history.summary import summary_of
from naveta_core.orientation import result as orientation
from naveta_core.readiness import choose
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


def fitting(instrument: Data, tribrach: Data | None = None) -> Data:
    return methods.fitting(Instrument(**instrument), None if tribrach is None else Instrument(**tribrach)).plain()


def preview_set_up(document: Any) -> Data:
    return judge.preview(document).plain()


def reduce_set_up(document: Any) -> Data:
    return judge.reduce(document).plain()


def preview_free(document: Any) -> Data:
    return orientation.preview_free(document).plain()


def previewed(document: Any, context: InstrumentContext | None, at: str) -> Data:
    return dispatch.preview(document, context, at).plain()


def guided(document: Any, context: InstrumentContext | None, at: str, act: str | None = None) -> Data:
    return dispatch.guiding(document, context, at, act).plain()


def adjusting_steps(document: Any, reads_now: list[Any]) -> Data:
    return dispatch.adjusting(document, reads_now).plain()


def made_check(document: Data, result: Data, at: str, stage: str) -> Data:
    entry = entry_of(summary_of(document, result), at, stage)
    assert entry is not None
    return entry.plain()


def made_set_up(result: Data, at: str) -> Data | None:
    entry = entry_of(summary_of({}, result), at, "as-found")
    return entry.plain() if entry else None


def context_of(stated: Data, limits: Data, entries: list[Data]) -> InstrumentContext:
    return history.instrument_context(dispatch.stated_of(stated), dispatch.limits_of(limits), read_history(entries))


def known(stated: Data) -> InstrumentContext:
    """An instrument nobody has measured with yet."""
    return context_of(stated, {}, [])


def before_of(entries: list[Data]) -> list[Data]:
    return [
        earlier.model_dump(mode="json", exclude_unset=True) for earlier in history.earlier_checks(read_history(entries))
    ]


def rest_of(entries: list[Data]) -> Data:
    return history.stored_values(read_history(entries))


def noise_of(entries: list[Data], kind: str) -> Data | None:
    noise = history.noise_of(read_history(entries), kind)
    return noise.model_dump() if noise else None


def kinds_for(stated: Data) -> list[Kind]:
    return checks.kinds_for(Instrument(**stated))


def methods_for(kind: Kind, stated: Data) -> list[str]:
    return kind.methods_for(Instrument(**stated))


def of_round(stated: Data) -> list[Kind]:
    return choose.of_round(Instrument(**stated))


def standing(stated: Data, records: Sequence[CheckRecord], events: Sequence[EventRecord], today: date) -> Standing:
    return standings.standing(Instrument(**stated), records, events, today=today)
