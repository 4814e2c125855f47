"""Rules of what is due when: how long a check holds, and after what it has to be made again.

The default rules are stated by the kinds of check themselves. A firm's own rules take their place check by check; a rule
for a kind of instrument, a model or a climate comes on top. Of all that fit an instrument the strictest counts: the
shortest time, every event that any of them names.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from typing import Annotated, Literal

from pydantic import Field

from ..checks import KINDS
from ..documents.envelope import InOwnUnit, OneOf, Part, WholeNumber
from ..engine.kind import Kind
from .events import BEARING_EVENTS, HANDED_OVER
from .facts import HOLDING_EVENTS

FOR_ALL = ("knock", "drop", "topple", "held", "returned", HANDED_OVER, "service-in", "transport", "soaked")
"""Default rule: these bear on every check that ever comes due."""
CLIMATES = {
    "hot": "Hot, or large changes within a day",
    "cold": "Cold and damp",
    "dusty": "Dust or sand",
}
SERVICE = "service"
SERVICED = ("level", "digital-level", "theodolite", "total-station", "robotic-total-station")


Days = Annotated[int, Field(ge=1, le=3650), WholeNumber]
StepC = Annotated[float, Field(ge=1, le=60), InOwnUnit]


class DueRule(Part):
    """When a check is due; without `kinds`, `model` and `climate` for every instrument it applies to.

    every_days: how long a pass holds; after: events after which it is due; temperature_step_c: how far the
    temperature may be from the one it was made at, °C.
    """

    check: Annotated[str, OneOf(lambda: (*KINDS, SERVICE))]
    kinds: list[str] = Field(default=[], max_length=20)
    model: str = Field(default="", max_length=120)
    climate: Literal["", "hot", "cold", "dusty"] = ""
    every_days: Days | None = None
    after: list[Annotated[str, OneOf(lambda: BEARING_EVENTS)]] = Field(default=[], max_length=len(BEARING_EVENTS))
    before_large_jobs: bool = False
    temperature_step_c: StepC | None = None

    @property
    def scope(self) -> tuple[str, tuple[str, ...], str, str]:
        """What it is for: two rules of one scope cannot both stand."""
        return self.check, tuple(sorted(self.kinds)), self.model, self.climate


@dataclass(frozen=True, slots=True)
class Requirement:
    """What all rules together ask of one check on one instrument."""

    every_days: int | None
    after: frozenset[str]
    before_large_jobs: bool
    temperature_step_c: float | None


def default_rule(kind: Kind) -> DueRule:
    """The rule a kind of check states itself."""
    return DueRule(
        check=kind.name,
        every_days=kind.interval_days,
        after=[*FOR_ALL, *kind.due_after],
        before_large_jobs=kind.before_large_jobs,
        temperature_step_c=kind.temperature_step_c,
    )


def default_rules() -> list[DueRule]:
    """What holds until a firm sets rules of its own; service once a year."""
    return [*(default_rule(kind) for kind in KINDS.values() if kind.scheduled), DueRule(check=SERVICE, every_days=365)]


def rules_in_force(own: Sequence[DueRule]) -> list[DueRule]:
    """A firm's rules with the default ones of every check the firm has set nothing for."""
    replaced = {rule.check for rule in own if rule.scope == (rule.check, (), "", "")}
    return [*(rule for rule in default_rules() if rule.check not in replaced), *own]


class RuleBook:
    """Rules by check, and what they ask of a kind, model and climate; worked out once for each."""

    def __init__(self, rules: Iterable[DueRule] | None = None, climate: str = "") -> None:
        self._rules: dict[str, list[DueRule]] = {}
        for rule in default_rules() if rules is None else rules:
            self._rules.setdefault(rule.check, []).append(rule)
        self._climate = climate
        self._found: dict[tuple[str, str, str], Requirement | None] = {}

    def requirement(self, check: str, kind: str, model: str = "") -> Requirement | None:
        """What is asked of a check on an instrument of a kind and model; None where it never comes due."""
        key = (check, kind, model)
        if key not in self._found:
            fitting = [rule for rule in self._rules.get(check, ()) if self._fits(rule, kind, model)]
            self._found[key] = _union(fitting) if fitting else None
        return self._found[key]

    def _fits(self, rule: DueRule, kind: str, model: str) -> bool:
        return (
            (not rule.kinds or kind in rule.kinds) and rule.model in ("", model) and rule.climate in ("", self._climate)
        )


def _union(rules: Sequence[DueRule]) -> Requirement:
    days = [rule.every_days for rule in rules if rule.every_days is not None]
    steps = [rule.temperature_step_c for rule in rules if rule.temperature_step_c is not None]
    after = {event for rule in rules for event in rule.after}
    return Requirement(
        every_days=min(days, default=None),
        # What holds an instrument back bears on every check, whatever a rule says.
        after=frozenset(after | set(HOLDING_EVENTS)),
        before_large_jobs=any(rule.before_large_jobs for rule in rules),
        temperature_step_c=min(steps, default=None),
    )
