"""The lessons at the tripod, in the order in which people learn: each has one aim and one measure."""

from __future__ import annotations

from dataclasses import KW_ONLY, dataclass
from typing import Literal

from .ground import GroundName

Control = Literal["carry", "feet", "legs", "press", "screws", "slide", "heading"]
Shows = Literal["circular", "plate", "electronic", "optical", "laser", "bob"]
ALL: tuple[Control, ...] = ("carry", "feet", "legs", "press", "screws", "slide", "heading")


@dataclass(frozen=True, slots=True)
class Lesson:
    """What is practised. Ranges are drawn from by the seed: tilts in minutes of arc, offsets in mm, slopes in degrees."""

    name: str
    title: str
    aim: str
    _: KW_ONLY
    measure: Literal["moves", "wrong", "passes", "seconds"]
    controls: tuple[Control, ...]
    shows: tuple[Shows, ...]
    caution: tuple[str, ...]
    minutes: int
    head_tilt_arcmin: tuple[float, float] = (0.0, 0.0)
    axis_tilt_arcmin: tuple[float, float] = (0.0, 0.0)
    offset_mm: tuple[float, float] = (0.0, 0.0)
    slope_deg: tuple[float, float] = (0.0, 2.0)
    grounds: tuple[GroundName, ...] = ("stone",)
    pressed: bool = True
    screws: Literal[3, 4] = 3
    vial_off_mm: float = 0.0
    """How far the circular bubble may rest off its middle when the axis is plumb: found only by turning."""
    wind: bool = False
    within_arcsec: float | None = None
    within_mm: float | None = None
    """What is good enough: the axis's true tilt, and where it meets the mark. None: not asked here."""
    practises: tuple[str, ...] = ()
    """Named methods of a real set-up that can be carried out in it as a whole."""


LESSONS: tuple[Lesson, ...] = (
    Lesson(
        "bubble-and-leg",
        "Bubble and leg",
        "Bring the circular bubble into its ring with the legs alone. It lies on the high side: shorten that leg or "
        "lengthen the one across.",
        measure="moves",
        controls=("legs",),
        shows=("circular",),
        caution=("leg-drops", "pinch"),
        minutes=3,
        head_tilt_arcmin=(25.0, 60.0),
        within_arcsec=240.0,
    ),
    Lesson(
        "left-thumb",
        "Left thumb",
        "Level with three foot screws. The bubble follows the left thumb: two screws against each other along the vial, "
        "then the third across.",
        measure="wrong",
        controls=("screws", "heading"),
        shows=("circular", "plate"),
        caution=("force",),
        minutes=3,
        axis_tilt_arcmin=(3.0, 7.0),
        within_arcsec=20.0,
    ),
    Lesson(
        "slide-and-level",
        "Recentring loop",
        "The plummet is some millimetres off the mark. Slide the tribrach without turning it, level again, look again, "
        "until both hold.",
        measure="passes",
        controls=("screws", "slide", "heading"),
        shows=("circular", "electronic", "optical"),
        caution=("hold", "tribrach-lock"),
        minutes=4,
        axis_tilt_arcmin=(0.5, 2.5),
        offset_mm=(3.0, 8.0),
        within_arcsec=20.0,
        within_mm=1.0,
    ),
    Lesson(
        "whole-set-up",
        "The whole set-up",
        "Over the mark and level, from a tripod that only stands near it: carry, press in, legs, screws, slide.",
        measure="seconds",
        controls=ALL,
        shows=("circular", "electronic", "laser"),
        caution=("press-feet", "leg-drops", "laser", "pinch"),
        minutes=8,
        head_tilt_arcmin=(15.0, 50.0),
        offset_mm=(25.0, 70.0),
        grounds=("earth", "grass"),
        pressed=False,
        within_arcsec=20.0,
        within_mm=1.5,
        practises=("plummet-first", "shift-by-leg"),
    ),
    Lesson(
        "slope-and-wind",
        "Slope and wind",
        "On a slope, with a plumb bob that swings: level the head roughly first, then bring the middle of the swing over the "
        "mark.",
        measure="seconds",
        controls=ALL,
        shows=("circular", "plate", "bob"),
        caution=("press-feet", "leg-drops", "bob", "wind"),
        minutes=10,
        head_tilt_arcmin=(20.0, 60.0),
        offset_mm=(25.0, 60.0),
        slope_deg=(12.0, 18.0),
        grounds=("earth", "grass"),
        pressed=False,
        wind=True,
        within_arcsec=30.0,
        within_mm=3.0,
        practises=("plumb-bob",),
    ),
    Lesson(
        "four-screws",
        "Four screws",
        "Two opposing pairs: equal turns against each other, one pair after the other, so that no screw comes loose or "
        "strains the plate.",
        measure="wrong",
        controls=("screws", "heading"),
        shows=("circular", "plate"),
        caution=("force",),
        minutes=4,
        axis_tilt_arcmin=(3.0, 7.0),
        screws=4,
        within_arcsec=20.0,
    ),
    Lesson(
        "turn-and-trust",
        "Turn before you trust",
        "The circular bubble does not rest in its middle. Turn the instrument by 180°, take half of the difference, and "
        "level the axis, not the bubble.",
        measure="seconds",
        controls=("screws", "heading"),
        shows=("circular", "plate"),
        caution=("force",),
        minutes=4,
        axis_tilt_arcmin=(2.0, 5.0),
        vial_off_mm=1.6,
        within_arcsec=30.0,
    ),
    Lesson(
        "level-first",
        "Level first, on firm ground",
        "Paved and even ground, and a plummet you can only use once the axis is nearly plumb. Carry the tripod over the mark, level it "
        "coarsely by the legs, then slide and level until both hold.",
        measure="seconds",
        controls=ALL,
        shows=("circular", "plate", "optical"),
        caution=("leg-drops", "pinch", "hold"),
        minutes=8,
        head_tilt_arcmin=(15.0, 45.0),
        offset_mm=(15.0, 40.0),
        within_arcsec=20.0,
        within_mm=1.5,
        practises=("level-first",),
    ),
    Lesson(
        "two-methods",
        "Two methods side by side",
        "Set the same tripod up twice: first the plummet over the mark and then the legs, the second time level first. “The same again” "
        "keeps the tripod. Afterwards both runs are shown side by side.",
        measure="seconds",
        controls=ALL,
        shows=("circular", "electronic", "laser"),
        caution=("press-feet", "leg-drops", "laser", "pinch"),
        minutes=12,
        head_tilt_arcmin=(15.0, 45.0),
        offset_mm=(20.0, 50.0),
        grounds=("earth", "grass"),
        pressed=False,
        within_arcsec=20.0,
        within_mm=1.5,
        practises=("plummet-first", "level-first"),
    ),
    Lesson(
        "four-screw-set-up",
        "A set-up on four screws",
        "The whole set-up with a tribrach of four screws: ease them, level coarsely by the legs, then opposing pairs, then slide.",
        measure="seconds",
        controls=ALL,
        shows=("circular", "plate", "optical"),
        caution=("press-feet", "leg-drops", "pinch", "force"),
        minutes=10,
        head_tilt_arcmin=(15.0, 45.0),
        offset_mm=(15.0, 40.0),
        grounds=("earth", "grass"),
        pressed=False,
        screws=4,
        within_arcsec=20.0,
        within_mm=1.5,
        practises=("four-screws",),
    ),
    Lesson(
        "no-point",
        "A level without a mark",
        "For levelling: press the feet in, bring the bubble near its ring with the legs and into its middle with the foot screws. Turn by 180° "
        "to see that it stays.",
        measure="seconds",
        controls=("legs", "press", "screws", "heading"),
        shows=("circular",),
        caution=("press-feet", "leg-drops", "pinch"),
        minutes=4,
        head_tilt_arcmin=(20.0, 60.0),
        slope_deg=(3.0, 10.0),
        grounds=("earth", "grass"),
        pressed=False,
        within_arcsec=120.0,
        practises=("no-point",),
    ),
)
BY_NAME: dict[str, Lesson] = {lesson.name: lesson for lesson in LESSONS}
MEASURES = {
    "moves": "moves of legs",
    "wrong": "turns the wrong way",
    "passes": "times round",
    "seconds": "seconds",
}
