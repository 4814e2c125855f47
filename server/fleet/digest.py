"""The week in a message: what is due now and this week and why, what is on hold or away, which jobs begin."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date, timedelta
from email import message_from_bytes, policy
from pathlib import Path

from django.conf import settings
from django.core.exceptions import ValidationError
from django.core.mail import EmailMessage
from django.core.validators import validate_email
from django.db import transaction

from fleet.selectors import Row, yard
from naveta_core.errors import Fault, Refused, quote
from naveta_core.history.due_list import DueEntry, due_summary
from naveta_core.history.facts import day_words
from naveta_core.history.rules import SERVICE
from people.models import Person
from plan.jobs import jobs_from
from shared.errors import Conflict

WEEK = timedelta(days=6)


@dataclass(frozen=True, slots=True)
class Digest:
    """A message as it is sent."""

    subject: str
    text: str


def monday_of(day: date) -> date:
    """The Monday of a day's week."""
    return day - timedelta(days=day.weekday())


def digest_for(person: Person, today: date) -> Digest:
    """The week of a person: their crew's instruments, and for a manager or who has no crew everybody's."""
    crew = person.crew.name if person.crew and person.role != Person.Role.MANAGER else None
    rows = [row for row in yard(today) if crew is None or row.one.crew == crew]
    until = monday_of(today) + WEEK
    entries = [(row, entry) for row in rows for entry in row.status.due if entry.check != SERVICE and entry.due_on]
    now = [(row, entry) for row, entry in entries if entry.state in ("due", "overdue")]
    week = [pair for pair in entries if pair not in now and date.fromisoformat(pair[1].due_on or "") <= until]
    summary = due_summary(len(now), sum(entry.minutes for _, entry in now), len(week))
    parts = [
        f"{f'{crew} crew' if crew else 'All instruments'}, week of {day_words(monday_of(today))}",
        f"{summary}.",
        _section("Due now", _checks(now)),
        _section("Due this week", _checks(week)),
        _section("On hold", _standing(rows, "hold")),
        _section("Away", _standing(rows, "away")),
        _section("Jobs", _jobs(crew, today, until)),
        f"{settings.NAVETA.address}/plan" if settings.NAVETA.address else "",
    ]
    return Digest(f"Naveta: {summary[0].lower()}{summary[1:]}", "\n\n".join(part for part in parts if part) + "\n")


def _section(title: str, lines: list[str]) -> str:
    return "\n".join([title, *lines]) if lines else ""


def _checks(pairs: Iterable[tuple[Row, DueEntry]]) -> list[str]:
    ordered = sorted(pairs, key=lambda pair: (pair[1].due_on, pair[0].one.tag))
    return [
        f"- {row.one.tag} ({row.one.whereabouts}): {entry.title}, {entry.minutes} minutes. {entry.reasons[0].text}"
        for row, entry in ordered
    ]


def _standing(rows: list[Row], state: str) -> list[str]:
    return [f"- {row.one.tag}: {row.standing.reasons[0].text}" for row in rows if row.standing.state == state]


def _jobs(crew: str | None, today: date, until: date) -> list[str]:
    jobs = [
        job
        for job in jobs_from(today)
        if job.starts_on <= until and (crew is None or job.crew is None or job.crew.name == crew)
    ]
    return [
        f"- {job.name}, {job.crew.name + ' crew' if job.crew else 'all crews'}: {day_words(job.starts_on)} to {day_words(job.ends_on)}"
        for job in jobs
    ]


def send_digest(person: Person, today: date) -> Digest:
    """Send a person their week now. Raises Conflict where it cannot go anywhere."""
    if not settings.NAVETA.sends_mail:
        raise Conflict("no-mail", "No mail server is set on this server: see docs/running.md, NAVETA_SMTP_HOST.")
    if not person.email:
        raise Conflict("no-address", "Enter your e-mail address first.")
    digest = digest_for(person, today)
    try:
        EmailMessage(digest.subject, digest.text, to=[person.email]).send()
    except OSError as error:
        raise Conflict("mail-refused", f"The mail server refused the message: {error}.") from None
    return digest


def send_weekly(today: date) -> tuple[list[str], list[str]]:
    """Send everybody with an address the week, once a week however often it is called: who got it, and what went wrong."""
    week = monday_of(today).isoformat()
    sent, wrong = [], []
    for pk in Person.objects.filter(is_active=True).exclude(email="").order_by("pk").values_list("pk", flat=True):
        with transaction.atomic():
            person = Person.objects.select_for_update(of=("self",)).select_related("crew").get(pk=pk)
            if person.digest_week == week:
                continue
            try:
                send_digest(person, today)
            except Conflict as error:
                wrong.append(f"{person.name}: {error}")
                continue
            person.digest_week = week
            person.save(update_fields=["digest_week"])
            sent.append(person.name)
    return sent, wrong


def set_address(*, actor: Person, email: str) -> Person:
    """Where one's own weekly summary goes; empty: nowhere. Raises Refused."""
    address = email.strip()
    if address:
        try:
            validate_email(address)
        except ValidationError:
            raise Refused(
                [Fault("email", "your e-mail address", quote(email), "an address such as tam@example.org")]
            ) from None
    actor.email = address
    actor.save(update_fields=["email"])
    return actor


def sent_here(email: str) -> list[Digest]:
    """Messages the demo wrote into its folder for an address, the latest first."""
    folder = Path(settings.EMAIL_FILE_PATH or ".")
    if not settings.NAVETA.is_marked_demo or not folder.is_dir() or not email:
        return []
    files = sorted(folder.glob("*.log"), key=lambda path: path.stat().st_mtime, reverse=True)[:20]
    found = []
    for path in files:
        message = message_from_bytes(path.read_bytes(), policy=policy.default)
        if message["To"] == email:
            found.append(Digest(str(message["Subject"]), message.get_content().split("\n---")[0]))
    return found
