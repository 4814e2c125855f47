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
from naveta_core.documents.envelope import LimitSet
from naveta_core.documents.model_faults import faults_of
from naveta_core.errors import Fault, Refused, quote, spoken_path
from people.models import Crew, Person
from shared import clock
from shared.rights import require


def next_mark() -> int:
    """The next number of the one counter, within the transaction of what it marks."""
    stamp = uuid.uuid4().hex
    if not ChangeCounter.objects.filter(pk=1).update(value=F("value") + 1, stamp=stamp):
        ChangeCounter.objects.create(pk=1, value=1, stamp=stamp)
    return ChangeCounter.objects.values_list("value", flat=True).get(pk=1)


def mark_changed(instruments: QuerySet[Instrument]) -> None:
    """Devices are given of these again."""
    instruments.update(changed=next_mark())


_STATED: TypeAdapter[Any] = TypeAdapter(CoreInstrument)
_LIMITS: TypeAdapter[Any] = TypeAdapter(dict[str, LimitSet])


def _words(path: str) -> str:
    return spoken_path(path)


@transaction.atomic
def add_model(
    *,
    actor: Person,
    maker: str,
    name: str,
    kind: str,
    stated: dict[str, Any],
    limits: dict[str, Any],
    tips: str,
    adjusting_tips: dict[str, str] | None = None,
) -> InstrumentModel:
    """Add a model with what its maker states."""
    require(actor, "manage-fleet")
    faults = []
    for path, value in (("maker", maker), ("name", name)):
        if not value.strip():
            faults.append(Fault(path, path, "nothing", f"the {path}"))
    if kind not in KINDS:
        faults.append(Fault("kind", "the kind of instrument", quote(kind), "one of " + ", ".join(KINDS)))
    if InstrumentModel.objects.filter(maker=maker.strip(), name=name.strip()).exists():
        faults.append(Fault("name", "name", quote(name), "a new model name"))
    known: dict[str, Any] = {}
    for adapter, typed, where in ((_STATED, stated, "stated"), (_LIMITS, limits, "limits")):
        try:
            known[where] = adapter.dump_python(adapter.validate_python(typed), exclude_unset=True)
        except ModelError as error:
            faults += [Fault(f"{where}.{f.path}", f.where, f.given, f.wanted) for f in faults_of(error, _words)]
    found = {check: text.strip() for check, text in (adjusting_tips or {}).items() if text.strip()}
    for check in found:
        if check not in CHECKS or kind not in CHECKS[check].applies_to:
            wanted = "one of the checks of this kind of instrument"
            faults.append(Fault(f"adjusting_hints.{check}", "the check", quote(check), wanted))
    if faults:
        raise Refused(faults)
    return InstrumentModel.objects.create(
        maker=maker.strip(), name=name.strip(), kind=kind, tips=tips, adjusting_tips=found, **known
    )


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


def hand_over(*, instrument: Instrument, crew: Crew | None, place: str) -> None:
    """Change who has an instrument; called with the event that says so, in its transaction."""
    instrument.crew, instrument.place = crew, place
    instrument.save(update_fields=["crew", "place"])
