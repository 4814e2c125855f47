"""Practice: lessons, runs, progress, and who may work alone."""

from __future__ import annotations

import hashlib
from datetime import datetime
from typing import Any
from uuid import UUID

from django.http import HttpRequest, HttpResponse
from ninja import Router, Schema, Status
from pydantic import BaseModel, ValidationError

from naveta_core.documents.envelope import Part
from naveta_core.documents.json_io import canonical, read_json
from naveta_core.documents.model_faults import faults_of
from naveta_core.errors import Refused, path_in_words
from naveta_practice.instruments.fault_judging import FaultWork
from naveta_practice.instruments.faults import FaultLessonOut, FaultSituationOut
from naveta_practice.instruments.judging import InstrumentJudged, InstrumentWork
from naveta_practice.instruments.lesson import InstrumentLessonOut
from naveta_practice.instruments.looking import LOOKS
from naveta_practice.morning_judging import MorningJudged, MorningWork
from naveta_practice.mornings import MorningChoice, MorningLessonOut
from naveta_practice.results import LISTS, Gesture, Judged, LessonOut, PracticeAdvice, PracticeStep
from people.asker import asker
from practice import selectors, services
from shared.bodies import Body, Word
from shared.rights import require

router = Router(tags=["practice"])
REF = "#/components/schemas/{model}"


class RunIn(Part):
    """A lesson that was finished: every gesture as it ended."""

    model_config = LISTS

    lesson: str
    seed: int
    at: datetime
    seconds: float
    advised: bool = False
    gestures: list[Gesture] = []
    instrument: InstrumentWork | None = None
    """What was done with an instrument, where the lesson is one of those."""
    fault: FaultWork | None = None
    """What was checked and named, where a fault is to be found."""
    morning: MorningWork | None = None
    """What was taken to the job of a morning, and the checks before it."""


class RunOut(Schema):
    """A stored lesson in short."""

    id: str
    passed: bool


class RunRow(Schema):
    """A lesson in a list of progress."""

    id: str
    at: datetime
    seconds: float
    passed: bool
    measure: int
    advised: bool
    seed: int


class LessonProgress(Schema):
    """How somebody comes along in a lesson; mastered: the last three were good without advice."""

    lesson: str
    runs: int
    passed: int
    best_seconds: float | None
    mastered: bool
    recent: list[RunRow]


class HabitCount(Schema):
    """A habit and how often it was seen in the last runs."""

    code: str
    label: str
    times: int


class SignOffOut(Schema):
    """Something that may be done alone; by whom it was signed off and when, or nobody yet."""

    what: str
    label: str
    by: str | None
    at: datetime | None


class PracticeProgress(Schema):
    """How somebody comes along, what to practise next, what they may do alone."""

    username: str
    name: str
    crew: str | None
    role: str
    runs: int
    last: datetime | None
    lessons: list[LessonProgress]
    habits: list[HabitCount]
    next: str | None
    sign_offs: list[SignOffOut]


class SignOffIn(Body):
    """Who may do what alone."""

    username: Word
    what: Word


def practice_parts() -> dict[str, Any]:
    """The models of practice for the contract: the web asks its own core, and needs their types."""
    parts: dict[str, Any] = {}
    models: list[type[BaseModel]] = [PracticeStep, Judged, LessonOut, PracticeAdvice, RunIn, InstrumentJudged]
    models += [
        InstrumentLessonOut,
        FaultLessonOut,
        FaultSituationOut,
        MorningLessonOut,
        MorningChoice,
        MorningJudged,
        *LOOKS,
    ]
    for model in models:
        schema = model.model_json_schema(ref_template=REF)
        parts.update(schema.pop("$defs", {}))
        parts[model.__name__] = schema
    return parts


@router.put("/practice/runs/{uuid}", response={200: RunOut, 201: RunOut}, operation_id="save_run")
def put_run(request: HttpRequest, uuid: UUID) -> Any:
    """Store a finished lesson; it is judged here again. The same again is no second one."""
    data = read_json(request.body)
    try:
        sent = RunIn.model_validate(data)
    except ValidationError as error:
        raise Refused(faults_of(error, path_in_words)) from None
    digest = hashlib.sha256(canonical(data).encode()).hexdigest()
    run, new = services.save_run(
        actor=asker(request),
        identity=uuid,
        lesson=sent.lesson,
        seed=sent.seed,
        at=sent.at,
        seconds=sent.seconds,
        advised=sent.advised,
        gestures=sent.gestures,
        work=sent.instrument or sent.fault or sent.morning,
        sent_digest=digest,
    )
    return Status(201 if new else 200, {"id": str(run.pk), "passed": run.passed})


@router.get("/practice/runs/{uuid}", response=dict[str, Any], operation_id="get_run")
def get_run(request: HttpRequest, uuid: UUID) -> Any:
    """A lesson with its gestures, for its replay."""
    return selectors.whole(selectors.run_of(asker(request), str(uuid)))


@router.get("/practice/progress", response=PracticeProgress, operation_id="practice_progress")
def get_progress(request: HttpRequest, person: str = "") -> Any:
    """How one comes along; of somebody else for whoever signs people off."""
    return selectors.progress(selectors.seen_by(asker(request), person))


@router.get("/practice/people", response=list[PracticeProgress], operation_id="list_practising")
def list_people(request: HttpRequest) -> Any:
    """Everybody who practises or is a trainee (chiefs and manager)."""
    require(asker(request), "sign-off")
    return selectors.everybody(asker(request))


@router.post("/practice/sign-offs", response={201: SignOffOut}, operation_id="sign_off")
def post_sign_off(request: HttpRequest, payload: SignOffIn) -> Any:
    """Let somebody do something alone."""
    kept = services.sign_off(actor=asker(request), username=payload.username, what=payload.what)
    return Status(201, {"what": kept.what, "label": kept.label, "by": kept.by.name, "at": kept.at})


@router.delete("/practice/sign-offs/{username}/{what}", response={204: None}, operation_id="revoke_sign_off")
def delete_sign_off(request: HttpRequest, username: str, what: str) -> HttpResponse:
    """Take it back."""
    services.revoke(actor=asker(request), username=username, what=what)
    return HttpResponse(status=204)
