"""The invented firm: Sorrel & Quay at Pellow Creek. People, crews, models, levels and what befell each of them.

Days are counted back from today, so that two years of history end this morning. Errors are in arcseconds.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import KW_ONLY, dataclass, field

FIRM_NAME = "Sorrel & Quay"
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
            "circular_vial_arcmin_per_2mm": 8,
        },
        "tips": "",
        "adjusting_tips": {
            "two-peg": "The reticle screw is under the round cap below the eyepiece; the pin is in the lid of the case.",
        },
    },
    {
        "maker": "Ondine",
        "name": "Skerrow",
        "kind": "digital-level",
        "stated": {
            "reading": "digital",
            "levelling_accuracy_mm_per_km": 0.7,
            "compensator_range_arcmin": 12,
            "circular_vial_arcmin_per_2mm": 8,
        },
        "tips": "Reads a bar-coded staff; keep it evenly lit. The stored value is set first, the reticle after it.",
    },
)
JOBS = ("East abutment, pile heads", "Flood wall line", "East abutment, blinding", "Flood wall, QB-1 to QB-3")


@dataclass(frozen=True)
class Level:
    """One level's life. `error` gives its true error by days before today."""

    tag: str
    model: str
    serial: str
    _: KW_ONLY
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
        crew="Bramble",
        place="",
        error=stepped((730, 14.0), (431, 1.4)),
        adjusted_days=(431,),
        last_check_days=18,
    ),
    Level(
        "LV-03",
        "Merrow",
        "40219",
        crew=None,
        place="Yard shelf 1",
        error=steady(-2.6),
        last_check_days=41,
        out_every_days=16,
    ),
    Level("LV-05", "Merrow", "40388", crew="Thrift", place="", error=drifting(8.2, 3.6), last_check_days=12),
    Level(
        "LV-07",
        "Merrow",
        "41002",
        crew=None,
        place="Yard shelf 3",
        error=stepped((730, -3.1), (298, 31.0), (297, 1.9), (1, 24.0)),
        knocks=((298, "slid off the tailgate in its case"), (1, "caught by the excavator's bucket at the flood wall")),
        adjusted_days=(297,),
        last_check_days=21,
        bad_this_morning=True,
    ),
    Level(
        "LV-09",
        "Skerrow",
        "70055",
        crew=None,
        place="Yard shelf 2",
        error=steady(0.8),
        last_check_days=9,
        out_every_days=21,
    ),
    Level(
        "LV-11", "Merrow", "42650", crew=None, place="Yard shelf 3", error=steady(5.5), since_days=3, last_check_days=0
    ),
)

POINTS = """\
name;e;n;h;description
PC-01;4102.595;8707.087;7.935;pile head
PC-02;4103.395;8726.521;8.628;pile head
PC-03;4114.257;8708.925;7.566;pile head
PC-04;4115.978;8730.318;8.335;pile head
PC-05;4128.636;8711.370;7.718;pile head
PC-06;4127.724;8731.754;8.100;pile head
PC-07;4142.870;8712.121;6.958;pile head
PC-08;4143.468;8732.472;7.631;pile head
PC-09;4156.561;8713.305;6.621;pile head
PC-10;4155.055;8736.035;7.045;pile head
PC-11;4170.102;8717.859;6.265;wall line
PC-12;4170.105;8736.623;6.533;wall line
PC-13;4182.862;8719.557;6.566;wall line
PC-14;4183.778;8741.251;6.635;wall line
PC-15;4196.480;8722.059;6.481;wall line
PC-16;4195.784;8741.094;6.911;wall line
PC-17;4209.143;8723.345;7.359;wall line
PC-18;4208.168;8744.317;7.773;wall line
PC-19;4223.342;8725.003;7.271;abutment
PC-20;4222.967;8745.635;7.911;abutment
PC-21;4236.416;8726.652;7.952;abutment
PC-22;4235.730;8748.400;8.374;abutment
PC-23;4248.701;8728.094;8.170;abutment
PC-24;4249.217;8751.797;8.374;abutment
QB-1;4068.214;8689.507;9.846;bolt in the quay
QB-2;4281.930;8761.318;11.207;bolt in the pump house
QB-3;4177.402;8648.955;8.431;cross on the sluice
QB-4;4150.677;8802.140;12.660;pillar above the creek
"""
"""Control points at Pellow Creek, as the table the firm was given."""
