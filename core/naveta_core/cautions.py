"""Cautions by act. Every screen and report takes them from here, so that each says the same."""

from __future__ import annotations

from .results import Reason

FOLLOW = "Follow local rules and your licensed practice."

CAUTIONS: dict[str, str] = {
    "sun": "Never point the telescope at the sun.",
    "traffic": "Near a road: traffic management, visibility, a lookout.",
    "overhead-lines": "Staff up: look for overhead lines first. No staff in lightning.",
    "tread": "Tread the feet in with the leg, not the back; fingers clear of clamps and slides.",
    "nail": "Before driving pegs or nails: eye protection, buried services located.",
    "wind": "Never leave the instrument alone in wind; spread and weight the legs.",
    "carry": "Carry it in its case or upright; never by the telescope.",
    "reticle-screw": (
        "The reticle screw sits under a cover by the eyepiece. Small turns with the instrument's own tool;"
        " stop when it resists. Do not open anything else: the rest belongs to service."
    ),
    "leg-drops": (
        "A released leg drops: boot on its foot plate, one hand on the upper leg, fingers off the clamp and the slide."
    ),
    "lift": "Lift with the knees, not the back; a tripod at a height that neither bends nor stretches you.",
    "laser": "Laser plummet: do not look into the beam; mind others' eyes and polished surfaces.",
    "bob": "The bob has a point and the string a reach: keep both from faces and feet.",
    "hold": "One hand stays on the instrument while the fixing screw is loose.",
    "no-plunge": (
        "Turn the telescope through by hand and slowly: where it strikes the base, a handle or an eyepiece it must not be"
        " turned through at all. Then there is no second face."
    ),
    "base-lock": "Close the base's lock and try it with a gentle pull before you let go, and before you lift.",
    "battery": "Batteries in as marked, plus to plus. One that is swollen, wet, dented or hot is not put in and not charged.",
    "force": "Lightly tight, never forced: tight screws bend the base.",
    "vial-screws": (
        "A vial's own screws are small: ease one as the other is tightened, an eighth of a turn, with the instrument's"
        " own pin; stop when it resists."
    ),
    "plummet-screws": (
        "Plummet screws sit in opposing pairs: ease one before the other is turned, never both tight, never forced."
        " A seal or paint over them means service."
    ),
    "turns-by-itself": "A motor turns it without warning: fingers, straps and cables clear while it works.",
    "tap": "Tap lightly, with a finger on the tripod: a hard knock is a knock.",
    "tape": "A tape under tension has an edge and a whip: gloves, hold it by its rings, never let it fly back.",
    "pinch": "Hinges and clamps pinch: keep fingers out while a leg moves.",
    "focus-stop": "Do not force a focus knob or a screw at its stop.",
}


def caution(code: str) -> Reason:
    """One caution with its code."""
    return Reason(code=code, text=CAUTIONS[code])


def cautions(*codes: str) -> list[Reason]:
    """Cautions in the order given, closed by whose rules count."""
    return [*(caution(code) for code in codes), Reason(code="local-rules", text=FOLLOW)]
