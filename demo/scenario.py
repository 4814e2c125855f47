"""The invented firm: Sorrel & Quay at Pellow Creek. People, crews, models, levels and what befell each of them.

Days are counted back from today, so that two years of history end this morning. Errors are in arcseconds.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field

PEOPLE = (
    ("ines", "Ines Calder", "manager", None),
    ("tam", "Tam Brandreth", "crew", "Bramble"),
    ("wren", "Wren Adair", "crew", "Thrift"),
    ("jory", "Jory Pell", "trainee", "Bramble"),
)
MODELS = (
    {
        "maker": "Ondine",
        "name": "Merrow",
        "kind": "level",
        "stated": {
            "reading": "optical",
            "magnification": 28,
            "levelling_accuracy_mm_per_km": 2.0,
            "compensator_range_arcmin": 15,
        },
        "limits": {},
        "hints": "The reticle screw is under the round cap below the eyepiece; the pin is in the lid of the case.",
    },
    {
        "maker": "Ondine",
        "name": "Skerrow",
        "kind": "digital-level",
        "stated": {"reading": "digital", "levelling_accuracy_mm_per_km": 0.7, "compensator_range_arcmin": 12},
        "limits": {},
        "hints": "Reads a bar-coded staff; keep it evenly lit. The stored value is set first, the reticle after it.",
    },
)
OTHER_MODELS = (
    {
        "maker": "Marrick",
        "name": "Tessaly",
        "kind": "robotic-total-station",
        "stated": {
            "angle_accuracy_arcsec": 3.0,
            "distance_accuracy_mm": 2.0,
            "distance_accuracy_ppm": 2.0,
            "compensator_range_arcmin": 4,
            "plunges": True,
            "plummet": "laser",
            "plummet_place": "turning",
        },
        "limits": {},
        "hints": "The laser plummet goes off by itself after three minutes.",
    },
    {
        "maker": "Marrick",
        "name": "Aldreth",
        "kind": "theodolite",
        "stated": {"angle_accuracy_arcsec": 5.0, "plunges": True, "plummet": "optical", "plummet_place": "turning"},
        "limits": {},
        "hints": "Plummet: the outer ring makes the cross sharp, the inner one the ground.",
    },
)
OTHERS = (
    ("TS-01", "Tessaly", "88014", None, "Yard shelf 5"),
    ("TS-03", "Tessaly", "88092", "Bramble", ""),
    ("TD-01", "Aldreth", "5530", "Thrift", ""),
)
"""Instruments without checks of their own yet: tag, model, serial, crew, place."""
JOBS = ("East abutment, pile heads", "Flood wall line", "East abutment, blinding", "Flood wall, QB-1 to QB-3")


@dataclass(frozen=True)
class Level:
    """One level's life. `error` gives its true error by days before today."""

    tag: str
    model: str
    serial: str
    crew: str | None
    place: str
    error: Callable[[float], float]
    since_days: int = 730
    last_check_days: int = 15
    knocks: tuple[tuple[int, str], ...] = ()
    adjusted_days: tuple[int, ...] = ()
    bad_this_morning: bool = False
    out_every_days: int = 9
    readings: int = 4
    jobs: tuple[str, ...] = field(default=JOBS)


def steady(value: float) -> Callable[[float], float]:
    return lambda _days: value


def drifting(now: float, per_year: float) -> Callable[[float], float]:
    return lambda days: now - per_year * days / 365.25


def stepped(*steps: tuple[int, float]) -> Callable[[float], float]:
    """(days ago, value from then on), oldest first."""

    def error(days: float) -> float:
        value = steps[0][1]
        for since, after in steps:
            if days <= since:
                value = after
        return value

    return error


LEVELS = (
    Level(
        "LV-02",
        "Merrow",
        "40217",
        "Bramble",
        "",
        stepped((730, 14.0), (431, 1.4)),
        adjusted_days=(431,),
        last_check_days=18,
    ),
    Level("LV-03", "Merrow", "40219", None, "Yard shelf 1", steady(-2.6), last_check_days=41, out_every_days=16),
    Level("LV-05", "Merrow", "40388", "Thrift", "", drifting(8.2, 3.6), last_check_days=12),
    Level(
        "LV-07",
        "Merrow",
        "41002",
        None,
        "Yard shelf 3",
        stepped((730, -3.1), (298, 31.0), (297, 1.9), (1, 24.0)),
        knocks=((298, "slid off the tailgate in its case"), (1, "caught by the excavator's bucket at the flood wall")),
        adjusted_days=(297,),
        last_check_days=21,
        bad_this_morning=True,
    ),
    Level("LV-09", "Skerrow", "70055", None, "Yard shelf 2", steady(0.8), last_check_days=9, out_every_days=21),
    Level("LV-11", "Merrow", "42650", None, "Yard shelf 3", steady(5.5), since_days=3, last_check_days=0),
)
