"""Models and instruments."""

from __future__ import annotations

from datetime import date
from typing import Annotated, Any

from django.http import HttpRequest
from ninja import Router, Schema, Status
from pydantic import Field

from fleet import selectors, services
from fleet.models import Instrument, InstrumentModel
from naveta_core.checks import kinds_for
from naveta_core.history.standing import summary
from naveta_core.results import StandingAnswer
from people.asker import asker
from shared import clock
from shared.bodies import Body, Note, Tag, Word

router = Router(tags=["fleet"])


class ModelOut(Schema):
    id: int
    maker: str
    name: str
    kind: str
    stated: dict[str, Any]
    limits: dict[str, Any]
    tips: str
    adjusting_tips: dict[str, str]


class NewModel(Body):
    maker: Word
    name: Word
    kind: Word
    stated: dict[str, Any] = {}
    limits: dict[str, Any] = {}
    tips: Note = ""
    adjusting_tips: dict[Word, Note] = {}
    """Where its screws are and with what they are turned, by kind of check."""


class LatestOut(Schema):
    """The latest judged check, enough for a limit bar."""

    id: str
    check: str
    at: str
    grade: str
    stage: str
    finding: str
    value: float
    u95: float
    limit: float
    text: str
    unit: str = "arcsec"
    title: str = "Two-peg test"


class InstrumentRow(Schema):
    """An instrument in the yard."""

    tag: str
    kind: str
    model: str
    place: str
    crew: str | None
    standing: StandingAnswer
    latest: LatestOut | None


class YardPage(Schema):
    summary: str
    instruments: list[InstrumentRow]
    counts: dict[str, int]
    next: str | None


class InstrumentOut(InstrumentRow):
    """An instrument's passport; `methods`: of each of its checks, those that suit it, the usual one first."""

    serial: str
    since: str
    stated: dict[str, Any]
    limits: dict[str, Any]
    tips: str
    adjusting_tips: dict[str, str]
    checks: list[str]
    methods: dict[str, list[str]]


class NewInstrument(Body):
    tag: Tag
    model: Annotated[int, Field(ge=0, lt=2**63)]
    serial: Word = ""
    place: Annotated[str, Field(max_length=80)] = ""
    crew: Word | None = None
    since: date | None = None
    """Its first day here; without one, today. Records from before it are refused."""


def row(entry: selectors.Row, latest: Any) -> dict[str, Any]:
    listed = entry.one
    return {
        "tag": listed.tag,
        "kind": listed.kind,
        "model": listed.model,
        "place": listed.place,
        "crew": listed.crew,
        "standing": entry.standing.model_dump(mode="json"),
        "latest": latest,
    }


def passport(instrument: Instrument) -> dict[str, Any]:
    model = instrument.model
    stated = selectors.stated_of(instrument)
    kinds = kinds_for(stated)
    return {
        "tag": instrument.tag,
        "kind": model.kind,
        "model": str(model),
        "place": instrument.place,
        "crew": instrument.crew.name if instrument.crew else None,
        "standing": selectors.standing_of(instrument, clock.today()).model_dump(mode="json"),
        "latest": instrument.derived.get("latest"),
        "serial": instrument.serial,
        "since": instrument.since.isoformat(),
        "stated": model.stated,
        "limits": model.limits,
        "tips": model.tips,
        "adjusting_tips": model.adjusting_tips,
        "checks": [kind.name for kind in kinds],
        "methods": {kind.name: kind.methods_for(stated) for kind in kinds},
    }


@router.get("/models", response=list[ModelOut], operation_id="list_models")
def list_models(request: HttpRequest) -> Any:
    """Every model, by maker and name."""
    return InstrumentModel.objects.order_by("maker", "name")


@router.post("/models", response={201: ModelOut}, operation_id="add_model")
def post_model(request: HttpRequest, payload: NewModel) -> Any:
    """Add a model (manager)."""
    return Status(201, services.add_model(actor=asker(request), **payload.dict()))


@router.get("/instruments", response=YardPage, operation_id="list_instruments")
def list_instruments(request: HttpRequest, q: str = "", cursor: str | None = None, limit: int = 100) -> Any:
    """The yard: what needs attention first. `q` searches tag, model, place and crew."""
    rows = selectors.yard(clock.today(), q)
    page, following = selectors.page_of(rows, cursor, limit)
    counts: dict[str, int] = {}
    for entry in rows:
        counts[entry.standing.state] = counts.get(entry.standing.state, 0) + 1
    latest = selectors.latest_of(page)
    listed = [row(entry, latest[entry.one.pk]) for entry in page]
    return {"summary": summary(counts), "instruments": listed, "counts": counts, "next": following}


@router.post("/instruments", response={201: InstrumentOut}, operation_id="add_instrument")
def post_instrument(request: HttpRequest, payload: NewInstrument) -> Any:
    """Add an instrument (manager)."""
    return Status(201, passport(services.add_instrument(actor=asker(request), **payload.dict())))


class Storing(Body):
    """How a model stores what was found; null: not stated."""

    stores: Word | None = None
    storable_arcsec: Word | float | None = None


@router.put("/instruments/{tag}/storing", response=InstrumentOut, operation_id="state_storing")
def put_storing(request: HttpRequest, tag: str, payload: Storing) -> Any:
    """State how an instrument's model stores what was found: the error or the correction, and how much (manager)."""
    found = services.state_storing(actor=asker(request), instrument=selectors.find(tag), payload=payload.dict())
    return passport(found)


@router.get("/instruments/{tag}", response=InstrumentOut, operation_id="get_instrument")
def get_instrument(request: HttpRequest, tag: str) -> Any:
    """One instrument's passport."""
    return passport(selectors.find(tag))
