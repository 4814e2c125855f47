"""Jobs: what a crew does when, and what it needs."""

from __future__ import annotations

from datetime import date
from typing import Annotated, Any

from django.http import HttpRequest, HttpResponse
from ninja import Router, Schema, Status
from pydantic import Field

from fleet.models import Instrument
from fleet.services import mark_changed
from naveta_core.jobs.needs import JOB_CLASSES
from people.asker import asker
from plan import jobs
from plan.models import Job
from shared import clock
from shared.bodies import Body, Word

router = Router(tags=["plan"])


class JobIn(Body):
    """A job; without a crew it concerns all."""

    name: Annotated[str, Field(max_length=120)]
    crew: Word | None = None
    starts_on: date
    ends_on: date
    large: bool = False
    place: Annotated[str, Field(max_length=80)] = ""
    temperature_c: Word | float | None = None
    """As typed, °C."""
    needs: Annotated[dict[Word, Word | float | bool | None], Field(max_length=30)] = {}
    """What it needs, as typed: lengths in the firm's unit; what is left out is as usual."""
    version: int | None = None


class JobOut(Schema):
    """A job that is not over."""

    id: int
    name: str
    crew: str | None
    starts_on: date
    ends_on: date
    large: bool
    place: str
    temperature_c: float | None
    needs: dict[str, str | bool]
    """As somebody would type it, in the firm's units; empty where nothing is stated."""
    version: int


class JobClassOut(Schema):
    """A class of jobs, with the needs it begins with as somebody would type them."""

    name: str
    label: str
    needs: dict[str, str | bool]


def _job(job: Job) -> dict[str, Any]:
    return {"id": job.pk, "version": job.version, **jobs.facts_of(job), "needs": jobs.typed_needs_of(job)}


@router.get("/jobs", response=list[JobOut], operation_id="list_jobs")
def list_jobs(request: HttpRequest) -> Any:
    """Every job that is not over, the next first."""
    return [_job(job) for job in jobs.jobs_from(clock.today())]


@router.get("/job-classes", response=list[JobClassOut], operation_id="list_job_classes")
def list_job_classes(request: HttpRequest) -> Any:
    """Classes of jobs a job's needs can begin from."""
    return [{"name": each.name, "label": each.label, "needs": jobs.typed(each.needs)} for each in JOB_CLASSES]


@router.post("/jobs", response={201: JobOut}, operation_id="plan_job")
def post_job(request: HttpRequest, payload: JobIn) -> Any:
    """Plan a job."""
    job = jobs.set_job(actor=asker(request), given=payload.dict(exclude={"version"}))
    mark_changed(Instrument.objects.all())
    return Status(201, _job(job))


@router.put("/jobs/{pk}", response=JobOut, operation_id="set_job")
def put_job(request: HttpRequest, pk: int, payload: JobIn) -> Any:
    """Change a job."""
    given = payload.dict()
    version = given.pop("version")
    job = jobs.set_job(actor=asker(request), given=given, pk=pk, version=version)
    mark_changed(Instrument.objects.all())
    return _job(job)


@router.delete("/jobs/{pk}", response={204: None}, operation_id="drop_job")
def delete_job(request: HttpRequest, pk: int) -> HttpResponse:
    """Take a job off the plan."""
    jobs.drop_job(actor=asker(request), pk=pk)
    mark_changed(Instrument.objects.all())
    return HttpResponse(status=204)
