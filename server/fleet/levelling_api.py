"""The load of checks, levelled on request."""

from __future__ import annotations

from datetime import date
from typing import Any

from django.http import HttpRequest
from ninja import Router, Schema

from fleet.levelling import levelled_load
from shared import clock

router = Router(tags=["plan"])
MAX_DAYS = 370


class PlacedCheck(Schema):
    """A check on its morning, and the day it is due."""

    tag: str
    check: str
    title: str
    minutes: int
    due_on: date


class MorningOut(Schema):
    """What one crew checks on one morning; `quiet`: no job of theirs runs that day."""

    day: date
    crew: str
    quiet: bool
    minutes: int
    checks: list[PlacedCheck]


class WeekLoad(Schema):
    """Minutes of a week as they fall due, and levelled."""

    monday: date
    due: int
    levelled: int


class LevelledLoad(Schema):
    """Who checks what on which morning until a day."""

    today: date
    until: date
    mornings: list[MorningOut]
    weeks: list[WeekLoad]


@router.get("/due/levelled", response=LevelledLoad, operation_id="level_load")
def get_levelled(request: HttpRequest, days: int = 35, crew: str = "") -> Any:
    """What is due within so many days, spread over quiet mornings; for one crew, if one is named."""
    return levelled_load(clock.today(), min(max(days, 1), MAX_DAYS), crew)
