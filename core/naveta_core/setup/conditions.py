"""How a set-up came about, for its record: way, tripod, place, start, as rows of a label and a text."""

from __future__ import annotations

from ..engine.check_off import ITEMS, SET_UP
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
MARKS = {
    "nail": "a nail",
    "tack": "a tack in a peg",
    "cross": "a cut cross",
    "bolt": "a bolt",
    "pipe": "a pipe",
    "other": "another mark",
}
MARK_CONDITION = {"good": "in good condition", "loose": "loose", "leaning": "out of plumb", "damaged": "damaged"}
DIRECTIONS = {
    "point": "to a control point",
    "compass": "by compass",
    "arbitrary": "arbitrary",
    "earlier-job": "as in an earlier job",
}
WIND = {"calm": "calm", "breeze": "a breeze", "strong": "strong wind"}


def circumstances(document: SetUpDocument, passes: int) -> list[SetUpDetail]:
    """Only what was given: `[{"label", "text"}]`."""
    o = document.observations
    method = "Recorded afterwards" if o.quick else SET_UP_METHODS[o.method].title
    levelled = "" if SET_UP_METHODS[o.method].for_levels else f", {LEVEL_TYPES[o.options.level_type]}"
    rows = [
        ("Method", f"{method}{levelled}"),
        ("Mark", _mark(document)),
        ("Set up on", _stood_on(document)),
        ("Weather", _weather(document)),
    ]
    if passes:
        rows.append(("Passes of levelling and centring", str(passes)))
    if o.zero.reading is not None and str(o.zero.reading).strip():
        sense = "" if o.zero.counts == "clockwise" else ", counted anticlockwise"
        kept = f", {DIRECTIONS[o.zero.direction]}" if o.zero.direction else ""
        start = f"Start on {o.zero.target.strip() or 'the reference'}"
        rows.append((start, f"{str(o.zero.reading).strip()}{sense}{kept}"))
    ticked = [ITEMS[code].text for code in SET_UP if code in document.checked_off]
    rows.append(("Checked off", " ".join(ticked)))
    return [SetUpDetail(label=label, text=text) for label, text in rows if text]


def _mark(document: SetUpDocument) -> str:
    """What kind of mark, in what condition, and how far its head is off."""
    mark = document.observations.mark
    off = f"its head {mark.lean_mm:g} mm from where it enters the ground" if mark.lean_mm else ""
    rows = [MARKS.get(mark.kind or "", ""), MARK_CONDITION.get(mark.condition or "", ""), off]
    return ", ".join(row for row in rows if row)


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
