"""The one API object: who may come in, where its parts are, how faults become answers."""

from __future__ import annotations

from typing import Any

from ninja import NinjaAPI
from ninja.security import django_auth

from control_points.api import router as control_router
from fleet.api import router as fleet_router
from naveta_core import __version__
from naveta_core.registry import DOCUMENTS
from people.api import router as people_router
from records.api import BODY_PARTS
from records.api import router as bench_router
from shared.bodies import StrictParser
from shared.errors import install

REF = "#/components/schemas/{model}"


class NameTaken(RuntimeError):
    """Two different models want the same name in the contract."""


class NavetaApi(NinjaAPI):
    """Ninja's API with the core's document models written into its OpenAPI text."""

    def get_openapi_schema(self, *args: Any, **kwargs: Any) -> Any:
        schema = super().get_openapi_schema(*args, **kwargs)
        parts = schema.setdefault("components", {}).setdefault("schemas", {})
        join_parts(parts, BODY_PARTS)
        for kind in DOCUMENTS.values():
            model = kind.model.model_json_schema(ref_template=REF)
            join_parts(parts, {**model.pop("$defs", {}), kind.model.__name__: model})
        parts["CheckDocument"] = {"oneOf": [{"$ref": REF.format(model=k.model.__name__)} for k in DOCUMENTS.values()]}
        return schema


def join_parts(parts: dict[str, Any], more: dict[str, Any]) -> None:
    """Add models to the contract. Raises NameTaken where another model has the name already."""
    for name, model in more.items():
        if parts.setdefault(name, model) != model:
            raise NameTaken(f"Two different models are called {name}: give one of them another name.")


api = NavetaApi(
    title="Naveta",
    version=__version__,
    auth=django_auth,
    docs_url=None,
    openapi_url="/openapi.json",
    parser=StrictParser(),
)
install(api)
api.add_router("", people_router)
api.add_router("", fleet_router)
api.add_router("", control_router)
api.add_router("", bench_router)
