"""Shapes of what the bench answers, for the contract and the generated types."""

from __future__ import annotations

from typing import Any, Literal

from ninja import Schema

from naveta_core.history.trend import Trend
from naveta_core.results import Effect, Reason, Result, VerdictPart


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
    part: VerdictPart | None
    note: str


class RecordPage(Schema):
    records: list[RecordRow]
    next: str | None


class RecordOut(RecordRow):
    """A record with everything in it; `broken` is a sentence when its seal does not hold."""

    document: dict[str, Any]
    result: Result | None
    core_version: str
    taken_out_for: str = ""
    """With whom and for what the instrument was out when a check was made."""
    arrival: int
    sent_digest: str
    device: dict[str, Any] | None
    device_notes: list[Reason]
    previous: str
    digest: str
    broken: str | None


class Point(Schema):
    id: str
    at: str
    stage: str
    pair: str | None
    temperature_c: float | None
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
    cuts: bool
    """Whether findings before it say nothing of the instrument after it."""


class SeriesOut(Schema):
    """A figure's history; `unit` as it is written behind a number, and as it is stated."""

    title: str
    unit: str
    unit_label: str
    points: list[Point]
    events: list[EventPoint]
    trend: Trend | None
    """What the checks since the last event say; none of control points."""


class HistoryOut(Schema):
    of: str
    """A kind of check, or `control`."""
    series: SeriesOut


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


class AffectedWork(Schema):
    """A piece of work in the span of a review; `effect` in words, and in mm and arcsec where that can be said."""

    key: str
    what: str
    name: str
    at: str
    until: str | None
    crew: str
    effect: str
    mm: float | None
    arcsec: float | None
    reviewed: Signed | None


class ImpactReviewOut(Schema):
    text: str
    last_good: str | None
    since: str | None
    in_use: bool
    taken_out: int
    advice: list[Reason]
    effects: list[Effect]
    events: list[EventRow]
    work: list[AffectedWork]
    more_work: int
    """Pieces of work that are older than those listed."""
    signed: Signed | None


class StandIn(Schema):
    tag: str
    model: str
    where: str
    state: str
    reason: str


class GuidedStep(Schema):
    code: str
    title: str
    text: str


class OptionOut(Schema):
    value: str
    label: str
    hint: str


class FieldOut(Schema):
    """A field of a form; `prefilled`: filled in by the method; `ask_again`: asked again after adjusting; `quantity`:
    what a device sends to fill it."""

    name: str
    label: str
    unit: str
    kind: Literal["number", "length", "angle", "choice", "text", "count", "switch"]
    options: list[OptionOut]
    prefilled: bool
    optional: bool
    ask_again: bool
    quantity: str


class FieldsOut(Schema):
    """Fields at a path; with `rows` a list of which every entry is a row, with `repeats` one that says of which repeat."""

    path: str
    rows: bool
    repeats: bool
    row_titles: list[str]
    most: int
    fewest: int
    more: str
    fields: list[FieldOut]


class EachOut(Schema):
    """The list a group is repeated for, entry by entry."""

    path: str
    noun: str
    most: int
    fewest: int
    more: str


class InsteadOut(FieldsOut):
    """Another list that may be filled instead of a group's own."""

    title: str


class GroupOut(FieldsOut):
    """Fields that stand together. `[*]` in the path: once for every entry of `each`; `struck`: the list that takes struck
    values; `setting`: how things are, not what is read; `before`: a look that comes before the first reading."""

    title: str
    note: str
    setting: bool
    before: bool
    page: str
    instead: InsteadOut | None
    struck: str
    each: EachOut | None


class MethodOut(Schema):
    """A method of carrying a check out, with its form."""

    name: str
    title: str
    good_for: str
    groups: list[GroupOut]
    steps: list[str]
    caution: list[Reason]
    unit: str


class CircumstanceOption(Schema):
    """One answer to a circumstance."""

    value: str
    label: str


class CheckOffOut(Schema):
    """What a sheet offers to tick; `when`: before, or at the end."""

    code: str
    text: str
    when: str


class CircumstanceOut(Schema):
    """A circumstance a sheet asks for; `unknown` says what it would change."""

    name: str
    label: str
    unknown: str
    unit: str
    options: list[CircumstanceOption]
    detail: bool


class LimitedQuantityOut(Schema):
    """A quantity a check judges, and a firm may set a limit for."""

    name: str
    label: str
    unit: str


class QuickOut(Schema):
    """How a check is taken in a pre-work check."""

    method: str
    minutes: int


class KindOut(Schema):
    """A kind of check: what it is for, what to bring, how it is taken."""

    kind: str
    title: str
    applies_to: list[str]
    minutes: int
    interval_days: int
    bring: list[str]
    before_you_start: list[str]
    who_adjusts: list[str]
    when_bad: list[GuidedStep]
    cautions: dict[str, list[Reason]]
    watch_condition: str
    main_quantity: str
    quantity_label: str
    csv_columns: list[str]
    why: str
    order: int
    unit: str
    adjustable: bool
    allows_repeat: bool
    repeat_label: str
    quick: QuickOut | None
    conditions: list[CircumstanceOut]
    check_off: list[CheckOffOut]
    limited: list[LimitedQuantityOut]
    methods: list[MethodOut]
    groups: list[GroupOut]


class InstrumentHistory(Schema):
    """One instrument as far as a device needs it to calculate: what its maker states, the firm's limits, its history."""

    tag: str
    kind: str
    stated: dict[str, Any]
    limits: dict[str, Any]
    work_limits: dict[str, Any]
    """Limits for single classes of work, by their names."""
    history: list[dict[str, Any]]
    due: list[dict[str, Any]]
    """What is due for it when, as the pre-work check begins from."""


class DeviceOut(Schema):
    """What a device keeps for work without signal, and as of when."""

    as_of: str
    core_version: str
    judged_raw: bool
    fleet: list[InstrumentHistory]
    cursor: int
    more: bool


class HealthOut(Schema):
    """Whether the server stands: database reachable, how many records."""

    ok: bool
    core_version: str
    instruments: int
    records: int
