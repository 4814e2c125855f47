"""What a manager sets: the firm, everybody in it, and the record of every change."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Any, Literal

from django.conf import settings
from django.contrib.auth import login
from django.http import HttpRequest
from ninja import Router, Schema
from ninja.errors import HttpError
from ninja.utils import check_csrf
from pydantic import Field

from naveta_core.documents.envelope import AngleUnit
from naveta_core.wording import DecimalMark, StaffWord
from people.asker import asker
from people.attempts import one_attempt, succeeded
from people.changes import written
from people.firm import change_firm, organisation, zone_of
from people.members import change_person, facts_of, make_link, use_link
from people.models import Organisation, Person, SettingChange
from people.services import everybody, let_go, reset_password
from shared.addresses import client_address
from shared.bodies import Body, Password, Word

router = Router(tags=["settings"])
MAX_CHANGES = 100


class Firm(Body):
    """What a firm sets; only what is given is changed. `version` as it was read: somebody else's change is not lost."""

    name: Annotated[str, Field(max_length=120)] = ""
    time_zone: Word = ""
    staff_word: StaffWord = "staff"
    decimal_mark: DecimalMark = "."
    length_unit: Literal["m", "ft", "usft"] = "m"
    angle_unit: AngleUnit = "dms"
    judge_raw: bool = False
    preferred_method: Annotated[Word, Field(description="A method of setting up; empty leaves it to each person.")] = ""
    work: dict[str, Any] = {}
    least_grade: Word = "watch"
    climate: Annotated[Word, Field(description="A climate rules are set for; empty: none.")] = ""
    version: int | None = None


class FirmOut(Firm):
    """The same as it is now; `zone_in_force` where none is set is the server's."""

    version: int
    zone_in_force: str


class PersonSettings(Body):
    """What the manager sets for a person; `adjusts`: kinds of check, or null for what the role may."""

    name: Annotated[str, Field(max_length=120)]
    role: Word
    crew: Word | None = None
    adjusts: Annotated[list[Word], Field(max_length=40)] | None = None
    version: int | None = None


class PersonRow(Schema):
    """Somebody in the manager's list, leavers too."""

    username: str
    name: str
    role: str
    crew: str | None
    adjusts: list[str] | None
    active: bool
    version: int


class ResetPassword(Body):
    """Another's new password."""

    password: Password


class Active(Body):
    """Whether somebody may sign in."""

    active: bool


class OneTimeLinkOut(Schema):
    """The end of the address `/join/…`; good once, for two days."""

    link: str
    hours: int


class Join(Body):
    """A password of one's own, set by a one-time link."""

    link: Annotated[str, Field(max_length=200)]
    password: Password


class Joined(Schema):
    """Who has set a password, and is signed in."""

    username: str
    name: str


class ChangeOut(Schema):
    """One setting changed."""

    about: str
    label: str
    before: str
    after: str
    by: str
    at: datetime


def row_of(person: Person) -> dict[str, Any]:
    return {"username": person.username, "active": person.is_active, "version": person.version, **facts_of(person)}


def _firm(firm: Organisation) -> dict[str, Any]:
    names = [name for name in Firm.model_fields if name != "version"]
    return {**{name: getattr(firm, name) for name in names}, "version": firm.version, "zone_in_force": zone_of(firm)}


@router.get("/organisation", response=FirmOut, operation_id="get_firm")
def get_firm(request: HttpRequest) -> Any:
    """What the firm has set."""
    return _firm(organisation())


@router.put("/organisation", response=FirmOut, operation_id="set_firm")
def put_firm(request: HttpRequest, payload: Firm) -> Any:
    """Set what is given of the firm's settings (manager)."""
    given = payload.dict(exclude_unset=True)
    version = given.pop("version", None)
    return _firm(change_firm(actor=asker(request), given=given, version=version))


@router.get("/people/all", response=list[PersonRow], operation_id="list_everybody")
def list_everybody(request: HttpRequest) -> Any:
    """Everybody, leavers too, by name (manager)."""
    return [row_of(person) for person in everybody(actor=asker(request))]


@router.put("/people/{username}", response=PersonRow, operation_id="set_person")
def put_person(request: HttpRequest, username: str, payload: PersonSettings) -> Any:
    """Another name, role or crew, other adjustments (manager)."""
    given = payload.dict()
    version = given.pop("version")
    return row_of(change_person(actor=asker(request), username=username, given=given, version=version))


@router.put("/people/{username}/password", response=PersonRow, operation_id="reset_password")
def put_persons_password(request: HttpRequest, username: str, payload: ResetPassword) -> Any:
    """Give somebody a new password; all their sessions end (manager)."""
    return row_of(reset_password(actor=asker(request), username=username, password=payload.password))


@router.put("/people/{username}/active", response=PersonRow, operation_id="let_go")
def put_active(request: HttpRequest, username: str, payload: Active) -> Any:
    """A leaver signs in no more, or somebody is taken back (manager)."""
    return row_of(let_go(actor=asker(request), username=username, active=payload.active))


@router.post("/people/{username}/link", response=OneTimeLinkOut, operation_id="make_link")
def post_link(request: HttpRequest, username: str) -> Any:
    """A one-time link for somebody to set a password of their own (manager); every session of theirs ends."""
    link = make_link(actor=asker(request), username=username)
    return {"link": link, "hours": settings.PASSWORD_RESET_TIMEOUT // 3600}


@router.post("/join", auth=None, response=Joined, operation_id="join")
def post_join(request: HttpRequest, payload: Join) -> Any:
    """Set a password by a one-time link, and be signed in."""
    if check_csrf(request):
        raise HttpError(403, "CSRF check failed")
    address = client_address(request)
    with one_attempt(address):
        person = use_link(link=payload.link, password=payload.password)
    succeeded(address)
    login(request, person, backend="django.contrib.auth.backends.ModelBackend")
    return {"username": person.username, "name": person.name}


@router.get("/changes", response=list[ChangeOut], operation_id="list_changes")
def list_changes(request: HttpRequest, about: str = "") -> Any:
    """Settings changed, newest first; `about` one thing, or all of a sort ("model:")."""
    rows = SettingChange.objects.select_related("by").order_by("-pk")
    found = rows.filter(about__startswith=about) if about else rows
    return [
        {
            "about": change.about,
            "label": change.label,
            "before": written(change.before),
            "after": written(change.after),
            "by": change.by.name,
            "at": change.at,
        }
        for change in found[:MAX_CHANGES]
    ]
