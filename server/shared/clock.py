"""What time it is. NAVETA_NOW stops the clock, in the demo and in tests only."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from datetime import UTC, date, datetime
from zoneinfo import ZoneInfo

from django.conf import settings

_told: ContextVar[datetime | None] = ContextVar("told", default=None)


@contextmanager
def told(moment: datetime) -> Iterator[None]:
    """Within the block it is `moment`: for the demo's script, which writes two years of history in one go."""
    token = _told.set(moment.astimezone(UTC))
    try:
        yield
    finally:
        _told.reset(token)


def is_given() -> bool:
    """Whether a script says the time: it writes history, instrument by instrument."""
    return _told.get() is not None and settings.NAVETA.demo


def now() -> datetime:
    """The present moment, in UTC."""
    stated_moment = _told.get()
    if stated_moment is not None and settings.NAVETA.demo:
        return stated_moment
    frozen = settings.NAVETA.now
    if frozen is not None and settings.NAVETA.demo:
        return (frozen if frozen.tzinfo else frozen.replace(tzinfo=zone())).astimezone(UTC)
    return datetime.now(UTC)


def zone() -> ZoneInfo:
    """The firm's zone."""
    return ZoneInfo(settings.TIME_ZONE)


def today() -> date:
    """The firm's day."""
    return now().astimezone(zone()).date()
