"""The rules of what is due when, and the calendars of it."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Any

from django.http import Http404, HttpRequest, HttpResponse
from ninja import Router, Schema, Status
from pydantic import Field

from fleet.calendar_feed import calendar_of
from fleet.models import Instrument
from fleet.selectors import find, statuses_under, yard
from fleet.services import mark_changed
from naveta_core.history.due_list import DueEntry, due_words
from naveta_core.history.events import BEARING_EVENTS
from naveta_core.history.rules import CLIMATES, default_rules
from naveta_core.history.rules import DueRule as CoreRule
from people.asker import asker
from plan import calendar_links, rules
from plan.models import CalendarLink, DueRule
from shared import clock
from shared.bodies import Body, Word
from shared.rights import require

router = Router(tags=["plan"])
Count = Annotated[int, Field(ge=0, lt=2**63)]


class RuleIn(Body):
    """A rule of what is due when; null: not by this."""

    check: Word
    kinds: Annotated[list[Word], Field(max_length=20)] = []
    model: Annotated[str, Field(max_length=120)] = ""
    climate: Word = ""
    every_days: Word | int | None = None
    after: Annotated[list[Word], Field(max_length=40)] = []
    before_large_jobs: bool = False
    temperature_step_c: Word | float | None = None
    version: int | None = None


class RuleOut(Schema):
    """A rule in force: an default one (no id), or one the firm has set, by whom and when."""

    id: int | None
    check: str
    title: str
    kinds: list[str]
    model: str
    climate: str
    every_days: int | None
    after: list[str]
    before_large_jobs: bool
    temperature_step_c: float | None
    by: str
    at: datetime | None
    version: int


class Named(Schema):
    """Something that can be chosen."""

    value: str
    label: str


class RulesOut(Schema):
    """Every rule in force, and what can be chosen in one."""

    rules: list[RuleOut]
    events: list[Named]
    climates: list[Named]


class RuleChange(Schema):
    """An instrument that would wait for another set of checks, or be due on another day."""

    tag: str
    before: str
    after: str


class RulePreview(Schema):
    """What a rule would change today: how many checks are due now and would be, and where."""

    looked_at: int
    due_now: int
    due_then: int
    changes: list[RuleChange]


def _rule(rule: CoreRule, own: DueRule | None) -> dict[str, Any]:
    return {
        **rule.model_dump(),
        "title": rules.title_of(rule.check),
        "id": own.pk if own else None,
        "by": own.by.name if own else "",
        "at": own.at if own else None,
        "version": own.version if own else 0,
    }


@router.get("/due-rules", response=RulesOut, operation_id="list_due_rules")
def list_rules(request: HttpRequest) -> Any:
    """Every rule in force: the firm's own, and the default rule of each check it has set none for."""
    own = [(rules.core_rule(rule), rule) for rule in rules.own_rules()]
    plain = {core.check for core, _ in own if core.scope == (core.check, (), "", "")}
    default = [_rule(rule, None) for rule in default_rules() if rule.check not in plain]
    return {
        "rules": sorted([*default, *(_rule(*pair) for pair in own)], key=lambda rule: rule["title"]),
        "events": [{"value": name, "label": words} for name, words in BEARING_EVENTS.items()],
        "climates": [{"value": name, "label": words} for name, words in CLIMATES.items()],
    }


@router.post("/due-rules/preview", response=RulePreview, operation_id="preview_due_rule")
def preview_rule(request: HttpRequest, payload: RuleIn) -> Any:
    """What a rule would make due today that is not due now, and the other way round (manager)."""
    require(asker(request), "manage-fleet")
    changed = rules.checked({**payload.dict(exclude={"version"})})
    today = clock.today()
    now = {row.one.tag: row.status for row in yard(today)}
    then = statuses_under(rules.rule_book(changed), today)
    changes = []
    for tag in sorted(now):
        before, after = (_due_text(status.due, changed.check) for status in (now[tag], then[tag]))
        if before != after:
            changes.append({"tag": tag, "before": before, "after": after})
    counts = [sum(_counts(status.due, changed.check) for status in found.values()) for found in (now, then)]
    return {"looked_at": len(now), "due_now": counts[0], "due_then": counts[1], "changes": changes}


def _due_text(due: list[DueEntry], check: str) -> str:
    return due_words(next((entry for entry in due if entry.check == check), None))


def _counts(due: list[DueEntry], check: str) -> int:
    return sum(entry.check == check and entry.state in ("due", "overdue") for entry in due)


@router.put("/due-rules", response=RuleOut, operation_id="set_due_rule")
def put_rule(request: HttpRequest, payload: RuleIn) -> Any:
    """Set a rule, or change the one there is of the same scope (manager)."""
    given = payload.dict()
    version = given.pop("version")
    rule = rules.set_rule(actor=asker(request), given=given, version=version)
    mark_changed(Instrument.objects.all())  # devices are given what is due by it
    return _rule(rules.core_rule(rule), rule)


@router.delete("/due-rules/{pk}", response={204: None}, operation_id="drop_due_rule")
def delete_rule(request: HttpRequest, pk: int) -> HttpResponse:
    """The default rule again (manager)."""
    rules.drop_rule(actor=asker(request), pk=pk)
    mark_changed(Instrument.objects.all())
    return HttpResponse(status=204)


class CalendarLinkIn(Body):
    """What a calendar is of: the fleet, a crew by its name, an instrument by its tag."""

    scope: Word
    name: Word = ""


class CalendarLinkOut(Schema):
    """A link in use, by whom and since when; its address is shown only when it is made."""

    id: int
    scope: str
    name: str
    by: str
    at: datetime


class MadeCalendarLink(CalendarLinkOut):
    """A link just made, with the path of its address."""

    path: str


def _link(link: CalendarLink) -> dict[str, Any]:
    return {"id": link.pk, "scope": link.scope, "name": link.name, "by": link.by.name, "at": link.at}


@router.get("/calendar-links", response=list[CalendarLinkOut], operation_id="list_calendar_links")
def list_calendar_links(request: HttpRequest) -> Any:
    """Every calendar link in use."""
    return [_link(link) for link in calendar_links.links_in_use()]


@router.post("/calendar-links", response={201: MadeCalendarLink}, operation_id="make_calendar_link")
def post_calendar_link(request: HttpRequest, payload: CalendarLinkIn) -> Any:
    """Make a secret address that gives a calendar to whoever has it."""
    name = find(payload.name).tag if payload.scope == "instrument" else payload.name
    link, secret = calendar_links.make_calendar_link(actor=asker(request), scope=payload.scope, name=name)
    return Status(201, {**_link(link), "path": f"/api/calendar/{secret}.ics"})


@router.delete("/calendar-links/{pk}", response={204: None}, operation_id="revoke_calendar_link")
def delete_calendar_link(request: HttpRequest, pk: int) -> HttpResponse:
    """Revoke a link: its address gives nothing any more."""
    calendar_links.revoke_calendar_link(actor=asker(request), pk=pk)
    return HttpResponse(status=204)


@router.get("/calendar/{secret}.ics", auth=None, operation_id="calendar_feed")
def get_calendar(request: HttpRequest, secret: str) -> HttpResponse:
    """The calendar of a link, for programs that subscribe to it; nothing for an address that is not in use."""
    link = calendar_links.link_of(secret)
    if link is None:
        raise Http404(secret)
    answer = HttpResponse(calendar_of(link), content_type="text/calendar; charset=utf-8")
    answer["Cache-Control"] = "private, max-age=3600"
    return answer
