"""What time it is. NAVETA_NOW stops the clock, in the demo and in tests only."""

from __future__ import annotations

from datetime import UTC, date, datetime
from zoneinfo import ZoneInfo

from django.conf import settings


def now() -> datetime:
    """The present moment, in UTC."""
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
