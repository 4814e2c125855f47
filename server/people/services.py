"""Changes to people. Each verb authorises, changes and saves in one transaction."""

from __future__ import annotations

from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError
from django.db import transaction
from django.db.models import QuerySet
from django.utils.crypto import salted_hmac

from naveta_core.errors import Fault, Refused, quote
from naveta_core.setup.methods import SET_UP_METHODS
from people.models import Crew, Organisation, Person
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


def _checked(password: str, person: Person) -> list[Fault]:
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
    faults += [Fault("new", "new password", entry.given, entry.wanted) for entry in _checked(new, person)]
    if faults:
        raise Refused(faults)
    person.set_password(new)
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
    person = somebody(username)
    faults = _checked(password, person)
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


@transaction.atomic
def let_go(*, actor: Person | None, username: str, active: bool) -> Person:
    """A leaver signs in no more, at once; the records keep the name. `active` takes somebody back. Raises Refused."""
    if actor is not None:
        require(actor, "manage-people")
    person = somebody(username)
    managers = Person.objects.filter(role=Person.Role.MANAGER, is_active=True)
    if not active and person.role == Person.Role.MANAGER and not managers.exclude(pk=person.pk).exists():
        raise Refused(
            [Fault("username", "the manager", person.name, "another manager first: nobody else could let anybody in")]
        )
    person.is_active = active
    person.sessions += 1
    person.save()
    return person


def organisation() -> Organisation:
    """What the firm has settled."""
    return Organisation.objects.order_by("pk").first() or Organisation()


@transaction.atomic
def set_preferred_method(*, actor: Person, method: str | None) -> Organisation:
    """The way of setting up that everybody is offered first; None leaves it to each person. Raises Refused."""
    require(actor, "manage-fleet")
    if method is not None and (method not in SET_UP_METHODS or SET_UP_METHODS[method].for_levels):
        wanted = (
            "one of "
            + ", ".join(sorted(name for name, entry in SET_UP_METHODS.items() if not entry.for_levels))
            + ", or null"
        )
        raise Refused([Fault("method", "the method", quote(method), wanted)])
    firm = organisation()
    firm.preferred_method = method or ""
    firm.save()
    return firm


@transaction.atomic
def set_raw_judging(*, actor: Person, judge_raw: bool) -> Organisation:
    """Whether two faces are judged by the raw differences 2c and 2i, as some firms do, or by half of them."""
    require(actor, "manage-fleet")
    firm = organisation()
    firm.judge_raw = judge_raw
    firm.save()
    return firm


@transaction.atomic
def set_writing(*, actor: Person, **writing: str) -> Organisation:
    """How the firm writes: `staff_word`, `decimal_mark`, `length_unit`, `angle_unit`. Raises Forbidden."""
    require(actor, "manage-fleet")
    firm = organisation()
    for name, value in writing.items():
        setattr(firm, name, value)
    firm.save()
    return firm


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
