"""The firm's limits: for a model or a kind of instrument, for all work or one class of it, each with its source, who and when.

What holds for an instrument is written beside its model, so that a check asks for it with everything else: a model's own
rule comes before its kind's, a class of work before all work.
"""

from __future__ import annotations

from typing import Any

from django.db import transaction
from django.db.models import Q, QuerySet
from pydantic import ValidationError as ModelError

from fleet.models import KINDS, InstrumentModel, LimitRule
from fleet.services import mark_changed
from naveta_core.checks import KINDS as CHECKS
from naveta_core.documents.envelope import LimitSet
from naveta_core.documents.model_faults import faults_of
from naveta_core.errors import Fault, Refused, path_in_words, quote
from people.changes import record_changes, refuse_if_changed
from people.models import Person
from shared import clock
from shared.rights import require

ABOUT = "limits"
FIGURES = ("use", "watch", "adjust")


def rules() -> QuerySet[LimitRule]:
    """Every limit a firm has set, by what it is for."""
    rows = LimitRule.objects.select_related("model", "by")
    return rows.order_by("kind", "model__maker", "model__name", "class_of_work", "quantity")


def checks_of(kind: str) -> list[str]:
    """Quantities that checks of a kind of instrument judge."""
    judged = [quantity.name for check in CHECKS.values() if kind in check.applies_to for quantity in check.limited]
    return list(dict.fromkeys(judged))


def checked(given: dict[str, Any]) -> tuple[LimitSet, InstrumentModel | None]:
    """The limit as the core reads it, and the model it is for. Raises Refused, naming each field."""
    faults = []
    model = InstrumentModel.objects.filter(pk=given["model"]).first() if given.get("model") else None
    kind = model.kind if model else given.get("kind") or ""
    if given.get("model") and model is None:
        faults.append(Fault("model", "the model", str(given["model"]), "a model of the fleet"))
    if not given.get("model") and kind not in KINDS:
        faults.append(Fault("kind", "the kind of instrument", quote(kind), "one of " + ", ".join(KINDS)))
    if kind in KINDS and given["quantity"] not in checks_of(kind):
        wanted = "one of " + ", ".join(checks_of(kind))
        faults.append(Fault("quantity", "the quantity", quote(given["quantity"]), wanted))
    if not given["source"].strip():
        faults.append(Fault("source", "where the limit comes from", "nothing", "a few words: every verdict shows them"))
    figures = {name: given[name] for name in FIGURES if given.get(name) not in (None, "")}
    limit = None
    try:
        limit = LimitSet.model_validate({**figures, "source": given["source"].strip() or None})
    except ModelError as error:
        faults += [
            _on_its_field(Fault(f.path, f.where, f.given, f.wanted), figures) for f in faults_of(error, path_in_words)
        ]
    if faults or limit is None:
        raise Refused(faults)
    return limit, model


def _on_its_field(fault: Fault, figures: dict[str, Any]) -> Fault:
    """Limits out of order are stated at the first that stands too low."""
    if fault.path not in ("$", ""):
        return fault
    path = "watch" if "watch" in figures else "adjust"
    return Fault(path, path, quote(str(figures.get(path, ""))), "limits in rising order: use, watch, adjust")


@transaction.atomic
def set_limit(*, actor: Person, given: dict[str, Any], version: int | None = None) -> LimitRule:
    """Set a limit, or change the one there is of the same scope. Raises Forbidden, Refused, Conflict."""
    require(actor, "manage-fleet")
    limit, model = checked(given)
    scope = {
        "model": model,
        "kind": "" if model else given["kind"],
        "class_of_work": given["class_of_work"].strip(),
        "quantity": given["quantity"],
    }
    rule = LimitRule.objects.select_for_update().filter(**scope).first()
    if rule is None:
        rule = LimitRule(**scope)
    else:
        refuse_if_changed(about(rule), rule, version)
    before = figures_of(rule) if rule.pk else {}
    after = {**{name: getattr(limit, name) for name in FIGURES}, "source": limit.source or ""}
    if record_changes(
        actor, about(rule), rule, before=before, after=after, labels={name: f"{label(rule)}: {name}" for name in after}
    ):
        for name, value in after.items():
            setattr(rule, name, value)
        rule.by, rule.at = actor, clock.now()
        rule.save()
        write_limits(models_of(rule))
    return rule


@transaction.atomic
def drop_limit(*, actor: Person, pk: int) -> None:
    """The default limit again. Raises Forbidden, Refused."""
    require(actor, "manage-fleet")
    rule = LimitRule.objects.select_for_update(of=("self",)).select_related("model").filter(pk=pk).first()
    if rule is None:
        raise Refused([Fault("limit", "the limit", str(pk), "a limit that is set")])
    after = dict.fromkeys((*FIGURES, "source"))
    record_changes(
        actor,
        about(rule),
        rule,
        before=figures_of(rule),
        after=after,
        labels={name: f"{label(rule)}: {name}" for name in after},
    )
    models = list(models_of(rule))
    rule.delete()
    write_limits(InstrumentModel.objects.filter(pk__in=[model.pk for model in models]))


def figures_of(rule: LimitRule) -> dict[str, Any]:
    return {**{name: getattr(rule, name) for name in FIGURES}, "source": rule.source}


def label(rule: LimitRule) -> str:
    """What a limit is for, in words."""
    who = str(rule.model) if rule.model else rule.kind
    return f"{who}, {rule.quantity}" + (f", {rule.class_of_work}" if rule.class_of_work else "")


def about(rule: LimitRule) -> str:
    scope = f"model {rule.model_id}" if rule.model_id else rule.kind
    return f"{ABOUT}:{scope}:{rule.quantity}:{rule.class_of_work}"[:120]


def models_of(rule: LimitRule) -> QuerySet[InstrumentModel]:
    """Models a rule bears on."""
    rows = InstrumentModel.objects.all()
    return rows.filter(pk=rule.model_id) if rule.model_id else rows.filter(kind=rule.kind)


def write_limits(models: QuerySet[InstrumentModel]) -> None:
    """Write beside each model what holds for it now; devices are given of its instruments again."""
    for model in models:
        held = LimitRule.objects.filter(Q(model=model) | Q(model=None, kind=model.kind))
        by_work: dict[str, dict[str, Any]] = {}
        # A model's own rule is read last, and so stands.
        for rule in sorted(held, key=lambda entry: entry.model_id is not None):
            figures = {name: value for name, value in figures_of(rule).items() if value not in (None, "")}
            by_work.setdefault(rule.class_of_work, {})[rule.quantity] = figures
        model.limits = by_work.pop("", {})
        model.work_limits = by_work
        model.save(update_fields=["limits", "work_limits"])
        mark_changed(model.instruments.all())


def classes_of_work() -> list[str]:
    """Every class of work limits are set for."""
    rows = LimitRule.objects.exclude(class_of_work="").order_by("class_of_work")
    return list(rows.values_list("class_of_work", flat=True).distinct())
