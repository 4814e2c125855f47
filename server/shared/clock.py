"""What time it is. NAVETA_NOW stops the clock, in the demo and in tests only."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from datetime import UTC, date, datetime
from time import monotonic
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


_zone_source: Callable[[], str] | None = None
_zone: tuple[float, str] = (float("-inf"), "")
ZONE_HOLDS_S = 5.0


def use_zone(source: Callable[[], str]) -> None:
    """Where the firm's own zone is asked for; empty where it has set none."""
    global _zone_source
    _zone_source = source


def zone() -> ZoneInfo:
    """The firm's zone, or the server's where none is set; asked for every few seconds, since days depend on it."""
    global _zone
    read_at, name = _zone
    if monotonic() - read_at > ZONE_HOLDS_S:
        name = _zone_source() if _zone_source else ""
        _zone = (monotonic(), name)
    return ZoneInfo(name or settings.TIME_ZONE)


def forget_zone() -> None:
    """It was changed: ask again."""
    global _zone
    _zone = (float("-inf"), "")


def today() -> date:
    """The firm's day."""
    return now().astimezone(zone()).date()
