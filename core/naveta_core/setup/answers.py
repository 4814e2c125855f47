"""What to do about what was seen at an step: a headline, the steps, and what will then be seen."""

from __future__ import annotations

import math
from collections.abc import Sequence

from ..errors import Refused
from ..geometry import ARCSEC, Plane, angle_between_deg, polar, unit
from ..units.formatting import arcsec, length_words
from .advisors import advice_for
from .advisors.heights import TripodHeightQuery, length_of
from .advisors.legs import LegsQuery
from .advisors.screws import MAX_DIVISIONS, ScrewsQuery, VialReading
from .advisors.shift import ShiftQuery
from .advisors.slide import SlideQuery
from .advisors.text import away, for_person
from .context import AdviceUnits, PlanMove, TiltVector
from .document import Done, Levelled, SetUpDocument
from .equipment import MM
from .observations import bubble_of, levelled, rests, spot_of, swing_of, tribrach_of
from .reading import limits_of, read
from .results import Advice, GuideAdvice
from .site import leg_bearings
from .steps import SetUpStep
from .tolerance import NEAR_MM, within_tolerance
from .tripod import LEGS

SLIDE_MM = 20.0
MAX_ARCSEC = 28_800.0
"""No advice is asked for a larger tilt: see TiltVector."""


def advice_at(document: SetUpDocument, step: SetUpStep, last: Done) -> GuideAdvice | None:
    """What to do about what was seen: a headline, the steps, and what will then be seen."""
    if last.wrong_direction:
        return _plain(
            "Turn the drawing, then touch the bubble again.",
            "The lower edge is where you stand. Did you move the leg or screw named here?",
            "The bubble is on the high side. If it moved towards a leg you shortened, you moved another leg.",
        )
    saw = last.saw
    if saw is None or within_tolerance(document, step, last):
        return None
    if bubble_of(document, saw) is not None:
        return _by_bubble(document, step, last)
    if saw.swing is not None and step.prompt == "bob":
        swung = swing_of(document, saw.swing)
        if swung is None or swung.spot is None:
            return _plain(
                "Both ends of the swing, from both sides.", "Millimetres from the mark, towards your right positive."
            )
    if spot_of(document, saw) is not None:
        return _by_spot(document, step, last)
    if saw.level is not None:
        return _by_level(document, saw.level)
    return None


def _plain(headline: str, *lines: str, understood: str | None = None) -> GuideAdvice:
    more = {} if understood is None else {"understood": understood}
    return GuideAdvice(kind="say", headline=headline, lines=list(lines), result=None, **more)


def _units(document: SetUpDocument) -> AdviceUnits:
    return AdviceUnits(length=document.units.length)


def _screws(document: SetUpDocument, tilt: TiltVector | None = None, vials: Sequence[VialReading] = ()) -> Advice:
    o = document.observations
    query = ScrewsQuery(
        advice="screws",
        units=_units(document),
        tribrach=tribrach_of(document),
        stand_bearing_deg=o.stand_bearing_deg,
        one_at_a_time=not o.options.together,
        tilt=tilt,
        vials=list(vials),
    )
    return advice_for(query)


def _turn(document: SetUpDocument, tilt_arcsec: Plane, understood: str) -> GuideAdvice:
    """Which screws take a tilt away; less than a hand can turn is called so."""
    bearing, size = polar(*tilt_arcsec)
    advice = _screws(document, TiltVector(bearing_deg=bearing, arcsec=min(MAX_ARCSEC, size)))
    return _with_lead("screws", advice, understood) if advice.result.moves else _touch(size)


def _with_lead(kind: str, advice: Advice, understood: str) -> GuideAdvice:
    """An advisor's answer, its first step in front."""
    text, first = advice.text, next(iter(advice.result.moves), None)
    headline = first.text if first else text[0]
    # What comes before the first step, such as the pencil line at the clamp, stays; the step itself is not said twice.
    lines = [
        *([first.about] if first and first.about else []),
        *(line for line in text if not line.startswith(headline)),
    ]
    return GuideAdvice(kind=kind, headline=headline, lines=lines, result=advice.result, understood=understood)


def _by_bubble(document: SetUpDocument, step: SetUpStep, last: Done) -> GuideAdvice:
    assert last.saw is not None
    bubble, o = bubble_of(document, last.saw), document.observations
    assert bubble is not None
    understood = _bubble_words(document, last)
    if step.name == "circular-screws" and not bubble.at_wall:
        bearing, size = polar(*bubble.tilt())
        return _with_lead(
            "screws", _screws(document, TiltVector(bearing_deg=bearing, arcsec=size * ARCSEC)), understood
        )
    query = LegsQuery(advice="legs", units=_units(document), bubble=bubble, tripod=o.tripod, may=o.options.legs_may)
    return _with_lead("legs", advice_for(query), understood)


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


def _by_spot(document: SetUpDocument, step: SetUpStep, last: Done) -> GuideAdvice:
    assert last.saw is not None
    spot, o, words = spot_of(document, last.saw), document.observations, length_words(document.units.length)
    assert spot is not None
    far = words.small(spot.distance_mm * MM)
    back = (spot.bearing_deg + 180.0) % 360.0
    understood = f"{far} off the mark, {_push(spot.bearing_deg, o.stand_bearing_deg)}"
    if step.name == "back-on":
        height = (o.tripod.head_height_m + o.tripod.pivot_height_m) / MM
        size = min(MAX_ARCSEC, spot.distance_mm / height * ARCSEC)
        tilt = TiltVector(bearing_deg=spot.bearing_deg % 360.0, arcsec=size)
        return _with_lead("screws", _screws(document, tilt), understood)
    if step.name == "shift":
        move = PlanMove(bearing_deg=back, distance_mm=spot.distance_mm)
        shift = ShiftQuery(
            advice="shift", units=_units(document), move=move, tripod=o.tripod, tribrach=tribrach_of(document)
        )
        return _with_lead("shift", advice_for(shift), understood)
    if step.name in ("near", "over", "bob"):
        method = _push(back, o.stand_bearing_deg)
        headline = {
            "near": f"Bring the plummet {far} {method}: hold two legs, leave the third foot in place.",
            "over": f"Move every foot {far} {method}.",
            "bob": f"Bring the bob {far} {method}.",
        }[step.name]
        methods = (
            [f"Within {words.small(NEAR_MM * MM)} is close enough for now."]
            if step.name != "bob"
            else ["Move every foot equally; finish by sliding on the head."]
        )
        return _plain(headline, *methods, understood=understood)
    slide = SlideQuery(
        advice="slide",
        units=_units(document),
        offset=spot,
        slide_range_mm=SLIDE_MM,
        stand_bearing_deg=o.stand_bearing_deg,
    )
    return _with_lead("slide", advice_for(slide), understood)


def _push(bearing: float, stand: float) -> str:
    return away(for_person(bearing, stand))


def _by_level(document: SetUpDocument, level: Levelled) -> GuideAdvice | None:
    """The pair first, then the third screw; from both figures, or from the one along."""
    o = document.observations
    along, across = levelled(document, level, electronic=o.options.level_type == "electronic")
    if along is None:
        return None
    heading = o.stand_bearing_deg + 180.0
    if o.options.level_type == "electronic":
        if across is None:
            return None
        leading_reasons, right = unit(heading), unit(heading + 90.0)
        index = rests(document)
        along, across = along - index[0], across - index[1]
        tilt = _in_plan((along, across), leading_reasons, right)
        size = tilt_words(math.hypot(*tilt))
        return _turn(document, tilt, understood=f"axis {size} out of plumb, by the electronic level")
    scale = o.level.sensitivity_arcsec_per_div
    rest, rest_across = rests(document)
    looks = [((heading + 90.0) % 360.0, along, rest)]
    if across is not None:
        looks.append((o.stand_bearing_deg % 360.0, across, rest_across))
    if any(abs(figure) > MAX_DIVISIONS for _, bubble, at in looks for figure in (bubble, at)):
        return _plain(
            f"A plate vial is read in divisions, at most {MAX_DIVISIONS:g} to each side.",
            "If the figure is in seconds, choose the electronic level under Fine level by.",
        )
    vials = [
        VialReading(bearing_deg=bearing, bubble_div=bubble, rest_div=at, sensitivity_arcsec_per_div=scale)
        for bearing, bubble, at in looks
    ]
    advice = _screws(document, vials=vials)
    if not advice.result.moves:
        return _touch(math.hypot(along - rest, (across or rest_across) - rest_across) * scale)
    return _with_lead("screws", advice, understood="level vial readings")


def _in_plan(figures: Plane, leading_reasons: Plane, right: Plane) -> Plane:
    """Figures along and across as one vector of the site."""
    along, across = figures
    return (along * leading_reasons[0] + across * right[0], along * leading_reasons[1] + across * right[1])


def tilt_words(arcseconds: float) -> str:
    """A tilt as coarse as it is large: 12.3″, 240″, 23′. In seconds of arc."""
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
    """Half of the difference between the two headings is the axis; the other half is the level's own and stays."""
    judged = read(document)
    if judged.tilt is None or judged.index is None or judged.tilt_estimate is None:
        return None
    if judged.tilt_estimate.value <= limits_of(document)["tilt_arcsec"].use:
        return None
    heading = document.observations.stand_bearing_deg + 180.0
    leading_reasons, right = unit(heading), unit(heading + 90.0)
    if document.observations.level.by == "plate":  # its right end is across the sight; read along a pair first
        leading_reasons, right = unit(heading + 90.0), unit(heading + 180.0)
    tilt = _in_plan(judged.tilt, leading_reasons, right)
    senses = (1.0, 1.0) if document.observations.level.by == "plate" else document.instrument.senses
    index = " and ".join(arcsec(entry * sense) for entry, sense in zip(judged.index, senses, strict=True))
    size = tilt_words(math.hypot(*tilt))
    return _turn(document, tilt, understood=f"axis {size} out of plumb; {index} is index error and stays")


def by_eye(document: SetUpDocument) -> GuideAdvice | None:
    """How high the head should stand for these eyes, on this ground."""
    o = document.observations
    try:
        eye = length_of(
            o.eye_height, document.units.length, "eye_height", where="the height of your eye", least=1.0, most=2.3
        )
    except (Refused, TypeError):
        return None
    query = TripodHeightQuery(
        advice="tripod-height",
        units=_units(document),
        eye_height_m=eye,
        foot_spacing_m=o.tripod.foot_spacing_m,
        slope_deg=o.tripod.slope_deg,
        purpose="wind" if document.conditions.wind == "strong" else "observe",
    )
    return _plain(*advice_for(query).text)
