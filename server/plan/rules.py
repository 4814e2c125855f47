"""The firm's rules of what is due when. Where it has set none for a check, the core's default rule holds."""

from __future__ import annotations

from typing import Any

from django.db import transaction
from django.db.models import Max
from pydantic import ValidationError as ModelError

from naveta_core.checks import KINDS
from naveta_core.documents.model_faults import faults_of
from naveta_core.errors import Fault, Refused, path_in_words
from naveta_core.history.rules import SERVICE, RuleBook, rules_in_force
from naveta_core.history.rules import DueRule as CoreRule
from people.changes import record_changes, refuse_if_changed
from people.firm import organisation
from people.models import Person, SettingChange
from plan.models import DueRule
from shared import clock
from shared.rights import require

ABOUT = "plan:rule"
FIGURES = ("every_days", "after", "before_large_jobs", "temperature_step_c")
SCOPE = ("kinds", "model", "climate")
LABELS = {
    "every_days": "every so many days",
    "after": "after these events",
    "before_large_jobs": "before a large job",
    "temperature_step_c": "after a step in temperature, °C",
}


def core_rule(rule: DueRule) -> CoreRule:
    """A stored rule as the core takes it."""
    return CoreRule(check=rule.check_name, **{name: getattr(rule, name) for name in (*SCOPE, *FIGURES)})


def own_rules() -> list[DueRule]:
    """Every rule the firm has set."""
    return list(DueRule.objects.select_related("by").order_by("check_name", "model", "climate", "pk"))


def rule_book(changed: CoreRule | None = None) -> RuleBook:
    """The rules in force in the firm's climate; `changed` as if it were set already."""
    own = [core_rule(rule) for rule in own_rules()]
    if changed is not None:
        own = [*(rule for rule in own if rule.scope != changed.scope), changed]
    return RuleBook(rules_in_force(own), organisation().climate)


def plan_stamp() -> str:
    """Another text after every change of a rule, a job or the firm's settings."""
    latest = SettingChange.objects.filter(about__startswith="plan:").aggregate(Max("pk"))["pk__max"]
    return f"{latest or 0} {organisation().climate}"


def checked(given: dict[str, Any]) -> CoreRule:
    """A rule as the core reads it. Raises Refused, naming each field."""
    try:
        return CoreRule.model_validate({name: value for name, value in given.items() if value is not None})
    except ModelError as error:
        raise Refused(faults_of(error, path_in_words)) from None


@transaction.atomic
def set_rule(*, actor: Person, given: dict[str, Any], version: int | None = None) -> DueRule:
    """Set a rule, or change the one there is of the same scope. Raises Forbidden, Refused, Conflict."""
    require(actor, "manage-fleet")
    wanted = checked(given)
    rule = next((each for each in own_rules() if core_rule(each).scope == wanted.scope), None)
    if rule is None:
        scope = {name: getattr(wanted, name) for name in SCOPE}
        rule = DueRule(check_name=wanted.check, **scope)
    elif version is not None:
        refuse_if_changed(about(rule), rule, version)
    before = {name: getattr(rule, name) for name in FIGURES} if rule.pk else {}
    after = {name: getattr(wanted, name) for name in FIGURES}
    if record_changes(actor, about(rule), rule, before=before, after=after, labels=_labels(rule)):
        for name, value in after.items():
            setattr(rule, name, value)
        rule.by, rule.at = actor, clock.now()
        rule.save()
    return rule


@transaction.atomic
def drop_rule(*, actor: Person, pk: int) -> None:
    """The default rule again, or none. Raises Forbidden, Refused."""
    require(actor, "manage-fleet")
    rule = DueRule.objects.select_for_update().filter(pk=pk).first()
    if rule is None:
        raise Refused([Fault("rule", "the rule", str(pk), "a rule that is set")])
    before = {name: getattr(rule, name) for name in FIGURES}
    record_changes(actor, about(rule), rule, before=before, after=dict.fromkeys(FIGURES), labels=_labels(rule))
    rule.delete()


def title_of(check: str) -> str:
    """What a check, or the service, is called."""
    return "Service" if check == SERVICE else KINDS[check].title


def about(rule: DueRule) -> str:
    scope = [rule.check_name, *rule.kinds, rule.model, rule.climate]
    return f"{ABOUT}:{':'.join(part for part in scope if part)}"[:120]


def _labels(rule: DueRule) -> dict[str, str]:
    return {name: f"{title_of(rule.check_name)}: {label}" for name, label in LABELS.items()}
