"""Offsets of a zone as devices use them: by hand for changes that are known, and against the zone itself."""

from __future__ import annotations

import random
from datetime import UTC, datetime, timedelta
from zoneinfo import ZoneInfo

import pytest

from shared.zones import offsets_of


def minute(*parts: int) -> int:
    return int(datetime(*parts, tzinfo=UTC).timestamp()) // 60  # type: ignore[arg-type,misc]


def test_known_changes_by_hand() -> None:
    """London's clocks change at 01:00 UTC on the last Sundays of March and October, Winnipeg's at 02:00 of its own."""
    london = dict(offsets_of("Europe/London", 2027))
    assert london[minute(2027, 3, 28, 1)] == 60
    assert london[minute(2027, 10, 31, 1)] == 0
    winnipeg = dict(offsets_of("America/Winnipeg", 2027))
    assert winnipeg[minute(2026, 3, 8, 8)] == -300
    assert winnipeg[minute(2026, 11, 1, 7)] == -360
    assert offsets_of("UTC", 2027) == [(minute(2000, 1, 1), 0)]
    assert dict(offsets_of("Asia/Kolkata", 2027)) == {minute(2000, 1, 1): 330}


@pytest.mark.parametrize(
    "name", ["Europe/Lisbon", "Pacific/Apia", "Africa/Casablanca", "America/St_Johns", "Asia/Kathmandu"]
)
def test_any_moment_has_the_zones_own_offset(name: str) -> None:
    offsets, zone, rng = offsets_of(name, 2027), ZoneInfo(name), random.Random(name)
    assert len(offsets) < 140
    for _ in range(400):
        at = datetime(2000, 1, 2, tzinfo=UTC) + timedelta(minutes=rng.randrange(37 * 365 * 1440))
        ahead = [minutes for since, minutes in offsets if since * 60 <= at.timestamp()][-1]
        assert timedelta(minutes=ahead) == at.astimezone(zone).utcoffset()
