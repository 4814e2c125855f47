"""A full field procedure against what is stated, and against the last one of its kind.

What is found is a standard deviation s with its degrees of freedom. At 95 %: it is shown worse than stated when
s > σ·√(χ²₀.₉₅(ν)/ν), and two full test differ when s²/s̃² leaves the two-sided interval of F. With few degrees of
freedom the first is forgiving; so a passed test reads "not shown worse than stated", never "meets it".
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import sqrt

from ..documents.envelope import Earlier, Envelope
from ..results import CodedText
from ..stats.decision import Decision, Limits
from ..stats.estimate import Estimate
from ..stats.quantiles import chi2_quantile, f_quantile
from ..units.formatting import bound, figure, size
from .verdict import JudgedQuantity, Override

WORSE_PROBABILITY = 0.95
CHANGED_PROBABILITY = 0.975
COARSE_SHARE, REPORTED_SHARE = 0.6, 0.1
"""Rounding that scatters by more than this share of what is stated cannot be taken out any more."""
AGAIN = (
    "again-another-day",
    "Repeat on another day, in other weather. If it is worse twice, send it to service.",
)
FULL = ("full-procedure", "Do the full procedure: the simplified one is not conclusive.")


def chance_factor(dof: float) -> float:
    """How many times the stated accuracy s may reach by chance, one time in twenty: 1.19 with 38, 1.45 with 6.

    Dof: degrees of freedom.
    """
    return sqrt(chi2_quantile(WORSE_PROBABILITY, dof) / dof)


def chance_ratio(dof: float, dof_before: float) -> tuple[float, float]:
    """Between what s²/s̃² of two full test lies by chance, nineteen times in twenty: 0.52 and 1.91 with 38 each.

    Degrees of freedom in, a ratio out.
    """
    return 1 / f_quantile(CHANGED_PROBABILITY, dof_before, dof), f_quantile(CHANGED_PROBABILITY, dof, dof_before)


@dataclass(frozen=True, slots=True)
class FullTest:
    """A full test's s, its degrees of freedom, and how it was taken."""

    s: float
    dof: int
    full: bool
    rounding: float = 0.0
    """What rounding to the last digit puts into it, one standard deviation, in its unit."""

    @property
    def sigma(self) -> float:
        """Standard deviation found, in the unit of the quantity."""
        return self.s / sqrt(2 * self.dof)

    def most(self, stated: float) -> float:
        """How large s may come out by chance where the instrument is as stated: it and the last digit scatter together."""
        return sqrt(stated**2 + self.rounding**2) * chance_factor(self.dof)


def held_against(
    document: Envelope,
    name: str,
    noun: str,
    *,
    unit: str,
    found: FullTest,
    stated: float | None,
    more: Sequence[CodedText] = (),
    then: Sequence[CodedText] = (),
) -> JudgedQuantity:
    """s as a judged quantity, stated in its unit; `more`: shown beside the scatter; `then`: what to do about it."""
    s, dof = found.s, found.dof
    estimate = Estimate(s, found.sigma, float(dof))
    why: list[CodedText] = list(more)
    leading_reasons: list[CodedText] = list(then)
    grade: Decision = Decision("watch" if more else "use")
    if stated is None:
        limits = Limits(s, s, s, "no accuracy is stated for this model", adjustable=False)
        why.append(("stated-not-known", f"No accuracy is stated for this model: {size(s, s, unit)}, not tested."))
        own = Override(Decision("watch"), tuple(why), tuple(leading_reasons))
        return JudgedQuantity(name, noun, unit, estimate=estimate, limits=limits, own=own)
    most = found.most(stated)
    if found.rounding > COARSE_SHARE * stated:
        return _too_coarse(name, noun, unit, estimate=estimate, found=found, stated=stated)
    limits = Limits(most, most, most, f"{bound(stated, unit)} stated, with allowance for chance", adjustable=False)
    text = _compared(found, stated, unit)
    if s <= most:
        why.append(("not-worse-than-stated", f"Not shown worse than stated: {text}."))
    elif _worse_before(document, name, most):
        twice = ("worse-than-stated", f"Worse than stated for the second time: {text}.")
        return JudgedQuantity(
            name, noun, unit, estimate=estimate, limits=limits, own=Override(Decision("service"), (twice, *why))
        )
    else:
        grade = Decision("watch")
        chance = "One good instrument in twenty shows this by chance."
        why.append(("worse-than-stated", f"Shown worse than stated: {text}. {chance}"))
        leading_reasons.append(AGAIN if found.full else FULL)
    changed = _changed(document, name, found, unit)
    if changed:
        grade = Decision("watch")
        why.append(changed)
    return JudgedQuantity(
        name, noun, unit, estimate=estimate, limits=limits, own=Override(grade, tuple(why), tuple(leading_reasons))
    )


def _compared(found: FullTest, stated: float, unit: str) -> str:
    """What was found beside what is stated and what chance may make of it, without a full stop."""
    s, dof, most = found.s, found.dof, found.most(stated)
    rounded = found.rounding > REPORTED_SHARE * stated
    digit = f", the {size(found.rounding, found.rounding, unit)} of the last digit included" if rounded else ""
    return f"{size(s, s, unit)} found, {bound(stated, unit)} stated; with {dof} degrees of freedom up to {size(most, most, unit)} is possible by chance{digit}"


def _too_coarse(
    name: str, noun: str, unit: str, *, estimate: Estimate, found: FullTest, stated: float
) -> JudgedQuantity:
    """Readings whose last digit scatters as much as the instrument is stated to: they test nothing."""
    text = f"Readings too coarse: rounding alone scatters by {size(found.rounding, found.rounding, unit)}, stated is {bound(stated, unit)}. Read one digit finer."
    limits = Limits(stated, stated, stated, f"{bound(stated, unit)} stated", adjustable=False)
    why = (("steps-too-coarse", text),)
    then = (("read-finer", "Repeat and read one digit finer: estimate tenths of the smallest division."),)
    return JudgedQuantity(
        name, noun, unit, estimate=estimate, limits=limits, own=Override(Decision("repeat"), why, then)
    )


def _last(document: Envelope, name: str) -> Earlier | None:
    return next(
        (earlier for earlier in document.before if earlier.check == document.kind and name in earlier.result), None
    )


def _worse_before(document: Envelope, name: str, most: float) -> bool:
    last = _last(document, name)
    return last is not None and last.grade == "watch" and (last.figure(name) or 0.0) > most


def _changed(document: Envelope, name: str, found: FullTest, unit: str) -> CodedText | None:
    """Whether this full test and the last differ by more than chance."""
    last = _last(document, name)
    if last is None:
        return None
    before, sigma = last.figure(name) or 0.0, last.figure(f"sigma_{name}") or 0.0
    if before <= 0 or sigma <= 0:
        return None
    low, high = chance_ratio(found.dof, (before / sigma) ** 2 / 2)
    ratio = (found.s / before) ** 2
    if low <= ratio <= high:
        return None
    way = "larger" if ratio > 1 else "smaller"
    text = f"{figure(max(found.s / before, before / found.s), 1)} times {way} than in the last full test ({size(before, before, unit)}): more than chance."
    return "changed-since-last", text
