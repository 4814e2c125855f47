"""How far a tripod's head turns under a hand and springs back, by rounds: a scale read before, under and after.

The hand turns the head lightly one way, lets go, then the other: what the reading moves under the hand is the twist, what
it does not come back by is what angles suffer.

Source: derived in docs/judgement.md (Tripod).
"""

from __future__ import annotations

from dataclasses import dataclass
from math import fsum, hypot, sqrt
from statistics import median

from ...engine.conditions import prior_dof
from ...stats.estimate import Estimate, Spread, pooled
from ...stats.outliers import find_outlier, repeats
from .document import Tripod, TripodRead

RESTS_MM = 0.05
HAND_SHARE = 0.3
"""By how much a light hand differs from round to round."""


@dataclass(frozen=True, slots=True)
class HeadMoves:
    """By round: what does not come back, plus the way the hand turned, and what it gave under the hand, mm."""

    sets: tuple[float, ...]
    twists: tuple[float, ...]
    within: float
    """Variance of one reading, mm²."""

    def without(self, i: int) -> HeadMoves:
        """The estimate with one load cycle left out; None where none is left."""
        return HeadMoves(self.sets[:i] + self.sets[i + 1 :], self.twists[:i] + self.twists[i + 1 :], self.within)

    @property
    def spread(self) -> Spread:
        """How the rounds scatter in what does not come back: a difference of two readings each."""
        return repeats([[set_ / sqrt(2 * self.within) for set_ in self.sets]])


def moves_of(read: TripodRead, within: float) -> HeadMoves:
    # Signed by the way the hand turned: noise of a reading then averages out, and coming back too far is minus.
    """Within: variance of one reading, arcsec²."""
    sets = [(released - free) if loaded >= free else (free - released) for _, free, loaded, released in read.rounds]
    return HeadMoves(tuple(sets), tuple(abs(loaded - free) for _, free, loaded, _ in read.rounds), within)


def estimates_of(document: Tripod, moves: HeadMoves, within: float, scale: float) -> tuple[Estimate, Estimate]:
    """What does not come back, and what it gives, seconds.

    within in mm², scale in seconds of arc per mm.
    """
    n, dof = len(moves.sets), prior_dof(document)
    q = 2 * within / n * scale**2
    between = RESTS_MM**2 * scale**2
    residual = pooled(fsum(moves.sets) / n * scale, q, between, moves.spread, dof)
    # No two hands turn alike: what they give differs by more than reading does.
    hand = (HAND_SHARE * fsum(moves.twists) / n) ** 2 / n * scale**2
    return residual, pooled(fsum(moves.twists) / n * scale, q + hand, between, Spread(), dof)


def outlier_of(moves: HeadMoves, step: float) -> int | None:
    """The round that is an outlier from the others, or of which two differ; step: the last digit, mm."""
    sigma = sqrt(2 * moves.within)
    hand = hypot(sigma, HAND_SHARE * median(moves.twists))
    groups = [[set_ / sigma for set_ in moves.sets], [twist / hand for twist in moves.twists]]
    found = find_outlier(groups, (step / sigma, step / hand))
    return None if found is None else found.index
