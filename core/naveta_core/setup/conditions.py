"""How a set-up came about, for its record: way, tripod, place, start, as rows of a label and a text."""

from __future__ import annotations

from ..units.formatting import joined
from .document import SetUpDocument
from .methods import WAYS
from .results import ToldRow

FINE = {"electronic": "by the electronic level", "plate": "by one plate vial", "two-plates": "by two plate vials"}
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


def circumstances(document: SetUpDocument, passes: int) -> list[ToldRow]:
    """Only what was told: `[{"label", "text"}]`."""
    o = document.observations
    way = "Recorded afterwards" if o.quick else WAYS[o.way].title
    levelled = "" if WAYS[o.way].for_levels else f", {FINE[o.options.fine]}"
    rows = [("Method", f"{way}{levelled}"), ("Set up on", _stood_on(document)), ("Weather", _weather(document))]
    if passes:
        rows.append(("Passes of levelling and centring", str(passes)))
    if o.zero.reading is not None and str(o.zero.reading).strip():
        sense = "" if o.zero.counts == "clockwise" else ", counted anticlockwise"
        rows.append((f"Start on {o.zero.target.strip() or 'the reference'}", f"{str(o.zero.reading).strip()}{sense}"))
    return [ToldRow(label=label, text=text) for label, text in rows if text]


def _stood_on(document: SetUpDocument) -> str:
    o, ground = document.observations, document.conditions.ground
    tripod = " ".join(
        row for row in ("tripod", o.tripod_tag.strip(), f"of {o.tripod_material}" if o.tripod_material else "") if row
    )
    rows = [
        tripod if o.tripod_tag.strip() or o.tripod_material else "",
        f"tribrach {o.base_tag.strip()}" if o.base_tag.strip() else "",
        GROUND.get(ground or "", ground or ""),
    ]
    return joined([row for row in rows if row])


def _weather(document: SetUpDocument) -> str:
    wind, warm = document.conditions.wind, document.conditions.temperature_c
    return joined([entry for entry in (f"{warm:g} °C" if warm is not None else "", WIND.get(wind or "", "")) if entry])
