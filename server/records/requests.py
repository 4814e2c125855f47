"""What devices send: a finished check, an event, an amendment; read by the core's strict rules."""

from __future__ import annotations

import uuid
from typing import Annotated, Any, Literal, TypeVar

from pydantic import AfterValidator, Field, ValidationError

from naveta_core.documents.envelope import AngleUnit, InOwnUnit, LengthUnit, Moment, Part
from naveta_core.documents.model_faults import faults_of
from naveta_core.errors import Fault, Refused, path_in_words, quote
from naveta_core.stats.decision import Grade

Event = Literal[
    "knock", "drop", "topple", "transport", "soaked", "temperature-step", "tracker-off", "control-jump",
    "out", "in", "lent", "returned", "service-out", "service-in",
    "held", "released", "skipped", "adjusted", "impact-reviewed",
]  # fmt: skip


def _identity(text: str) -> str:
    try:
        return str(uuid.UUID(text))
    except ValueError:
        raise ValueError("the id of a record (a UUID)") from None


Identity = Annotated[str, Field(max_length=40), AfterValidator(_identity)]


Tag = Annotated[str, Field(max_length=20)]
MAX_OFF_S = 100 * 366 * 86_400
ClockOff = Annotated[int, Field(ge=-MAX_OFF_S, le=MAX_OFF_S)]
"""The server's clock less the device's, seconds; a device whose battery ran out believes in another century."""


class DeviceResult(Part):
    """What a device without signal made of a check, to be held against what the server makes of it."""

    core_version: str = Field(max_length=20)
    fingerprint: str = Field(pattern="^[0-9a-f]{64}$")
    grade: Grade


class CheckIn(Part):
    """A finished check as a device sends it."""

    instrument: Tag
    stage: Literal["as-found", "as-left"] = "as-found"
    pair: Identity | None = None
    amends: Identity | None = None
    why: str = Field(default="", max_length=500)
    observed_at: Moment
    observed_by: Annotated[str, Field(max_length=60)] | None = None
    entry: Literal["typed", "file", "csv", "simulated"] = "typed"
    device_result: DeviceResult | None = None
    clock_off_s: ClockOff | None = None
    document: Any


Amount = Annotated[float, Field(ge=0, le=1e7), InOwnUnit]


class ReviewedLineIn(Part):
    """A piece of affected work somebody has looked at, and what was found."""

    work: Annotated[str, Field(max_length=40)]
    remark: str = Field(default="", max_length=300)


class EventIn(Part):
    """Something that happened to an instrument."""

    instrument: Tag
    event: Event
    at: Moment
    note: str = Field(default="", max_length=500)
    crew: Annotated[str, Field(max_length=60)] | None = None
    place: str | None = Field(default=None, max_length=80)
    record: Identity | None = None
    check: Annotated[str, Field(max_length=40)] | None = None
    """Of a skipped check: which."""
    until: Annotated[str, Field(max_length=10)] | None = None
    """Of a skipped check: the day it is due instead."""
    temperature_c: Annotated[float, Field(ge=-60, le=60), InOwnUnit] | None = None
    case_looked: bool = False
    """Whether somebody looked what is in its case; then `missing` names what was not."""
    missing: list[Annotated[str, Field(max_length=200)]] = Field(default=[], max_length=40)
    ready: list[Annotated[str, Field(max_length=40)]] | None = Field(default=None, max_length=20)
    """Of a taking out: what of the departure list was ticked; None: nobody went through it."""
    resets: list[Annotated[str, Field(max_length=60)]] = Field(default=[], max_length=20)
    """Of a service: which stored values were reset; none named counts as all."""
    cost: Amount | None = None
    """Of a service, in the firm's currency."""
    days_cost: Amount | None = None
    """What the days without it cost: hire, waiting."""
    certificate: Annotated[str, Field(max_length=64)] | None = None
    """Of a service: the digest of the certificate that came with it, kept before."""
    steps: list[Annotated[str, Field(max_length=200)]] = Field(default=[], max_length=30)
    lines: list[ReviewedLineIn] = Field(default=[], max_length=400)
    """Of a review of affected work: the pieces of work looked at."""
    clock_off_s: ClockOff | None = None


class AmendIn(Part):
    """Something is wrong with a record: strike it, and say why."""

    id: Identity
    why: str = Field(min_length=3, max_length=500)


class PreviewIn(Part):
    """A document as far as it goes, and the instrument it is about."""

    instrument: Tag | None = None
    document: Any


class BeginIn(Part):
    """How a check is begun: the method, and the units of whoever begins it."""

    method: Annotated[str, Field(max_length=60)]
    length: LengthUnit = "m"
    angle: AngleUnit | Literal[""] = ""


class MethodIn(PreviewIn):
    """A document, and the method and unit it is to be taken by."""

    method: Annotated[str, Field(max_length=60)]
    length: LengthUnit = "m"


class AsLeftIn(PreviewIn):
    """A check's document as found, and the figures of its result."""

    result: dict[str, Any]


class GuideIn(PreviewIn):
    """A set-up as far as it goes, and the step somebody wants to see; None: the one at hand."""

    step: str | None = Field(default=None, max_length=30)


class AdviseIn(Part):
    """One question for advice, as the core's advisors take it."""

    question: dict[str, Any]


class AdjustingIn(PreviewIn):
    """A complete document and what the staff reads now."""

    reads_now: list[Any] = Field(default=[], max_length=30)


Sent = TypeVar("Sent", bound=Part)


def read_entry(model: type[Sent], data: Any) -> Sent:
    """What was sent as the model it should be. Raises Refused."""
    if not isinstance(data, dict):
        raise Refused([Fault("$", "the request", quote(data), "an object")])
    try:
        return model.model_validate(data)
    except ValidationError as error:
        raise Refused(faults_of(error, path_in_words)) from None
