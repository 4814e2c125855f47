"""What the server knows of an instrument when a document of it is completed."""

from __future__ import annotations

import json
from functools import lru_cache

from django.db import connection
from django.db.models import Subquery, TextField
from django.db.models.functions import Cast
from django.http import Http404

from fleet.models import Instrument
from fleet.selectors import tag_of
from naveta_core.dispatch import limits_of, stated_of
from naveta_core.documents.instrument_context import InstrumentContext
from naveta_core.history.context import instrument_context
from naveta_core.history.entries import read_history
from people.models import Organisation


def context_of(tag: str) -> InstrumentContext:
    """What is known of an instrument, its history and the firm's way of judging. Raises Http404."""
    with connection.cursor() as cursor:
        cursor.execute(_question(), [tag_of(tag)])
        row = cursor.fetchone()
    if row is None:
        raise Http404(tag)
    return _context(*row)


@lru_cache(maxsize=1)
def _question() -> str:
    """The ORM's SQL for one instrument by its tag, put together once: that costs more than asking it, and it is asked
    at every keystroke. JSON stays text, so that what did not change is not parsed again."""
    texts = [Cast(name, TextField()) for name in ("model__stated", "model__limits", "derived")]
    judged = Subquery(Organisation.objects.order_by("pk").values("judge_raw")[:1])
    rows = Instrument.objects.filter(tag="").values_list("model__kind", *texts, judged)
    sql, parameters = rows.query.sql_with_params()
    assert parameters == ("",), parameters
    return sql


@lru_cache(maxsize=512)
def _context(kind: str, stated: str, limits: str, derived: str, judge_raw: bool | None) -> InstrumentContext:
    known = {"kind": kind, **json.loads(stated), **({"judged_raw": True} if judge_raw else {})}
    history = read_history(json.loads(derived).get("history", []))
    return instrument_context(stated_of(known), limits_of(json.loads(limits)), history)
