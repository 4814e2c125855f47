"""The firm's limits: which there are, what another one would alter in the fleet today, and setting it."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Any

from django.http import HttpRequest, HttpResponse
from ninja import Router, Schema
from pydantic import Field

from fleet import limits
from fleet.models import LimitRule
from people.asker import asker
from records.limit_preview import limit_preview
from shared.bodies import Body, Line, Word
from shared.rights import require

router = Router(tags=["limits"])
Typed = Word | float | None
"""A figure as typed, in the unit of the quantity; null: as the one before it."""


class LimitIn(Body):
    """A limit: for a model or every instrument of a kind, for all work or one class of it."""

    model: Annotated[int, Field(ge=0, lt=2**63)] | None = None
    kind: Word = ""
    class_of_work: Annotated[str, Field(max_length=40)] = ""
    quantity: Word
    use: Typed
    watch: Typed = None
    adjust: Typed = None
    source: Line
    version: int | None = None


class LimitOut(Schema):
    """A limit that is set, by whom and when."""

    id: int
    model: int | None
    model_name: str
    kind: str
    class_of_work: str
    quantity: str
    use: float
    watch: float | None
    adjust: float | None
    source: str
    by: str
    at: datetime
    version: int


class LimitChange(Schema):
    """A latest check that would be graded otherwise."""

    tag: str
    check: str
    record: str
    before: str
    after: str


class LimitPreview(Schema):
    """What a limit would alter today; records keep the limit they were judged by."""

    looked_at: int
    changes: list[LimitChange]


def _out(rule: LimitRule) -> dict[str, Any]:
    figures = limits.figures_of(rule)
    return {
        "id": rule.pk,
        "model": rule.model_id,
        "model_name": str(rule.model) if rule.model else "",
        "kind": rule.model.kind if rule.model else rule.kind,
        "class_of_work": rule.class_of_work,
        "quantity": rule.quantity,
        **figures,
        "by": rule.by.name,
        "at": rule.at,
        "version": rule.version,
    }


@router.get("/limits", response=list[LimitOut], operation_id="list_limits")
def list_limits(request: HttpRequest) -> Any:
    """Every limit the firm has set; where none is set the default holds."""
    return [_out(rule) for rule in limits.rules()]


@router.get("/limits/classes", response=list[str], operation_id="classes_of_work")
def get_classes(request: HttpRequest) -> Any:
    """Every class of work limits are set for."""
    return limits.classes_of_work()


@router.post("/limits/preview", response=LimitPreview, operation_id="preview_limit")
def post_preview(request: HttpRequest, payload: LimitIn) -> Any:
    """What a limit would alter in the fleet today (manager)."""
    require(asker(request), "manage-fleet")
    return limit_preview(payload.dict())


@router.put("/limits", response=LimitOut, operation_id="set_limit")
def put_limit(request: HttpRequest, payload: LimitIn) -> Any:
    """Set a limit, or change the one there is of the same scope (manager)."""
    given = payload.dict()
    version = given.pop("version")
    return _out(limits.set_limit(actor=asker(request), given=given, version=version))


@router.delete("/limits/{pk}", response={204: None}, operation_id="drop_limit")
def delete_limit(request: HttpRequest, pk: int) -> HttpResponse:
    """The default limit again (manager)."""
    limits.drop_limit(actor=asker(request), pk=pk)
    return HttpResponse(status=204)
