"""Shapes of what the bench answers, for the contract and the generated types."""

from __future__ import annotations

from typing import Any, Literal

from ninja import Schema

from naveta_core.results import Coded, Effect, Part, Result


class RecordRow(Schema):
    """A record as a line in a list."""

    id: str
    instrument: str
    category: str
    kind: str
    stage: str
    pair: str | None
    as_left: str | None
    amends: str | None
    amended_by: str | None
    amended_why: str
    why: str
    observed_at: str
    received_at: str
    observed_by: str
    entered_by: str
    entry: str
    sequence: int
    grade: str | None
    finding: str | None
    part: Part | None
    note: str


class RecordPage(Schema):
    records: list[RecordRow]
    next: str | None


class RecordOut(RecordRow):
    """A record with everything in it; `broken` is a sentence when its seal does not hold."""

    document: dict[str, Any]
    result: Result | None
    core_version: str
    arrival: int
    sent_digest: str
    device: dict[str, Any] | None
    device_says: list[Coded]
    previous: str
    digest: str
    broken: str | None


class Point(Schema):
    id: str
    at: str
    stage: str
    pair: str | None
    grade: str
    value: float
    u95: float
    use: float
    watch: float


class EventPoint(Schema):
    id: str
    event: str
    at: str
    note: str


class SeriesOut(Schema):
    """A figure's history; `unit` as it is written behind a number, and as it is said."""

    title: str
    unit: str
    unit_said: str
    points: list[Point]
    events: list[EventPoint]


class EventRow(Schema):
    event: str
    at: str
    by: str
    note: str
    crew: str | None
    place: str | None


class Signed(Schema):
    by: str
    at: str
    note: str


class LookBackOut(Schema):
    text: str
    last_good: str | None
    taken_out: int
    advice: list[Coded]
    cost: list[Effect]
    events: list[EventRow]
    signed: Signed | None


class StandIn(Schema):
    tag: str
    model: str
    where: str
    state: str
    reason: str


class LayoutOut(Schema):
    name: str
    title: str
    good_for: str
    distances_m: list[list[float]]
    distances_ft: list[list[float]]


class LedStep(Schema):
    code: str
    title: str
    text: str


class OptionOut(Schema):
    value: str
    label: str
    hint: str


class FieldOut(Schema):
    """A field of an entry; `given`: filled from the way; `anew`: told again after adjusting."""

    name: str
    label: str
    unit: str
    kind: Literal["number", "length", "angle", "choice"]
    options: list[OptionOut]
    given: bool
    optional: bool
    anew: bool


class GroupOut(Schema):
    """Fields that stand together; with `rows`, `path` is a list of which every entry is a row, with `rounds` of a round."""

    path: str
    title: str
    fields: list[FieldOut]
    rows: bool
    rounds: bool
    row_titles: list[str]
    note: str
    most: int
    more: str


class WayOut(Schema):
    """A way of carrying a check out, with its entry."""

    name: str
    title: str
    good_for: str
    observations: dict[str, Any]
    groups: list[GroupOut]
    steps: list[str]
    caution: list[Coded]
    unit: str


class AsksOut(Schema):
    """Which circumstances are asked for before it begins."""

    minutes_on: bool
    support: bool
    wind: bool
    temperature: bool


class QuickOut(Schema):
    """How a check is taken in a round before the work."""

    way: str
    minutes: int


class KindOut(Schema):
    kind: str
    title: str
    applies_to: list[str]
    minutes: int
    interval_days: int
    bring: list[str]
    before_you_start: list[str]
    who_adjusts: list[str]
    when_bad: list[LedStep]
    cautions: dict[str, list[Coded]]
    watch_condition: str
    main_quantity: str
    quantity_label: str
    csv_columns: list[str]
    layouts: list[LayoutOut]
    why: str
    order: int
    unit: str
    adjustable: bool
    joins: bool
    carries: list[str]
    quick: QuickOut | None
    asks: AsksOut
    ways: list[WayOut]


class KnownInstrument(Schema):
    """One instrument as far as a device needs it to reckon: what its maker states, the firm's limits, what was made."""

    tag: str
    kind: str
    stated: dict[str, Any]
    limits: dict[str, Any]
    made: list[dict[str, Any]]


class DeviceOut(Schema):
    """What a device keeps for work without signal, and as of when."""

    as_of: str
    core_version: str
    judged_raw: bool
    fleet: list[KnownInstrument]
    mark: int
    more: bool


class HealthOut(Schema):
    """Whether the house stands: database reachable, how many records."""

    ok: bool
    core_version: str
    instruments: int
    records: int
