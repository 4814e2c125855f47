"""What to do about what was seen at an act: a headline, the steps, and what will then be seen."""

from __future__ import annotations

import math
from typing import Any

from ..errors import Refused
from ..geometry import ARCSEC, angle_between_deg, polar, unit
from ..units.formatting import arcsec, length_words
from .advisors import advise
from .advisors.heights import length_of
from .advisors.text import away, for_person
from .document import Done, Levelled, SetUpDocument
from .equipment import MM
from .observations import base_of, bubble_of, levelled, rests, spot_of, swing_of
from .reading import limits_of, read
from .results import Advice, GuideAdvice
from .site import leg_bearings
from .steps import Act
from .tolerance import NEAR_MM, enough
from .tripod import LEGS

Data = dict[str, Any]
SLIDE_MM = 20.0


def advice_at(document: SetUpDocument, act: Act, last: Done) -> GuideAdvice | None:
    """What to do about what was seen: a headline, the steps, and what will then be seen."""
    if last.wrong_way:
        return _plain(
            "Turn the drawing, then touch the bubble again.",
            "The lower edge is where you stand. Did you move the leg or screw named here?",
            "The bubble is on the high side. If it moved towards a leg you shortened, you moved another leg.",
        )
    saw = last.saw
    if saw is None or enough(document, act, last):
        return None
    if bubble_of(document, saw) is not None:
        return _by_bubble(document, act, last)
    if saw.swing is not None and act.asks == "bob":
        swung = swing_of(document, saw.swing)
        if swung is None or swung.spot is None:
            return _plain(
                "Both ends of the swing, from both sides.", "Millimetres from the mark, towards your right positive."
            )
    if spot_of(document, saw) is not None:
        return _by_spot(document, act, last)
    if saw.level is not None:
        return _by_level(document, saw.level)
    return None


def _plain(headline: str, *lines: str, understood: str | None = None) -> GuideAdvice:
    told = {} if understood is None else {"understood": understood}
    return GuideAdvice(kind="say", headline=headline, lines=list(lines), result=None, **told)


def _units(document: SetUpDocument) -> Data:
    return {"units": {"length": document.units.length}}


def _tripod(document: SetUpDocument) -> Data:
    return document.observations.tripod.model_dump(exclude_none=True)


def _screws(document: SetUpDocument, more: Data) -> Advice:
    o = document.observations
    asked = {
        "advice": "screws",
        "base": base_of(document),
        "stand_bearing_deg": o.stand_bearing_deg,
        **_units(document),
    }
    return advise({**asked, "one_at_a_time": not o.options.together, **more})


def _told(kind: str, answer: Advice, understood: str) -> GuideAdvice:
    """An advisor's answer, its first step in front."""
    steps, text = answer.result.get("steps") or [], answer.text
    headline = steps[0]["text"] if steps else text[0]
    lines = [steps[0]["about"], *text[1:]] if steps and "about" in steps[0] else text[1:]
    return GuideAdvice(kind=kind, headline=headline, lines=lines, result=answer.result, understood=understood)


def _by_bubble(document: SetUpDocument, act: Act, last: Done) -> GuideAdvice:
    assert last.saw is not None
    bubble, o = bubble_of(document, last.saw), document.observations
    assert bubble is not None
    understood = _bubble_words(document, last)
    if act.name == "circular-screws" and not bubble.at_wall:
        x, y = bubble.tilt()
        bearing, size = polar(x, y)
        return _told(
            "screws",
            _screws(document, {"tilt": {"bearing_deg": bearing, "arcsec": size * ARCSEC}}),
            understood=understood,
        )
    asked = {
        "advice": "legs",
        "bubble": bubble.model_dump(exclude_none=True),
        "tripod": _tripod(document),
        "may": o.options.legs_may,
    }
    return _told("legs", advise({**asked, **_units(document)}), understood=understood)


def _bubble_words(document: SetUpDocument, last: Done) -> str:
    """'in the direction of B, about 3 mm off the middle'."""
    assert last.saw is not None
    bubble = bubble_of(document, last.saw)
    assert bubble is not None
    bearings = leg_bearings(document)
    near = sorted(LEGS, key=lambda leg: angle_between_deg(bearings[leg], bubble.bearing_deg))
    if angle_between_deg(bearings[near[0]], bubble.bearing_deg) <= 25.0:
        side = f"in the direction of {near[0]}"
    else:
        side = f"between {' and '.join(sorted(near[:2]))}"
    words = length_words(document.units.length)
    far = "at the wall" if bubble.at_wall else f"about {words.small((bubble.offset_mm or 0.0) * MM)} off the middle"
    return f"{side}, {far}"


def _by_spot(document: SetUpDocument, act: Act, last: Done) -> GuideAdvice:
    assert last.saw is not None
    spot, o, words = spot_of(document, last.saw), document.observations, length_words(document.units.length)
    assert spot is not None
    far = words.small(spot.distance_mm * MM)
    back = (spot.bearing_deg + 180.0) % 360.0
    understood = f"{far} off the mark, {_push(spot.bearing_deg, o.stand_bearing_deg)}"
    if act.name == "back-on":
        height = (o.tripod.head_height_m + o.tripod.pivot_height_m) / MM
        tilt = {"bearing_deg": spot.bearing_deg % 360.0, "arcsec": min(28800.0, spot.distance_mm / height * ARCSEC)}
        return _told("screws", _screws(document, {"tilt": tilt}), understood=understood)
    if act.name == "shift":
        move = {"bearing_deg": back, "distance_mm": spot.distance_mm}
        asked = {
            "advice": "shift",
            "move": move,
            "tripod": _tripod(document),
            "base": base_of(document),
            **_units(document),
        }
        return _told("shift", advise(asked), understood=understood)
    if act.name in ("near", "over", "bob"):
        way = _push(back, o.stand_bearing_deg)
        headline = {
            "near": f"Bring the plummet {far} {way}: hold two legs, leave the third foot in place.",
            "over": f"Move every foot {far} {way}.",
            "bob": f"Bring the bob {far} {way}.",
        }[act.name]
        ways = (
            [f"Within {words.small(NEAR_MM * MM)} is close enough for now."]
            if act.name != "bob"
            else ["Move every foot equally; finish by sliding on the head."]
        )
        return _plain(headline, *ways, understood=understood)
    offset = {"bearing_deg": spot.bearing_deg, "distance_mm": spot.distance_mm}
    asked = {
        "advice": "slide",
        "offset": offset,
        "slide_range_mm": SLIDE_MM,
        "stand_bearing_deg": o.stand_bearing_deg,
        **_units(document),
    }
    return _told("slide", advise(asked), understood=understood)


def _push(bearing: float, stand: float) -> str:
    return away(for_person(bearing, stand))


def _by_level(document: SetUpDocument, level: Levelled) -> GuideAdvice | None:
    """The pair first, then the third screw; from both figures, or from the one along."""
    o = document.observations
    along, across = levelled(document, level, electronic=o.options.fine == "electronic")
    if along is None:
        return None
    heading = o.stand_bearing_deg + 180.0
    if o.options.fine == "electronic":
        if across is None:
            return None
        ahead, right = unit(heading), unit(heading + 90.0)
        index = rests(document)
        along, across = along - index[0], across - index[1]
        bearing, size = polar(along * ahead[0] + across * right[0], along * ahead[1] + across * right[1])
        told = _screws(document, {"tilt": {"bearing_deg": bearing, "arcsec": min(28800.0, size)}})
        if not told.result["steps"]:
            return _touch(size)
        return _told("screws", told, understood=f"axis {tilt_words(size)} out of plumb, by the electronic level")
    scale = {"sensitivity_arcsec_per_div": o.level.sensitivity_arcsec_per_div}
    rest, rest_across = rests(document)
    vials = [{**scale, "bearing_deg": (heading + 90.0) % 360.0, "bubble_div": along, "rest_div": rest}]
    if across is not None:
        there = o.stand_bearing_deg % 360.0
        vials.append({**scale, "bearing_deg": there, "bubble_div": across, "rest_div": rest_across})
    told = _screws(document, {"vials": vials})
    if not told.result["steps"]:
        return _touch(
            math.hypot(along - rest, (across or rest_across) - rest_across) * scale["sensitivity_arcsec_per_div"]
        )
    return _told("screws", told, understood="level vial readings")


def tilt_words(arcseconds: float) -> str:
    """A tilt as coarse as it is large: 12.3″, 240″, 23′."""
    if arcseconds < 100.0:
        return arcsec(arcseconds)
    return f"{arcseconds:.0f}″" if arcseconds < 600.0 else f"{arcseconds / 60.0:.0f}′"


def _touch(arcseconds: float) -> GuideAdvice:
    """What is left is less than a hand can turn."""
    return _plain(
        f"Very little is left: {arcsec(arcseconds)}.",
        "That is less than you can turn a screw. Try it, or go on: the remainder is recorded and judged.",
    )


def by_rounds(document: SetUpDocument) -> GuideAdvice | None:
    """Half of the difference between the two ways round is the axis; the other half is the level's own and stays."""
    judged = read(document)
    if judged.tilt is None or judged.index is None or judged.tilt_estimate is None:
        return None
    if judged.tilt_estimate.value <= limits_of(document)["tilt_arcsec"].use:
        return None
    heading = document.observations.stand_bearing_deg + 180.0
    ahead, right = unit(heading), unit(heading + 90.0)
    along, across = judged.tilt
    if document.observations.level.by == "plate":  # its right end is across the sight; read along a pair first
        ahead, right = unit(heading + 90.0), unit(heading + 180.0)
    bearing, size = polar(along * ahead[0] + across * right[0], along * ahead[1] + across * right[1])
    told = _screws(document, {"tilt": {"bearing_deg": bearing, "arcsec": min(28800.0, size)}})
    if not told.result["steps"]:
        return _touch(size)
    senses = (1.0, 1.0) if document.observations.level.by == "plate" else document.instrument.senses
    index = " and ".join(arcsec(one * sense) for one, sense in zip(judged.index, senses, strict=True))
    return _told("screws", told, understood=f"axis {tilt_words(size)} out of plumb; {index} is index error and stays")


def by_eye(document: SetUpDocument) -> GuideAdvice | None:
    """How high the head should stand for these eyes, on this ground."""
    o = document.observations
    try:
        eye = length_of(o.eye_height, document.units.length, "eye_height", "the height of your eye", 1.0, 2.3)
    except (Refused, TypeError):
        return None
    asked = {
        "advice": "tripod-height",
        "eye_height_m": eye,
        "foot_spacing_m": o.tripod.foot_spacing_m,
        "slope_deg": o.tripod.slope_deg,
        "purpose": "wind" if document.conditions.wind == "strong" else "observe",
    }
    answer = advise({**asked, **_units(document)})
    return _plain(answer.text[0], *answer.text[1:])
