"""What every telescope and plummet has in common: focus, the parallax of an eye that moves, warm air."""

from __future__ import annotations

import math

SWAY_S = 1.7
"""An eye does not stay where it is: so long is one coming and going."""
BLUR = 9.0


def blur_of(focus: float, sharp: float) -> float:
    """How blurred a picture is, 0 sharp; both on the focus screw from 0 to 1."""
    return abs(focus - sharp) * BLUR


def parallax(most: float, focus: float, sharp: float, seconds: float) -> float:
    """By how much the hairs move at a moment; `most`: while the eye goes from the middle to the edge of an eyepiece that is
    out of focus by its whole range."""
    out = focus - sharp
    return most * out * math.sin(2 * math.pi * seconds / SWAY_S) / max(0.1, 1.0 - abs(out))


def shimmer(most: float, seconds: float, seed: int) -> float:
    """By how much warm air moves a sight at a moment, at most `most`."""
    return most * math.sin(seconds * 9.1 + seed) * math.sin(seconds * 2.3)
