"""Changes to people. Each verb authorises, changes and saves in one transaction."""

from __future__ import annotations

from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError
from django.db import transaction
from django.db.models import QuerySet
from django.utils.crypto import salted_hmac

from naveta_core.errors import Fault, Refused, quote
from people.models import Crew, Person
from shared.rights import ROLES, require


@transaction.atomic
def add_person(
    *, actor: Person | None, username: str, name: str, role: str, crew: str | None, password: str | None
) -> Person:
    """Add somebody. `actor` None is the command line, which runs on the machine itself (first manager, demo)."""
    if actor is not None:
        require(actor, "manage-fleet")
    faults = []
    username = username.strip().lower()
    if not username or Person.objects.filter(username=username).exists():
        faults.append(Fault("username", "sign-in name", quote(username), "a sign-in name nobody has yet"))
    if not name.strip():
        faults.append(Fault("name", "name", "nothing", "the person's name"))
    if role not in ROLES:
        faults.append(Fault("role", "role", quote(role), "one of " + ", ".join(ROLES)))
    person = Person(username=username, name=name.strip(), role=role)
    if password is not None:
        try:
            validate_password(password, person)
        except ValidationError as error:
            faults.append(Fault("password", "password", "a password", " ".join(error.messages)))
    if faults:
        raise Refused(faults)
    if crew:
        person.crew, _ = Crew.objects.get_or_create(name=crew)
    if password is None:
        person.set_unusable_password()
    else:
        person.set_password(password)
    person.save()
    return person


def password_faults(password: str, person: Person) -> list[Fault]:
    """What is wrong with a password for somebody."""
    try:
        validate_password(password, person)
    except ValidationError as error:
        return [Fault("password", "password", "a password", " ".join(error.messages))]
    return []


@transaction.atomic
def change_password(*, actor: Person, old: str, new: str) -> Person:
    """One's own password; every other session of theirs ends. Raises Refused."""
    person = Person.objects.select_for_update().get(pk=actor.pk)
    faults = (
        []
        if person.check_password(old)
        else [Fault("old", "password until now", "a password", "your password until now")]
    )
    faults += [Fault("new", "new password", entry.given, entry.wanted) for entry in password_faults(new, person)]
    if faults:
        raise Refused(faults)
    person.set_password(new)
    person.save()
    return person


@transaction.atomic
def keep_views(*, actor: Person, views: list[dict[str, str]]) -> Person:
    """One's own views of fleet and ledger. Raises Refused where two of one place have one name."""
    named = [(view["place"], view["name"].strip()) for view in views]
    if len(set(named)) < len(named):
        again = next(name for place, name in named if named.count((place, name)) > 1)
        raise Refused([Fault("views", "the name of a view", quote(again), "another name: there is one of this name")])
    person = Person.objects.select_for_update().get(pk=actor.pk)
    person.views = actor.views = [{**view, "name": view["name"].strip()} for view in views]
    person.save()
    return person


def somebody(username: str) -> Person:
    """A person by sign-in name, held until the transaction ends. Raises Refused."""
    person = Person.objects.select_for_update().filter(username=username.strip().lower()).first()
    if person is None:
        raise Refused([Fault("username", "sign-in name", quote(username), "a person of your firm")])
    return person


@transaction.atomic
def reset_password(*, actor: Person | None, username: str, password: str) -> Person:
    """Another's password; all their sessions end. `actor` None is the command line on the machine itself."""
    if actor is not None:
        require(actor, "manage-people")
    return give_password(somebody(username), password)


def give_password(person: Person, password: str) -> Person:
    """Another password from now on; every session of theirs ends. Within the caller's transaction. Raises Refused."""
    faults = password_faults(password, person)
    if faults:
        raise Refused(faults)
    person.set_password(password)
    person.sessions += 1
    person.save()
    return person


@transaction.atomic
def end_sessions(*, actor: Person | None, username: str) -> Person:
    """End every session of somebody, on a lost tablet too: one's own, or by the manager anybody's."""
    person = somebody(username)
    if actor is not None and actor.pk != person.pk:
        require(actor, "manage-people")
    person.sessions += 1
    person.save()
    return person


def is_only_manager(person: Person) -> bool:
    """Whether nobody else could let anybody in."""
    others = Person.objects.filter(role=Person.Role.MANAGER, is_active=True).exclude(pk=person.pk)
    return person.role == Person.Role.MANAGER and not others.exists()


@transaction.atomic
def let_go(*, actor: Person | None, username: str, active: bool) -> Person:
    """A leaver signs in no more, at once; the records keep the name. `active` takes somebody back. Raises Refused."""
    if actor is not None:
        require(actor, "manage-people")
    person = somebody(username)
    if not active and is_only_manager(person):
        raise Refused(
            [Fault("username", "the manager", person.name, "another manager first: nobody else could let anybody in")]
        )
    person.is_active = active
    person.sessions += 1
    person.save()
    return person


def device_keys(person: Person) -> dict[str, str]:
    """Keys for what a device keeps of a person and of the firm, the same at every sign-in.

    Whoever is signed out on a shared tablet has none of them: their unsent work cannot be read there.
    """
    return {"own": _derived(f"person/{person.pk}"), "firm": _derived("firm")}


def _derived(name: str) -> str:
    return salted_hmac("naveta.device", name, algorithm="sha256").hexdigest()


def everybody(*, actor: Person) -> QuerySet[Person]:
    """Everybody, leavers too, by name, for those who may manage people. Raises Forbidden."""
    require(actor, "manage-people")
    return Person.objects.select_related("crew").order_by("-is_active", "name")
