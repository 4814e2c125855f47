"""Who has an instrument, and what may be said of it: taking out, handing in, lending, service, a skipped check."""

from __future__ import annotations

import json
from datetime import date, datetime, timedelta
from typing import Any

from fleet import selectors as fleet_selectors
from fleet import services as fleet_services
from fleet.models import Instrument
from naveta_core.errors import Fault, Refused, quote
from naveta_core.history.case_lists import contents_of, departure_list, departure_text
from naveta_core.history.due import MAX_SKIPPED_DAYS
from naveta_core.history.rules import SERVICE
from naveta_core.history.service import stored_settings
from people.models import Crew, Person
from records.models import Record
from records.requests import EventIn
from shared import clock
from shared.errors import Conflict
from shared.rights import OWN_CREW, Forbidden

CUSTODY = ("out", "in", "lent", "returned", "service-out", "service-in")
PLACES = {"lent": "Lent", "service-out": "At service"}
"""Where it is while it is away."""


def may_go_out(instrument: Instrument, at: datetime, note: str) -> None:
    """Refuse to take out what was on hold or away then, whatever page it is sent from and however late it arrives; what
    waits for a check goes out with a reason that stays on record."""
    status = fleet_selectors.standing_at(instrument, at)
    if status.state == "hold":
        raise Conflict("on-hold", f"{instrument.tag} is on hold and stays here: {status.reasons[0].text}")
    if status.state == "away":
        raise Conflict("away", f"{instrument.tag} is not here: {status.reasons[0].text}")
    if status.state == "check-first" and not note.strip():
        wanted = f"why it goes out before its check: {status.reasons[0].text}"
        raise Refused([Fault("note", "the reason", "nothing", wanted)])


def skipped_facts(instrument: Instrument, sent: EventIn, at: datetime) -> dict[str, Any]:
    """Which check is skipped until when; never one that a knock, a fall or an adjustment waits for."""
    found = {entry.check: entry for entry in fleet_selectors.status_of(instrument, clock.today()).due}
    entry = found.get(sent.check or "")
    faults = []
    if entry is None or entry.check == SERVICE:
        faults.append(Fault("check", "the check", quote(sent.check), f"a check of {instrument.tag}"))
    last = at.astimezone(clock.zone()).date() + timedelta(days=MAX_SKIPPED_DAYS)
    until = _day(sent.until)
    if until is None or not at.astimezone(clock.zone()).date() < until <= last:
        wanted = f"a day after today, until {last:%d %B %Y}"
        faults.append(Fault("until", "until when it is skipped", quote(sent.until), wanted))
    if faults or entry is None or until is None:
        raise Refused(faults)
    if not entry.can_wait:
        raise Conflict("cannot-skip", f"This check cannot be skipped. {' '.join(r.text for r in entry.reasons)}")
    return {"check": entry.check, "until": until.isoformat()}


def _day(text: str | None) -> date | None:
    try:
        return date.fromisoformat(text or "")
    except ValueError:
        return None


def set_custody(instrument: Instrument, before: dict[str, Any]) -> None:
    """Who has it follows the latest taking out or handing in that stands, in the order in which they happened.

    before: whose it was ahead of the first of them.
    """
    standing = Record.objects.filter(instrument=instrument, kind__in=CUSTODY, amendments__isnull=True)
    last = standing.order_by("observed_at_utc", "sequence").last()
    document = json.loads(last.document) if last else before
    crew = Crew.objects.filter(name=document["crew"]).first() if document.get("crew") else None
    looked = standing.filter(document__contains='"case_looked":true').order_by("observed_at_utc", "sequence").last()
    missing = _missing(looked) if looked else {}
    fleet_services.hand_over(instrument=instrument, crew=crew, place=document.get("place") or "", missing=missing)


def _missing(record: Record) -> dict[str, Any]:
    found = json.loads(record.document)["missing"]
    return {"items": found, "at": record.observed_at, "by": record.entered_by.name}


def case_facts(instrument: Instrument, sent: EventIn) -> dict[str, Any]:
    """What was in its case and what was ready, as far as somebody looked; each by its name on the list. Raises Refused."""
    kind, faults, facts = instrument.model.kind, [], dict[str, Any]()
    contents = contents_of(kind, instrument.model.contents)
    if sent.case_looked or sent.missing:
        unknown = [name for name in sent.missing if name not in contents]
        if unknown:
            wanted = f"one of what belongs into the case of {instrument.tag}: {', '.join(contents)}"
            faults.append(Fault("missing", "what is missing", quote(unknown[0]), wanted))
        facts |= {"case_looked": True, "contents": contents, "missing": sent.missing}
    if sent.ready is not None:
        codes = [item.code for item in departure_list(kind)]
        unknown = [code for code in sent.ready if code not in codes]
        if unknown:
            faults.append(Fault("ready", "what is ready", quote(unknown[0]), "one of " + ", ".join(codes)))
        facts |= {"ready": sent.ready, "departure": departure_text(kind, sent.ready)}
    if faults:
        raise Refused(faults)
    return facts


def service_facts(instrument: Instrument, sent: EventIn) -> dict[str, Any]:
    """What came back with it from service: values reset, what it cost, the certificate. Raises Refused."""
    faults = []
    names = [setting.name for setting in stored_settings(instrument.model.kind)]
    unknown = [name for name in sent.resets if name not in names]
    if unknown:
        wanted = "one of " + ", ".join(names) if names else f"nothing: {instrument.tag} stores no values"
        faults.append(Fault("resets", "the stored value", quote(unknown[0]), wanted))
    if sent.certificate and not instrument.attachments.filter(digest=sent.certificate, purpose="certificate").exists():
        wanted = f"the digest of a certificate kept with {instrument.tag}"
        faults.append(Fault("certificate", "the certificate", quote(sent.certificate), wanted))
    if faults:
        raise Refused(faults)
    known = {
        "resets": sent.resets or None,
        "cost": sent.cost,
        "days_cost": sent.days_cost,
        "certificate": sent.certificate,
    }
    return {name: value for name, value in known.items() if value is not None}


def custody_facts(actor: Person, instrument: Instrument, sent: EventIn) -> dict[str, Any]:
    """Who gets it, or where it is put; a crew takes out and hands in for itself only."""
    own = actor.crew.name if actor.crew else None
    if sent.event == "out":
        name = sent.crew or own
        crew = Crew.objects.filter(name=name).first() if name else None
        if crew is None:
            raise Refused([Fault("crew", "the crew", quote(sent.crew), "the crew that takes it")])
        if actor.role != Person.Role.MANAGER and crew.name != own:
            raise Forbidden(OWN_CREW)
        if actor.role != Person.Role.MANAGER and instrument.crew not in (None, crew):
            raise Conflict(
                "taken", f"{instrument.crew} crew has {instrument.tag}: they hand it in, or the manager does."
            )
        return {"crew": crew.name, "from": _holder(instrument)}
    if actor.role != Person.Role.MANAGER and instrument.crew is not None and instrument.crew.name != own:
        raise Forbidden(OWN_CREW)
    return {"place": sent.place or PLACES.get(sent.event, "Yard"), "from": _holder(instrument)}


def _holder(instrument: Instrument) -> dict[str, Any]:
    return {"crew": instrument.crew.name if instrument.crew else None, "place": instrument.place}
