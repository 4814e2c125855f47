"""The document of a set-up: what was stood up over what, how, what was seen on the way and at the end."""

from __future__ import annotations

import math
from typing import Annotated, Literal

from pydantic import Field

from ..documents.envelope import Envelope, InOwnUnit, Part, Typed
from ..units.numbers import numeral
from .context import Bearing, BubblePlace, PlanMove, TribrachGeometry, TripodGeometry

MethodName = Literal["plummet-first", "level-first", "shift-by-leg", "plumb-bob", "four-screws", "no-point"]
MAX_LOG = 200
MAX_HEIGHTS = 4


class Mark(Part):
    """The point stood over. `free` when there is none: a free station."""

    name: str = Field(default="", max_length=40)
    kind: Literal["nail", "tack", "cross", "bolt", "pipe", "other"] | None = None
    condition: Literal["good", "loose", "leaning", "damaged"] | None = None
    lean_mm: Annotated[float, Field(ge=0, le=200), InOwnUnit] | None = None
    """How far its head is from where it enters the ground."""
    note: str = Field(default="", max_length=200)
    free: bool = False


class Options(Part):
    """How somebody likes to work."""

    together: bool = True
    """Both screws of a pair at once."""
    level_type: Literal["plate", "two-plates", "electronic"] = "electronic"
    legs_may: Literal["lower", "either"] = "lower"
    stands: Literal["two-to-you", "third-along"] = "two-to-you"
    """Two legs towards the person, or the third along the line of work."""
    strict: bool = False
    """The order is kept: for a trainee's own account."""


class Levelled(Part):
    """A look at the level: along and across the line of sight, seconds of arc or divisions of the vial."""

    along: Typed | None = None
    across: Typed | None = None


class LevelReadings(Part):
    """The level at the end: as first seen, and turned by 180°; turned figures as they are read then."""

    by: Literal["electronic", "plate"] = "electronic"
    sensitivity_arcsec_per_div: Annotated[float, Field(ge=0.01, le=600), InOwnUnit] = 20.0
    first: Levelled = Levelled()
    turned: Levelled = Levelled()
    rest_div: Typed | None = None
    """The known rest position of the plate bubble as typed; without it the one `stored` holds is taken."""


class Ends(Part):
    """Both ends of a bob's swing from one side, millimetres from the mark, towards the person's right positive."""

    left: Typed | None = None
    right: Typed | None = None


class Swing(Part):
    """A bob's swing from where the person stands, and from a quarter round to their right."""

    here: Ends = Ends()
    round: Ends = Ends()


class Aside(Part):
    """A place as typed: millimetres to the person's right, and away from them; minus is left, and nearer."""

    right: Typed | None = None
    away: Typed | None = None


class Saw(Part):
    """What was seen at an step; one of these, by what the step asks."""

    spot: PlanMove | None = None
    bubble: BubblePlace | None = None
    level: Levelled | None = None
    swing: Swing | None = None
    spot_aside: Aside | None = None
    """The plummet's spot typed instead of touched, from the mark."""
    bubble_aside: Aside | None = None
    """The bubble typed instead of touched, from the vial's middle."""


class Done(Part):
    """One entry of the log: an step looked at or confirmed."""

    step: str = Field(max_length=30)
    saw: Saw | None = None
    confirmed: bool = False
    wrong_direction: bool = False
    at: str | None = Field(default=None, max_length=40)


class HeightRead(Part):
    """The height of the axis above the mark: as read, straight or along a slope."""

    readings: list[Typed] = Field(default=[], max_length=MAX_HEIGHTS)
    radius_mm: Annotated[float, Field(ge=0, le=300), InOwnUnit] = 0.0
    constant_mm: Annotated[float, Field(ge=-500, le=500), InOwnUnit] = 0.0


class Zero(Part):
    """The direction started from, as the circle reads it, and which way it counts."""

    target: str = Field(default="", max_length=40)
    direction: Literal["point", "compass", "arbitrary", "earlier-job"] | None = None
    """What the direction is: to a control point, by compass, of no meaning, or as an earlier job had it."""
    reading: Typed | None = None
    counts: Literal["clockwise", "anticlockwise"] = "clockwise"


class SetUpObservations(Part):
    """A set-up. `log` holds what was seen on the way; the rest is the end that is judged."""

    method: MethodName
    mark: Mark = Mark()
    tripod_tag: str = Field(default="", max_length=20)
    tribrach_tag: str = Field(default="", max_length=20)
    tripod: TripodGeometry = TripodGeometry()
    tripod_material: Literal["wood", "aluminium", "composite"] | None = None
    eye_height: Typed | None = None
    """Of whoever works there: how high the head should stand follows from it."""
    tribrach: TribrachGeometry = TribrachGeometry()
    stand_bearing_deg: Bearing = 180.0
    """Where the person stands, seen from the middle of the head."""
    options: Options = Options()
    quick: bool = False
    """Recorded afterwards, not led through."""
    log: list[Done] = Field(default=[], max_length=MAX_LOG)
    level: LevelReadings = LevelReadings()
    ring_holds: Literal["yes", "no", "not-looked"] = "not-looked"
    centring_mm: Typed | None = None
    centred_by: Literal["optical", "laser", "bob"] | None = None
    height: HeightRead = HeightRead()
    zero: Zero = Zero()
    final_check_done: bool = False
    minutes: Typed | None = None


class SetUpDocument(Envelope):
    """A set-up over a point, or of a level over none."""

    kind: Literal["set-up"]
    observations: SetUpObservations

    @property
    def plummet(self) -> str | None:
        """The plummet it is centred by: the instrument's own, else the one in its tribrach."""
        own, below = self.instrument.plummet, self.observations.tribrach.plummet
        return below if own in (None, "none") and below not in (None, "none") else own

    def rest_div(self) -> float | None:
        """The known rest position of the plate bubble, divisions: as typed here, else as last found; None when unknown."""
        typed, last = self.observations.level.rest_div, self.stored.get("reversal_div")
        try:
            if typed is not None and str(typed).strip():
                return numeral(typed).value if isinstance(typed, str) else float(typed)
        except ValueError:
            return None
        return float(last) if isinstance(last, int | float) else None

    def known_index(self) -> tuple[float, float, float] | None:
        """The electronic level's index by its last check: along, across and its σ, seconds; None when unknown."""
        rows = [self.stored.get(name) for name in ("index_along_arcsec", "index_across_arcsec", "sigma_index_arcsec")]
        along, across, sigma = (float(row) if isinstance(row, int | float) else None for row in rows)
        return None if along is None or across is None or sigma is None else (along, across, sigma)

    def known_plummet_mm(self) -> float | None:
        """How far the plummet points off the axis at 1.5 m by its last check; None when unknown."""
        rows = [self.stored.get(name) for name in ("plummet_x_mm", "plummet_y_mm", "plummet_height_m")]
        x, y, height = (float(row) if isinstance(row, int | float) else None for row in rows)
        if x is None or y is None or not height:
            return None
        return math.hypot(x, y) * 1.5 / height
