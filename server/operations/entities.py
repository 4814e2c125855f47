"""What a firm has beside its records, entity by entity, as plain JSON: no database key, references by name.

An entity's rows name others by what people call them: a crew by its name, a model by maker and name, an instrument by
its tag, a person by the name they sign in with. The order is that of reading them back.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import date, datetime
from typing import Any

from django.db import models

from control_points.models import Point
from fleet.models import Attachment, Instrument, InstrumentModel, LimitRule
from naveta_core.errors import Fault, Refused, quote
from people.models import Crew, Organisation, Person, SettingChange, SignOff
from plan.models import DueRule, Job
from practice.models import PracticeRun
from records.models import KnownTable

Row = dict[str, Any]
MODEL_ABOUT = "model:"
"""A change of a model's settings is about `model:` and its key here, about `model:` maker and name outside."""


@dataclass(frozen=True, slots=True)
class Entity:
    """A kind of row: the file it is written to, its Django model, what its rows are called by, what is left out."""

    name: str
    model: type[models.Model]
    called: tuple[str, ...] = ()
    without: tuple[str, ...] = ()

    @property
    def fields(self) -> list[models.Field[Any, Any]]:
        """The fields that are written."""
        return [f for f in self.model._meta.concrete_fields if not f.primary_key and f.name not in self.without]


ENTITIES = (
    Entity("firm", Organisation),
    Entity("crews", Crew, ("name",)),
    Entity("people", Person, ("username",), ("password", "last_login", "sessions", "digest_week")),
    Entity("models", InstrumentModel, ("maker", "name")),
    Entity("limit-rules", LimitRule),
    Entity(
        "instruments",
        Instrument,
        ("tag",),
        ("derived", "derived_stamp", "changed", "chain_length", "chain_head"),
    ),
    Entity("attachments", Attachment),
    Entity("control-points", Point, ("name",)),
    Entity("due-rules", DueRule),
    Entity("jobs", Job),
    Entity("setting-changes", SettingChange),
    Entity("sign-offs", SignOff),
    Entity("practice-runs", PracticeRun),
    Entity("known-tables", KnownTable),
)
CALLED = {entity.model: entity.called for entity in ENTITIES if entity.called}
EMPTY_WITHOUT = (InstrumentModel, Instrument, Point, DueRule, Job)
"""A Naveta that holds one of these is not empty. People may be there: somebody has to sign in."""


def rows_of(entity: Entity) -> Iterator[Row]:
    """Every row of an entity as plain JSON, in the order they were made."""
    related = [field.name for field in entity.fields if field.is_relation]
    for thing in entity.model._default_manager.select_related(*related).order_by("pk").iterator(chunk_size=500):
        yield {field.name: _plain(entity, field, getattr(thing, field.name)) for field in entity.fields}


def _plain(entity: Entity, field: models.Field[Any, Any], value: Any) -> Any:
    if value is None:
        return None
    if field.is_relation:
        return _called(value)
    if entity.model is SettingChange and field.name == "about" and value.startswith(MODEL_ABOUT):
        model = InstrumentModel.objects.filter(pk=value.removeprefix(MODEL_ABOUT)).first()
        return f"{MODEL_ABOUT}{model}" if model else value
    return value.isoformat() if isinstance(value, date | datetime) else value


def _called(thing: models.Model) -> Any:
    names = [getattr(thing, name) for name in CALLED[type(thing)]]
    return names[0] if len(names) == 1 else names


def schema_of(entity: Entity) -> dict[str, Any]:
    """A JSON schema of an entity's rows."""
    properties = {field.name: _schema(field) for field in entity.fields}
    row = {"type": "object", "properties": properties, "required": list(properties), "additionalProperties": False}
    return {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "title": entity.name,
        "type": "array",
        "items": row,
    }


_TYPES: tuple[tuple[type[models.Field[Any, Any]], dict[str, Any]], ...] = (
    (models.BooleanField, {"type": "boolean"}),
    (models.IntegerField, {"type": "integer"}),
    (models.FloatField, {"type": "number"}),
    (models.DateTimeField, {"type": "string", "format": "date-time"}),
    (models.DateField, {"type": "string", "format": "date"}),
    (models.JSONField, {}),
)


def _schema(field: models.Field[Any, Any]) -> dict[str, Any]:
    if field.is_relation:
        called = CALLED[field.related_model]  # type: ignore[index]
        name = {"type": "string"}
        found: dict[str, Any] = name if len(called) == 1 else {"type": "array", "items": name, "minItems": len(called)}
        text = f"{' and '.join(called)} of one of {_file_of(field)}"
        found = {**found, "description": text}
    else:
        found = dict(next((schema for kind, schema in _TYPES if isinstance(field, kind)), {"type": "string"}))
        if field.help_text:
            found["description"] = str(field.help_text)
    return {"anyOf": [found, {"type": "null"}]} if field.null and found else found


def _file_of(field: models.Field[Any, Any]) -> str:
    return next(entity.name for entity in ENTITIES if entity.model is field.related_model)


def put_back(entity: Entity, rows: list[Row]) -> None:
    """Store an entity's rows. People and crews that are there already keep their keys and passwords. Raises Refused."""
    for place, row in enumerate(rows):
        values = {field.name: _value(entity, field, row, place) for field in entity.fields}
        called = {name: values[name] for name in entity.called}
        if entity.model is Organisation:
            entity.model._default_manager.all().delete()
        if entity.model in (Crew, Person):
            stored, new = entity.model._default_manager.update_or_create(**called, defaults=values)
            if new and isinstance(stored, Person):
                stored.set_unusable_password()
                stored.save()
        else:
            entity.model._default_manager.create(**values)


def _value(entity: Entity, field: models.Field[Any, Any], row: Row, place: int) -> Any:
    path = f"{entity.name}[{place}].{field.name}"
    if field.name not in row:
        raise Refused([Fault(path, f"{field.name} of {entity.name}", "nothing", "a value, or null")])
    value = row[field.name]
    if value is None:
        return None
    if field.is_relation:
        return _named(field, value, path)
    if entity.model is SettingChange and field.name == "about" and value.startswith(MODEL_ABOUT):
        named = next((m for m in InstrumentModel.objects.all() if str(m) == value.removeprefix(MODEL_ABOUT)), None)
        return f"{MODEL_ABOUT}{named.pk}" if named else value
    try:
        return field.to_python(value)
    except Exception as error:
        raise Refused([Fault(path, f"{field.name} of {entity.name}", quote(value), str(error))]) from None


def _named(field: models.Field[Any, Any], value: Any, path: str) -> models.Model:
    model = field.related_model
    assert isinstance(model, type)
    assert issubclass(model, models.Model)
    called = CALLED[model]
    names = [value] if len(called) == 1 else value
    found = None
    if isinstance(names, list) and len(names) == len(called):
        found = model._default_manager.filter(**dict(zip(called, names, strict=True))).first()
    if found is None:
        raise Refused([Fault(path, field.name, quote(value), f"one of {_file_of(field)}, by {' and '.join(called)}")])
    return found
