"""Cautions by what is done. Every screen and report takes them from here, so that each says the same."""

from __future__ import annotations

from .results import Reason

FOLLOW = "Follow local rules and your licensed practice."

CAUTIONS: dict[str, str] = {
    "sun": "Never point the telescope at the sun.",
    "traffic": "Near a road: use traffic management, high-visibility clothing and a lookout.",
    "overhead-lines": "Before you raise a staff, look for overhead lines. Never raise one in lightning.",
    "press-feet": "Press the tripod feet in with your leg, not your back. Keep fingers clear of clamps and slides.",
    "nail": "Before you drive pegs or nails: wear eye protection and locate buried services.",
    "wind": "Never leave the instrument alone in wind. Spread the legs and weight them.",
    "carry": "Carry it in its case or upright; never by the telescope.",
    "reticle-screw": (
        "The reticle screw is under a cover by the eyepiece. Make small turns with the instrument's own tool;"
        " stop when it resists. Open nothing else: that is work for service."
    ),
    "leg-drops": (
        "A released leg drops: put a boot on its foot, one hand on the upper leg, fingers off clamp and slide."
    ),
    "lift": "Lift with the knees, not the back. Set the tripod to a height at which you neither bend nor stretch.",
    "laser": "Laser plummet: do not look into the beam. Keep it away from other people's eyes and from polished surfaces.",
    "bob": "The bob is sharp and swings: keep it away from faces and feet.",
    "hold": "One hand stays on the instrument while the fixing screw is loose.",
    "no-plunge": (
        "Turn the telescope over by hand and slowly. If it would strike the tribrach, a handle or an eyepiece,"
        " do not turn it over: use one face only."
    ),
    "tribrach-lock": "Close the tribrach lock and test it with a gentle pull before you let go and before you lift.",
    "battery": "Insert batteries as marked, plus to plus. Do not use or charge one that is swollen, wet, dented or hot.",
    "force": "Tighten lightly, never force: tight screws bend the tribrach.",
    "vial-screws": (
        "Level vial screws are small. Loosen one as you tighten the other, 1/8 turn at a time, with the instrument's"
        " own pin. Stop when it resists."
    ),
    "plummet-screws": (
        "Plummet screws sit in opposing pairs: loosen one before you turn the other, never force them."
        " A seal or paint over them means service."
    ),
    "turns-by-itself": "The motor turns it without warning: keep fingers, straps and cables clear.",
    "tap": "Tap the tripod lightly with a finger: a hard tap can do damage.",
    "tape": "A tape under tension cuts and whips back: wear gloves, hold it by its rings, never let it fly.",
    "pinch": "Hinges and clamps pinch: keep fingers out while a leg moves.",
    "focus-stop": "Do not force a focus knob or a screw at its stop.",
}


def caution(code: str) -> Reason:
    """One caution with its code."""
    return Reason(code=code, text=CAUTIONS[code])


def cautions(*codes: str) -> list[Reason]:
    """Cautions in the order given, closed by whose rules count."""
    return [*(caution(code) for code in codes), Reason(code="local-rules", text=FOLLOW)]
