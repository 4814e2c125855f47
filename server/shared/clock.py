"""What time it is. NAVETA_NOW stops the clock, in the demo and in tests only."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from datetime import UTC, date, datetime
from zoneinfo import ZoneInfo

from django.conf import settings

_frozen_now: ContextVar[datetime | None] = ContextVar("frozen_now", default=None)


@contextmanager
def frozen_now(moment: datetime) -> Iterator[None]:
    """Within the block it is `moment`: for the demo's script, which writes two years of history in one go."""
    token = _frozen_now.set(moment.astimezone(UTC))
    try:
        yield
    finally:
        _frozen_now.reset(token)


def is_given() -> bool:
    """Whether a script says the time: it writes history, instrument by instrument."""
    return _frozen_now.get() is not None and settings.NAVETA.demo


def now() -> datetime:
    """The present moment, in UTC."""
    stated_moment = _frozen_now.get()
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
