"""The weekly summary by e-mail: what it says, where it goes, sending it now."""

from __future__ import annotations

from typing import Annotated, Any

from django.conf import settings
from django.http import HttpRequest
from ninja import Router, Schema
from pydantic import Field

from fleet.digest import digest_for, send_digest, sent_here, set_address
from people.asker import asker
from people.models import Person
from shared import clock
from shared.bodies import Body

router = Router(tags=["plan"])


class DigestText(Schema):
    """A message."""

    subject: str
    text: str


class DigestOut(DigestText):
    """One's own weekly summary as it would go out now, where it goes, and in the demo what was written instead of sent."""

    email: str
    can_send: bool
    sent: list[DigestText]


class AddressIn(Body):
    """Where one's own weekly summary goes; empty: nowhere."""

    email: Annotated[str, Field(max_length=254)]


def _shown(person: Person) -> dict[str, Any]:
    digest = digest_for(person, clock.today())
    return {
        "subject": digest.subject,
        "text": digest.text,
        "email": person.email,
        "can_send": settings.NAVETA.sends_mail,
        "sent": [{"subject": each.subject, "text": each.text} for each in sent_here(person.email)],
    }


@router.get("/digest", response=DigestOut, operation_id="get_digest")
def get_digest(request: HttpRequest) -> Any:
    """One's own weekly summary as it would go out now."""
    return _shown(asker(request))


@router.put("/digest/address", response=DigestOut, operation_id="set_digest_address")
def put_address(request: HttpRequest, payload: AddressIn) -> Any:
    """Where one's own weekly summary goes."""
    return _shown(set_address(actor=asker(request), email=payload.email))


@router.post("/digest", response=DigestOut, operation_id="send_digest")
def post_digest(request: HttpRequest) -> Any:
    """Send oneself the weekly summary now."""
    person = asker(request)
    send_digest(person, clock.today())
    return _shown(person)
