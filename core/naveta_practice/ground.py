"""What a tripod's feet stand in: how deep they sink before they are pressed in, and after."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Literal

GroundName = Literal["earth", "grass", "asphalt-warm", "stone"]


@dataclass(frozen=True, slots=True)
class Ground:
    """Depths in millimetres, times in seconds. Rules of thumb of ours: what matters is that one can feel the difference."""

    label: str
    loose_mm: float
    """How deep a foot sinks in the end that was only set down."""
    pressed_mm: float
    """How deep it sinks in the end after it was pressed in."""
    press_mm: float
    """How deep it goes when it is pressed in."""
    rest_s: float
    """After this time two thirds of it have happened."""


GROUNDS: dict[GroundName, Ground] = {
    "earth": Ground("Earth", 8.0, 0.4, 18.0, 30.0),
    "grass": Ground("Grass", 14.0, 0.8, 30.0, 40.0),
    "asphalt-warm": Ground("Warm asphalt", 2.5, 2.0, 1.0, 240.0),
    "stone": Ground("Concrete", 0.0, 0.0, 0.0, 1.0),
}


def sinks_mm(ground: Ground, *, pressed: bool, sunk_mm: float, seconds: float) -> float:
    """How much further a foot sinks within some seconds, millimetres. sunk_mm: how far it has sunk since it was set down
    or pressed in."""
    left = max(0.0, (ground.pressed_mm if pressed else ground.loose_mm) - sunk_mm)
    return left * (1.0 - math.exp(-seconds / ground.rest_s))
