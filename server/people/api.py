"""Sign-in and the people list."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Any, Literal, cast, get_args

from django.conf import settings
from django.contrib.auth import authenticate, login, logout, update_session_auth_hash
from django.http import HttpRequest, HttpResponse
from django.middleware.csrf import get_token
from ninja import Router, Schema, Status
from ninja.errors import HttpError
from ninja.utils import check_csrf
from pydantic import Field

from naveta_core import __version__
from naveta_core.documents.envelope import AngleUnit
from naveta_core.glossary import Term, glossary
from naveta_core.history.events import EVENT_KINDS, EventKind
from naveta_core.wording import (
    GUIDANCE,
    METRES_PATTERN,
    SENTENCES,
    VERBATIM,
    DecimalMark,
    LengthUnit,
    StaffWord,
    Wording,
)
from people.asker import asker
from people.attempts import forget_old, one_attempt, succeeded
from people.firm import organisation, zone_of
from people.models import Organisation, Person
from people.services import (
    add_person,
    change_password,
    device_keys,
    end_sessions,
    keep_views,
)
from shared import clock
from shared.addresses import client_address, forwarded
from shared.bodies import Body, Password, Word
from shared.errors import Later, problem
from shared.rights import Right, may
from shared.zones import offsets_of

router = Router(tags=["people"])
LOOPBACK_ADDRESSES = ("127.0.0.1", "::1")
SHUT_OUT_S = 900


class PersonOut(Schema):
    """Somebody, as others see them."""

    username: str
    name: str
    role: str
    crew: str | None

    @staticmethod
    def resolve_crew(person: Person) -> str | None:
        return person.crew.name if person.crew else None


class Allowed(Schema):
    """Whether the signed-in person may do an right, else the sentence that says why not."""

    allowed: bool
    code: str
    text: str


class DeviceKeys(Schema):
    """Keys (AES, hexadecimal) for what a device keeps: a person's own work, and work left for a chief of the firm."""

    own: str
    firm: str


class SessionOut(Schema):
    """Who is here, what they may do, and what the page needs to know of the server."""

    person: PersonOut | None
    rights: dict[str, Allowed]
    demo: bool
    demo_people: list[PersonOut]
    csrf_token: str
    device_keys: DeviceKeys | None
    preferred_method: str | None
    """The way of setting up that the firm offers first."""
    judge_raw: bool
    """Whether the firm judges the two-face check by the raw differences."""
    writing: WritingOut
    views: list[FleetView]
    """Views of the fleet this person keeps."""
    firm_name: str
    work: dict[str, Any]
    """What the work usually is: a document's `work`."""
    adjusts: list[str] | None
    """Kinds of check this person may adjust; null: as the role may."""
    events: list[EventKind]
    """What can happen to an instrument, and what follows from it."""
    now: datetime
    time_zone: str
    zone_offsets: list[list[int]]
    """[minute, ahead]: from which minute on (UTC, since 1970) that zone is how many minutes ahead of UTC."""
    core_version: str


class FleetView(Body):
    """What the table of the fleet or the ledger shows, kept by name; `text` as its address holds it."""

    place: Literal["fleet", "ledger"] = "fleet"
    name: Annotated[str, Field(min_length=1, max_length=40)]
    text: Annotated[str, Field(max_length=1000)]


class FleetViews(Body):
    """A person's own views, in their order."""

    views: Annotated[list[FleetView], Field(max_length=30)]


class SignIn(Body):
    """Name and password; in the demo the name alone."""

    username: Word
    password: Password | None = None


class ChangePassword(Body):
    """One's own password until now, and the new one."""

    old: Password
    new: Password


class Writing(Body):
    """How the firm writes: what a levelling staff is called, the mark before decimals, units new documents begin in."""

    staff_word: StaffWord
    decimal_mark: DecimalMark
    length_unit: Literal["m", "ft", "usft"]
    angle_unit: AngleUnit


class WritingOut(Writing):
    """The same with the words a page replaces before anybody reads it, and the members of an answer it replaces them in."""

    replacements: dict[str, str]
    sentences: list[str]
    guidance: list[str]
    distances: str
    """How a distance looks in directions, as a pattern."""
    per_metre: float
    """How many of the firm's units a metre is."""
    verbatim: list[str]


class NewPerson(Body):
    username: Word
    name: Annotated[str, Field(max_length=120)]
    role: Word
    crew: Word | None = None
    password: Password | None = None


def one_touch(request: HttpRequest) -> bool:
    """Sign-in without password: the demo, in a marked folder, from this machine only."""
    here = request.META.get("REMOTE_ADDR") in LOOPBACK_ADDRESSES and not forwarded(request)
    return bool(settings.NAVETA.is_marked_demo) and here


def _writing(firm: Organisation) -> dict[str, Any]:
    wording = Wording(
        cast(StaffWord, firm.staff_word), cast(DecimalMark, firm.decimal_mark), cast(LengthUnit, firm.length_unit)
    )
    names = ("staff_word", "decimal_mark", "length_unit", "angle_unit")
    stored = {name: getattr(firm, name) for name in names}
    members = {"sentences": sorted(SENTENCES), "guidance": sorted(GUIDANCE), "verbatim": sorted(VERBATIM)}
    distances = {"distances": METRES_PATTERN, "per_metre": wording.per_metre}
    return {**stored, "replacements": wording.replacements(), **members, **distances}


def _session(request: HttpRequest) -> dict[str, Any]:
    person = request.user if request.user.is_authenticated else None
    firm = organisation()
    rights = {right: may(person, right) for right in get_args(Right)}
    return {
        "person": person,
        "rights": {right: {"allowed": a.allowed, "code": a.code, "text": a.text} for right, a in rights.items()},
        "demo": one_touch(request),
        "demo_people": list(Person.objects.select_related("crew").order_by("id")) if one_touch(request) else [],
        "csrf_token": get_token(request),
        "device_keys": device_keys(person) if person else None,
        "preferred_method": firm.preferred_method or None,
        "judge_raw": firm.judge_raw,
        "writing": _writing(firm),
        "views": person.views if person else [],
        "events": [event.model_dump() for event in EVENT_KINDS],
        "now": clock.now(),
        "firm_name": firm.name,
        "work": firm.work,
        "adjusts": person.adjusts if person else None,
        "time_zone": zone_of(firm),
        "zone_offsets": offsets_of(zone_of(firm), clock.today().year),
        "core_version": __version__,
    }


@router.get("/session", auth=None, response=SessionOut, operation_id="get_session")
def get_session(request: HttpRequest) -> Any:
    """Who is signed in; with the token every change must carry."""
    return _session(request)


@router.post("/session", auth=None, response=SessionOut, operation_id="sign_in")
def sign_in(request: HttpRequest, payload: SignIn) -> Any:
    """Sign in."""
    if check_csrf(request):
        raise HttpError(403, "CSRF check failed")
    if one_touch(request) and payload.password is None:
        person = Person.objects.filter(username=payload.username, is_active=True).first()
    else:
        address = client_address(request)
        with one_attempt(address):
            person = authenticate(request, username=payload.username, password=payload.password or "")
        if getattr(request, "axes_locked_out", False):
            raise Later("too-many", "Too many tries. Wait a quarter of an hour.", SHUT_OUT_S, status=429)
        if person is not None:
            succeeded(address)
    if person is None:
        forget_old()
        return problem(401, "wrong-sign-in", "Wrong name or password.")
    login(request, person, backend="django.contrib.auth.backends.ModelBackend")
    return _session(request)


@router.delete("/session", response={204: None}, operation_id="sign_out")
def sign_out(request: HttpRequest) -> HttpResponse:
    """Sign out on this device."""
    logout(request)
    return HttpResponse(status=204)


@router.put("/session/password", response=SessionOut, operation_id="change_password")
def put_password(request: HttpRequest, payload: ChangePassword) -> Any:
    """Change one's own password; this session goes on, every other one of theirs ends."""
    with one_attempt(client_address(request)):
        person = change_password(actor=asker(request), old=payload.old, new=payload.new)
    update_session_auth_hash(request, person)
    return _session(request)


@router.put("/session/views", response=SessionOut, operation_id="keep_views")
def put_views(request: HttpRequest, payload: FleetViews) -> Any:
    """Keep one's own views of fleet and ledger: all of them, as they are from now on."""
    keep_views(actor=asker(request), views=[view.dict() for view in payload.views])
    return _session(request)


@router.delete("/people/{username}/sessions", response={204: None}, operation_id="end_sessions")
def delete_sessions(request: HttpRequest, username: str) -> HttpResponse:
    """End every session of somebody, on a lost tablet too: one's own, or by the manager anybody's."""
    end_sessions(actor=asker(request), username=username)
    return HttpResponse(status=204)


@router.get("/glossary", response=list[Term], operation_id="glossary")
def get_glossary(request: HttpRequest) -> Any:
    """Every term: what it means, what else it is called, which check measures it."""
    return [term.plain() for term in glossary()]


@router.get("/people", response=list[PersonOut], operation_id="list_people")
def list_people(request: HttpRequest) -> Any:
    """Everybody, by name."""
    return Person.objects.select_related("crew").filter(is_active=True).order_by("name")


@router.post("/people", response={201: PersonOut}, operation_id="add_person")
def post_person(request: HttpRequest, payload: NewPerson) -> Any:
    """Add somebody (manager)."""
    person = add_person(actor=asker(request), **payload.dict())
    return Status(201, person)
