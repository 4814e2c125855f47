"""What is stood up: tripod, tribrach, vials, plummet, with whatever is wrong with them. Lengths in millimetres where named."""

from __future__ import annotations

from dataclasses import KW_ONLY, dataclass, field
from typing import Literal

from ..geometry import ARCSEC

MM = 0.001


@dataclass(frozen=True, slots=True)
class CircularVial:
    """A circular vial. `error` is where its bubble rests, in its own frame, once the axis is plumb.

    Sensitivity in arcmin per 2 mm.
    """

    sensitivity_arcmin_per_2mm: float = 8.0
    wall_mm: float = 5.0
    """How far the bubble's middle is from the vial's when it touches the wall."""
    ring_mm: float = 1.0
    """How far off it may be while the bubble still lies inside its ring."""
    error_x_mm: float = 0.0
    error_y_mm: float = 0.0
    on_tribrach: bool = False

    @property
    def mm_per_radian(self) -> float:
        """How far the bubble moves for a radian of tilt, millimetres."""
        return 2.0 / (self.sensitivity_arcmin_per_2mm * 60.0) * ARCSEC


@dataclass(frozen=True, slots=True)
class PlateVial:
    """A tubular vial on the alidade; its right-hand end points `at_deg` clockwise of the sight."""

    sensitivity_arcsec_per_div: float = 20.0
    end_div: float = 6.0
    error_div: float = 0.0
    at_deg: float = 90.0


@dataclass(frozen=True, slots=True)
class ElectronicLevel:
    """Two tilts in arcseconds; nothing is shown beyond the range."""

    index_along_arcsec: float = 0.0
    index_across_arcsec: float = 0.0
    range_arcmin: float = 4.0


@dataclass(frozen=True, slots=True)
class Plummet:
    """A plummet's error as an angle and sideways, at heading 0 of whatever carries it."""

    place: Literal["turning", "tribrach"] = "turning"
    error_x_arcsec: float = 0.0
    error_y_arcsec: float = 0.0
    shift_x_mm: float = 0.0
    shift_y_mm: float = 0.0
    height_mm: float = 60.0
    """Of its outlet above the tips of the screws."""


@dataclass(frozen=True, slots=True)
class Tribrach:
    """Three or four foot screws. Turns are positive clockwise from above."""

    screws: int = 3
    radius_mm: float = 50.0
    pitch_mm: float = 0.7
    _: KW_ONLY
    travel_mm: float = 8.0
    """From stop to stop; mid travel is zero."""
    clockwise_raises: bool = True
    bearings_deg: tuple[float, ...] = (0.0, 120.0, 240.0)


@dataclass(frozen=True, slots=True)
class Equipment:
    """Everything that stands over the point."""

    hinge_radius_mm: float = 110.0
    pivot_height_mm: float = 50.0
    """The tips of the foot screws above the hinges."""
    leg_shortest_m: float = 1.05
    leg_longest_m: float = 1.75
    slide_range_mm: float = 20.0
    axis_height_mm: float = 196.0
    """The trunnion axis above the tips of the screws at mid travel."""
    tribrach: Tribrach = field(default_factory=Tribrach)
    circular: CircularVial = field(default_factory=CircularVial)
    plate: PlateVial | None = field(default_factory=PlateVial)
    electronic: ElectronicLevel | None = field(default_factory=ElectronicLevel)
    plummet: Plummet | None = field(default_factory=Plummet)
