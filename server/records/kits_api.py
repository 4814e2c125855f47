"""What is fit for a job."""

from __future__ import annotations

from datetime import date
from typing import Any

from django.http import HttpRequest
from ninja import Router, Schema

from naveta_core.jobs.kit import KitAnswer
from records.kits import kit_of

router = Router(tags=["plan"])


class JobKit(Schema):
    """A job, the day its instruments are looked at, and what is fit for it."""

    id: int
    name: str
    crew: str | None
    place: str
    starts_on: date
    on: date
    has_needs: bool
    """Whether the job states what it needs."""
    answer: KitAnswer


@router.get("/jobs/{pk}/kit", response=JobKit, operation_id="job_kit")
def get_kit(request: HttpRequest, pk: int) -> Any:
    """Every instrument that could go, whether it is fit, and the kit whose checks take the fewest minutes."""
    job, on, answer = kit_of(pk)
    return {
        "id": job.pk,
        "name": job.name,
        "crew": job.crew.name if job.crew else None,
        "place": job.place,
        "starts_on": job.starts_on,
        "on": on,
        "has_needs": bool(job.needs),
        "answer": answer,
    }
