"""Everybody of the firm as the manager keeps them: role, crew, what each may adjust, and the one-time link to a first password."""

from __future__ import annotations

from typing import Any

from django.contrib.auth.tokens import PasswordResetTokenGenerator
from django.db import transaction

from naveta_core.checks import KINDS
from naveta_core.errors import Fault, Refused, quote
from people.changes import record_changes, refuse_if_changed
from people.models import Crew, Person
from people.services import give_password, is_only_manager, somebody
from shared.rights import ROLES, Permission, may, require

LABELS = {"name": "name", "role": "role", "crew": "crew", "adjusts": "what they may adjust"}
NOT_THIS = Permission(
    allowed=False,
    code="not-this-adjustment",
    text="The equipment manager has not cleared you to adjust this. Ask someone who is.",
)
NOT_YOURS = Permission(
    allowed=False,
    code="not-yours-to-adjust",
    text="You are not allowed to make this adjustment: ask the equipment manager.",
)
LINK_WANTED = "a link that was not used yet and is not older than two days: ask the manager for a new one"


class OneTimeLink(PasswordResetTokenGenerator):
    """A token that dies with its first use: it is made from the password and the sessions it replaces."""

    key_salt = "naveta.one-time-link"

    def _make_hash_value(self, user: Any, timestamp: int) -> str:
        return f"{user.pk}{user.password}{user.sessions}{timestamp}"


_links = OneTimeLink()


def facts_of(person: Person) -> dict[str, Any]:
    """What the manager sets for a person."""
    return {
        "name": person.name,
        "role": person.role,
        "crew": person.crew.name if person.crew else None,
        "adjusts": person.adjusts,
    }


@transaction.atomic
def change_person(*, actor: Person, username: str, given: dict[str, Any], version: int | None) -> Person:
    """Another name, role, crew, other adjustments. Raises Forbidden, Refused, Conflict."""
    require(actor, "manage-people")
    person = somebody(username)
    faults = _faults(person, given)
    if faults:
        raise Refused(faults)
    refuse_if_changed(f"person:{person.username}", person, version)
    before = facts_of(person)
    if record_changes(actor, f"person:{person.username}", person, before=before, after=given, labels=LABELS):
        person.name = given["name"].strip()
        person.role = given["role"]
        person.crew = Crew.objects.get_or_create(name=given["crew"].strip())[0] if given["crew"] else None
        person.adjusts = given["adjusts"]
        person.save()
    return person


def _faults(person: Person, given: dict[str, Any]) -> list[Fault]:
    faults = []
    if not given["name"].strip():
        faults.append(Fault("name", "name", "nothing", "the person's name"))
    if given["role"] not in ROLES:
        faults.append(Fault("role", "role", quote(given["role"]), "one of " + ", ".join(ROLES)))
    unknown = [kind for kind in given["adjusts"] or [] if kind not in KINDS or KINDS[kind].adjust is None]
    if unknown:
        faults.append(Fault("adjusts", "what they may adjust", quote(unknown[0]), "a check that can be adjusted for"))
    if is_only_manager(person) and given["role"] != Person.Role.MANAGER:
        wanted = "another manager first: nobody else could let anybody in"
        faults.append(Fault("role", "role", quote(given["role"]), wanted))
    return faults


def may_adjust(person: Person, check: str) -> Permission:
    """Whether a person may adjust for what a kind of check found: by what the manager cleared them for, else by role."""
    answer = may(person, "adjust")
    if not answer.allowed:
        return answer
    if person.adjusts is not None:
        return answer if check in person.adjusts else NOT_THIS
    return answer if person.role in KINDS[check].who_adjusts else NOT_YOURS


@transaction.atomic
def make_link(*, actor: Person, username: str) -> str:
    """A one-time link for somebody to set a password of their own; their sessions end. Good for two days."""
    require(actor, "manage-people")
    person = somebody(username)
    if not person.is_active:
        raise Refused([Fault("username", "the person", person.name, "somebody who has not left: take them back first")])
    person.sessions += 1
    person.save()
    return f"{person.username}.{_links.make_token(person)}"


@transaction.atomic
def use_link(*, link: str, password: str) -> Person:
    """Set the password a one-time link is for. Raises Refused."""
    username, _, token = link.rpartition(".")
    person = Person.objects.select_for_update().filter(username=username, is_active=True).first()
    if person is None or not _links.check_token(person, token):
        raise Refused([Fault("link", "the link", "a link that is not good any more", LINK_WANTED)])
    return give_password(person, password)
