"""Checks, events, records. Bodies that hold a document are read raw, by the core's parser."""

from __future__ import annotations

import json
from functools import cache
from typing import Annotated, Any
from uuid import UUID

from django.http import HttpRequest, HttpResponse, StreamingHttpResponse
from ninja import Router
from pydantic import Field, TypeAdapter

from fleet import selectors as fleet_selectors
from fleet.models import Instrument
from fleet.tags import normalise_tag
from naveta_core import __version__, dispatch
from naveta_core.checks import KINDS
from naveta_core.documents.instrument_context import InstrumentContext, complete
from naveta_core.documents.json_io import read_json
from naveta_core.errors import Fault, Refused
from naveta_core.orientation.results import OrientationPreview
from naveta_core.readiness.results import ReadinessPreview
from naveta_core.registry import DOCUMENTS, document_of
from naveta_core.results import Adjusting, Answer, Preview
from naveta_core.setup.advisors import advise
from naveta_core.setup.methods import fitting
from naveta_core.setup.results import Advice, Guide, SetUpMethods, SetUpPreview
from people.asker import asker
from people.firm import organisation
from records import integrity, selectors, services
from records import schemas as out
from records.impact import impact_review_of
from records.instrument_context import context_for
from records.models import Record
from records.raw_bodies import raw_body
from records.requests import (
    AdjustingIn,
    AdviseIn,
    AmendIn,
    AsLeftIn,
    BeginIn,
    CheckIn,
    EventIn,
    GuideIn,
    MethodIn,
    PreviewIn,
    Sent,
    read_entry,
)
from shared import clock
from shared.bodies import Body, Table
from shared.errors import answer_json

router = Router(tags=["bench"])
Cursor = Annotated[int, Field(ge=0, lt=2**62)]


def _sent(request: HttpRequest, model: type[Sent]) -> tuple[Sent, str]:
    """The body as the model it should be, and the digest that says it from another."""
    data = read_json(request.body)
    return read_entry(model, data), services.digest_of_sent(data)


def _context(tag: str | None, document: Any) -> InstrumentContext | None:
    return context_for(tag, document) if tag else None


@router.get("/kinds", response=list[out.KindOut], operation_id="list_kinds")
def list_kinds(request: HttpRequest) -> Any:
    """Every kind of check: what it is for, what to bring, its methods with their forms, its cautions."""
    return HttpResponse(_written(tuple(KINDS)), content_type="application/json")


@cache
def _written(kinds: tuple[str, ...]) -> bytes:
    """The answer as it is sent: the core's, the same for everybody, so written once for the kinds there are."""
    return TypeAdapter(list[out.KindOut]).dump_json([out.KindOut(**KINDS[kind].about()) for kind in kinds])


@router.get("/kinds/{kind}/schema", response=dict[str, Any], operation_id="kind_schema")
def kind_schema(request: HttpRequest, kind: str) -> Any:
    """JSON Schema of a kind's document."""
    return dispatch.kind_of(kind).document.model_json_schema()


AnyPreview = Preview | SetUpPreview | OrientationPreview | ReadinessPreview


@router.post("/preview", response=AnyPreview, operation_id="preview", openapi_extra=raw_body(PreviewIn))
def preview(request: HttpRequest) -> HttpResponse:
    """What can be said already of a document of any kind as far as it goes. Stores nothing."""
    sent = read_entry(PreviewIn, read_json(request.body))
    return _answer(dispatch.preview(sent.document, _context(sent.instrument, sent.document), clock.now().isoformat()))


def _answer(answer: Answer) -> HttpResponse:
    return HttpResponse(answer.as_json(), content_type="application/json")


@router.post(
    "/kinds/{kind}/begin", response=dict[str, Any], operation_id="begin_document", openapi_extra=raw_body(BeginIn)
)
def begin_document(request: HttpRequest, kind: str) -> HttpResponse:
    """A document of a check as one of its methods begins it. Stores nothing."""
    sent = read_entry(BeginIn, read_json(request.body))
    return answer_json(dispatch.begin(kind, sent.method, sent.length, sent.angle))


@router.post(
    "/documents/take-method", response=dict[str, Any], operation_id="take_method", openapi_extra=raw_body(MethodIn)
)
def take_method(request: HttpRequest) -> HttpResponse:
    """A check's document by another method or in another unit, with what was typed. Stores nothing."""
    sent = read_entry(MethodIn, read_json(request.body))
    return answer_json(dispatch.take_method(sent.document, sent.method, sent.length))


@router.post(
    "/documents/repeat", response=dict[str, Any], operation_id="repeat_document", openapi_extra=raw_body(PreviewIn)
)
def repeat_document(request: HttpRequest) -> HttpResponse:
    """A check's document with everything that is read still to come once more. Stores nothing."""
    return answer_json(dispatch.repeat(read_entry(PreviewIn, read_json(request.body)).document))


@router.post(
    "/documents/as-left", response=dict[str, Any], operation_id="begin_as_left", openapi_extra=raw_body(AsLeftIn)
)
def begin_as_left(request: HttpRequest) -> HttpResponse:
    """The same check again after adjusting, everything that is read still to come. Stores nothing."""
    sent = read_entry(AsLeftIn, read_json(request.body))
    return answer_json(dispatch.as_left(sent.document, sent.result))


@router.post(
    "/documents/from-file",
    response=dict[str, Any],
    operation_id="document_from_file",
    openapi_extra=raw_body(PreviewIn),
)
def document_from_file(request: HttpRequest) -> HttpResponse:
    """A stored document as somebody would type it. Stores nothing."""
    return answer_json(dispatch.from_file(read_entry(PreviewIn, read_json(request.body)).document))


@router.post(
    "/checks/adjusting", response=Adjusting, operation_id="guide_adjusting", openapi_extra=raw_body(AdjustingIn)
)
def guide_adjusting(request: HttpRequest) -> HttpResponse:
    """Where what is adjusted has to go, and what each reading since leaves to be done."""
    sent = read_entry(AdjustingIn, read_json(request.body))
    document = complete(sent.document, _context(sent.instrument, sent.document), clock.now().isoformat())
    return _answer(dispatch.adjusting(document, sent.reads_now))


def _stored(saved: services.Saved) -> HttpResponse:
    """A record as it now stands: 201 when it is new, 200 when it was here already."""
    return answer_json(selectors.whole(selectors.find(saved.record.id)), 201 if saved.new else 200)


_STORED = {200: out.RecordOut, 201: out.RecordOut}


@router.put(
    "/checks/{uuid}",
    response=_STORED,
    operation_id="save_check",
    openapi_extra=raw_body(CheckIn),
)
def save_check(request: HttpRequest, uuid: UUID) -> HttpResponse:
    """Store a finished check under the id its device gave it; the same again changes nothing."""
    sent, digest = _sent(request, CheckIn)
    saved = services.save_check(actor=asker(request), identity=uuid, sent=sent, sent_digest=digest)
    return _stored(saved)


@router.put(
    "/events/{uuid}",
    response=_STORED,
    operation_id="save_event",
    openapi_extra=raw_body(EventIn),
)
def save_event(request: HttpRequest, uuid: UUID) -> HttpResponse:
    """Store something that happened: a knock, a drop, taking out, handing in, holding, releasing, adjusting."""
    sent, digest = _sent(request, EventIn)
    saved = services.save_event(actor=asker(request), identity=uuid, sent=sent, sent_digest=digest)
    return _stored(saved)


@router.post(
    "/records/{uuid}/amend",
    response=_STORED,
    operation_id="amend_record",
    openapi_extra=raw_body(AmendIn),
)
def amend_record(request: HttpRequest, uuid: UUID) -> HttpResponse:
    """Something is wrong here: strike a record and say why."""
    sent, digest = _sent(request, AmendIn)
    saved = services.amend(actor=asker(request), identity=uuid, sent=sent, sent_digest=digest)
    return _stored(saved)


@router.get("/records", response=out.RecordPage, operation_id="list_records")
def list_records(
    request: HttpRequest,
    instrument: str | None = None,
    category: str | None = None,
    *,
    kind: str | None = None,
    by: str | None = None,
    cursor: str | None = None,
    limit: int = 50,
) -> Any:
    """Records as they came, newest first; `by` is who observed or entered them."""
    tag = normalise_tag(instrument) if instrument else None
    rows, following = selectors.page(tag, category, kind, by=by, cursor=cursor, limit=limit)
    return {"records": [selectors.row(row) for row in rows], "next": following}


@router.get("/records/{uuid}/orientations", response=list[out.RecordRow], operation_id="orientations_of")
def orientations_of(request: HttpRequest, uuid: UUID) -> Any:
    """What was sighted from a set-up: its free stations and backsights, newest first."""
    return [selectors.row(record) for record in selectors.orientations_of(selectors.find(uuid))]


@router.get("/records/{uuid}", response=out.RecordOut, operation_id="get_record")
def get_record(request: HttpRequest, uuid: UUID) -> HttpResponse:
    """One record with everything in it."""
    return answer_json(selectors.whole(selectors.find(uuid)))


@router.get("/records/{uuid}/impact-review", response=out.ImpactReviewOut, operation_id="impact_review")
def impact_review(request: HttpRequest, uuid: UUID) -> Any:
    """What was done with the instrument since it was last good."""
    record = _check(uuid)
    return impact_review_of(record)


def _check(uuid: UUID) -> Record:
    record = selectors.find(uuid)
    if record.category != Record.Category.CHECK:
        raise Refused([Fault("uuid", "the record", record.kind, "a check")])
    return record


@router.get("/records/{uuid}/document", response=dict[str, Any], operation_id="record_document")
def record_document(request: HttpRequest, uuid: UUID) -> HttpResponse:
    """The document of a check or set-up as a file that loads again anywhere."""
    record = selectors.find(uuid)
    if record.kind not in DOCUMENTS:
        record = _check(uuid)
    response = answer_json(json.loads(record.document))
    return _as_file(response, record, "json")


@router.get("/records/{uuid}/csv", response=str, operation_id="record_csv")
def record_csv(request: HttpRequest, uuid: UUID) -> HttpResponse:
    """The readings as a table."""
    record = selectors.find(uuid)
    if record.kind not in DOCUMENTS:
        record = _check(uuid)
    text = dispatch.table_of(record.kind).write_csv(document_of(json.loads(record.document)))
    return _as_file(HttpResponse(text, content_type="text/csv; charset=utf-8"), record, "csv")


def _as_file(response: HttpResponse, record: Record, ending: str) -> HttpResponse:
    name = f"{record.instrument.tag}-{record.kind}-{record.observed_at[:10]}.{ending}"
    response["Content-Disposition"] = f'attachment; filename="{name}"'
    return response


class TableIn(Body):
    """A table's text."""

    text: Table


@router.post("/kinds/{kind}/csv", response=dict[str, Any], operation_id="read_csv")
def read_csv(request: HttpRequest, kind: str, payload: TableIn) -> Any:
    """A table as a document, not stored; faults name line and column."""
    return dispatch.table_of(kind).read_csv(payload.text)


@router.post("/kinds/{kind}/csv/write", response=TableIn, operation_id="write_csv", openapi_extra=raw_body(PreviewIn))
def write_csv(request: HttpRequest, kind: str) -> Any:
    """A document's readings as a table, not stored."""
    table = dispatch.table_of(kind)
    sent = read_entry(PreviewIn, read_json(request.body))
    return {"text": table.write_csv(document_of(sent.document, [kind]))}


@router.post("/kinds/{kind}/read", response=dict[str, Any], operation_id="read_document")
def read_document(request: HttpRequest, kind: str) -> HttpResponse:
    """A document file's bytes, parsed and given back; not stored."""
    data = read_json(request.body)
    document_of(data, [kind])
    return answer_json(data)


@router.get("/set-up/methods", response=SetUpMethods, operation_id="set_up_methods")
def set_up_methods(request: HttpRequest, instrument: str, tribrach: str | None = None) -> Any:
    """Every way of setting this instrument up (on this tribrach of the fleet), what each is good for, and which cannot be
    taken with it."""
    below = fleet_selectors.stated_of(fleet_selectors.find(tribrach)) if tribrach else None
    return _answer(fitting(fleet_selectors.stated_of(fleet_selectors.find(instrument)), below))


@router.post("/set-up/guide", response=Guide, operation_id="guide_set_up", openapi_extra=raw_body(GuideIn))
def guide_set_up(request: HttpRequest) -> HttpResponse:
    """The step at hand of a set-up, and what follows from what was last seen at it. Stores nothing."""
    sent = read_entry(GuideIn, read_json(request.body))
    return _answer(
        dispatch.guiding(sent.document, _context(sent.instrument, sent.document), clock.now().isoformat(), sent.step)
    )


@router.post("/set-up/advise", response=Advice, operation_id="advise", openapi_extra=raw_body(AdviseIn))
def advise_set_up(request: HttpRequest) -> HttpResponse:
    """One question for advice, answered by the mechanism."""
    return _answer(advise(read_entry(AdviseIn, read_json(request.body)).question))


@router.get("/instruments/{tag}/series", response=out.SeriesOut, operation_id="instrument_series")
def instrument_series(request: HttpRequest, tag: str, of: str = "two-peg") -> Any:
    """An instrument's history with limits and events: of a kind of check's main figure, or (`control`) of how
    control points disagreed."""
    if of != selectors.CONTROL and of not in KINDS:
        raise Refused([Fault("of", "what the series is of", of, "control, or one of " + ", ".join(KINDS))])
    return selectors.series(fleet_selectors.find(tag), of)


@router.get("/instruments/{tag}/history", response=list[out.HistoryOut], operation_id="instrument_history")
def instrument_history(request: HttpRequest, tag: str) -> Any:
    """All series of an instrument at once: of each kind of check it has, and of control points."""
    return selectors.histories(fleet_selectors.find(tag))


@router.get("/instruments/{tag}/stand-ins", response=list[out.StandIn], operation_id="stand_ins")
def stand_ins(request: HttpRequest, tag: str) -> Any:
    """Others of a like kind that may be used today, and where they are."""
    return selectors.stand_ins(fleet_selectors.find(tag), fleet_selectors.yard(clock.today()))


@router.get("/device", response=out.DeviceOut, operation_id="device")
def device(request: HttpRequest, since: Cursor = 0) -> HttpResponse:
    """What a device keeps to calculate without signal: stated figures, limits and earlier results of every instrument that
    changed after the cursor it was given last. Asked again with `cursor` while there is `more`."""
    newest = selectors.newest_cursor()
    fleet, following = selectors.device_fleet(since if since <= newest else 0)
    return answer_json(
        {
            "as_of": clock.now().isoformat(),
            "core_version": __version__,
            "judged_raw": organisation().judge_raw,
            "fleet": fleet,
            "cursor": newest if following is None else following,
            "more": following is not None,
        }
    )


@router.get("/health", response=out.HealthOut, operation_id="health")
def health(request: HttpRequest) -> Any:
    """Whether the server stands: the database answers, and how much is in it."""
    return {
        "ok": True,
        "core_version": __version__,
        "instruments": Instrument.objects.count(),
        "records": Record.objects.count(),
    }


@router.get("/health/chains", response=dict[str, Any], operation_id="verify_chains")
def verify_chains(request: HttpRequest, since: Cursor = 0) -> Any:
    """Every seal and every chain looked at, given a line an instrument as it goes, JSON each, the last one with the sum
    (manager). `since`: only what came after a cursor, as the sum gave it."""
    found = integrity.verified(actor=asker(request), since=since)
    return StreamingHttpResponse((json.dumps(entry) + "\n" for entry in found), content_type="application/x-ndjson")
