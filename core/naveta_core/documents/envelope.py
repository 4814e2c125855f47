"""What every check document has in common: units, instrument, conditions, work, limits, what went before.

Nothing in here is required but `kind` and `observations`; the server fills `instrument`, `limits`, `stored`
and `before` from what it knows, so that a stored document reduces to the stored result anywhere.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable
from datetime import UTC, datetime
from typing import Annotated, Any, Literal

from pydantic import (
    AfterValidator,
    BaseModel,
    BeforeValidator,
    ConfigDict,
    Field,
    PlainValidator,
    ValidationInfo,
    WithJsonSchema,
    field_validator,
    model_validator,
)

from ..errors import plain_number
from ..stats.decision import Grade
from ..units.lengths import METRES, parse_length
from ..units.numbers import numeral

TYPED_LENGTH = 40


def _typed(value: Any) -> str | int | float:
    """Accept the characters a person typed, or a plain number; nothing else."""
    if value.__class__ is str and len(value) <= TYPED_LENGTH:
        return value  # nearly every cell, at every keystroke
    if isinstance(value, bool) or not isinstance(value, str | int | float):
        raise ValueError("a number, or the characters as typed")
    if isinstance(value, str) and len(value) > TYPED_LENGTH:
        raise ValueError(f"at most {TYPED_LENGTH} characters")
    return value


Typed = Annotated[
    str | int | float,
    PlainValidator(_typed),
    WithJsonSchema({"anyOf": [{"type": "string", "maxLength": TYPED_LENGTH}, {"type": "number"}]}),
]
"""A value as typed (a string, in the document's units, kept verbatim) or as a plain number (canonical unit)."""


def _in_own_unit(value: Any) -> Any:
    """What was typed into a field whose name ends in its unit: a plain number in that unit."""
    return numeral(value).value if isinstance(value, str) else value


def _in_metres(value: Any, info: ValidationInfo) -> Any:
    """The same for names that end in `_m`: in the unit of the document, and a typed unit of its own wins."""
    return parse_length(value, (info.context or {}).get("length", "m")).m if isinstance(value, str) else value


def _in_millimetres(value: Any) -> Any:
    """The same for names that end in `_mm`: millimetres, and a typed unit of its own wins."""
    return parse_length(value, "mm").m * 1000 if isinstance(value, str) else value


def units_context(data: Any) -> dict[str, str]:
    """What a model needs to know to read lengths: the unit of a document or query as plain data, metres where none is."""
    units = data.get("units") if isinstance(data, dict) else None
    length = units.get("length") if isinstance(units, dict) else None
    return {"length": length if isinstance(length, str) and length in METRES else "m"}


def _whole(value: Any) -> Any:
    """A whole number as typed."""
    if not isinstance(value, str):
        return value
    number = numeral(value).value
    if number != int(number):
        raise ValueError("a whole number")
    return int(number)


WholeNumber = BeforeValidator(_whole, json_schema_input_type=str | int)
InOwnUnit = BeforeValidator(_in_own_unit, json_schema_input_type=str | float)
InMetres = BeforeValidator(_in_metres, json_schema_input_type=str | float)
InMillimetres = BeforeValidator(_in_millimetres, json_schema_input_type=str | float)
MAX_FIGURE = 1e9
"""Nothing that is measured here is larger, in any unit."""
Finite = Annotated[float, Field(ge=-MAX_FIGURE, le=MAX_FIGURE), InOwnUnit]
Positive = Annotated[float, Field(ge=1e-6, le=MAX_FIGURE), InOwnUnit]
ArcsecAccuracy = Annotated[float, Field(ge=0.05, le=3600), InOwnUnit]
MmAccuracy = Annotated[float, Field(ge=0.01, le=1000), InOwnUnit]
ArcsecStep = Annotated[float, Field(ge=0.01, le=3600), InOwnUnit]
Limit = Annotated[float, Field(ge=1e-3, le=1e6), InOwnUnit]


def _measured(value: Any) -> Any:
    """A number no larger than anything that is measured; whatever else stands there is none of its figures."""
    if isinstance(value, float | int) and not isinstance(value, bool) and not -MAX_FIGURE <= value <= MAX_FIGURE:
        raise ValueError(f"a number from {plain_number(-MAX_FIGURE)} to {plain_number(MAX_FIGURE)}")
    return value


def _stored(value: Any) -> Any:
    if not isinstance(value, float | int | str | bool | None) or (isinstance(value, str) and len(value) > TYPED_LENGTH):
        raise ValueError(f"a number, or a word of at most {TYPED_LENGTH} characters")
    return _measured(value)


Figure = Annotated[Any, PlainValidator(_measured)]
"""One entry of an earlier result: figures are bounded, the rest is not looked at."""
Stored = Annotated[Any, PlainValidator(_stored)]
"""One figure, or a word, of what is stored in the instrument."""


def _moment(text: str) -> str:
    """A moment with its offset from UTC, as written; one without could be any of two dozen hours."""
    try:
        moment = datetime.fromisoformat(text)
        utc = None if moment.tzinfo is None else moment.astimezone(UTC)
    except (ValueError, OverflowError):
        raise ValueError(MOMENT_WANTED) from None
    if utc is None:
        raise ValueError("a time with its offset from UTC, such as +00:00")
    if not FIRST_YEAR <= utc.year <= LAST_YEAR:
        raise ValueError(f"a time in the years {FIRST_YEAR} to {LAST_YEAR}")
    return text


FIRST_YEAR, LAST_YEAR = 1970, 2200
MOMENT_WANTED = "a date and time with its offset, such as 2027-03-02T06:40:00+00:00"
Moment = Annotated[str, Field(max_length=40), AfterValidator(_moment)]
LengthUnit = Literal["m", "mm", "cm", "ft", "usft", "in"]
AngleUnit = Literal["dms", "deg", "gon"]


class Part(BaseModel):
    """Root of all document models: unknown fields are refused, strings are not turned into numbers."""

    model_config = ConfigDict(extra="forbid", strict=True, frozen=True, defer_build=True)


def OneOf(names: Callable[[], Iterable[str]]) -> AfterValidator:  # noqa: N802 - reads as the type it makes
    """A name out of a list that is looked up when it is needed: kinds of check are registered one after the other."""

    def known(name: str) -> str:
        if name not in (known_names := list(names())):
            raise ValueError(f"one of {', '.join(sorted(known_names))}")
        return name

    return AfterValidator(known)


class DueCheck(Part):
    """A check of an instrument that comes due: the day, whether it has to be made before it goes out, and why."""

    check: str = Field(max_length=40)
    due_on: str = Field(max_length=10)
    needed: bool = False
    text: str = Field(default="", max_length=2000)


class Units(Part):
    """Units of what was typed."""

    length: LengthUnit = "m"
    angle: AngleUnit = "dms"


class Display(Part):
    """Which way an electronic level's figures count."""

    along_positive: Literal["high-forward", "low-forward"] = "high-forward"
    across_positive: Literal["high-right", "high-left"] = "high-right"

    @property
    def senses(self) -> tuple[float, float]:
        """What figures along and across are to be multiplied by: as shown into high side forward and right plus, or back."""
        along = 1.0 if self.along_positive == "high-forward" else -1.0
        return along, 1.0 if self.across_positive == "high-right" else -1.0


Name = Annotated[str, Field(max_length=60)]
Spread = Annotated[float, Field(ge=1e-3, le=1000), InOwnUnit]


class Noise(Part):
    """What earlier tests of this instrument taught about its spread: factor on w, and how many dof it rests on.

    The factor has no unit.
    """

    factor: Annotated[float, Field(ge=0.01, le=100), InOwnUnit]
    dof: Annotated[float, Field(ge=0.5, le=10_000), InOwnUnit]


class Instrument(Part):
    """What is known of the instrument and bears on the calculation.

    Units as in the names; the magnification has no unit, a vial's sensitivity is arcmin per 2 mm.
    """

    kind: str | None = Field(default=None, max_length=40)
    reading: Literal["optical", "micrometer", "digital"] | None = None
    magnification: Annotated[float, Field(ge=1, le=200), InOwnUnit] | None = None
    display: Display | None = None
    noise: Noise | None = None
    angle_accuracy_arcsec: ArcsecAccuracy | None = None
    distance_accuracy_mm: MmAccuracy | None = None
    distance_accuracy_ppm: MmAccuracy | None = None
    levelling_accuracy_mm_per_km: Annotated[float, Field(ge=0.01, le=100), InOwnUnit] | None = None
    compensator_range_arcmin: Annotated[float, Field(ge=0.1, le=600), InOwnUnit] | None = None
    plunges: bool | None = None
    plummet: Literal["none", "optical", "laser"] | None = None
    plummet_place: Literal["turning", "tribrach"] | None = None
    plummet_adjustable: bool | None = None
    plate_vial: bool | None = None
    """Whether it has a plate vial; a sensitivity stated says yes."""
    plate_vial_arcsec_per_div: Annotated[float, Field(ge=1, le=3600), InOwnUnit] | None = None
    circular_vial_arcmin_per_2mm: Annotated[float, Field(ge=0.5, le=120), InOwnUnit] | None = None
    circular_vial_on: Literal["rotating", "tribrach"] | None = None
    electronic_level: bool | None = None
    """Whether it has an electronic level; a step stated says yes."""
    electronic_level_step_arcsec: ArcsecStep | None = None
    bubble_step_arcsec: ArcsecStep | None = None
    """What one step of the bubble shown on its screen is worth."""
    tilt_limit_arcmin: Annotated[float, Field(ge=0.1, le=600), InOwnUnit] | None = None
    """The tilt at which its electronic level shuts off."""
    tilt_delay_s: Annotated[float, Field(ge=0, le=600), InOwnUnit] | None = None
    """After how long it does."""
    plummet_tilted: bool | None = None
    """Whether its plummet can be used while the instrument is tilted."""
    stores: Literal["error", "correction"] | None = None
    storable_arcsec: Annotated[float, Field(ge=1, le=36_000), InOwnUnit] | None = None
    judged_raw: bool | None = None
    prior: dict[Name, Spread] | None = Field(default=None, max_length=20)
    foot_screw_count: Literal[3, 4] | None = None
    foot_screws: Literal["clockwise-raises", "clockwise-lowers"] | None = None
    """Seen from above. Most raise when turned clockwise; some have the other thread."""

    @field_validator("plate_vial_arcsec_per_div", "electronic_level_step_arcsec")
    @classmethod
    def _nothing_of_none(cls, figure: float | None, info: ValidationInfo) -> float | None:
        part = "electronic_level" if info.field_name == "electronic_level_step_arcsec" else "plate_vial"
        if figure is not None and info.data.get(part) is False:
            raise ValueError(f"nothing here, since it has no {part.replace('_', ' ')}")
        return figure

    @property
    def has_plate_vial(self) -> bool | None:
        """Return whether it has a plate vial; None where nothing says so."""
        return True if self.plate_vial is None and self.plate_vial_arcsec_per_div else self.plate_vial

    @property
    def has_electronic_level(self) -> bool | None:
        """Return whether it has an electronic level; None where nothing says so."""
        return True if self.electronic_level is None and self.electronic_level_step_arcsec else self.electronic_level

    @property
    def senses(self) -> tuple[float, float]:
        """Along and across: the one place where an electronic level's figures are turned into canonical ones, and back."""
        return (self.display or Display()).senses


class Conditions(Part):
    """Circumstances of the check. Temperature in °C, the time it was on in minutes."""

    temperature_c: Annotated[float, Field(ge=-60, le=70), InOwnUnit] | None = None
    minutes_on: Annotated[float, Field(ge=0, le=6000), InOwnUnit] | None = None
    support: Literal["tripod", "pillar", "floor"] | None = None
    ground: str | None = Field(default=None, max_length=80)
    wind: Literal["calm", "breeze", "strong"] | None = None
    sky: str | None = Field(default=None, max_length=80)
    shimmer: Literal["none", "some", "strong"] | None = None
    staff_held: Literal["bipod", "level", "hand"] | None = None
    distances_by: Literal["steel", "fibre", "stadia", "instrument", "paced"] | None = None
    triggered: Literal["remote", "hand"] | None = None
    prism: Literal["full", "mini", "all-round", "sheet"] | None = None
    regained: Literal["yes", "no", "not-tried"] | None = None
    """Whether tracking, lost behind something and walked on, found its prism again."""
    steady: bool | None = None


class Work(Part):
    """The sights of the work ahead: what an error's effect is given for."""

    sight_m: Annotated[float, Field(ge=0.1, le=20_000), InMetres] = 30.0
    sight_imbalance_m: Annotated[float, Field(ge=0, le=300), InMetres] = 10.0
    balanced_sights: bool = False
    elevation_deg: Annotated[float, Field(ge=-89, le=89), InOwnUnit] = 20.0
    both_faces: bool = False
    class_of_work: Annotated[str, Field(max_length=40)] | None = None
    """The firm's own name for such work: limits may be set for it."""
    angle_wanted_arcsec: Annotated[float, Field(ge=0.1, le=3600), InOwnUnit] | None = None
    """How well an angle of the work is wanted, one standard deviation; not given, twice what is stated of a direction."""


class LimitSet(Part):
    """Limits of one quantity: usable to `use`, conditionally to `watch`, adjustable in the field to `adjust`."""

    use: Limit
    watch: Limit | None = None
    adjust: Limit | None = None
    source: str | None = Field(default=None, max_length=200)

    @model_validator(mode="after")
    def _in_order(self) -> LimitSet:
        watch = self.watch if self.watch is not None else self.use
        adjust = self.adjust if self.adjust is not None else watch
        if not self.use <= watch <= adjust:
            raise ValueError("limits in rising order: use, watch, adjust")
        return self


class Earlier(Part):
    """An earlier result of the same stretch of history (no event in between), newest first in the list."""

    check: str = Field(max_length=40)
    at: Moment
    grade: Grade
    result: dict[Name, Figure] = Field(max_length=40)
    temperature_c: Finite | None = None
    passed: bool | None = None
    """Whether it counts as passed where the instrument stands; not given, by its grade."""
    disputed: bool = False
    """Whether a good result contradicted a bad one, so that another run had to decide."""
    looks: list[Annotated[str, Field(max_length=60)]] = Field(default=[], max_length=20)
    """What a look found wrong, by its codes."""
    changed_since: bool = False
    """Whether a later event explains another result although this one was right, such as a step in temperature."""

    def figure(self, name: str) -> float | None:
        """One figure of its result; None where it has none of that name."""
        value = self.result.get(name)
        return float(value) if isinstance(value, int | float) and not isinstance(value, bool) else None

    @property
    def good(self) -> bool:
        """Whether later work may depend on it: the one answer for yard, round and checks."""
        return self.grade in ("use", "watch") if self.passed is None else self.passed


def days_between(then: str, now: str) -> float:
    """Days from one moment to another, both with their offset."""
    return (datetime.fromisoformat(now) - datetime.fromisoformat(then)).total_seconds() / 86400


class Envelope(Part):
    """Every kind's document derives from this and narrows `kind` and `observations`."""

    kind: str
    units: Units = Units()
    instrument: Instrument = Instrument()
    conditions: Conditions = Conditions()
    work: Work = Work()
    limits: dict[Name, LimitSet] = Field(default={}, max_length=40)
    stored: dict[Name, Stored] = Field(default={}, max_length=40)
    before: list[Earlier] = Field(default=[], max_length=60)
    before_at: Moment | None = None
    stage: Literal["as-found", "as-left"] = "as-found"
    in_place_of: Moment | None = None
    """Moment of the record that this one replaces: a correction, or a run joined with another."""
    checked_off: list[Name] = Field(default=[], max_length=30)
    """What somebody ticked as done of what a careful person does (engine/check_off.py); no figure depends on it."""
    remark: str = Field(default="", max_length=2000)
    observations: Any


class CheckDocument(Envelope):
    """A check: how it was taken is stated by the document, never guessed from its rows."""

    method: str | None = Field(default=None, max_length=40)
