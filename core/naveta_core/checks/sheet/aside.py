"""Where a bubble or a mark lies, in words: to the right, away from you."""

from __future__ import annotations

from math import hypot

from ...wording import figure

LEAST = 0.05


def aside(x: float, y: float, decimals: int = 1) -> str:
    """'0.6 mm right and 0.3 mm towards you'; x right, y away, looking along the heading."""
    parts = []
    if abs(x) >= LEAST:
        parts.append(f"{figure(abs(x), decimals)} mm {'right' if x > 0 else 'left'}")
    if abs(y) >= LEAST:
        parts.append(f"{figure(abs(y), decimals)} mm {'away from you' if y > 0 else 'towards you'}")
    return " and ".join(parts) if parts else f"in the middle within {figure(max(LEAST, hypot(x, y)), 2)} mm"
