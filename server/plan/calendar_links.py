"""Secret addresses of calendars: made for the fleet, a crew or an instrument, shown once, revoked at any time."""

from __future__ import annotations

import hashlib
import secrets

from django.db import transaction

from naveta_core.errors import Fault, Refused, quote
from people.changes import record_changes
from people.models import Crew, Person
from plan.models import CalendarLink
from shared import clock
from shared.rights import require

SCOPES = ("fleet", "crew", "instrument")
ABOUT = "plan:calendar"
LABELS = {"state": "calendar link"}


def _digest(secret: str) -> str:
    return hashlib.sha256(secret.encode()).hexdigest()


@transaction.atomic
def make_calendar_link(*, actor: Person, scope: str, name: str) -> tuple[CalendarLink, str]:
    """A link and its secret, which is not kept. `name`: of a crew, or a tag that is known. Raises Forbidden, Refused."""
    require(actor, "plan-jobs")
    if scope not in SCOPES:
        raise Refused([Fault("scope", "what the calendar is of", quote(scope), "one of " + ", ".join(SCOPES))])
    if scope == "crew" and not Crew.objects.filter(name=name).exists():
        raise Refused([Fault("name", "the crew", quote(name), "a crew there is")])
    secret = secrets.token_urlsafe(32)
    link = CalendarLink.objects.create(
        secret_digest=_digest(secret),
        scope=scope,
        name="" if scope == "fleet" else name,
        by=actor,
        at=clock.now(),
    )
    record_changes(actor, f"{ABOUT}:{link.pk}", link, before={}, after={"state": f"made for {link}"}, labels=LABELS)
    link.save(update_fields=["version"])
    return link, secret


@transaction.atomic
def revoke_calendar_link(*, actor: Person, pk: int) -> None:
    """From now on the address gives nothing. Raises Forbidden, Refused."""
    require(actor, "plan-jobs")
    link = CalendarLink.objects.select_for_update().filter(pk=pk, revoked_at=None).first()
    if link is None:
        raise Refused([Fault("link", "the link", str(pk), "a link that is in use")])
    record_changes(
        actor,
        f"{ABOUT}:{pk}",
        link,
        before={"state": f"made for {link}"},
        after={"state": f"revoked: {link}"},
        labels=LABELS,
    )
    link.revoked_at = clock.now()
    link.save(update_fields=["version", "revoked_at"])


def links_in_use() -> list[CalendarLink]:
    """Every link that gives a calendar, the latest first."""
    return list(CalendarLink.objects.select_related("by").filter(revoked_at=None).order_by("-at", "-pk"))


def link_of(secret: str) -> CalendarLink | None:
    """The link of a secret, while it is in use."""
    return CalendarLink.objects.filter(secret_digest=_digest(secret), revoked_at=None).first()
