"""Writing records. Each verb authorises, lets the core calculate, seals and saves, in one transaction."""

from __future__ import annotations

import json
import uuid
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from typing import Any

from django.db import transaction

from fleet import selectors as fleet_selectors
from fleet import services as fleet_services
from fleet.models import Instrument
from fleet.selectors import AHEAD
from naveta_core import __version__
from naveta_core.checks import KINDS
from naveta_core.documents.fingerprint import fingerprint
from naveta_core.documents.instrument_context import complete
from naveta_core.documents.json_io import GENESIS, canonical, digest
from naveta_core.errors import Fault, Refused, quote
from naveta_core.history.events import EVENT_KINDS
from naveta_core.registry import DOCUMENTS, document_of
from people.members import may_adjust
from people.models import Person
from records import chain, custody, readiness
from records.derived import derived_of
from records.impact import reviewed_lines
from records.instrument_context import context_for
from records.models import Record
from records.requests import AmendIn, CheckIn, EventIn
from records.summary import grade_of, search_text, summary_text
from records.times import corrected, happened_at, happened_text
from shared import clock
from shared.errors import Conflict, Later
from shared.rights import OWN_SAME_DAY, Forbidden, Right, refuse_unless, require

EVENT_RIGHTS: dict[str, Right] = {
    **dict.fromkeys((event.name for event in EVENT_KINDS if event.reported), "note-event"),
    **dict.fromkeys(("lent", "returned", "service-out", "service-in"), "send-away"),
    "skipped": "skip-check",
    "out": "take-out",
    "in": "hand-in",
    "held": "hold",
    "released": "release",
    "adjusted": "adjust",
    "impact-reviewed": "save-check",
}
NEEDS_NOTE = ("held", "released", "lent", "service-out", "service-in", "skipped")
NO_BEARING = ("in", "impact-reviewed", "pre-survey")
"""What no standing and no later check depends on: what follows from the records stays as it is. A set-up that found
where a plate bubble rests is given to the next one too."""
SLACK = timedelta(minutes=2)
"""How far the server's own clock may be set back without that being called wrong."""


@dataclass(frozen=True, slots=True)
class Saved:
    """A stored record, and whether this call stored it."""

    record: Record
    new: bool


def stored_already(identity: uuid.UUID, sent: str) -> Record | None:
    """The record of this id when the same was sent before. Raises Conflict when something else was."""
    record = Record.objects.select_related("instrument", "observed_by", "entered_by").filter(id=identity).first()
    if record is None:
        return None
    if record.sent_digest != sent:
        raise Conflict(
            "other-content", "A record of this id is stored already, with other content. Nothing was changed."
        )
    return record


def locked(tag: str) -> Instrument:
    """The instrument, held until the transaction ends, so that its chain grows one record at a time."""
    found = fleet_selectors.find(tag)
    return Instrument.objects.select_for_update(of=("self",)).select_related("model", "crew").get(pk=found.pk)


def _moment(path: str, at: str, off_s: int | None, instrument: Instrument) -> datetime:
    """When it was, by the server's clock: as given, put right by what the device given of its own.

    Raises Later while the two clocks cannot be kept separate: the device keeps it and sends it again; Refused where it
    would lie before the instrument's first day.
    """
    latest = Record.objects.order_by("-arrival").values_list("received_at", flat=True).first()
    now = clock.now()
    if latest is not None and now < latest - SLACK and not clock.is_given():
        text = f"The server's clock went back: it says {now:%d %B %Y %H:%M} but holds records of {latest:%d %B %Y %H:%M}. Nothing is lost: your entry is sent again automatically once that clock is right."
        raise Later("server-clock-behind", text, 600)
    moment = corrected(at, off_s)
    if moment > now + AHEAD:
        text = f"This device says {moment:%d %B %Y %H:%M}, the server {now:%d %B %Y %H:%M}: one of the two clocks is wrong. Your entry is kept on this device and sent again automatically once they agree."
        raise Later("clocks-differ", text, 600)
    if moment.astimezone(clock.zone()).date() < instrument.since:
        wanted = f"a time since {instrument.tag} is here, {instrument.since:%d %B %Y}: is this device's clock right?"
        raise Refused([Fault(path, "when it was", at, wanted)])
    return moment


def _append(instrument: Instrument, **fields: Any) -> Record:
    """Add one sealed record to an instrument's chain and renew what follows from it."""
    last = Record.objects.filter(instrument=instrument).order_by("-sequence").first()
    fields["document"] = canonical(fields["document"])
    fields["result"] = canonical(fields["result"])
    record = Record(
        instrument=instrument,
        sequence=last.sequence + 1 if last else 1,
        previous=last.digest if last else GENESIS,
        arrival=fleet_services.next_mark(),
        received_at=clock.now(),
        core_version=__version__,
        **fields,
    )
    record.observed_at_utc = happened_at(record).astimezone(UTC)
    record.summary = summary_text(record)
    record.grade, record.search = grade_of(record), search_text(record)
    record.digest = chain.seal(record)
    record.save(force_insert=True)
    fleet_services.store_head(instrument=instrument, length=record.sequence, digest=record.digest)
    if record.kind not in NO_BEARING:
        fleet_services.store_derived(instrument=instrument, derived=derived_of(instrument))
    return record


def right_to_save(sent: CheckIn) -> Right:
    """Which right saving asks for: a chief may let a trainee set up, or check levels, alone."""
    kind = str(sent.document.get("kind")) if isinstance(sent.document, dict) else ""
    if kind == "set-up":
        return "save-set-up"
    of_level = kind in KINDS and fleet_selectors.find(sent.instrument).model.kind == "level"
    return "save-level-check" if of_level else "save-check"


@transaction.atomic
def save_check(*, actor: Person, identity: uuid.UUID, sent: CheckIn, sent_digest: str) -> Saved:
    """Store a finished check: completed with what is known, reduced, judged, sealed."""
    require(actor, right_to_save(sent))
    stored = stored_already(identity, sent_digest)
    if stored:
        return Saved(stored, new=False)
    instrument = locked(sent.instrument)
    at = _moment("observed_at", sent.observed_at, sent.clock_off_s, instrument)
    data = complete(sent.document, context_for(instrument.tag, sent.document), at.isoformat())
    amended = _amended(actor, sent, instrument)
    if data.get("kind") in KINDS:
        data |= {"stage": "as-left"} if sent.stage == "as-left" else {}
        data |= {"in_place_of": happened_text(amended)} if amended else {}
    if data.get("kind") == "pre-survey":
        data = readiness.with_records(data, instrument)
    document = document_of(data)
    kind = DOCUMENTS[document.kind]
    result = kind.reduce(document).plain()
    record = _append(
        instrument,
        id=identity,
        category=kind.category,
        kind=document.kind,
        stage=sent.stage if kind.category == "check" else "",
        pair=_pair(sent, instrument, document.kind),
        amends=amended,
        why=sent.why,
        observed_at=sent.observed_at,
        observed_by=_observer(actor, sent.observed_by),
        entered_by=actor,
        entry=sent.entry,
        document=data,
        result=result,
        device=_device(sent, result),
        sent_digest=sent_digest,
    )
    return Saved(record, new=True)


def _device(sent: CheckIn | EventIn, result: dict[str, Any] | None = None) -> str:
    """How the device calculated and timed it, as canonical text; empty when there is nothing to say."""
    fields: dict[str, Any] = {}
    if isinstance(sent, CheckIn) and sent.device_result and result is not None:
        fields["core_version"], fields["grade"] = sent.device_result.core_version, sent.device_result.grade
        fields["agrees"] = sent.device_result.fingerprint == fingerprint(result)
    if sent.clock_off_s:
        fields["clock_off_s"] = sent.clock_off_s
    return canonical(fields) if fields else ""


def _observer(actor: Person, username: str | None) -> Person:
    if username is None:
        return actor
    person = Person.objects.filter(username=username, is_active=True).first()
    if person is None:
        raise Refused([Fault("observed_by", "who observed it", quote(username), "a person of your firm")])
    return person


def _pair(sent: CheckIn, instrument: Instrument, kind: str) -> Record | None:
    """The as-found record an as-left belongs to."""
    if sent.stage == "as-found":
        if sent.pair is not None:
            raise Refused([Fault("pair", "the record it belongs to", sent.pair, "nothing: this is as found")])
        return None
    found = (
        Record.objects.filter(id=sent.pair, instrument=instrument, kind=kind, stage="as-found").first()
        if sent.pair
        else None
    )
    if found is None:
        raise Refused(
            [Fault("pair", "the record it belongs to", quote(sent.pair), "the as-found record of this instrument")]
        )
    return found


def _amended(actor: Person, sent: CheckIn, instrument: Instrument) -> Record | None:
    if sent.amends is None:
        return None
    if not sent.why.strip():
        raise Refused([Fault("why", "why it is amended", "nothing", "a few words on what was wrong")])
    return _may_strike(actor, Record.objects.filter(id=sent.amends, instrument=instrument).first(), sent.amends)


def _may_strike(actor: Person, record: Record | None, given: str) -> Record:
    """The record to be struck. Raises Refused, Conflict or Forbidden."""
    require(actor, "amend")
    if record is None or record.category == Record.Category.AMENDMENT:
        raise Refused([Fault("amends", "the record to amend", given, "a check or event of this instrument")])
    if record.amendments.exists():
        raise Conflict("already-amended", "This record has been amended already.")
    own = actor.pk in (record.entered_by_id, record.observed_by_id)
    same_day = record.received_at.astimezone(clock.zone()).date() == clock.today()
    if actor.role != Person.Role.MANAGER and not (own and same_day):
        raise Forbidden(OWN_SAME_DAY)
    return record


@transaction.atomic
def save_event(*, actor: Person, identity: uuid.UUID, sent: EventIn, sent_digest: str) -> Saved:
    """Store something that happened to an instrument; taking out and handing in also change who has it."""
    require(actor, EVENT_RIGHTS[sent.event])
    stored = stored_already(identity, sent_digest)
    if stored:
        return Saved(stored, new=False)
    instrument = locked(sent.instrument)
    at = _moment("at", sent.at, sent.clock_off_s, instrument)
    if sent.event in NEEDS_NOTE and not sent.note.strip():
        raise Refused([Fault("note", "the reason", "nothing", "a few words: they are shown with it")])
    if sent.event == "out":
        custody.may_go_out(instrument, at, sent.note)
    document: dict[str, Any] = {"event": sent.event, "note": sent.note}
    if sent.event == "skipped":
        document.update(custody.skipped_facts(instrument, sent, at))
    if sent.temperature_c is not None:
        document["temperature_c"] = sent.temperature_c
    if sent.event in custody.CUSTODY:
        document |= custody.custody_facts(actor, instrument, sent) | custody.case_facts(instrument, sent)
    if sent.event == "service-in":
        document |= custody.service_facts(instrument, sent)
    document.update(_about_record(actor, instrument, sent) if sent.event in ("adjusted", "impact-reviewed") else {})
    record = _append(
        instrument,
        id=identity,
        category=Record.Category.EVENT,
        kind=sent.event,
        observed_at=sent.at,
        observed_by=actor,
        entered_by=actor,
        entry="typed",
        document=document,
        result={},
        device=_device(sent),
        sent_digest=sent_digest,
    )
    if sent.event in custody.CUSTODY:
        custody.set_custody(instrument, document["from"])
    return Saved(record, new=True)


def _about_record(actor: Person, instrument: Instrument, sent: EventIn) -> dict[str, Any]:
    """The check an adjustment or a reviews is about."""
    found = (
        Record.objects.filter(id=sent.record, instrument=instrument, category=Record.Category.CHECK).first()
        if sent.record
        else None
    )
    if found is None:
        raise Refused([Fault("record", "the check it is about", quote(sent.record), "a check of this instrument")])
    if sent.event == "adjusted":
        refuse_unless(may_adjust(actor, found.kind))
    more = {"steps": sent.steps} if sent.event == "adjusted" else {"lines": reviewed_lines(found, sent.lines)}
    return {"record": str(found.id), "check": found.kind, **more}


@transaction.atomic
def amend(*, actor: Person, identity: uuid.UUID, sent: AmendIn, sent_digest: str) -> Saved:
    """Strike a record: it stays, with the reason, and counts for nothing from now on."""
    require(actor, "amend")
    stored = stored_already(uuid.UUID(sent.id), sent_digest)
    if stored:
        return Saved(stored, new=False)
    target = Record.objects.select_related("instrument").filter(id=identity).first()
    struck = _may_strike(actor, target, str(identity))
    instrument = locked(struck.instrument.tag)
    record = _append(
        instrument,
        id=uuid.UUID(sent.id),
        category=Record.Category.AMENDMENT,
        kind="struck",
        amends=struck,
        why=sent.why,
        observed_at=clock.now().isoformat(),
        observed_by=actor,
        entered_by=actor,
        entry="typed",
        document={"record": str(struck.id)},
        result={},
        sent_digest=sent_digest,
    )
    if struck.kind in custody.CUSTODY:
        custody.set_custody(instrument, json.loads(struck.document)["from"])
    return Saved(record, new=True)


def digest_of_sent(data: Any) -> str:
    """What says a second sending of the same from something else."""
    return digest(data)
