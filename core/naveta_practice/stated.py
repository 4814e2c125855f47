"""What the maker states of a stand's instrument: drawn by the lesson and its number, obeyed by the stand, said beside it."""

from __future__ import annotations

import math
import random

from naveta_core.documents.envelope import Instrument
from naveta_core.setup.mechanism import InstrumentView
from naveta_core.setup.tips import bubble_step_text, plummet_level_text, shuts_off_text

from .lessons import Lesson

TILT_LIMITS_ARCMIN, TILT_DELAYS_S, BUBBLE_STEPS_ARCSEC = (3.0, 4.0, 6.0), (2.0, 4.0, 6.0), (1.0, 5.0, 10.0)
ONLY_WHEN_LEVEL = 0.3
"""How often a plummet works only when the instrument is level."""


def drawn_instrument(lesson: Lesson, seed: int) -> Instrument:
    """Return what is stated of the instrument on this stand; only what the lesson shows is stated."""
    # Numbers of its own: the tripod of a situation stays the same whatever is drawn here.
    rng = random.Random(f"instrument {lesson.name} {seed}")
    limit, delay, step = rng.choice(TILT_LIMITS_ARCMIN), rng.choice(TILT_DELAYS_S), rng.choice(BUBBLE_STEPS_ARCSEC)
    works_tilted = rng.random() >= ONLY_WHEN_LEVEL
    electronic = "electronic" in lesson.shows
    laser = electronic and "laser" in lesson.shows
    return Instrument(
        kind="total-station" if electronic else None,
        tilt_limit_arcmin=limit if electronic else None,
        tilt_delay_s=delay if electronic else None,
        bubble_step_arcsec=step if electronic else None,
        plummet_tilted=works_tilted if laser else None,
    )


def said(instrument: Instrument) -> list[str]:
    """Return what is stated, a sentence each."""
    texts = (shuts_off_text(instrument), plummet_level_text(instrument), bubble_step_text(instrument))
    return [text for text in texts if text]


def plummet_shows(instrument: Instrument, seen: InstrumentView) -> bool:
    """Return whether the plummet works as the instrument stands now."""
    if instrument.plummet_tilted is not False or instrument.tilt_limit_arcmin is None:
        return True
    return math.hypot(*seen.tilt_arcsec) <= instrument.tilt_limit_arcmin * 60.0


def in_steps(instrument: Instrument, arcsec: float | None) -> float | None:
    """Return a tilt as the screen shows it: in whole steps of its bubble. Seconds of arc."""
    step = instrument.bubble_step_arcsec
    return arcsec if arcsec is None or step is None else round(arcsec / step) * step
