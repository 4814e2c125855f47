"""Stays at service: when an instrument went and came back, how long it was away, and what that cost."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import KW_ONLY, dataclass
from datetime import date

from ..results import Answer


class StoredSetting(Answer):
    """A value stored in instruments that a service can reset."""

    name: str
    label: str


_ANGLES = ("theodolite", "total-station", "robotic-total-station")
_STORED: tuple[tuple[str, str, tuple[str, ...]], ...] = (
    ("line-of-sight", "Collimation of the level", ("level", "digital-level")),
    ("collimation", "Collimation error c", _ANGLES),
    ("index", "Vertical index error i", _ANGLES),
    ("trunnion-axis", "Trunnion axis error t", _ANGLES),
    ("electronic-level", "Index of the electronic level", _ANGLES),
    ("tracker", "Target tracker", ("robotic-total-station",)),
)


def stored_settings(kind: str) -> list[StoredSetting]:
    """What a service can reset in an instrument of a kind."""
    return [StoredSetting(name=name, label=label) for name, label, kinds in _STORED if kind in kinds]


@dataclass(frozen=True, slots=True)
class ServiceEvent:
    """A sending or a coming back, on a day; costs in the firm's currency, 0 where none was noted."""

    tag: str
    model: str
    out: bool
    _: KW_ONLY
    day: date
    cost: float = 0.0
    days_cost: float = 0.0


@dataclass(frozen=True, slots=True)
class Stay:
    """One stay at service; `back` None while it lasts, `out` None where nobody noted the sending. Costs in the firm's currency."""

    tag: str
    model: str
    out: date | None
    _: KW_ONLY
    back: date | None
    cost: float = 0.0
    days_cost: float = 0.0

    def days(self, today: date) -> int:
        """Days without it, until today while it lasts; 0 where nobody noted the sending."""
        return ((self.back or today) - self.out).days if self.out else 0


@dataclass(frozen=True, slots=True)
class ServiceYear:
    """Everything of one model in one year, by the day on which it came back; costs in the firm's currency."""

    year: int
    model: str
    services: int
    days: int
    cost: float
    days_cost: float


def stays(events: Iterable[ServiceEvent]) -> list[Stay]:
    """Stays, each instrument's in the order of its events; `events` in that order."""
    found: list[Stay] = []
    away: dict[str, ServiceEvent] = {}
    for event in events:
        if event.out:
            away.setdefault(event.tag, event)
            continue
        sent = away.pop(event.tag, None)
        found.append(
            Stay(
                event.tag,
                event.model,
                sent.day if sent else None,
                back=event.day,
                cost=event.cost,
                days_cost=event.days_cost,
            )
        )
    return found + [Stay(event.tag, event.model, event.day, back=None) for event in away.values()]


def by_year(found: Iterable[Stay], today: date) -> list[ServiceYear]:
    """What came back, summed by year and model, the latest year first; what is still away is in none."""
    sums: dict[tuple[int, str], ServiceYear] = {}
    for stay in found:
        if stay.back is None:
            continue
        key = (stay.back.year, stay.model)
        old = sums.get(key, ServiceYear(*key, 0, 0, 0.0, 0.0))
        sums[key] = ServiceYear(
            *key,
            old.services + 1,
            old.days + stay.days(today),
            old.cost + stay.cost,
            old.days_cost + stay.days_cost,
        )
    return sorted(sums.values(), key=lambda entry: (-entry.year, entry.model))
