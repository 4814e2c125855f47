"""Models and instruments."""

from __future__ import annotations

from datetime import date
from typing import Annotated, Any

from django.db.models import Count
from django.http import HttpRequest, HttpResponse
from ninja import Router, Schema, Status
from pydantic import Field

from fleet import selectors, services
from fleet.attachments import AttachmentOut, attached
from fleet.labels import SHEETS, Label, labels_pdf
from fleet.listing import fleet_text
from fleet.models import Instrument, InstrumentModel
from naveta_core.checks import KINDS, kinds_for
from naveta_core.documents.envelope import Instrument as Stated
from naveta_core.engine.hints import hint_fields
from naveta_core.history.case_lists import DepartureItem, contents_of, departure_list, missing_text
from naveta_core.history.service import StoredSetting, stored_settings
from naveta_core.history.standing import summary
from naveta_core.jobs.unstated import unstated
from naveta_core.results import Reason, StandingAnswer, reasons
from people.asker import asker
from shared import clock
from shared.bodies import Body, Line, Note, Tag, Word

router = Router(tags=["fleet"])


class ModelOut(Schema):
    id: int
    maker: str
    name: str
    kind: str
    stated: dict[str, Any]
    limits: dict[str, Any]
    work_limits: dict[str, Any]
    tips: str
    adjusting_tips: dict[str, str]
    contents: list[str]
    """What belongs into its case; empty takes `usual_contents`."""
    usual_contents: list[str]
    unstated: list[Reason]
    """Facts that are not stated, each with what depends on it."""
    version: int
    instruments: int = 0


class HintFieldOut(Schema):
    """A step a model may have a hint for."""

    name: str
    label: str
    example: str
    kinds: list[str]


class ModelFacts(Body):
    """What is stated of a model, at any time."""

    maker: Word
    name: Word
    stated: dict[str, Any] = {}
    tips: Note = ""
    adjusting_tips: dict[Word, Note] = {}
    """Where its screws are and with what they are turned, by kind of check."""
    contents: Annotated[list[Line], Field(max_length=40)] = []
    """What belongs into its case; empty: as usual for its kind."""


class NewModel(ModelFacts):
    """A model with its kind, which does not change."""

    kind: Word


class ChangedModel(ModelFacts):
    """The same of a model there is; `version` as it was read."""

    version: int | None = None


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


class NeededOut(Schema):
    """A check an instrument waits for before it goes out."""

    check: str
    title: str
    minutes: int


class FleetRow(Schema):
    """An instrument in a list of thousands: what one compares by."""

    tag: str
    kind: str
    model: str
    place: str
    crew: str | None
    serial: str
    since: str
    state: str
    reasons: list[str]
    needed: list[NeededOut]
    due_on: str | None
    due_check: str
    latest: LatestOut | None


class FleetOut(Schema):
    """The whole fleet, what needs attention first; what it needs in a sentence, and for each crew its own."""

    rows: list[FleetRow]
    summaries: dict[str, str]


class MissingOut(Schema):
    """What was missing from a case when somebody last looked; nothing, where `items` is empty."""

    items: list[str]
    at: str
    by: str
    text: str


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
    contents: list[str]
    """What belongs into its case."""
    departure: list[DepartureItem]
    """What has to be ready before leaving with it."""
    stored_settings: list[StoredSetting]
    """What a service can reset in it."""
    missing: MissingOut | None
    photograph: str | None
    """The path of the picture of how it lies in its case."""
    certificates: list[AttachmentOut]


class NewInstrument(Body):
    tag: Tag
    model: Annotated[int, Field(ge=0, lt=2**63)]
    serial: Word = ""
    place: Annotated[str, Field(max_length=80)] = ""
    crew: Word | None = None
    since: date | None = None
    """Its first day here; without one, today. Records from before it are refused."""


def row(entry: selectors.Row) -> dict[str, Any]:
    return {
        **entry.one.as_dict(),
        "standing": entry.standing.model_dump(mode="json"),
        "latest": entry.latest,
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
        "contents": contents_of(model.kind, model.contents),
        "departure": [item.plain() for item in departure_list(model.kind)],
        "stored_settings": [setting.plain() for setting in stored_settings(model.kind)],
        "missing": {**instrument.missing, "text": missing_text(instrument.missing["items"])}
        if instrument.missing
        else None,
        **attached(instrument),
    }


def model_facts(model: InstrumentModel) -> dict[str, Any]:
    names = (
        "id",
        "maker",
        "name",
        "kind",
        "stated",
        "limits",
        "work_limits",
        "tips",
        "adjusting_tips",
        "contents",
        "version",
    )
    facts = Stated.model_validate({"kind": model.kind, **model.stated})
    return {
        **{name: getattr(model, name) for name in names},
        "usual_contents": contents_of(model.kind),
        "unstated": reasons(unstated(facts)),
    }


@router.get("/models", response=list[ModelOut], operation_id="list_models")
def list_models(request: HttpRequest) -> Any:
    """Every model, by maker and name, with how many instruments there are of it."""
    counts = dict(Instrument.objects.order_by().values_list("model").annotate(Count("pk")))
    models = InstrumentModel.objects.order_by("maker", "name")
    return [{**model_facts(model), "instruments": counts.get(model.pk, 0)} for model in models]


@router.post("/models", response={201: ModelOut}, operation_id="add_model")
def post_model(request: HttpRequest, payload: NewModel) -> Any:
    """Add a model (manager)."""
    return Status(201, model_facts(services.add_model(actor=asker(request), **payload.dict())))


@router.get("/models/hints", response=list[HintFieldOut], operation_id="list_hints")
def list_hints(request: HttpRequest) -> Any:
    """Steps a model may have a hint for: the adjusting screws of its checks, focus, laser, electronic level."""
    return [field.as_dict() for field in hint_fields(KINDS)]


@router.put("/models/{pk}", response=ModelOut, operation_id="set_model")
def put_model(request: HttpRequest, pk: int, payload: ChangedModel) -> Any:
    """State other facts of a model (manager)."""
    given = payload.dict()
    version = given.pop("version")
    return model_facts(services.change_model(actor=asker(request), pk=pk, given=given, version=version))


@router.get("/instruments", response=YardPage, operation_id="list_instruments")
def list_instruments(request: HttpRequest, q: str = "", cursor: str | None = None, limit: int = 100) -> Any:
    """The yard: what needs attention first. `q` searches tag, model, place and crew."""
    rows = selectors.yard(clock.today(), q)
    page, following = selectors.page_of(rows, cursor, limit)
    counts: dict[str, int] = {}
    for entry in rows:
        counts[entry.standing.state] = counts.get(entry.standing.state, 0) + 1
    listed = [row(entry) for entry in page]
    return {"summary": summary(counts), "instruments": listed, "counts": counts, "next": following}


@router.get("/fleet", response=FleetOut, operation_id="list_fleet")
def list_fleet(request: HttpRequest) -> HttpResponse:
    """Every instrument with what one compares by, in one answer: tables of thousands sort and filter it themselves."""
    return HttpResponse(fleet_text(clock.today()), content_type="application/json")


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


class LabelSize(Schema):
    """A sheet of labels that can be printed on, and how many it holds."""

    value: str
    label: str
    count: int


@router.get("/labels/sizes", response=list[LabelSize], operation_id="label_sizes")
def label_sizes(request: HttpRequest) -> Any:
    """Sheets of labels there are."""
    return [{"value": name, "label": sheet.title, "count": sheet.count} for name, sheet in SHEETS.items()]


@router.get("/labels", operation_id="print_labels")
def print_labels(
    request: HttpRequest,
    tags: Annotated[str, Field(max_length=20_000)] = "",
    size: Word = "a4-24",
    first: int = 1,
) -> HttpResponse:
    """Labels as PDF: tags with commas between them, a size, and the first free label of the sheet."""
    typed = [part.strip() for part in tags.split(",") if part.strip()]
    found = {one.tag: one for one in map(selectors.find, typed)}.values()
    labels = [Label(one.tag, str(one.model), request.build_absolute_uri(f"/instruments/{one.tag}")) for one in found]
    answer = HttpResponse(labels_pdf(labels, size, first), content_type="application/pdf")
    answer["Content-Disposition"] = 'inline; filename="labels.pdf"'
    return answer
