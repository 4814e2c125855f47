"""Bodies that are read raw, by the core's strict rules: how the contract names them."""

from __future__ import annotations

from typing import Any

BODY_PARTS: dict[str, Any] = {}
"""Models within such bodies, beside Ninja's own."""


def raw_body(model: type[Any], **more: Any) -> dict[str, Any]:
    """OpenAPI for a body that is read raw."""
    schema = model.model_json_schema(ref_template="#/components/schemas/{model}")
    BODY_PARTS.update(schema.pop("$defs", {}))
    if "document" in schema["properties"]:
        schema["properties"]["document"] = {"$ref": "#/components/schemas/CheckDocument"}
    return {"requestBody": {"required": True, "content": {"application/json": {"schema": schema}}}, **more}
