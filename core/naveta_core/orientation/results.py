"""What the core answers of an orientation."""

from __future__ import annotations

from ..errors import Fault
from ..results import Answer, Figures, NextReading, Note, Reason, Repeats, Result, SitePlan


class PointResidual(Answer):
    """What one sight is off by, mm: measured less computed, across clockwise positive."""

    name: str
    path: str
    along_mm: float | None
    across_mm: float | None
    height_mm: float | None
    sigma_along_mm: float | None
    sigma_across_mm: float | None
    sigma_height_mm: float | None


class SuspectedPoints(Answer):
    """What the sights say is wrong, and of which points."""

    kind: str
    names: list[str]


class FigureStrength(Answer):
    """Half axes of the 95 % ellipse, its bearing, the widest cut of two sights."""

    longest_mm: float
    shortest_mm: float
    bearing_deg: float
    cut_deg: float | None


class OrientationFigures(Figures):
    """Orientation, place and height with how sure they are, and how control points agree."""

    orientation_deg: float | None
    sigma_orientation_arcsec: float | None
    disagreement_mm: float | None
    sigma_disagreement_mm: float | None
    u95_disagreement_mm: float | None
    points: list[PointResidual]
    suspect: SuspectedPoints | None
    repeats: Repeats
    e_m: float | None = None
    n_m: float | None = None
    sigma_e_mm: float | None = None
    sigma_n_mm: float | None = None
    strength: FigureStrength | None = None
    h_m: float | None = None
    sigma_h_mm: float | None = None
    base_misfit_mm: float | None = None
    scale_ppm: float | None = None
    sigma_scale_ppm: float | None = None
    closing_arcsec: float | None = None


class OrientationPreview(Answer):
    """What can be said already of an orientation."""

    complete: bool
    missing: list[str]
    faults: list[Fault]
    wanted: list[NextReading]
    closing: str
    cautions: list[Reason]
    progress: list[Note]
    plan: SitePlan
    reduced: Result | None = None
