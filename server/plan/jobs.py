"""Jobs: what a crew does when, as far as checks and instruments depend on it."""

from __future__ import annotations

from dataclasses import replace
from datetime import date, timedelta
from typing import Any

from django.db import transaction
from django.db.models import Q, QuerySet
from pydantic import ValidationError as ModelError

from naveta_core.documents.envelope import units_context
from naveta_core.documents.model_faults import faults_of
from naveta_core.errors import Fault, Refused, path_in_words, quote
from naveta_core.history.due import Planned
from naveta_core.jobs.needs import JobNeeds, typed_needs
from naveta_core.units.formatting import length_words
from naveta_core.units.numbers import numeral
from people.changes import record_changes, refuse_if_changed
from people.firm import organisation
from people.models import Crew, Person
from plan.models import Job
from shared.rights import require

ABOUT = "plan:job"
LABELS = {
    "name": "name of the job",
    "crew": "crew",
    "starts_on": "first day",
    "ends_on": "last day",
    "large": "large job",
    "place": "place",
    "temperature_c": "temperature expected, °C",
    "needs": "what it needs",
}
MAX_DURATION = timedelta(days=3650)


def jobs_from(today: date) -> QuerySet[Job]:
    """Jobs that are not over, the next first."""
    return Job.objects.select_related("crew").filter(ends_on__gte=today).order_by("starts_on", "name")


def job_names(crew: str, day: date) -> list[str]:
    """The jobs of a crew that ran on a day."""
    rows = Job.objects.filter(crew__name=crew, starts_on__lte=day, ends_on__gte=day)
    return list(rows.order_by("starts_on", "name").values_list("name", flat=True))


def jobs_between(crew: str, first: date, last: date) -> QuerySet[Job]:
    """The jobs of a crew, and those of all crews, that ran on any of some days."""
    theirs = Q(crew__isnull=True) | Q(crew__name=crew)
    return Job.objects.filter(theirs, starts_on__lte=last, ends_on__gte=first).order_by("starts_on", "name")


class PlannedJobs:
    """The jobs that are not over, as the core takes them, by crew; a job of no crew concerns all."""

    def __init__(self, today: date) -> None:
        self._jobs = [
            (
                job.crew.name if job.crew else None,
                Planned(job.starts_on, job.large, job.name, job.temperature_c, job.ends_on),
            )
            for job in jobs_from(today)
        ]

    def of(self, crew: str | None) -> list[Planned]:
        """What is planned for an instrument a crew holds; one in the yard may go to any job."""
        return [job for owner, job in self._jobs if owner is None or crew is None or owner == crew]


@transaction.atomic
def set_job(*, actor: Person, given: dict[str, Any], pk: int | None = None, version: int | None = None) -> Job:
    """Plan a job, or change one. Raises Forbidden, Refused, Conflict."""
    require(actor, "plan-jobs")
    job = Job.objects.select_for_update().filter(pk=pk).first() if pk is not None else Job()
    if job is None:
        raise Refused([Fault("job", "the job", str(pk), "a job that is planned")])
    given = {
        **given,
        "temperature_c": _degrees(given["temperature_c"]),
        "needs": needs_from(given["needs"]) if given.get("needs") else {},
    }
    crew = _checked(given)
    if pk is not None:
        refuse_if_changed(f"{ABOUT}:{pk}", job, version)
    before = facts_of(job) if pk is not None else {}
    after = {**given, "name": given["name"].strip(), "crew": crew.name if crew else None}
    after["starts_on"], after["ends_on"] = given["starts_on"].isoformat(), given["ends_on"].isoformat()
    job.name, job.crew, job.starts_on, job.ends_on = after["name"], crew, given["starts_on"], given["ends_on"]
    job.large, job.place, job.temperature_c = given["large"], given["place"].strip(), given["temperature_c"]
    job.needs = given["needs"]
    job.save()
    if record_changes(actor, f"{ABOUT}:{job.pk}", job, before=before, after=after, labels=LABELS):
        job.save(update_fields=["version"])
    return job


@transaction.atomic
def drop_job(*, actor: Person, pk: int) -> None:
    """Take a job off the plan. Raises Forbidden, Refused."""
    require(actor, "plan-jobs")
    job = Job.objects.select_for_update().filter(pk=pk).first()
    if job is None:
        raise Refused([Fault("job", "the job", str(pk), "a job that is planned")])
    before = facts_of(job)
    record_changes(actor, f"{ABOUT}:{pk}", job, before=before, after=dict.fromkeys(before), labels=LABELS)
    job.delete()


def facts_of(job: Job) -> dict[str, Any]:
    """A job as it is compared and shown."""
    return {
        "name": job.name,
        "crew": job.crew.name if job.crew else None,
        "starts_on": job.starts_on.isoformat(),
        "ends_on": job.ends_on.isoformat(),
        "large": job.large,
        "place": job.place,
        "temperature_c": job.temperature_c,
        "needs": job.needs,
    }


def needs_of(job: Job) -> JobNeeds:
    """What a job needs; nothing where it says nothing."""
    return JobNeeds.model_validate(job.needs)


def typed(needs: JobNeeds) -> dict[str, str | bool]:
    """Needs as somebody of the firm would type them."""
    return typed_needs(needs, length_words(organisation().length_unit))


def typed_needs_of(job: Job) -> dict[str, str | bool]:
    """A job's needs as somebody of the firm would type them; empty where it says nothing."""
    return typed(needs_of(job)) if job.needs else {}


def needs_from(given: dict[str, Any]) -> dict[str, Any]:
    """Needs as typed, as they are stored. Raises Refused, naming each field."""
    known = {name: value for name, value in given.items() if value not in (None, "")}
    context = units_context({"units": {"length": organisation().length_unit}})
    try:
        needs = JobNeeds.model_validate(known, context=context)
    except ModelError as error:
        raise Refused([replace(f, path=f"needs.{f.path}") for f in faults_of(error, path_in_words)]) from None
    if not needs.given:
        wanted = "how well an angle, a point, a height or a difference of height is wanted"
        raise Refused([Fault("needs", "what the job needs", "nothing", wanted)])
    return needs.model_dump(mode="json", exclude_none=True)


def _degrees(typed: str | float | None) -> float | None:
    """A temperature as typed. Raises Refused."""
    if not isinstance(typed, str):
        return typed
    try:
        return numeral(typed).value
    except ValueError as error:
        raise Refused([Fault("temperature_c", "the temperature", quote(typed), str(error))]) from None


def _checked(given: dict[str, Any]) -> Crew | None:
    """The crew it is for. Raises Refused, naming each field."""
    faults = []
    if not given["name"].strip():
        faults.append(Fault("name", "the name of the job", "nothing", "a name, such as east abutment pile heads"))
    starts, ends = given["starts_on"], given["ends_on"]
    if ends < starts:
        faults.append(Fault("ends_on", "the last day", ends.isoformat(), f"a day from {starts:%d %B %Y} on"))
    elif ends - starts > MAX_DURATION:
        faults.append(Fault("ends_on", "the last day", ends.isoformat(), "a day within ten years of the first"))
    warmth = given["temperature_c"]
    if warmth is not None and not -60 <= warmth <= 60:
        faults.append(Fault("temperature_c", "the temperature", quote(str(warmth)), "−60 to 60 °C"))
    crew = Crew.objects.filter(name=given["crew"]).first() if given["crew"] else None
    if given["crew"] and crew is None:
        faults.append(Fault("crew", "the crew", quote(given["crew"]), "a crew there is, or nothing for all"))
    if faults:
        raise Refused(faults)
    return crew
