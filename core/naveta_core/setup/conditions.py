"""How a set-up came about, for its record: way, tripod, place, start, as rows of a label and a text."""

from __future__ import annotations

from ..units.formatting import joined
from .document import SetUpDocument
from .methods import SET_UP_METHODS
from .results import SetUpDetail

LEVEL_TYPES = {
    "electronic": "by the electronic level",
    "plate": "by one plate vial",
    "two-plates": "by two plate vials",
}
GROUND = {
    "earth": "earth",
    "grass": "grass",
    "gravel": "gravel",
    "asphalt": "asphalt",
    "stone": "concrete or stone",
    "floor": "a floor",
    "frozen": "frozen ground",
}
WIND = {"calm": "calm", "breeze": "a breeze", "strong": "strong wind"}


def circumstances(document: SetUpDocument, passes: int) -> list[SetUpDetail]:
    """Only what was given: `[{"label", "text"}]`."""
    o = document.observations
    method = "Recorded afterwards" if o.quick else SET_UP_METHODS[o.method].title
    levelled = "" if SET_UP_METHODS[o.method].for_levels else f", {LEVEL_TYPES[o.options.level_type]}"
    rows = [("Method", f"{method}{levelled}"), ("Set up on", _stood_on(document)), ("Weather", _weather(document))]
    if passes:
        rows.append(("Passes of levelling and centring", str(passes)))
    if o.zero.reading is not None and str(o.zero.reading).strip():
        sense = "" if o.zero.counts == "clockwise" else ", counted anticlockwise"
        rows.append((f"Start on {o.zero.target.strip() or 'the reference'}", f"{str(o.zero.reading).strip()}{sense}"))
    return [SetUpDetail(label=label, text=text) for label, text in rows if text]


def _stood_on(document: SetUpDocument) -> str:
    o, ground = document.observations, document.conditions.ground
    tripod = " ".join(
        row for row in ("tripod", o.tripod_tag.strip(), f"of {o.tripod_material}" if o.tripod_material else "") if row
    )
    rows = [
        tripod if o.tripod_tag.strip() or o.tripod_material else "",
        f"tribrach {o.tribrach_tag.strip()}" if o.tribrach_tag.strip() else "",
        GROUND.get(ground or "", ground or ""),
    ]
    return joined([row for row in rows if row])


def _weather(document: SetUpDocument) -> str:
    wind, warm = document.conditions.wind, document.conditions.temperature_c
    return joined([entry for entry in (f"{warm:g} °C" if warm is not None else "", WIND.get(wind or "", "")) if entry])
