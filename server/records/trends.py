"""Series of an instrument with what they say, estimated together with others of its model."""

from __future__ import annotations

import json
from datetime import datetime
from typing import Any

from fleet.models import Instrument
from naveta_core.checks import KINDS
from naveta_core.engine.contradiction import CONTRADICTS, DECIDED
from naveta_core.history.context import cuts
from naveta_core.history.entries import PastCheck, PastEvent, read_history
from naveta_core.history.pooling import ModelSeries, Pool, pool_of
from naveta_core.history.series import SeriesCheck
from naveta_core.history.trend import Trend, model_series_from, tau_of, trend_of
from plan.rules import rule_book
from records.models import Record
from records.summary import read_summary
from records.times import happened_at
from shared import clock

Event = dict[str, Any]
AGAINST = (CONTRADICTS, DECIDED)
_pools: dict[tuple[int, str], tuple[str, Pool | None]] = {}
"""What models say, by instrument and kind of check: good until something of one of its instruments changes."""


def trend(instrument: Instrument, kind: str, rows: list[Record], events: list[Event]) -> Trend | None:
    """What a series says. rows: the standing checks of the kind; events: as a series has them."""
    of = KINDS[kind]
    cut = [datetime.fromisoformat(event["at"]) for event in events if cuts(_past(event), kind)]
    need = rule_book().requirement(kind, instrument.model.kind, str(instrument.model))
    return trend_of(
        [check for row in rows if (check := _check(row, of.main_quantity))],
        cut,
        clock.now(),
        unit=of.unit,
        tau=tau_of(kind, of.unit),
        rule_days=(need.every_days if need else None) or of.interval_days,
        pool=_pool(instrument, kind),
    )


def _past(event: Event) -> PastEvent:
    return PastEvent(what="event", event=event["event"], at=event["at"], kind=event.get("check") or None)


def _check(row: Record, quantity: str) -> SeriesCheck | None:
    summary = read_summary(row)
    if summary.point is None:
        return None
    sigma = summary.figures.get(f"sigma_{quantity}")
    return SeriesCheck(
        id=str(row.pk),
        at=happened_at(row),
        value=summary.point.value,
        sigma=float(sigma) if isinstance(sigma, int | float) else summary.point.u95 / 2,
        limit=summary.point.use,
        stage=row.stage,
        grade=summary.grade,
        temperature_c=summary.temperature_c,
        against=next((code for code in summary.codes if code in AGAINST), ""),
    )


def _pool(instrument: Instrument, kind: str) -> Pool | None:
    """What the others of its model say, from what is stored beside each."""
    others = Instrument.objects.filter(model_id=instrument.model_id).exclude(pk=instrument.pk)
    stamp = json.dumps(sorted(others.values_list("derived_stamp", flat=True)))
    key = (instrument.pk, kind)
    known = _pools.get(key)
    if known is None or known[0] != stamp:
        histories = others.values_list("derived", flat=True)
        found = [_series_of(derived.get("history", []), kind) for derived in histories]
        if len(_pools) > MAX_POOLS:
            _pools.clear()
        known = _pools[key] = (stamp, pool_of([each for each in found if each]))
    return known[1]


MAX_POOLS = 500


def _series_of(history: list[Any], kind: str) -> ModelSeries | None:
    of, entries = KINDS[kind], read_history(history)
    checks = [
        SeriesCheck(
            id="",
            at=datetime.fromisoformat(entry.at),
            value=float(value),
            sigma=float(sigma),
            limit=1.0,
            stage=entry.stage,
            grade=entry.grade,
        )
        for entry in entries
        if isinstance(entry, PastCheck) and entry.kind == kind
        if isinstance(value := entry.result.get(of.main_quantity), int | float)
        if isinstance(sigma := entry.result.get(f"sigma_{of.main_quantity}"), int | float)
    ]
    cut = [datetime.fromisoformat(entry.at) for entry in entries if isinstance(entry, PastEvent) and cuts(entry, kind)]
    return model_series_from(checks, cut, tau_of(kind, of.unit))
