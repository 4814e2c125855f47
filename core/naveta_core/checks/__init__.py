"""The registry: every kind of check there is. Whoever adds one writes a module and one line here."""

from __future__ import annotations

from typing import Any

from . import (
    circular_vial,
    compensator_function,
    direction_accuracy,
    direction_rounds,
    dual_axis_level,
    levelling_accuracy,
    plate_vial,
    plummet,
    pole_vial,
    staff,
    tape,
    tracker,
    tripod,
    two_face,
    two_peg,
)
from .kind import Kind

_MODULES = (
    circular_vial,
    compensator_function,
    plate_vial,
    dual_axis_level,
    plummet,
    two_face,
    tracker,
    direction_rounds,
    two_peg,
    levelling_accuracy,
    direction_accuracy,
    pole_vial,
    staff,
    tripod,
    tape,
)
KINDS: dict[str, Kind] = {one.KIND.name: one.KIND for one in sorted(_MODULES, key=lambda one: one.KIND.order)}


def kinds_for(instrument: dict[str, Any]) -> list[Kind]:
    """The checks that apply to an instrument, told as a document's `instrument`, in the order in which they make sense."""
    return [one for one in KINDS.values() if instrument.get("kind") in one.applies_to and one.fits(instrument)]
