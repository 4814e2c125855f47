"""What the temperature is worth to a length that was compared, and what is stated of readings that do not fit."""

from __future__ import annotations

from ..documents.envelope import Envelope
from ..results import CodedText
from ..stats.decision import decide
from ..stats.estimate import Estimate
from ..units.formatting import figure
from .comparing import Compared
from .fields import Where
from .reports import report_outlier, report_scatter
from .verdict import JudgedQuantity, Judgement

GIVEN_KELVIN, UNKNOWN_KELVIN = 2.0, 10.0
"""A band lying in the shade follows a thermometer beside it within 2 K; nothing given, it may be 10 K off: one σ each."""


def sigma_kelvin(document: Envelope, *, with_temperature: bool | None = None) -> float:
    """How well the temperature of what was measured is known, K; `with_temperature` asks for the other case."""
    known = document.conditions.temperature_c is not None if with_temperature is None else with_temperature
    return GIVEN_KELVIN if known else UNKNOWN_KELVIN


def ask_temperature(document: Envelope) -> list[CodedText]:
    """The first thing to be given, while it is not."""
    if document.conditions.temperature_c is not None:
        return []
    text = "First the temperature beside the tape: if not entered, 20 °C ± 20 K is assumed, the largest part of the ±."
    return [("temperature-not-entered", text)]


def report_temperature(
    judgement: Judgement, document: Envelope, scale: JudgedQuantity, now: Estimate, known: Estimate
) -> None:
    """What the scale loses by a temperature that was not given; asked for first where it would change something."""
    if document.conditions.temperature_c is not None:
        return
    worth = f"± {figure(now.u95, 0)} ppm without the temperature, ± {figure(known.u95, 0)} with it"
    judgement.reasons.append(("temperature-not-entered", f"Temperature not entered: {worth}."))
    if decide(scale.estimate, scale.limits).grade != "use":
        text = f"Enter the temperature beside the tape first: {worth}."
        judgement.first_actions.append(("enter-temperature", text))


def report_compared(judgement: Judgement, compared: Compared, paths: list[str], words: Where) -> None:
    """What was set aside, what is an outlier, what scatters."""
    for i in compared.aside:
        judgement.set_aside.append(paths[i])
        text = (
            f"The {words(paths[i])} does not agree, and the second reading there does: it is set aside as an outlier."
        )
        judgement.reasons.append(("set-aside", text))
    if compared.outlier is not None:
        place = words(paths[compared.outlier])
        text = f"The {place} does not agree with the others: probably one mistake. Read it again, in a new row."
        report_outlier(judgement, paths[compared.outlier], text)
    report_scatter(judgement, compared.line.solved, "lengths")
