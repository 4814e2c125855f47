"""Records found by words: what they are found by as plain words, and the database's own index of these.

A typed word finds every word that begins with it; `two-peg` and `7.2` are words side by side. SQLite keeps its index in
a table of its own, written by triggers whoever writes records; PostgreSQL in an index of the column.
"""

from __future__ import annotations

import re
import unicodedata

from django.db import connection
from django.db.models import QuerySet

from records.models import Record

MAX_WORDS = 8
MAX_BY_INDEX = 2_000
"""Words found more often are looked for in the order of days: a page of them is full soon."""
_WORD = re.compile(r"[^\W_]+")


def plain_words(text: str) -> str:
    """A text as words in small letters, a space before each: ' lv 07 two peg test'."""
    return "".join(f" {word}" for word in _WORD.findall(unicodedata.normalize("NFKC", text).lower()))


def wanted_words(typed: str) -> list[str]:
    """What was typed as plain words, those side by side together."""
    return [plain for word in typed.split()[:MAX_WORDS] if (plain := plain_words(word))]


def found_often(typed: str) -> bool:
    """Whether more records hold every typed word than are taken from the index."""
    wanted = wanted_words(typed)
    return bool(wanted) and len(_arrivals(wanted)) > MAX_BY_INDEX


def holding(rows: QuerySet[Record], typed: str) -> QuerySet[Record]:
    """Those of the rows that hold every typed word."""
    wanted = wanted_words(typed)
    if not wanted:
        return rows.none() if typed.strip() else rows
    arrivals = _arrivals(wanted)
    if len(arrivals) <= MAX_BY_INDEX:
        return rows.filter(arrival__in=arrivals)
    for plain in wanted:
        rows = rows.filter(search__contains=plain)
    return rows


def _arrivals(wanted: list[str]) -> list[int]:
    """The arrivals of records that hold all of it by the index, at most one more than are taken from it."""
    with connection.cursor() as cursor:
        if connection.vendor == "sqlite":
            sql = "SELECT rowid FROM records_words WHERE records_words MATCH %s LIMIT %s"
            query = " AND ".join(f'"{plain.strip()}"*' for plain in wanted)
        else:
            sql = "SELECT arrival FROM records_record WHERE to_tsvector('simple', search) @@ to_tsquery('simple', %s) LIMIT %s"
            query = " & ".join(f"({' <-> '.join(plain.split())}:*)" for plain in wanted)
        cursor.execute(sql, [query, MAX_BY_INDEX + 1])
        return [arrival for (arrival,) in cursor.fetchall()]
