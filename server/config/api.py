"""The one API object: who may come in, where its parts are, how faults become answers."""

from __future__ import annotations

from typing import Any

from ninja import NinjaAPI
from ninja.security import django_auth
from operations.api import router as operations_router
from reports.api import router as reports_router

from control_points.api import router as control_router
from fleet.api import router as fleet_router
from fleet.attachments_api import router as attachments_router
from fleet.digest_api import router as digest_router
from fleet.due_api import router as due_router
from fleet.jobs_api import router as jobs_router
from fleet.levelling_api import router as levelling_router
from fleet.plan_api import router as plan_router
from fleet.table_api import router as fleet_table_router
from naveta_core import __version__
from naveta_core.registry import DOCUMENTS
from people.api import router as people_router
from people.settings_api import router as settings_router
from practice.api import practice_parts
from practice.api import router as practice_router
from records.api import router as bench_router
from records.kits_api import router as kits_router
from records.ledger_api import router as ledger_router
from records.limits_api import router as limits_router
from records.raw_bodies import BODY_PARTS
from records.service_api import router as service_router
from records.tables_api import router as tables_router
from shared.bodies import StrictParser
from shared.errors import install

REF = "#/components/schemas/{model}"


class NameTaken(RuntimeError):
    """Two different models need the same name in the contract."""


class NavetaApi(NinjaAPI):
    """Ninja's API with the core's document models written into its OpenAPI text."""

    def get_openapi_schema(self, *args: Any, **kwargs: Any) -> Any:
        schema = super().get_openapi_schema(*args, **kwargs)
        parts = schema.setdefault("components", {}).setdefault("schemas", {})
        join_parts(parts, {**BODY_PARTS, **practice_parts()})
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
api.add_router("", settings_router)
api.add_router("", fleet_router)
api.add_router("", attachments_router)
api.add_router("", fleet_table_router)
api.add_router("", due_router)
api.add_router("", practice_router)
api.add_router("", plan_router)
api.add_router("", jobs_router)
api.add_router("", levelling_router)
api.add_router("", digest_router)
api.add_router("", control_router)
api.add_router("", bench_router)
api.add_router("", limits_router)
api.add_router("", kits_router)
api.add_router("", service_router)
api.add_router("", tables_router)
api.add_router("", ledger_router)
api.add_router("", operations_router)
api.add_router("", reports_router)
