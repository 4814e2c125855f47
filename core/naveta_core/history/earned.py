"""The check interval an instrument has earned: how long after a check it surely stays within its limit.

From its last value, its drift and scatter, with those of others of its model: until the day on which it could lie beyond the
limit with more than five percent; at most three times and at least a quarter of the rule. Fewer than four checks since
the last event or jump earn nothing, and more than the rule is earned only where a line could be fitted to its own checks:
six over three months.
"""

from __future__ import annotations

from dataclasses import dataclass
from math import sqrt

from ..stats.quantiles import t_quantile
from ..units.formatting import capital, count
from .drift import Line, first_day

EARNED_FROM = 4
MAX_EARNED, MIN_EARNED = 3.0, 0.25


@dataclass(frozen=True, slots=True)
class Earned:
    """An interval in days, and why; `code`: rule, shorter, longer or as-rule."""

    days: int
    code: str
    text: str


def earned_interval(
    line: Line, limit: float, rule_days: int, *, last: float, wander: float, may_lengthen: bool = True
) -> Earned:
    """What a series earned by its last check. limit and wander (its own wandering in a root-day, one sigma) in the unit
    of the series; last: the day of the last check; rule_days: what the rule asks; may_lengthen: whether a line was fitted
    to its own checks, without which nothing earns more than the rule."""
    if line.n < EARNED_FROM:
        text = f"{capital(count(line.n, 'check', 'checks'))} since the last event: the rule of {rule_days} days holds."
        return Earned(rule_days, "rule", text)
    t = t_quantile(0.95, line.freedom)

    def size(day: float) -> float:
        return abs(line.at(day)) + t * sqrt(line.variance(day) + wander**2 * max(0.0, day - last))

    day = first_day(size, limit, last)
    days = rule_days * MAX_EARNED if day is None else day - last
    earned = int(min(max(days, rule_days * MIN_EARNED), rule_days * MAX_EARNED))
    if abs(line.at(last)) >= limit:
        text = "By its checks it is beyond its limit already: adjust it, or send it to service, before it is used."
        return Earned(earned, "beyond", text)
    if day == last:
        return Earned(earned, "shorter", f"Check it sooner than the {rule_days} days of the rule.")
    if earned < rule_days:
        text = f"After {earned} days it could lie beyond its limit (with more than 5 %): check it sooner than the {rule_days} days of the rule."
        return Earned(earned, "shorter", text)
    if earned >= rule_days * 1.2 and may_lengthen:
        text = f"It stays within its limit for {earned} days (95 %); the rule asks for a check every {rule_days} days."
        return Earned(earned, "longer", text)
    return Earned(rule_days, "as-rule", f"The rule of {rule_days} days fits it.")
