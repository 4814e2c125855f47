"""Hints by the place and the weather: which of them belong to an step, from what was given of ground, slope, wind, heat.

Nothing here is judged. Without a word about the place there is no hint.
"""

from __future__ import annotations

from ..documents.envelope import Instrument
from ..engine.work import words_of
from ..results import Reason, reasons
from ..units.formatting import signed
from .document import SetUpDocument

HOT_C, COLD_C = 28.0, 3.0
KNOWN_FROM = 2.0
"""An index is worth saying from twice its σ."""
PLUMMET_REPORTED_MM = 0.5
SLOPE_DEG = 5.0
WIDE_M = 0.9
AT_THE_FEET = ("tripod", "press-feet")
BEFORE_FINE = ("circular", "circular-screws", "back-on", "plate")

GROUND = {
    "earth": "Press each shoe in until it goes no further.",
    "grass": "Roots hold a shoe up at first: press through them, wait a minute, check again.",
    "gravel": "Gravel moves under the shoes: scrape down to firm ground, or put a board under each.",
    "asphalt": "Asphalt holds shoes while it is cold and yields in heat: put a plate under each, and check every few minutes.",
    "stone": "Shoes slide on concrete and stone: joints, a mat or a spreader hold them.",
    "floor": "Shoes slide on a floor: a mat or a spreader, and nobody walks close by while you read.",
    "frozen": "Frozen ground thaws under the shoes: check again once the sun is on it.",
}
"""What the ground asks for. The keys are what `conditions.ground` may say."""

RECHECK_MINUTES = {"earth": 15, "grass": 10, "gravel": 15, "asphalt": 10, "frozen": 10}
"""After how long bubble and mark are looked at again where feet sink. Ours; experience, not measured. Minutes."""

MATERIAL_IN_HEAT = {
    "aluminium": "Aluminium legs expand on the sunny side: shade them, or check the bubble before every set.",
    "wood": "Wooden legs are stable in sun; wet ones swell, so test every clamp.",
    "composite": "Composite legs are hardly affected by sun.",
}


def tips(document: SetUpDocument, step: str) -> list[Reason]:
    """What to watch at a step in this place, a code and a sentence each."""
    rows = [
        *_ground(document, step),
        *_slope(document, step),
        *_feet(document, step),
        *_wind(document, step),
        *_heat(document, step),
        *_shuts_off(document, step),
        *_bubble(document, step),
    ]
    return reasons([*rows, *_habits(document, step)])


def _ground(document: SetUpDocument, step: str) -> list[tuple[str, str]]:
    ground, warm = document.conditions.ground or "", document.conditions.temperature_c
    if step not in AT_THE_FEET or ground not in GROUND:
        return []
    rows = [("ground", GROUND[ground])]
    if ground == "asphalt" and warm is not None and warm >= HOT_C:
        rows.append(
            (
                "hot-asphalt",
                "Hot asphalt: the shoes sink in and keep sinking. Put a plate under each, or choose another place.",
            )
        )
    return rows


def _slope(document: SetUpDocument, step: str) -> list[tuple[str, str]]:
    if step != "tripod" or document.observations.tripod.slope_deg < SLOPE_DEG:
        return []
    rows = [("slope", "Two legs downhill, one up: this keeps it from falling over.")]
    if document.observations.options.stands == "third-along":
        rows.append(("slope-first", "Here the third leg points uphill, not along the line of work."))
    return rows


def _shuts_off(document: SetUpDocument, step: str) -> list[tuple[str, str]]:
    """Return the hint for an electronic level that shuts off when tilted: level with the legs first."""
    text = shuts_off_text(document.instrument)
    return [("shuts-off", text)] if text and step in BEFORE_FINE else []


def shuts_off_text(instrument: Instrument) -> str:
    """Return the sentence for an electronic level that shuts off when tilted; empty where no tilt is stated."""
    limit, delay = instrument.tilt_limit_arcmin, instrument.tilt_delay_s
    if limit is None:
        return ""
    after = f", after {delay:g} seconds" if delay else ""
    return f"Tilted by more than {limit:g}′ its electronic level shuts off{after}: tilt it with the legs until it is within that, then use the screws."


def plummet_level_text(instrument: Instrument) -> str:
    """Return the sentence for a plummet that works only when the instrument is level; empty for others."""
    if instrument.plummet_tilted is not False:
        return ""
    return "Its plummet works only when the instrument is level: level first, or shift by a leg."


def bubble_step_text(instrument: Instrument) -> str:
    """Return the sentence for the resolution of an on-screen bubble; empty where none is stated."""
    worth = instrument.bubble_step_arcsec
    return f"One step of the bubble on its screen is {worth:g}″: a smaller tilt does not show there." if worth else ""


def _bubble(document: SetUpDocument, step: str) -> list[tuple[str, str]]:
    """Return the hint on the resolution of an on-screen bubble."""
    text = bubble_step_text(document.instrument)
    shown = step == "plate" and document.observations.options.level_type != "plate"
    return [("bubble-step", text)] if text and shown else []


def _feet(document: SetUpDocument, step: str) -> list[tuple[str, str]]:
    if step != "tripod" or document.observations.tripod.foot_spacing_m >= WIDE_M:
        return []
    return [
        (
            "narrow-feet",
            f"With feet closer than {words_of(document).height(0.9)} the tripod is unstable: spread them wider.",
        )
    ]


def _wind(document: SetUpDocument, step: str) -> list[tuple[str, str]]:
    wind = document.conditions.wind
    if wind == "strong" and step in ("tripod", "mount"):
        return [("low-in-wind", "In this wind: low and wide, a weight between the legs, and somebody stays with it.")]
    if wind in ("breeze", "strong") and step == "bob":
        return [
            (
                "bob-in-wind",
                "Wind moves a bob by up to 3 mm: shield it, keep the tip low, read both ends of the swing.",
            )
        ]
    return []


def _heat(document: SetUpDocument, step: str) -> list[tuple[str, str]]:
    warm, material = document.conditions.temperature_c, document.observations.tripod_material
    rows = []
    if warm is not None and step == "mount" and (warm >= HOT_C or warm <= COLD_C):
        rows.append(
            (
                "acclimatise",
                "If the case was warmer or colder, wait 15 minutes before you rely on the level.",
            )
        )
    if warm is not None and warm >= HOT_C and material and step == "tripod":
        rows.append(("legs-in-heat", MATERIAL_IN_HEAT[material]))
    if warm is not None and warm <= COLD_C and step == "plate":
        rows.append(("slow-when-cold", "A cold level vial is slow: wait 20 seconds before you read."))
    return rows


def _habits(document: SetUpDocument, step: str) -> list[tuple[str, str]]:
    o = document.observations
    if step == "tripod" and o.tripod.slope_deg < SLOPE_DEG:
        if o.options.stands == "third-along":
            return [
                (
                    "third-along",
                    "One leg along the line of work; you stand between the other two when you sight along it.",
                )
            ]
        return [("two-to-you", "Two legs towards you: you stand between them, and no leg is where you walk.")]
    if step == "plate" and o.options.level_type != "electronic" and (rest := document.rest_div()):
        return [
            (
                "rest-known",
                f"Reversing point of this level vial: {signed(rest, 1)} div. Set the bubble there, not to the middle.",
            )
        ]
    if step == "plate" and o.options.level_type == "electronic":
        index = document.known_index()
        if index and max(abs(index[0]), abs(index[1])) > KNOWN_FROM * index[2]:
            along, across = (entry * sense for entry, sense in zip(index[:2], document.instrument.senses, strict=True))
            text = f"Index error of this electronic level: {signed(along, 0)}″ along and {signed(across, 0)}″ across. Level to these values, not to zero."
            return [("index-known", text)]
    if step == "final-check":
        off = document.known_plummet_mm()
        if off is not None and off > PLUMMET_REPORTED_MM:
            turns = document.instrument.plummet_place != "tribrach"
            level_type = "centre at two headings 180° apart and take the middle" if turns else "use a plumb bob"
            text = f"This plummet points {off:.1f} mm off the axis at {words_of(document).height(1.5)}. For precise work, {level_type}."
            return [("plummet-known", text)]
    if step == "zero":
        return [
            (
                "pack-away",
                "When you pack up: screws to mid travel, clamps loose, lens covered, nothing wet in the case.",
            )
        ]
    return []
