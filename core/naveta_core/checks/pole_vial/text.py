"""What a check of a pole's vial says in words."""

from __future__ import annotations

from ...engine.rows import effect
from ...results import Effect
from ...units.angles import ARCSEC_PER_RADIAN
from ...units.formatting import LengthWords, aside, capital, figure
from ..circular_vial.solve import VialError


def finding_of(item: str, found: VialError, lean_mm: float, height: str) -> str:
    """The finding as one sentence: what it is, how much, ± (95 %)."""
    e = found.estimate
    if e.value <= 2.0 * e.sigma:
        return f"{capital(item)} level: no error found, within {figure(e.proved_to, 1)} mm."
    return f"{capital(item)} {figure(lean_mm, 1)} mm off plumb at {height}; reversing point {aside(found.x, found.y)}, ± {figure(e.u95, 1)} mm."


def costs_of(item: str, error_mm: float, sensitivity: float, words: LengthWords) -> list[Effect]:
    """What the vial error does to the top of the pole, mm; sensitivity in minutes of arc per 2 mm."""
    angle = error_mm * sensitivity * 30 / ARCSEC_PER_RADIAN
    if item == "staff":
        text = f"A staff tilted like this reads {figure(3000 * angle * angle / 2, 2)} mm too much at {words.height(3)}."
        return [effect("staff-out-of-plumb", text)]
    return [
        effect(f"lean-{h:g}-m", f"At {words.height(h)} the point is off by {figure(h * 1000 * angle, 1)} mm.")
        for h in (1.3, 2.0, 3.6)
    ]
