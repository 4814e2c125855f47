"""What a series says: drifting or not, jumped or not, when it leaves its limit, which interval it has earned.

As found only; an event that bears on it, and an as-left, begin a new part; a jump that the next check confirms does so
too. What is stated is about the last part.
"""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime, timedelta
from math import sqrt

from ..results import Answer
from ..stats.decision import wander_in_a_root_day
from ..stats.quantiles import t_quantile
from ..units.formatting import UNITS, count, signed, size
from .disputes import Dispute, disputes_of
from .drift import Leaving, Line, SeriesParts, SeriesValue, Warmth, fit, leaving, parts_of, season, warmth
from .earned import earned_interval
from .facts import day_words
from .pooling import ModelSeries, Pool, conflicts, model_series_of, pooled
from .series import SeriesCheck

TAU = {"arcsec": 1.0, "div": 0.2, "mm": 0.1, "ppm": 5.0, "mm/km": 0.1}
"""How much a quantity wanders on its own, one standard deviation, by its unit."""
TAU_OF = {"two-peg": 2.0}
"""Of a kind of check where it is more; in the kind's own unit."""
FEW = 8
YEAR = 365.25
DAY_S = 86_400.0
BAND_POINTS = 9


class BandPoint(Answer):
    """A point of the line drawn through the last part, with its 95 percent bounds; in the unit of the series, any unit."""

    at: str
    value: float
    low: float
    high: float


class Trend(Answer):
    """What a series says of its last part. Slope a year and its 95 percent uncertainty, in the unit of the series: any
    unit. Days as ISO texts; `outliers` and `jumped` name checks by their ids."""

    n: int
    text: str
    drifting: bool
    slope_per_year: float | None
    u95_slope: float | None
    leaves: str
    """When it leaves its limit, in a sentence; empty where no day can be named."""
    early: str | None
    expected: str | None
    late: str | None
    jumped: list[str]
    outliers: list[str]
    disputed: list[str]
    """Results that contradict each other, or the odd one of three."""
    dispute: str
    """The same in a sentence; empty where nothing contradicts."""
    waiting: str | None
    """The check that jumped and waits for the next one to decide."""
    warmth: str
    earned_days: int
    earned_code: str
    earned: str
    others: int
    """How many instruments of its model it was estimated with."""
    together: str
    """The same in a sentence; empty where there are none."""
    jump: str
    """What is to be done about a jump, or what the next check decides; empty where nothing jumped."""
    line: list[BandPoint]


def tau_of(kind: str, unit: str) -> float:
    """How much a kind's quantity wanders on its own, in its unit."""
    return TAU_OF.get(kind, TAU.get(unit, 1.0))


def last_stretch(checks: Sequence[SeriesCheck], cuts: Sequence[datetime]) -> list[SeriesCheck]:
    """Checks as found since the last event that bears on them, or the last as-left, oldest first; without those that
    found nothing and the odd ones of three runs."""
    return _counting(*_stretch(checks, cuts))


def _stretch(checks: Sequence[SeriesCheck], cuts: Sequence[datetime]) -> tuple[list[SeriesCheck], list[Dispute]]:
    """Return every check as found of the last stretch, oldest first, and the disputes among them."""
    ordered = sorted(checks, key=lambda check: check.at)
    begins = [*cuts, *(check.at for check in ordered if check.stage == "as-left")]
    since = max(begins, default=None)
    found = [check for check in ordered if check.stage != "as-left" and (since is None or check.at > since)]
    return found, disputes_of(found)


def _counting(found: Sequence[SeriesCheck], disputes: Sequence[Dispute]) -> list[SeriesCheck]:
    odd = {dispute.odd.id for dispute in disputes if dispute.odd}
    return [check for check in found if check.grade != "repeat" and check.id not in odd]


def values_of(checks: Sequence[SeriesCheck], first: datetime) -> list[SeriesValue]:
    """Checks as values of a series, in days from a moment."""
    return [
        SeriesValue((check.at - first).total_seconds() / DAY_S, check.value, check.sigma, check.temperature_c)
        for check in checks
    ]


def model_series_from(checks: Sequence[SeriesCheck], cuts: Sequence[datetime], tau: float) -> ModelSeries | None:
    """What one instrument says for others of its model; None where its last stretch is too short. tau in the unit of the series."""
    stretch = last_stretch(checks, cuts)
    return model_series_of(fit(values_of(stretch, stretch[0].at), tau)) if stretch else None


def trend_of(
    checks: Sequence[SeriesCheck],
    cuts: Sequence[datetime],
    today: datetime,
    *,
    unit: str,
    tau: float,
    rule_days: int,
    pool: Pool | None = None,
) -> Trend | None:
    """What a series says; None where nothing is on record since the last event. tau in the unit of the series."""
    found, disputes = _stretch(checks, cuts)
    stretch = _counting(found, disputes)
    if not stretch:
        return None
    said = _trend(stretch, today, unit=unit, tau=tau, rule_days=rule_days, pool=pool)
    if not disputes:
        return said
    disputed = [name for dispute in disputes for name in dispute.ids]
    # While two results contradict each other, that is what has jumped: it is said once.
    jump = said.jump if disputes[-1].odd else ""
    return said.model_copy(update={"disputed": disputed, "dispute": disputes[-1].text, "jump": jump})


def _trend(
    stretch: Sequence[SeriesCheck], today: datetime, *, unit: str, tau: float, rule_days: int, pool: Pool | None
) -> Trend:
    """Return what the checks that count say."""
    values = values_of(stretch, stretch[0].at)
    cut = parts_of(values, tau)
    places = [i for i in cut.parts[-1] if not (cut.waiting and i == len(values) - 1)] or list(cut.parts[-1])
    own = [values[i] for i in places]
    seasonal = season(own)
    single = fit(own, tau, as_level=seasonal)
    shared = None if seasonal else pool
    line = pooled(single, shared)
    limit, first = stretch[-1].limit, stretch[0].at
    now = (today - first).total_seconds() / DAY_S
    left = leaving(line, limit, now)
    by_own_line, wander = single.slope is not None, wander_in_a_root_day(limit)
    earned = earned_interval(line, limit, rule_days, last=values[-1].day, wander=wander, may_lengthen=by_own_line)
    u95 = _u95_slope(line)
    return Trend(
        n=len(own),
        text=_season_text(line, unit) if seasonal else _text(line, unit, u95, len(own)),
        drifting=line.drifts,
        slope_per_year=None if line.slope is None else line.slope * YEAR,
        u95_slope=u95,
        leaves=_leaves(left, first, now),
        early=_day(first, left.early) if left else None,
        expected=_day(first, left.expected) if left else None,
        late=_day(first, left.late) if left else None,
        jumped=[stretch[part[0]].id for part in cut.parts[1:]],
        outliers=[stretch[i].id for i in (*cut.isolated, *(places[i] for i in single.left_out))],
        disputed=[],
        dispute="",
        waiting=stretch[-1].id if cut.waiting else None,
        warmth=_warmth(warmth(own, tau), unit),
        earned_days=earned.days,
        earned_code=earned.code,
        earned=earned.text,
        others=shared.n if shared and not conflicts(single, shared) else 0,
        together=_together(single, shared),
        jump=_jump(cut),
        line=_band(line, first, own[0].day, max(now, own[-1].day)),
    )


def _u95_slope(line: Line) -> float | None:
    """Of the slope a year, in the unit of the series; None of a level."""
    return t_quantile(0.975, line.freedom) * sqrt(line.var_slope) * YEAR if line.slope is not None else None


def _day(first: datetime, after: float | None) -> str | None:
    """The day so many days after the first check."""
    return None if after is None else (first + timedelta(days=after)).date().isoformat()


def _together(single: Line, pool: Pool | None) -> str:
    """Return the sentence about pooling with other instruments of the model, or about a drift unlike theirs."""
    if pool is None:
        return ""
    if conflicts(single, pool):
        return f"It drifts unlike the {count(pool.n, 'other', 'others')} of its model: look for a cause."
    what = "Estimated" if single.slope is not None else "Scatter estimated"
    return f"{what} together with {count(pool.n, 'other', 'others')} of its model."


def _text(line: Line, unit: str, u95: float | None, n: int) -> str:
    if line.slope is None or u95 is None:
        needed = f"A trend needs six checks over three months; {count(n, 'check', 'checks')} since the last event."
        return f"Level {size(line.level, sqrt(line.var_level), unit)}. {needed}"
    slope = f"{signed(line.slope * YEAR, 1)}{UNITS[unit]} a year, ± {u95:.1f}{UNITS[unit]} (95 %)"
    few = " It rests on few checks." if n < FEW else ""
    if line.drifts:
        return f"Drifting by {slope}.{few}"
    most = abs(line.slope * YEAR) + u95
    return f"No drift seen; up to {most:.1f}{UNITS[unit]} a year is possible.{few}"


def _jump(cut: SeriesParts) -> str:
    if cut.waiting:
        return "The last check jumped: the next one decides whether it stays there."
    if len(cut.parts) > 1:
        return "It jumped without an event on record: report what happened."
    return ""


def _warmth(found: Warmth | None, unit: str) -> str:
    if found is None:
        return ""
    if found.together:
        return "Time and temperature cannot be separated here."
    if not found.significant:
        return "No change with temperature seen."
    return f"It changes with temperature: {signed(found.slope, 2)}{UNITS[unit]} per °C, ± {t_quantile(0.975, found.freedom) * found.sigma:.2f}{UNITS[unit]}."


def _band(line: Line, first: datetime, begin: float, end: float) -> list[BandPoint]:
    t = t_quantile(0.975, line.freedom)
    days = [begin + (end - begin) * i / (BAND_POINTS - 1) for i in range(BAND_POINTS)] if end > begin else [begin]
    return [
        BandPoint(
            at=(first + timedelta(days=day)).isoformat(),
            value=line.at(day),
            low=line.at(day) - t * sqrt(line.variance(day)),
            high=line.at(day) + t * sqrt(line.variance(day)),
        )
        for day in days
    ]


def _season_text(line: Line, unit: str) -> str:
    level = size(line.level, sqrt(line.var_level), unit)
    return f"Level {level}. It became warmer or colder with the days: a drift cannot be separated from the season, and none is given."


def _leaves(left: Leaving | None, first: datetime, now: float) -> str:
    if left is None:
        return ""
    if left.expected is not None and left.expected <= now:
        return "It is beyond its limit already."
    if left.early <= now:
        leaves = f", and leaves it about {_words(first, left.expected)}" if left.expected is not None else ""
        return f"It may be beyond its limit already{leaves} (95 %)."
    early = _words(first, left.early)
    if left.expected is None:
        return f"It could leave its limit from {early} on (95 %)."
    return f"It leaves its limit about {_words(first, left.expected)}, not before {early} (95 %)."


def _words(first: datetime, after: float) -> str:
    """'25 Mar 2027', so many days after the first check."""
    return day_words((first + timedelta(days=after)).date())
