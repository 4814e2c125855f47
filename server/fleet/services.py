"""Changes to the fleet. Each verb authorises, checks with the core's own models, and saves in one transaction."""

from __future__ import annotations

import uuid
from datetime import date
from typing import Any

from django.db import transaction
from django.db.models import F, QuerySet
from pydantic import TypeAdapter
from pydantic import ValidationError as ModelError

from fleet.models import KINDS, ChangeCounter, Instrument, InstrumentModel
from fleet.tags import normalise_tag
from naveta_core.checks import KINDS as CHECKS
from naveta_core.documents.envelope import Instrument as CoreInstrument
from naveta_core.documents.model_faults import faults_of
from naveta_core.engine.hints import hint_fields
from naveta_core.errors import Fault, Refused, path_in_words, quote
from people.changes import record_changes, refuse_if_changed
from people.models import Crew, Person
from shared import clock
from shared.rights import require


def next_mark() -> int:
    """The next number of the one counter, within the transaction of what it marks."""
    counter, step = ChangeCounter.objects.filter(pk=1), {"value": F("value") + 1, "stamp": uuid.uuid4().hex}
    if not counter.update(**step):
        ChangeCounter.objects.get_or_create(pk=1)  # of several that begin at once one makes it
        counter.update(**step)
    return ChangeCounter.objects.values_list("value", flat=True).get(pk=1)


def mark_changed(instruments: QuerySet[Instrument]) -> None:
    """Devices are given of these again."""
    instruments.update(changed=next_mark())


_STATED: TypeAdapter[Any] = TypeAdapter(CoreInstrument)


def _words(path: str) -> str:
    return path_in_words(path)


MODEL_LABELS = {
    "maker": "maker",
    "name": "model name",
    "stated": "what is stated",
    "tips": "note for whoever uses it",
    "adjusting_tips": "where its screws are",
    "contents": "what belongs into its case",
}


@transaction.atomic
def add_model(
    *,
    actor: Person,
    maker: str,
    name: str,
    kind: str,
    stated: dict[str, Any],
    tips: str,
    adjusting_tips: dict[str, str] | None = None,
    contents: list[str] | None = None,
) -> InstrumentModel:
    """Add a model with what its maker states. Limits are set by rules of their own (fleet/limits.py)."""
    require(actor, "manage-fleet")
    known, tips_by_check, faults = _checked_model(maker, name, kind, stated, adjusting_tips or {})
    if kind not in KINDS:
        faults.append(Fault("kind", "the kind of instrument", quote(kind), "one of " + ", ".join(KINDS)))
    if InstrumentModel.objects.filter(maker=maker.strip(), name=name.strip()).exists():
        faults.append(Fault("name", "name", quote(name), "a new model name"))
    if faults:
        raise Refused(faults)
    return InstrumentModel.objects.create(
        maker=maker.strip(),
        name=name.strip(),
        kind=kind,
        tips=tips,
        adjusting_tips=tips_by_check,
        stated=known,
        contents=listed(contents or []),
    )


@transaction.atomic
def change_model(*, actor: Person, pk: int, given: dict[str, Any], version: int | None = None) -> InstrumentModel:
    """Another name, other facts, other hints. Raises Forbidden, Refused, Conflict."""
    require(actor, "manage-fleet")
    model = InstrumentModel.objects.select_for_update().filter(pk=pk).first()
    if model is None:
        raise Refused([Fault("model", "the model", str(pk), "a model of the fleet")])
    maker, name = given["maker"], given["name"]
    known, tips_by_check, faults = _checked_model(maker, name, model.kind, given["stated"], given["adjusting_tips"])
    others = InstrumentModel.objects.filter(maker=maker.strip(), name=name.strip()).exclude(pk=pk)
    if others.exists():
        faults.append(Fault("name", "name", quote(name), "a name no other model of this maker has"))
    if faults:
        raise Refused(faults)
    refuse_if_changed(f"model:{pk}", model, version)
    after = {"maker": maker.strip(), "name": name.strip(), "tips": given["tips"], "contents": listed(given["contents"])}
    before = {field: getattr(model, field) for field in after} | _flat("stated", model.stated, known)
    before |= _flat("adjusting_tips", model.adjusting_tips, tips_by_check)
    now = after | _flat("stated", known, model.stated) | _flat("adjusting_tips", tips_by_check, model.adjusting_tips)
    if record_changes(
        actor,
        f"model:{pk}",
        model,
        before=before,
        after=now,
        labels={**{path: path_in_words(path) for path in now}, **MODEL_LABELS},
    ):
        model.maker, model.name, model.tips = after["maker"], after["name"], after["tips"]
        model.stated, model.adjusting_tips, model.contents = known, tips_by_check, after["contents"]
        model.save()
        # What was worked out of its instruments before holds no more: which checks apply may have changed.
        model.instruments.update(derived_stamp=uuid.uuid4().hex)
        mark_changed(model.instruments.all())
    return model


def listed(contents: list[str]) -> list[str]:
    """Names as they are kept: none empty, none twice."""
    return list(dict.fromkeys(name.strip() for name in contents if name.strip()))


def _flat(path: str, values: dict[str, Any], others: dict[str, Any]) -> dict[str, Any]:
    """Each member by its own path, also those only the other side has: a change names what was changed."""
    return {f"{path}.{name}": values.get(name) for name in (*values, *others)}


def _checked_model(
    maker: str, name: str, kind: str, stated: dict[str, Any], adjusting_tips: dict[str, str]
) -> tuple[dict[str, Any], dict[str, str], list[Fault]]:
    """What is stated as the core reads it, hints without empty ones, and everything that is wrong."""
    faults = []
    for path, value in (("maker", maker), ("name", name)):
        if not value.strip():
            faults.append(Fault(path, path, "nothing", f"the {path}"))
    known: dict[str, Any] = {}
    try:
        known = _STATED.dump_python(_STATED.validate_python(stated), exclude_unset=True)
    except ModelError as error:
        faults += [Fault(f"stated.{f.path}", f.where, f.given, f.wanted) for f in faults_of(error, _words)]
    found = {check: text.strip() for check, text in adjusting_tips.items() if text.strip()}
    offered = {field.name for field in hint_fields(CHECKS) if kind in field.kinds}
    for step in found:
        if step not in offered:
            wanted = "a check or step of this kind of instrument"
            faults.append(Fault(f"adjusting_tips.{step}", "the hint", quote(step), wanted))
    return known, found, faults


FIRST_DAY = date(1970, 1, 1)
STORING = ("stores", "storable_arcsec")


@transaction.atomic
def state_storing(*, actor: Person, instrument: Instrument, payload: dict[str, Any]) -> Instrument:
    """How an instrument's model stores what was found (the error or the correction, up to how much): for all of its kind."""
    require(actor, "manage-fleet")
    given = {name: payload[name] for name in STORING if payload.get(name) not in (None, "")}
    try:
        known = _STATED.dump_python(_STATED.validate_python(given), exclude_unset=True)
    except ModelError as error:
        raise Refused([Fault(f.path, f.where, f.given, f.wanted) for f in faults_of(error, _words)]) from None
    model = InstrumentModel.objects.select_for_update().get(pk=instrument.model_id)
    before = {name: model.stated.get(name) for name in STORING}
    after = {name: known.get(name) for name in STORING}
    record_changes(
        actor,
        f"model:{model.pk}",
        model,
        before=before,
        after=after,
        labels={name: path_in_words(name) for name in STORING},
    )
    model.stated = {**{name: value for name, value in model.stated.items() if name not in STORING}, **known}
    model.save()
    mark_changed(model.instruments.all())
    instrument.refresh_from_db()
    return instrument


@transaction.atomic
def add_instrument(
    *, actor: Person, tag: str, model: int, serial: str, place: str, crew: str | None, since: date | None = None
) -> Instrument:
    """Add an instrument to the fleet."""
    require(actor, "manage-fleet")
    known_as = normalise_tag(tag)
    faults = []
    if Instrument.objects.filter(tag=known_as).exists():
        faults.append(Fault("tag", "the tag", quote(tag), "a tag no other instrument has"))
    chosen = InstrumentModel.objects.filter(id=model).first()
    if chosen is None:
        faults.append(Fault("model", "the model", str(model), "a model of the fleet"))
    holder = Crew.objects.filter(name=crew).first() if crew else None
    if since is not None and not FIRST_DAY <= since <= clock.today():
        faults.append(
            Fault("since", "its first day here", since.isoformat(), f"a day from {FIRST_DAY:%d %B %Y} to today")
        )
    if crew and holder is None:
        faults.append(Fault("crew", "the crew", quote(crew), "a crew there is"))
    if faults or chosen is None:
        raise Refused(faults)
    return Instrument.objects.create(
        tag=known_as,
        model=chosen,
        serial=serial,
        place=place,
        crew=holder,
        since=since or clock.today(),
        changed=next_mark(),
    )


def store_derived(*, instrument: Instrument, derived: dict[str, Any]) -> None:
    """Store what the standing needs of an instrument's records; called by whoever writes records, in its transaction."""
    instrument.derived, instrument.derived_stamp, instrument.changed = derived, uuid.uuid4().hex, next_mark()
    instrument.save(update_fields=["derived", "derived_stamp", "changed"])


def store_head(*, instrument: Instrument, length: int, digest: str) -> None:
    """How long an instrument's chain is, and what it ends in; called with every record, in its transaction."""
    instrument.chain_length, instrument.chain_head = length, digest
    instrument.save(update_fields=["chain_length", "chain_head"])


def hand_over(*, instrument: Instrument, crew: Crew | None, place: str, missing: dict[str, Any]) -> None:
    """Change who has an instrument, and what is missing from its case; called with the event that says so, in its
    transaction."""
    instrument.crew, instrument.place, instrument.missing = crew, place, missing
    instrument.save(update_fields=["crew", "place", "missing"])
