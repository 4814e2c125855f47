"""The site as it is drawn: feet and legs, screws, spot, and where the person stands."""

from __future__ import annotations

from typing import Any

from .acts import Act
from .reading import centred_by
from .set_up import Done, SetUpDocument
from .told_at import bubble_of, spot_of
from .tripod import LEGS
from .vectors import less, polar
from .ways import WAYS

Data = dict[str, Any]


def apart(a: float, b: float) -> float:
    return abs((a - b + 180.0) % 360.0 - 180.0)


def leg_bearings(document: SetUpDocument) -> dict[str, float]:
    state = document.observations.tripod.standing()
    told = {}
    for leg, foot in zip(LEGS, state.feet, strict=True):
        out = less(foot, state.pose.at)
        told[leg] = polar(out[0], out[1])[0]
    return told


def site_of(document: SetUpDocument, act: Act, last: Done | None, advice: Data | None) -> Data:
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
    bubble = bubble_of(document, last.saw) if last and last.saw else None
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
        "bubble": bubble.model_dump(include={"bearing_deg", "offset_mm", "at_wall"}) if bubble else None,
        "over_point": not WAYS[o.way].for_levels and not o.mark.free,
        "centred_by": centred_by(document),
        "you": _between(document),
    }


def _between(document: SetUpDocument) -> str:
    """Where the person stands, told by the legs: 'between A and B', 'behind C'."""
    bearings = leg_bearings(document)
    stand = document.observations.stand_bearing_deg
    near = sorted(LEGS, key=lambda leg: apart(bearings[leg], stand))
    if apart(bearings[near[0]], stand) <= 20.0:
        return f"behind {near[0]}"
    return f"between {' and '.join(sorted(near[:2]))}"
