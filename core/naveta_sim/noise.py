"""How simulated readings scatter: figures of their own, experience with each way of reading, not the solvers' priors."""

from __future__ import annotations

from math import hypot, sqrt

CIRCULAR_MM, CIRCULAR_COMMON_MM = 0.3, 0.1
TUBE_DIV, TUBE_COMMON_DIV = 0.15, 0.1
LEVEL_SENSOR_COMMON_ARCSEC = 0.5
PLUMMET_MM, PLUMMET_COMMON_MM = 0.3, 0.1
TAPE_MM = {"steel": 0.3, "fibreglass": 1.0}
TAPE_COMMON_MM = 0.1
SCALE_MM = 0.2
EYE_ARCSEC = 30.0
"""A telescope of magnification M points to 30″/M."""
TARGET_MM, PRISM_MM = 0.5, 0.5
FACE_SHARE = 0.4
"""What all pointings of a face have in common, as a share of the stated accuracy."""
TRACKER_SHARE, TRACKER_MM, TRACKER_COMMON = 0.5, 1.0, 0.3
COMPENSATOR_REST_ARCSEC = 0.7


def level_sensor_arcsec(accuracy: float) -> float:
    """How the figure of an electronic level wanders, by the class of its instrument."""
    return 0.5 if accuracy <= 1 else 1.0 if accuracy <= 3 else 2.0


def staff_mm(distance_m: float, reading: str | None, class_mm_per_km: float | None) -> tuple[float, float]:
    """One staff reading at a distance: its own scatter, and what a whole sight has in common, mm."""
    base, per_metre, common = {
        "micrometer": (0.05, 0.004, 0.05),
        "digital": (0.05, 0.003, 0.05) if (class_mm_per_km or 99) <= 1.0 else (0.10, 0.006, 0.1),
    }.get(reading or "", (0.3, 0.010, 0.1))
    own = hypot(base, per_metre * distance_m)
    if class_mm_per_km is not None:
        own = max(0.05, class_mm_per_km * sqrt(2 * distance_m / 1000))
    return own, hypot(common, COMPENSATOR_REST_ARCSEC / 206264.806 * distance_m * 1000)
