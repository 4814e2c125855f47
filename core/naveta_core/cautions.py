"""Cautions by what is done. Every screen and report takes them from here, so that all of them agree.

Sorted by gravity: eyes and lives first, then hands, then the instrument. Every list keeps this order. Cautions for the whole
outing stand only where it begins.
"""

from __future__ import annotations

from .results import Reason

FOLLOW = "Follow local rules and your licensed practice."

CAUTIONS: dict[str, str] = {
    "sun": "Never point the telescope at the sun.",
    "laser": "Laser plummet: do not look into the beam. Keep it away from other people's eyes and from polished surfaces.",
    "beam": (
        "Laser pointer, distance meter and tracker: never point a beam at an eye, or at a reflective vest or a prism that"
        " somebody holds. Mind the laser class on the label."
    ),
    "overhead-lines": "Before you raise a staff or a prism pole, look for overhead lines.",
    "storm": "Lightning: put down every metal pole, staff and tripod, and keep away from them until the storm has passed.",
    "traffic": "Near a road: use traffic management, high-visibility clothing and a lookout.",
    "nail": "Before you drive pegs or nails: wear eye protection and locate buried services.",
    "tape": "A tape under tension cuts and whips back: wear gloves, hold it by its rings, never let it fly.",
    "leg-drops": (
        "A released leg drops: put a boot on its foot, one hand on the upper leg, fingers off clamp and slide."
    ),
    "turns-by-itself": "The motor of a robotic instrument turns it without warning: keep hands, straps and cables clear.",
    "pinch": "Hinges and clamps pinch: keep fingers out while a leg moves.",
    "bob": "The bob is sharp and swings: keep it away from faces and feet.",
    "battery": "Insert batteries as marked, plus to plus. Do not use or charge one that is swollen, wet, dented or hot.",
    "weather": "Heat, cold, rough ground: drink, dress for it, watch where you step.",
    "lift": "Lift with the knees, not the back. Set the tripod to a height at which you neither bend nor stretch.",
    "press-feet": "Press the tripod feet in with your leg, not your back. Keep fingers clear of clamps and slides.",
    "hold": "One hand stays on the instrument while the fixing screw is loose.",
    "tribrach-lock": "Close the tribrach lock and test it with a gentle pull before you let go and before you lift.",
    "wind": "Never leave the instrument alone in wind. Spread the legs and weight them.",
    "carry": (
        "On rough ground carry it off the tripod, in its case or a hand on its handle and one beneath; never by the"
        " telescope. To pack it: align the marks, take the battery out."
    ),
    "no-plunge": (
        "Before the telescope turns over: would it strike the tribrach, a handle or an eyepiece? Then use one face only."
        " Turn it slowly by hand; turn a robotic one with its motor only."
    ),
    "reticle-screw": (
        "The reticle screw is under a cover by the eyepiece. Make small turns with the instrument's own tool;"
        " stop when it resists. Open nothing else: that is work for service."
    ),
    "vial-screws": (
        "Level vial screws are small. Loosen one as you tighten the other, 1/8 turn at a time, with the instrument's"
        " own pin. Stop when it resists."
    ),
    "plummet-screws": (
        "Plummet screws sit in opposing pairs: loosen one before you turn the other, never force them."
        " A seal or paint over them means service."
    ),
    "force": "Tighten lightly, never force: tight screws bend the tribrach.",
    "tap": "Tap the tripod lightly with a finger: a hard tap can do damage.",
    "focus-stop": "Do not force a focus knob or a screw at its stop.",
}
"""The gravest first."""
ORDER = list(CAUTIONS)


def caution(code: str) -> Reason:
    """One caution with its code."""
    return Reason(code=code, text=CAUTIONS[code])


def cautions(*codes: str) -> list[Reason]:
    """Each caution once, the gravest first, closed by whose rules count."""
    found = sorted(dict.fromkeys(codes), key=ORDER.index)
    return [*(caution(code) for code in found), Reason(code="local-rules", text=FOLLOW)]
