"""What an error found now did to a piece of work already done: an effect in mm or seconds, or that nothing was recorded.

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
    """What a piece of work recorded, as far as errors of instruments show in it; None and empty where it did not."""

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
    """Whether the level was looked at again turned by 180°."""


@dataclass(frozen=True, slots=True)
class WorkEffect:
    """The effect of an error in a piece of work; `mm` and `arcsec` None where it cannot be said from what was recorded."""

    text: str
    _: KW_ONLY
    mm: float | None = None
    arcsec: float | None = None

    @property
    def size(self) -> tuple[float, float]:
        """What the largest are found by: millimetres before seconds, and what was not recorded last."""
        return (-1.0 if self.mm is None else self.mm, -1.0 if self.arcsec is None else self.arcsec)


Affects = Callable[[Figures, WorkFacts, LengthWords], WorkEffect]
"""From a check's figures and the facts of a piece of work to the effect there."""
NOT_RECORDED = "Not recorded: its sights, heights or faces would say it."


def not_recorded(_figures: Figures, _work: WorkFacts, _words: LengthWords) -> WorkEffect:
    """Of an error for which no work records what it depends on."""
    return WorkEffect(NOT_RECORDED)


def _figure(figures: Figures, name: str | None) -> float:
    value = figures.get(name) if name else None
    return abs(float(value)) if value is not None else 0.0


def _at(sight: WorkSight, across: float, up: float, words: LengthWords) -> WorkEffect:
    """The larger of two errors of one sight, seconds across and in height; in mm too where it recorded how far it went."""
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
    """Of errors that both faces remove: across and in height, and one that grows with the slope of the sight."""

    def effect(figures: Figures, work: WorkFacts, words: LengthWords) -> WorkEffect:
        open_to_it = [sight for sight in work.sights if not sight.both_faces]
        if work.sights and not open_to_it:
            return WorkEffect("None: every sight was taken in both faces.", mm=0.0, arcsec=0.0)
        effects = []
        for sight in open_to_it:
            h = radians(abs(sight.elevation_deg or 0.0))
            sideways = _figure(figures, across) / cos(h) + _figure(figures, steep) * tan(h)
            effects.append(_at(sight, sideways, _figure(figures, up), words))
        return _largest(effects)

    return effect


def each_direction(name: str) -> Affects:
    """Of what every direction contains, both faces or one: a spread, or a twist of what it stands on."""

    def effect(figures: Figures, work: WorkFacts, words: LengthWords) -> WorkEffect:
        return _largest([_at(sight, _figure(figures, name), 0.0, words) for sight in work.sights])

    return effect


def axis_tilt(names: tuple[str, ...], by: str, words_for: str) -> Affects:
    """Of a level's error that leaves the axis out of plumb where it was set by it and not looked at again turned."""

    def effect(figures: Figures, work: WorkFacts, words: LengthWords) -> WorkEffect:
        if work.levelled_by is not None and work.levelled_by != by:
            return WorkEffect(f"None: it was not levelled by {words_for}.", mm=0.0, arcsec=0.0)
        if work.turned:
            return WorkEffect("None: it was levelled by both headings.", mm=0.0, arcsec=0.0)
        tilt = hypot(*(_figure(figures, name) for name in names))
        if work.sights:
            tilted = [tilt * tan(radians(abs(sight.elevation_deg or 0.0))) for sight in work.sights]
            return _largest([_at(s, off, tilt, words) for s, off in zip(work.sights, tilted, strict=True)])
        if work.levelled_by is None:
            return WorkEffect(NOT_RECORDED)
        return WorkEffect(f"Its axis stood up to {arcsec(tilt)} out of plumb.", arcsec=tilt)

    return effect


def off_the_mark(offset: str, at_height: str) -> Affects:
    """Of a plummet: how far the axis stood off the mark, by the height it was read from; a bob has nothing to do with it."""

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
    """Of a line of sight that is not level: a height for every metre by which the sights were unequal."""

    def effect(figures: Figures, work: WorkFacts, words: LengthWords) -> WorkEffect:
        if work.imbalance_m is None:
            return WorkEffect(NOT_RECORDED)
        off = _figure(figures, name) / ARCSEC * work.imbalance_m
        text = f"{words.small(off)} in height a set-up, sights {words.distance(work.imbalance_m)} unequal."
        return WorkEffect(text, mm=off * 1000.0)

    return effect


def rough_level(_figures: Figures, work: WorkFacts, _words: LengthWords) -> WorkEffect:
    """Of a circular vial: what was levelled finely afterwards does not contain its error."""
    if work.levelled_by is None:
        return WorkEffect(NOT_RECORDED)
    return WorkEffect("None: it was levelled by a finer level afterwards.", mm=0.0, arcsec=0.0)
