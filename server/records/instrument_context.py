"""What the server knows of an instrument when a document of it is completed."""

from __future__ import annotations

import json
from dataclasses import replace
from functools import lru_cache
from typing import Any

from django.db import connection
from django.db.models import Subquery, TextField
from django.db.models.functions import Cast
from django.http import Http404

from fleet.models import Instrument
from fleet.selectors import due_checks, find, status_of, tag_of
from naveta_core.dispatch import limits_of, stated_of
from naveta_core.documents.instrument_context import PRE_WORK, InstrumentContext
from naveta_core.history.context import instrument_context
from naveta_core.history.entries import read_history
from people.models import Organisation
from shared import clock


def context_for(tag: str, document: Any) -> InstrumentContext:
    """The same for one document: into a pre-work check goes what is due, as the yard and the plan show it."""
    context = context_of(tag)
    if not isinstance(document, dict) or document.get("kind") != PRE_WORK:
        return context
    return replace(context, due=tuple(due_checks(status_of(find(tag), clock.today()).due)))


def context_of(tag: str) -> InstrumentContext:
    """What is known of an instrument, its history and the firm's way of settings. Raises Http404."""
    with connection.cursor() as cursor:
        cursor.execute(_question(), [tag_of(tag)])
        row = cursor.fetchone()
    if row is None:
        raise Http404(tag)
    return _context(tuple(row))


def contexts_of(instruments: list[int]) -> dict[int, InstrumentContext]:
    """The same for many instruments, by their keys."""
    rows = Instrument.objects.filter(pk__in=instruments).values_list("pk", *_fields())
    return {pk: _context(tuple(row)) for pk, *row in rows}


@lru_cache(maxsize=1)
def _question() -> str:
    """The ORM's SQL for one instrument by its tag, put together once: that takes longer than asking it, and it is asked
    at every keystroke. JSON stays text, so that what did not change is not parsed again."""
    sql, parameters = Instrument.objects.filter(tag="").values_list(*_fields()).query.sql_with_params()
    assert parameters == ("",), parameters
    return sql


def _fields() -> list[Any]:
    texts = [Cast(name, TextField()) for name in ("model__stated", "model__limits", "model__work_limits", "derived")]
    return ["model__kind", *texts, Subquery(Organisation.objects.order_by("pk").values("judge_raw")[:1])]


@lru_cache(maxsize=512)
def _context(row: tuple[Any, ...]) -> InstrumentContext:
    """Row: the columns of `_fields`, in that order."""
    kind, stated, limits, work_limits, derived, judge_raw = row
    known = {"kind": kind, **json.loads(stated), **({"judged_raw": True} if judge_raw else {})}
    history = read_history(json.loads(derived).get("history", []))
    by_work = {work: limits_of(found) for work, found in json.loads(work_limits).items()}
    return instrument_context(stated_of(known), limits_of(json.loads(limits)), history, by_work)
