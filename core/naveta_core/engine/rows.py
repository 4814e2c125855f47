"""Rows a kind answers with: of the result, of the calculation, of what it does in the work."""

from __future__ import annotations

from ..results import CalculationLine, Effect, Shown
from ..units.formatting import size
from .verdict import JudgedQuantity


def line(text: str, value: str) -> CalculationLine:
    """One line of the calculation."""
    return CalculationLine(text=text, value=value)


def shown(quantity: JudgedQuantity, label: str, text: str | None = None) -> Shown:
    """A quantity as a row of the result."""
    e = quantity.estimate
    return row(
        quantity.name,
        label,
        text or size(e.value, e.u95, quantity.unit),
        value=e.value,
        unit=quantity.unit,
        plus_minus=size(e.u95, e.u95, quantity.unit),
    )


def row(quantity: str, label: str, text: str, *, value: float, unit: str, plus_minus: str | None = None) -> Shown:
    """A row of the result that is not judged on its own. Value in the unit shown."""
    return Shown(
        quantity=quantity, label=label, text=text, plus_minus=plus_minus, value=value, unit=unit, per_canonical=1.0
    )


def effect(code: str, text: str) -> Effect:
    """What a finding does in the work."""
    return Effect(code=code, text=text, imbalance_m=None, height_m=None)
