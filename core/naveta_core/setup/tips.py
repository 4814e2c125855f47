"""Hints by the place and the weather: which of them belong to an act, from what was told of ground, slope, wind, heat.

Nothing here is judged. Without a word about the place there is no hint.
"""

from __future__ import annotations

from ..results import Reason, reasons
from .document import SetUpDocument

HOT_C, COLD_C = 28.0, 3.0
KNOWN_FROM = 2.0
"""An index is worth saying from twice its σ."""
PLUMMET_SAID_MM = 0.5
SLOPE_DEG = 5.0
WIDE_M = 0.9
AT_THE_FEET = ("tripod", "tread")

GROUND = {
    "earth": "Tread each shoe in until it goes no further.",
    "grass": "Roots hold a shoe up at first: tread through them, wait a minute, look again.",
    "gravel": "Gravel moves under the shoes: scrape down to something firm, or a board under each.",
    "asphalt": "Nothing to tread into: a board or mat under each shoe, and look again every few minutes.",
    "stone": "Shoes slide on concrete and stone: joints, a mat or a spreader hold them.",
    "floor": "Shoes slide on a floor: a mat or a spreader, and nobody walks close by while you read.",
    "frozen": "Frozen ground holds at first and thaws under the shoes: look again once the sun is on it.",
}
"""What the ground asks for. The keys are what `conditions.ground` may say."""

MATERIAL_IN_HEAT = {
    "aluminium": "Aluminium legs grow in the sun, one side first: shade them, or look at the bubble before every set.",
    "wood": "Wooden legs take the sun well; wet ones swell, so try every clamp.",
    "composite": "Composite legs hardly mind the sun.",
}


def hints(document: SetUpDocument, act: str) -> list[Reason]:
    """What to mind at an act in this place, a code and a sentence each."""
    told = [
        *_ground(document, act),
        *_slope(document, act),
        *_feet(document, act),
        *_wind(document, act),
        *_heat(document, act),
    ]
    return reasons([*told, *_habits(document, act)])


def _ground(document: SetUpDocument, act: str) -> list[tuple[str, str]]:
    ground, warm = document.conditions.ground or "", document.conditions.temperature_c
    if act not in AT_THE_FEET or ground not in GROUND:
        return []
    told = [("ground", GROUND[ground])]
    if ground == "asphalt" and warm is not None and warm >= HOT_C:
        told.append(
            (
                "hot-asphalt",
                "Hot asphalt gives way under the shoes for as long as you stand there: boards, or another place.",
            )
        )
    return told


def _slope(document: SetUpDocument, act: str) -> list[tuple[str, str]]:
    if act != "tripod" or document.observations.tripod.slope_deg < SLOPE_DEG:
        return []
    told = [("slope", "Two legs downhill, one up, whatever your habit: that is what keeps it from toppling.")]
    if document.observations.options.stands == "third-along":
        told.append(("slope-first", "The third leg points uphill here, not along the line of work."))
    return told


def _feet(document: SetUpDocument, act: str) -> list[tuple[str, str]]:
    if act != "tripod" or document.observations.tripod.foot_spacing_m >= WIDE_M:
        return []
    return [("narrow-feet", "Feet closer than 0.9 m make it top-heavy and quick to move: wider.")]


def _wind(document: SetUpDocument, act: str) -> list[tuple[str, str]]:
    wind = document.conditions.wind
    if wind == "strong" and act in ("tripod", "mount"):
        return [("low-in-wind", "Low and wide in this wind; a weight between the legs, and somebody stays with it.")]
    if wind in ("breeze", "strong") and act == "bob":
        return [
            (
                "bob-in-wind",
                "Wind carries a bob up to 3 mm off: shield it, tip close to the mark, both sides of the swing.",
            )
        ]
    return []


def _heat(document: SetUpDocument, act: str) -> list[tuple[str, str]]:
    warm, material = document.conditions.temperature_c, document.observations.tripod_material
    told = []
    if warm is not None and act == "mount" and (warm >= HOT_C or warm <= COLD_C):
        told.append(
            (
                "acclimatise",
                "Out of a case that was warmer or colder, give it a quarter of an hour before you trust its level.",
            )
        )
    if warm is not None and warm >= HOT_C and material and act == "tripod":
        told.append(("legs-in-heat", MATERIAL_IN_HEAT[material]))
    if warm is not None and warm <= COLD_C and act == "plate":
        told.append(("slow-when-cold", "Cold makes a vial slow: count to twenty before you read it."))
    return told


def _habits(document: SetUpDocument, act: str) -> list[tuple[str, str]]:
    o = document.observations
    if act == "tripod" and o.tripod.slope_deg < SLOPE_DEG:
        if o.options.stands == "third-along":
            return [
                (
                    "third-along",
                    "One leg along the line of work; you stand between the other two when you sight along it.",
                )
            ]
        return [("two-to-you", "Two legs towards you: you stand between them, and no leg is where you walk.")]
    if act == "plate" and o.options.fine != "electronic" and document.rest_div():
        return [
            (
                "rest-known",
                f"This vial rests at {document.rest_div():+.1f} div: set the bubble there, not to the middle.",
            )
        ]
    if act == "plate" and o.options.fine == "electronic":
        index = document.known_index()
        if index and max(abs(index[0]), abs(index[1])) > KNOWN_FROM * index[2]:
            along, across = (one * sense for one, sense in zip(index[:2], document.instrument.senses, strict=True))
            text = f"Plumb, this electronic level shows {along:+.0f}″ along and {across:+.0f}″ across: level to these figures, not to zero."
            return [("index-known", text)]
    if act == "last-look":
        off = document.known_plummet_mm()
        if off is not None and off > PLUMMET_SAID_MM:
            turns = document.instrument.plummet_place != "base"
            fine = "centre at two headings half a turn apart and take the middle" if turns else "centre with a bob"
            text = f"This plummet points {off:.1f} mm off the axis at 1.5 m. Fine work: {fine}."
            return [("plummet-known", text)]
    if act == "zero":
        return [
            (
                "pack-away",
                "When you pack up: screws back to mid travel, clamps loose, lens covered, nothing wet into the case.",
            )
        ]
    return []
