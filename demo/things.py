"""What else the invented firm has: total stations, a theodolite, bases, tripods, poles, staffs, a tape; and how they are.

Every thing's life is a list of checks with the true error by days before today. Errors are in the unit of the check.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import KW_ONLY, dataclass, field
from typing import Any

Data = dict[str, Any]
Truth = Callable[[float, float], Data]
"""By days before today and the temperature of that morning, °C."""

MODELS = (
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
            "electronic_level_step_arcsec": 1,
            "circular_vial_arcmin_per_2mm": 8,
            "stores": "correction",
            "storable_arcsec": 300,
        },
        "tips": "The laser plummet switches off after three minutes.",
    },
    {
        "maker": "Marrick",
        "name": "Aldreth",
        "kind": "theodolite",
        "stated": {
            "angle_accuracy_arcsec": 5.0,
            "plunges": True,
            "plummet": "optical",
            "plummet_place": "turning",
            "plate_vial": True,
            "plate_vial_arcsec_per_div": 30,
            "electronic_level": False,
            "circular_vial_arcmin_per_2mm": 8,
        },
        "tips": "Plummet: the outer ring makes the cross sharp, the inner one the ground.",
    },
    {
        "maker": "Tolvan",
        "name": "Brask",
        "kind": "tribrach",
        "stated": {
            "plummet": "optical",
            "plummet_place": "tribrach",
            "circular_vial_arcmin_per_2mm": 8,
            "circular_vial_on": "tribrach",
        },
        "tips": "Three notches in the rim: turn it by thirds into the pencil line.",
    },
    {
        "maker": "Tolvan",
        "name": "Strand",
        "kind": "tripod",
        "stated": {},
        "tips": "Wooden; the hinge key hangs on a leg.",
    },
    {
        "maker": "Tolvan",
        "name": "Reed",
        "kind": "pole",
        "stated": {"circular_vial_arcmin_per_2mm": 8},
        "tips": "",
        "adjusting_tips": {"pole-vial": "The vial's three screws want the small hex key in the bag."},
    },
    {
        "maker": "Ondine",
        "name": "Tally",
        "kind": "staff",
        "stated": {},
        "tips": "Four sections; the joints want to be dry.",
    },
    {"maker": "Tolvan", "name": "Ribbon", "kind": "tape", "stated": {}, "tips": "Steel, 30 m; 50 N."},
)


def same(**truth: Any) -> Truth:
    return lambda _days, _celsius: truth


@dataclass(frozen=True)
class Checked:
    """One kind of check of a thing: how often, how long ago the last, what was true."""

    kind: str
    every_days: int
    last_days: int
    truth: Truth
    typed: Data = field(default_factory=dict)
    """What is put into the observations besides what is read."""


@dataclass(frozen=True)
class Thing:
    """An instrument or accessory, and its checks."""

    tag: str
    model: str
    serial: str
    _: KW_ONLY
    crew: str | None
    place: str
    checks: tuple[Checked, ...] = ()
    since_days: int = 730
    rounds: tuple[tuple[int, tuple[str, ...]], ...] = ()
    """Rounds before the work: so many days ago, of these checks, which were taken on that day."""


FOUR = (0, 90, 180, 270)
VIAL = Checked("circular-vial", 84, 33, same(error_mm=(0.1, -0.1), headings=FOUR))
STAFF_VIAL = Checked(
    "pole-vial",
    28,
    9,
    same(error_mm=(0.2, 0.1), tilt_mm=(0.0, 0.0), headings=(0, 0)),
    {"item": "staff", "method": "plumb-line"},
)
THIRDS: Data = {"place": "tribrach", "method": "thirds"}


def base_plummet(x: float, y: float, noise: float) -> Truth:
    return same(offset_mm=(x, y), headings=(0, 120, 240), height=1.58, noise=noise)


def index_with_warmth(_days: float, celsius: float) -> Data:
    """TS-03: a cold morning moves its index; what is stored was found on a warm one."""
    return {
        "index_arcsec": (1.5 + 0.25 * (14 - celsius), -1.0),
        "accuracy": 3.0,
        "step": 1.0,
        "headings": FOUR,
        "noise": 0.7,
    }


THINGS = (
    Thing(
        "TS-01",
        "Tessaly",
        "88014",
        crew=None,
        place="Yard shelf 5",
        checks=(
            VIAL,
            Checked(
                "dual-axis-level",
                28,
                12,
                same(index_arcsec=(0.6, -0.4), accuracy=3.0, step=1.0, headings=FOUR, noise=0.7),
            ),
            Checked("plummet", 84, 12, same(offset_mm=(0.25, -0.2), laser=True, height=1.62, noise=0.6)),
            Checked("two-face", 28, 12, same(c=1.2, i=-0.8, t=1.5, accuracy=3.0, noise=0.6)),
            Checked("tracker", 28, 12, same(tracker_arcsec=(1.5, -1.0), accuracy=3.0, noise=0.6)),
            Checked("direction-accuracy", 364, 152, same(arcsec=2.3, procedure="full", c=1.2)),
        ),
        rounds=((12, ("dual-axis-level", "plummet", "two-face")),),
    ),
    Thing(
        "TS-03",
        "Tessaly",
        "88092",
        crew="Bramble",
        place="",
        checks=(
            VIAL,
            Checked("dual-axis-level", 28, 20, index_with_warmth),
            Checked("plummet", 84, 48, same(offset_mm=(0.3, 0.35), laser=True, height=1.6, noise=0.6)),
            Checked("two-face", 28, 20, same(c=-1.6, i=2.1, t=-2.0, accuracy=3.0, noise=0.6)),
            Checked("tracker", 28, 20, same(tracker_arcsec=(-2.5, 2.0), accuracy=3.0, noise=0.6)),
            Checked("direction-rounds", 182, 61, same(c=-1.6, i=2.1, rounds=2, accuracy=3.0, noise=0.6)),
        ),
    ),
    Thing(
        "TD-01",
        "Aldreth",
        "5530",
        crew="Thrift",
        place="",
        checks=(
            VIAL,
            Checked("plate-vial", 28, 16, same(rest_div=-1.2, sensitivity=30, noise=0.8)),
            Checked("plummet", 84, 37, same(offset_mm=(0.1, -0.15), height=1.62, noise=0.8)),
            Checked(
                "two-face",
                28,
                16,
                same(c=2.0, i=-2.0, t=1.5, accuracy=5.0, noise=0.5, targets=((90.3, 90.0), (48.0, 60.0))),
            ),
        ),
    ),
    Thing(
        "TB-04",
        "Brask",
        "311",
        crew="Bramble",
        place="",
        checks=(Checked("plummet", 84, 26, base_plummet(0.1, 0.1, 0.5), THIRDS),),
    ),
    Thing(
        "TB-11",
        "Brask",
        "318",
        crew=None,
        place="Yard shelf 4",
        checks=(Checked("plummet", 84, 19, base_plummet(0.2, -0.1, 4.5), THIRDS),),
    ),
    *(
        Thing(
            f"TR-0{i}",
            "Strand",
            f"W{i}",
            crew=crew,
            place=place,
            checks=(Checked("tripod", 168, last, same(twist_arcsec=twist, set_arcsec=kept, rounds=6)),),
        )
        for i, crew, place, last, twist, kept in (
            (1, "Bramble", "", 40, 12.0, 0.5),
            (2, "Thrift", "", 40, 14.0, 0.0),
            (3, None, "Yard rack", 41, 26.0, 14.0),
            (4, None, "Yard rack", 41, 11.0, 0.5),
            (5, "Thrift", "", 42, 15.0, 1.0),
            (6, None, "Yard rack", 42, 13.0, 0.0),
        )
    ),
    Thing(
        "PO-01",
        "Reed",
        "P11",
        crew="Bramble",
        place="",
        checks=(Checked("pole-vial", 28, 11, same(error_mm=(0.05, 0.0), headings=FOUR * 2, noise=0.5)),),
    ),
    Thing(
        "PO-02",
        "Reed",
        "P12",
        crew="Thrift",
        place="",
        checks=(
            Checked(
                "pole-vial",
                28,
                4,
                lambda days, _: {
                    "error_mm": (0.9, -0.6) if days < 30 else (0.1, 0.05),
                    "headings": FOUR * 2,
                    "noise": 0.5,
                },
            ),
        ),
    ),
    Thing(
        "ST-01",
        "Tally",
        "T2",
        crew=None,
        place="Yard rack",
        checks=(
            Checked(
                "staff",
                330,
                120,
                same(zero_mm=0.05, scale_ppm=40.0, lengths=(0.1, 0.4, 0.8, 1.2, 1.6, 2.0, 2.4, 2.8, 3.0)),
            ),
            STAFF_VIAL,
        ),
    ),
    Thing(
        "ST-02",
        "Tally",
        "T3",
        crew="Thrift",
        place="",
        checks=(
            Checked(
                "staff",
                330,
                121,
                same(zero_mm=0.95, scale_ppm=60.0, lengths=(0.1, 0.4, 0.8, 1.2, 1.6, 2.0, 2.4, 2.8, 3.0)),
            ),
            STAFF_VIAL,
        ),
    ),
    Thing(
        "TA-01",
        "Ribbon",
        "30-7",
        crew=None,
        place="Yard rack",
        checks=(Checked("tape", 330, 122, same(scale_ppm=160.0, zero_mm=0.2, temperature_c=9.0)),),
    ),
)
