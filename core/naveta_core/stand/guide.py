"""Leading through a set-up: where somebody is in their way of working, and what follows from what they see.

A pure function of the document: the log says what was seen and done, the way says what comes when. Nothing is locked;
the act asked for is answered, whichever it is.
"""

from __future__ import annotations

import math
from typing import Any

from .. import __version__
from ..cautions import cautions
from ..errors import Refused
from ..wording import arcsec, length_words
from .acts import ACTS, Act
from .advisors import advise
from .advisors.heights import length_of
from .advisors.words import away, for_person
from .hints import hints
from .judge import centred_by, limits_of, passes, read
from .kit import MM
from .set_up import Done, Levelled, SetUpDocument, SetUpObservations
from .told_at import rests, spot_of, swing_of, typed_figure
from .tries import tries
from .tripod import LEGS
from .vectors import ARCSEC, less, polar, unit
from .ways import WAYS, Way, acts_of

Data = dict[str, Any]
NEAR_MM = 10.0
"""Near enough to tread in: the screws or the slide take the rest."""
BACK_ON_MM = 1.5
ON_THE_MARK_MM = 0.5
BOB_MM = 1.5
IN_RING_MM = 1.0
LEVEL_ARCSEC = 5.0
LEVEL_DIV = 0.2
SLIDE_MM = 20.0


def guide(document: SetUpDocument, act: str | None = None) -> Data:
    """The knots of the way, the act at hand, and what to do about what was last seen at it."""
    o = document.observations
    way = WAYS[o.way]
    acts = acts_of(way, document.instrument.plummet)
    names = [one.name for one in acts]
    may = _may_take(document, way, acts)
    at = act if act in may else _following(document, way, names)
    here = ACTS[at]
    last = _last(o, at)
    if here.asks == "rounds":
        advice = _by_rounds(document)
    elif here.asks == "eye":
        advice = _by_eye(document)
    else:
        advice = _advice(document, here, last) if last else None
    enough = _enough(document, here, last)
    following = _after(document, way, names, at)
    return {
        "way": way.name,
        "way_title": way.title,
        "knots": _knots(document, acts, at, may),
        "act": {
            "name": here.name,
            "title": here.title,
            "asks": _asks(document, here),
            "look": here.look,
            "do": here.do,
            "why": here.why,
            "wrong": here.wrong,
            "cautions": cautions(*here.cautions) if here.cautions else [],
        },
        "advice": advice,
        "enough": enough,
        "next": following,
        "next_title": ACTS[following].knot if following else None,
        "may_skip": enough or not o.options.strict,
        "hints": hints(document, at),
        "tries": tries(document, here, last),
        "passes": passes(document),
        "converges": _converges(document),
        "site": _site(document, here, last, advice),
        "core_version": __version__,
    }


def _asks(document: SetUpDocument, act: Act) -> str:
    """What is asked at an act; the fine level by the means somebody works with."""
    return f"{act.asks}-{document.observations.options.fine}" if act.asks in ("plate", "rounds") else act.asks


def _may_take(document: SetUpDocument, way: Way, acts: list[Act]) -> list[str]:
    """The acts that may be taken now: all of them; in strict order only up to the first that is not done."""
    if not document.observations.options.strict:
        return [one.name for one in acts]
    undone = next(
        (i for i, one in enumerate(acts) if not _enough(document, one, _last(document.observations, one.name))), -1
    )
    following = _following(document, way, [one.name for one in acts])
    return [one.name for i, one in enumerate(acts) if undone < 0 or i <= undone or one.name == following]


def _last(o: SetUpObservations, act: str) -> Done | None:
    return next((one for one in reversed(o.log) if one.act == act), None)


def _following(document: SetUpDocument, way: Way, names: list[str]) -> str:
    """The act at hand: what follows from the last entry of the log."""
    log = [one for one in document.observations.log if one.act in names]
    if not log:
        return names[0]
    last = log[-1]
    if not _enough(document, ACTS[last.act], last):
        return last.act
    return _after(document, way, names, last.act) or last.act


def _after(document: SetUpDocument, way: Way, names: list[str], act: str) -> str | None:
    """What comes after an act. A slide that moved something sends back to the level, a level that was set to the mark."""
    o = document.observations
    last = _last(o, act)
    # Before the fine level had its turn the mark is only come near to: the acts follow one another as they stand.
    levelled = way.levels_by in names and (
        _last(o, way.levels_by) is not None or names.index(way.levels_by) < names.index(act)
    )
    if act == way.centres_by and levelled:
        if last is not None and last.saw is not None and not _enough(document, ACTS[act], last):
            return way.levels_by
        return next((name for name in names if ACTS[name].asks in ("rounds", "look")), None)
    if act == way.levels_by and way.centres_by:
        return way.centres_by
    if act == "shift" and last is not None and last.saw is not None and not _enough(document, ACTS[act], last):
        return "plate"
    at = names.index(act)
    return names[at + 1] if at + 1 < len(names) else None


def _knots(document: SetUpDocument, acts: list[Act], at: str, may: list[str]) -> list[Data]:
    o = document.observations
    furthest = max((i for i, one in enumerate(acts) if _last(o, one.name)), default=-1)
    told = []
    for i, one in enumerate(acts):
        last = _last(o, one.name)
        if one.name == at:
            state = "now"
        elif _enough(document, one, last):
            state = "done"
        elif i < furthest:
            state = "passed"
        else:
            state = "open"
        told.append(
            {"act": one.name, "knot": one.knot, "title": one.title, "state": state, "may_take": one.name in may}
        )
    return told


def _enough(document: SetUpDocument, act: Act, last: Done | None) -> bool:
    """Whether what was last seen at an act lets one go on."""
    o = document.observations
    if act.asks == "rounds":
        judged = read(document)
        e = judged.tilt_estimate
        return bool(judged.index is not None and e and e.value <= limits_of(document)["tilt_arcsec"].use)
    if act.asks == "heights":
        return len(read(document).heights_m) >= 2
    if act.asks == "look":
        return o.looked_last
    if act.asks == "zero":
        return bool(o.zero.reading is not None and str(o.zero.reading).strip())
    if last is None:
        return False
    if last.saw is None:
        return last.confirmed
    spot = spot_of(document, last.saw)
    if spot is not None:
        least = {"near": NEAR_MM, "over": NEAR_MM, "back-on": BACK_ON_MM, "bob": BOB_MM}.get(act.name, ON_THE_MARK_MM)
        return spot.distance_mm <= least
    if last.saw.bubble is not None:
        return not last.saw.bubble.at_wall and (last.saw.bubble.offset_mm or 0.0) <= IN_RING_MM
    if last.saw.level is not None:
        figures = [typed_figure(last.saw.level.along), typed_figure(last.saw.level.across)]
        least = LEVEL_ARCSEC if o.options.fine == "electronic" else LEVEL_DIV
        return all(
            one is not None and abs(one - rest) <= least for one, rest in zip(figures, rests(document), strict=True)
        )
    return last.confirmed


def _advice(document: SetUpDocument, act: Act, last: Done) -> Data | None:
    """What to do about what was seen: a headline, the steps, and what will then be seen."""
    if last.wrong_way:
        return _plain(
            "Turn the drawing, then touch the bubble again.",
            "The lower edge is where you stand. Is the leg or screw you moved the one named here?",
            "A bubble lies on the high side: if it ran on towards a leg that was lowered, another leg was moved.",
        )
    saw = last.saw
    if saw is None or _enough(document, act, last):
        return None
    if saw.bubble is not None:
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


def _plain(headline: str, *lines: str, **more: Any) -> Data:
    return {"kind": "say", "headline": headline, "lines": list(lines), "result": None, **more}


def _units(document: SetUpDocument) -> Data:
    return {"units": {"length": document.units.length}}


def _tripod(document: SetUpDocument) -> Data:
    return document.observations.tripod.model_dump(exclude_none=True)


def _base(document: SetUpDocument) -> Data:
    return document.observations.base.model_dump(exclude_none=True)


def _screws(document: SetUpDocument, more: Data) -> Data:
    o = document.observations
    asked = {"advice": "screws", "base": _base(document), "stand_bearing_deg": o.stand_bearing_deg, **_units(document)}
    return advise({**asked, "one_at_a_time": not o.options.together, **more})


def _told(kind: str, answer: Data, **more: Any) -> Data:
    """An advisor's answer, its first step in front."""
    steps = answer["result"].get("steps") or []
    text: list[str] = answer["text"]
    headline = steps[0]["text"] if steps else text[0]
    lines = [steps[0]["about"], *text[1:]] if steps and "about" in steps[0] else text[1:]
    return {"kind": kind, "headline": headline, "lines": lines, "result": answer["result"], **more}


def _by_bubble(document: SetUpDocument, act: Act, last: Done) -> Data:
    assert last.saw is not None
    assert last.saw.bubble is not None
    bubble, o = last.saw.bubble, document.observations
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
    assert last.saw.bubble is not None
    bubble = last.saw.bubble
    bearings = _leg_bearings(document)
    near = sorted(LEGS, key=lambda leg: _apart(bearings[leg], bubble.bearing_deg))
    if _apart(bearings[near[0]], bubble.bearing_deg) <= 25.0:
        side = f"in the direction of {near[0]}"
    else:
        side = f"between {' and '.join(sorted(near[:2]))}"
    words = length_words(document.units.length)
    far = "at the wall" if bubble.at_wall else f"about {words.small((bubble.offset_mm or 0.0) * MM)} off the middle"
    return f"{side}, {far}"


def _apart(a: float, b: float) -> float:
    return abs((a - b + 180.0) % 360.0 - 180.0)


def _leg_bearings(document: SetUpDocument) -> dict[str, float]:
    state = document.observations.tripod.standing()
    told = {}
    for leg, foot in zip(LEGS, state.feet, strict=True):
        out = less(foot, state.pose.at)
        told[leg] = polar(out[0], out[1])[0]
    return told


def _by_spot(document: SetUpDocument, act: Act, last: Done) -> Data:
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
            "base": _base(document),
            **_units(document),
        }
        return _told("shift", advise(asked), understood=understood)
    if act.name in ("near", "over", "bob"):
        way = _push(back, o.stand_bearing_deg)
        headline = {
            "near": f"Bring the plummet {far} {way}: hold two legs, the third foot stays.",
            "over": f"Move every foot {far} {way}.",
            "bob": f"Bring the bob {far} {way}.",
        }[act.name]
        ways = (
            [f"Within {words.small(NEAR_MM * MM)} is near enough: the rest comes later."]
            if act.name != "bob"
            else ["Every foot alike; the last of it by sliding on the head."]
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


def _by_level(document: SetUpDocument, level: Levelled) -> Data | None:
    """The pair first, then the third screw; from both figures, or from the one along."""
    o = document.observations
    along, across = typed_figure(level.along), typed_figure(level.across)
    if along is None:
        return None
    heading = o.stand_bearing_deg + 180.0
    if o.options.fine == "electronic":
        if across is None:
            return None
        ahead, right = unit(heading), unit(heading + 90.0)
        bearing, size = polar(along * ahead[0] + across * right[0], along * ahead[1] + across * right[1])
        told = _screws(document, {"tilt": {"bearing_deg": bearing, "arcsec": min(28800.0, size)}})
        if not told["result"]["steps"]:
            return _touch(size)
        return _told("screws", told, understood=f"axis {tilt_words(size)} out of plumb, as the level shows it")
    scale = {"sensitivity_arcsec_per_div": o.level.sensitivity_arcsec_per_div}
    rest, rest_across = rests(document)
    vials = [{**scale, "bearing_deg": (heading + 90.0) % 360.0, "bubble_div": along, "rest_div": rest}]
    if across is not None:
        there = o.stand_bearing_deg % 360.0
        vials.append({**scale, "bearing_deg": there, "bubble_div": across, "rest_div": rest_across})
    told = _screws(document, {"vials": vials})
    if not told["result"]["steps"]:
        return _touch(
            math.hypot(along - rest, (across or rest_across) - rest_across) * scale["sensitivity_arcsec_per_div"]
        )
    return _told("screws", told, understood="as the vial shows it")


def tilt_words(arcseconds: float) -> str:
    """A tilt as coarse as it is large: 12.3″, 240″, 23′."""
    if arcseconds < 100.0:
        return arcsec(arcseconds)
    return f"{arcseconds:.0f}″" if arcseconds < 600.0 else f"{arcseconds / 60.0:.0f}′"


def _touch(arcseconds: float) -> Data:
    """What is left is less than a hand can turn."""
    return _plain(
        f"Only a touch is left: {arcsec(arcseconds)}.",
        "A screw can hardly be turned so little. Touch it and look again, or go on: what is left is noted and judged.",
    )


def _by_rounds(document: SetUpDocument) -> Data | None:
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
    if not told["result"]["steps"]:
        return _touch(size)
    index = " and ".join(arcsec(one) for one in judged.index)
    return _told(
        "screws", told, understood=f"axis {tilt_words(size)} out of plumb; {index} is the level's own and stays"
    )


def _by_eye(document: SetUpDocument) -> Data | None:
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
    return _plain(answer["text"][0], *answer["text"][1:])


def _converges(document: SetUpDocument) -> str | None:
    """Why it will not end, when the passes grow many."""
    if passes(document) < 4:
        return None
    return (
        "Four passes and still moving: are the feet settling? Is the plummet out (it circles when you turn), or the vial"
        " (half round it shows another tilt)? Run that check at the bench."
    )


def _site(document: SetUpDocument, act: Act, last: Done | None, advice: Data | None) -> Data:
    """Canonical geometry to draw: feet and legs in plan (metres from the middle of the head), spot and bubble as seen."""
    o = document.observations
    state = o.tripod.standing()
    result = (advice or {}).get("result") or {}
    moved = {one["leg"] for one in result.get("steps") or [] if "leg" in one}
    legs = []
    for leg, foot, long in zip(LEGS, state.feet, state.legs, strict=True):
        out = less(foot, state.pose.at)
        legs.append(
            {
                "leg": leg,
                "bearing_deg": round(polar(out[0], out[1])[0], 2),
                "x_m": round(out[0], 4),
                "y_m": round(out[1], 4),
                "length_m": round(long, 3),
                "left_mm": o.tripod.model_dump()["shorten_mm"].get(leg),
                "moves": leg in moved,
                "first": bool(result.get("steps")) and result["steps"][0].get("leg") == leg,
            }
        )
    base = o.base.base()
    turns = result.get("turns") or {}
    spot = spot_of(document, last.saw) if last and last.saw else None
    return {
        "legs": legs,
        "screws": [
            {"screw": str(i + 1), "bearing_deg": bearing, "turns": turns.get(str(i + 1))}
            for i, bearing in enumerate(base.bearings_deg)
        ]
        if act.name in ("plate", "four", "back-on", "circular-screws", "turn-round")
        else [],
        "stand_bearing_deg": o.stand_bearing_deg % 360.0,
        "spot": {"bearing_deg": spot.bearing_deg % 360.0, "distance_mm": spot.distance_mm} if spot else None,
        "over_point": not WAYS[o.way].for_levels and not o.mark.free,
        "centred_by": centred_by(document),
        "you": _between(document),
    }


def _between(document: SetUpDocument) -> str:
    """Where the person stands, told by the legs: 'between A and B', 'behind C'."""
    bearings = _leg_bearings(document)
    stand = document.observations.stand_bearing_deg
    near = sorted(LEGS, key=lambda leg: _apart(bearings[leg], stand))
    if _apart(bearings[near[0]], stand) <= 20.0:
        return f"behind {near[0]}"
    return f"between {' and '.join(sorted(near[:2]))}"
