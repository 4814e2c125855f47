"""What every check document has in common: units, instrument, conditions, work, limits, what went before.

Nothing in here is required but `kind` and `observations`; the server fills `instrument`, `limits`, `stored`
and `before` from what it knows, so that a stored document reduces to the stored result anywhere.
"""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import BaseModel, BeforeValidator, ConfigDict, Field, PlainValidator, WithJsonSchema, model_validator

from .lengths import parse_length
from .numerals import numeral

TYPED_LENGTH = 40


def _typed(value: Any) -> str | int | float:
    """Accept the characters a person typed, or a plain number; nothing else."""
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


def _in_metres(value: Any) -> Any:
    """The same for names that end in `_m`: a typed unit of its own wins."""
    return parse_length(value, "m").m if isinstance(value, str) else value


InOwnUnit = BeforeValidator(_in_own_unit, json_schema_input_type=str | float)
InMetres = BeforeValidator(_in_metres, json_schema_input_type=str | float)
Number = Annotated[float, Field(allow_inf_nan=False), InOwnUnit]
Positive = Annotated[float, Field(gt=0, allow_inf_nan=False), InOwnUnit]
LengthUnit = Literal["m", "mm", "cm", "ft", "usft", "in"]
AngleUnit = Literal["dms", "deg", "gon"]
Grade = Literal["use", "watch", "adjust", "service", "repeat"]


class Part(BaseModel):
    """Root of all document models: unknown fields are refused, strings are not turned into numbers."""

    model_config = ConfigDict(extra="forbid", strict=True, frozen=True)


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


class Noise(Part):
    """What earlier tests of this instrument taught about its spread: factor on w, and how many dof it rests on."""

    factor: Positive
    dof: Positive


class Instrument(Part):
    """What is known of the instrument and bears on the reckoning."""

    kind: str | None = Field(default=None, max_length=40)
    reading: Literal["optical", "micrometer", "digital"] | None = None
    magnification: Positive | None = None
    display: Display | None = None
    noise: Noise | None = None
    angle_accuracy_arcsec: Positive | None = None
    distance_accuracy_mm: Positive | None = None
    distance_accuracy_ppm: Positive | None = None
    levelling_accuracy_mm_per_km: Positive | None = None
    compensator_range_arcmin: Positive | None = None
    plunges: bool | None = None
    plummet: Literal["none", "optical", "laser"] | None = None
    plummet_place: Literal["turning", "base"] | None = None
    plummet_adjustable: bool | None = None
    plate_vial_arcsec_per_div: Positive | None = None
    circular_vial_arcmin_per_2mm: Positive | None = None
    circular_vial_on: Literal["rotating", "base"] | None = None
    electronic_level_step_arcsec: Positive | None = None
    stores: Literal["error", "correction"] | None = None
    storable_arcsec: Positive | None = None
    judged_raw: bool | None = None
    prior: dict[str, Positive] | None = None
    foot_screws: Literal["clockwise-raises", "clockwise-lowers"] | None = None
    """Seen from above. Most raise when turned clockwise; some have the other thread."""

    @property
    def senses(self) -> tuple[float, float]:
        """Along and across: the one place where an electronic level's figures are turned into canonical ones, and back."""
        return (self.display or Display()).senses


class Conditions(Part):
    """Circumstances of the check."""

    temperature_c: Annotated[float, Field(ge=-60, le=70), InOwnUnit] | None = None
    minutes_on: Annotated[float, Field(ge=0, le=6000), InOwnUnit] | None = None
    support: Literal["tripod", "pillar", "floor"] | None = None
    ground: str | None = Field(default=None, max_length=80)
    wind: Literal["calm", "breeze", "strong"] | None = None
    sky: str | None = Field(default=None, max_length=80)
    steady: bool | None = None


class Work(Part):
    """The sights of the work ahead: what an error's effect is told for."""

    sight_m: Annotated[float, Field(gt=0, allow_inf_nan=False), InMetres] = 30.0
    sight_imbalance_m: Annotated[float, Field(ge=0, le=300), InMetres] = 10.0
    balanced_sights: bool = False
    elevation_deg: Annotated[float, Field(ge=-90, le=90), InOwnUnit] = 20.0
    both_faces: bool = False
    angle_wanted_arcsec: Annotated[float, Field(gt=0, le=3600), InOwnUnit] | None = None
    """How well an angle of the work is wanted, one standard deviation; told nothing, twice what is stated of a direction."""


class LimitSet(Part):
    """Limits of one quantity: usable to `use`, conditionally to `watch`, adjustable in the field to `adjust`."""

    use: Positive
    watch: Positive | None = None
    adjust: Positive | None = None
    source: str | None = Field(default=None, max_length=200)

    @model_validator(mode="after")
    def _in_order(self) -> LimitSet:
        watch = self.watch if self.watch is not None else self.use
        adjust = self.adjust if self.adjust is not None else watch
        if not self.use <= watch <= adjust:
            raise ValueError("limits that do not fall: use, then watch, then adjust")
        return self


class Earlier(Part):
    """An earlier result of the same segment (no event in between), newest first in the list."""

    check: str = Field(max_length=40)
    at: str = Field(max_length=40)
    grade: Grade
    result: dict[str, Any]
    temperature_c: Number | None = None
    passed: bool | None = None
    """Whether it counts as passed where the instrument stands; told nothing, by its grade."""

    @property
    def good(self) -> bool:
        """Whether later work may lean on it: the one answer for yard, round and checks."""
        return self.grade in ("use", "watch") if self.passed is None else self.passed


class Envelope(Part):
    """Every kind's document derives from this and narrows `kind` and `observations`."""

    kind: str
    units: Units = Units()
    instrument: Instrument = Instrument()
    conditions: Conditions = Conditions()
    work: Work = Work()
    limits: dict[str, LimitSet] = {}
    stored: dict[str, Any] = {}
    before: list[Earlier] = Field(default=[], max_length=60)
    before_at: str | None = Field(default=None, max_length=40)
    remark: str = Field(default="", max_length=2000)
    observations: Any
