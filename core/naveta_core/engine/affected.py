"""Effect of an error found now on work already done, in mm or seconds, as far as the work recorded what it depends on.

Directions: c/cos(h) + t·tan(h) in one face, v·tan(h) for an axis out of plumb; zenith angles: i; both faces remove c, t
and i, and not a tilt. At a horizontal distance D seconds become D·s/rho across, and D·s/(rho·cos²h) in height.
Source: the same equations as the advice on effects (setup/advisors/effect.py).
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import KW_ONLY, dataclass
from math import cos, hypot, radians, tan
from typing import Any, Literal

from ..geometry import ARCSEC
from ..units.formatting import LengthWords, arcsec

What = Literal["set-up", "orientation", "job"]
Figures = Mapping[str, Any]
"""The figures of a check's result by name, in the unit each name ends in."""


@dataclass(frozen=True, slots=True)
class WorkSight:
    """One sight of the work: horizontal distance in metres, elevation in degrees, None where it was not recorded."""

    distance_m: float | None
    elevation_deg: float | None
    both_faces: bool


@dataclass(frozen=True, slots=True)
class WorkFacts:
    """What a piece of work recorded of its sights, heights and levelling; None or empty where it recorded nothing."""

    what: What
    _: KW_ONLY
    sights: tuple[WorkSight, ...] = ()
    imbalance_m: float | None = None
    """How unequal the sights of a level were."""
    height_m: float | None = None
    """Of the axis above the mark."""
    centred_by: str | None = None
    levelled_by: str | None = None
    turned: bool = False
    """Whether the level was also read turned by 180°."""


@dataclass(frozen=True, slots=True)
class WorkEffect:
    """Effect of an error on a piece of work; `mm` and `arcsec` are None where the record does not give them."""

    text: str
    _: KW_ONLY
    mm: float | None = None
    arcsec: float | None = None

    @property
    def size(self) -> tuple[float, float]:
        """Sort key: millimetres before seconds, effects that were not recorded last."""
        return (-1.0 if self.mm is None else self.mm, -1.0 if self.arcsec is None else self.arcsec)


Affects = Callable[[Figures, WorkFacts, LengthWords], WorkEffect]
"""Function from a check's figures and the facts of a piece of work to the effect."""
NOT_RECORDED = "Not recorded: it has no sights, heights or faces to work it out from."


def not_recorded(_figures: Figures, _work: WorkFacts, _words: LengthWords) -> WorkEffect:
    """Return no effect, for checks whose error depends on something that no work records."""
    return WorkEffect(NOT_RECORDED)


def _figure(figures: Figures, name: str | None) -> float:
    value = figures.get(name) if name else None
    return abs(float(value)) if value is not None else 0.0


def _at(sight: WorkSight, across: float, up: float, words: LengthWords) -> WorkEffect:
    """Return the larger effect of one sight from two errors in seconds, across and in height; in mm where it has a distance."""
    worst, where = (across, "across") if across >= up else (up, "in height")
    if sight.distance_m is None:
        return WorkEffect(f"Up to {arcsec(worst)} {where}; no distance was recorded.", arcsec=worst)
    steep = cos(radians(sight.elevation_deg or 0.0)) ** 2
    sideways, height = across / ARCSEC * sight.distance_m, up / ARCSEC * sight.distance_m / steep
    metres, where = (sideways, "across") if sideways >= height else (height, "in height")
    worst = across if sideways >= height else up
    text = f"Up to {words.small(metres)} {where} ({arcsec(worst)} at {words.distance(sight.distance_m)})."
    return WorkEffect(text, mm=metres * 1000.0, arcsec=worst)


def _largest(effects: list[WorkEffect]) -> WorkEffect:
    return max(effects, key=lambda effect: effect.size) if effects else WorkEffect(NOT_RECORDED)


def one_face(across: str, up: str, steep: str | None = None) -> Affects:
    """Return the effect of errors that two faces remove: across, in height, and one that grows with the slope of the sight."""

    def effect(figures: Figures, work: WorkFacts, words: LengthWords) -> WorkEffect:
        one_faced = [sight for sight in work.sights if not sight.both_faces]
        if work.sights and not one_faced:
            return WorkEffect("None: every sight was taken in both faces.", mm=0.0, arcsec=0.0)
        effects = []
        for sight in one_faced:
            h = radians(abs(sight.elevation_deg or 0.0))
            sideways = _figure(figures, across) / cos(h) + _figure(figures, steep) * tan(h)
            effects.append(_at(sight, sideways, _figure(figures, up), words))
        return _largest(effects)

    return effect


def each_direction(name: str) -> Affects:
    """Return the effect of an error in every direction, in one face or two: a spread, or a tripod that twists."""

    def effect(figures: Figures, work: WorkFacts, words: LengthWords) -> WorkEffect:
        return _largest([_at(sight, _figure(figures, name), 0.0, words) for sight in work.sights])

    return effect


def axis_tilt(names: tuple[str, ...], by: str, words_for: str) -> Affects:
    """Return the effect of a level's error on set-ups that were levelled by it and not also read turned by 180°."""

    def effect(figures: Figures, work: WorkFacts, words: LengthWords) -> WorkEffect:
        if work.levelled_by is not None and work.levelled_by != by:
            return WorkEffect(f"None: it was not levelled by {words_for}.", mm=0.0, arcsec=0.0)
        if work.turned:
            return WorkEffect("None: the level was also read turned by 180°.", mm=0.0, arcsec=0.0)
        tilt = hypot(*(_figure(figures, name) for name in names))
        if work.sights:
            tilted = [tilt * tan(radians(abs(sight.elevation_deg or 0.0))) for sight in work.sights]
            return _largest([_at(s, off, tilt, words) for s, off in zip(work.sights, tilted, strict=True)])
        if work.levelled_by is None:
            return WorkEffect(NOT_RECORDED)
        return WorkEffect(f"Its axis stood up to {arcsec(tilt)} out of plumb.", arcsec=tilt)

    return effect


def off_the_mark(offset: str, at_height: str) -> Affects:
    """Return how far the axis stood off the mark, from the plummet's offset and the height above the mark."""

    def effect(figures: Figures, work: WorkFacts, words: LengthWords) -> WorkEffect:
        if work.centred_by == "bob":
            return WorkEffect("None: it was centred by a bob.", mm=0.0)
        at = _figure(figures, at_height)
        if work.centred_by is None or work.height_m is None or not at:
            return WorkEffect(NOT_RECORDED)
        off = _figure(figures, offset) * work.height_m / at
        return WorkEffect(f"Up to {words.small(off / 1000.0)} off the mark.", mm=off)

    return effect


def unequal_sights(name: str) -> Affects:
    """Return the height error of a line of sight that is not level, by how unequal the sights were."""

    def effect(figures: Figures, work: WorkFacts, words: LengthWords) -> WorkEffect:
        if work.imbalance_m is None:
            return WorkEffect(NOT_RECORDED)
        off = _figure(figures, name) / ARCSEC * work.imbalance_m
        text = f"{words.small(off)} in height a set-up, sights {words.distance(work.imbalance_m)} unequal."
        return WorkEffect(text, mm=off * 1000.0)

    return effect


def rough_level(_figures: Figures, work: WorkFacts, _words: LengthWords) -> WorkEffect:
    """Return no effect where a finer level was used after the circular one."""
    if work.levelled_by is None:
        return WorkEffect(NOT_RECORDED)
    return WorkEffect("None: it was levelled by a finer level afterwards.", mm=0.0, arcsec=0.0)
