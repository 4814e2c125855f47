"""Turning, storing or repairing what a check found: the readings on the way, or only the adjustments where nothing is read."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from ..errors import Fault, Refused, quote
from ..results import Adjusting, AdjustingStep
from ..stats.decision import Grade
from ..units.formatting import capital, size
from .verdict import Judgement, next_of, offers_adjusting

NOT_PROVED = "The error is not certain enough to turn a screw. Repeat the check, or take more readings."


def adjusting_of(
    text: str,
    *,
    allowed: bool,
    inputs: Sequence[str] = (),
    prompt: str = "",
    unit: str = "",
    from_text: str = "",
    target_text: str = "",
    tool: str = "",
    screw: str = "",
    steps: Sequence[AdjustingStep] = (),
) -> Adjusting:
    """What is done now, and what each reading since the first turn leaves. Without inputs nothing is read on the way."""
    return Adjusting(
        text=NOT_PROVED if inputs and not allowed else text,
        allowed=allowed,
        inputs=list(inputs),
        prompt=prompt,
        unit=unit,
        from_text=from_text,
        target_text=target_text,
        tool=tool,
        screw=screw,
        steps=list(steps),
    )


def by_hand(_document: Any, _read: Any, judgement: Judgement, grade: Grade, reads_now: list[Any]) -> Adjusting:
    """What is stored by the instrument's own routine, or fixed: only the adjustments the finding calls for. Raises Refused."""
    if reads_now:
        given = ", ".join(quote(typed) for typed in reads_now)
        raise Refused([Fault("reads_now", "the value now", given, "nothing: adjust it, then check again")])
    adjustments = [
        text for code, text in next_of(judgement, grade) if code == "adjust" or (code, text) in judgement.to_fix
    ]
    # What may be adjusted without having to be is led through too.
    adjustments = adjustments or [
        quantity.turn for quantity in judgement.quantities if quantity.turn and offers_adjusting(quantity)
    ]
    return adjusting_of(
        " ".join(dict.fromkeys(adjustments)) if adjustments else _why_not(judgement), allowed=bool(adjustments)
    )


def _why_not(judgement: Judgement) -> str:
    """Why nothing is done by a finding: it calls for nothing, or does not prove what it calls for."""
    unproved = [
        quantity
        for quantity in judgement.quantities
        if quantity.grade in ("adjust", "watch") and not quantity.may_turn()
    ]
    if not unproved:
        return "Nothing to store or repair on this result. Repeat the check first, or take more readings."
    largest = max(unproved, key=lambda quantity: quantity.estimate.u95)
    wanted = size(largest.fine * largest.limits.use, largest.fine * largest.limits.use, largest.unit)
    known = size(largest.estimate.u95, largest.estimate.u95, largest.unit)
    return f"{capital(largest.noun)}: known only to ± {known}. Storing or repairing needs ± {wanted} or better: repeat with more readings."
