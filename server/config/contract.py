"""The API's contract: `python -m config.contract OPENAPI SUMMARY` in server/ writes the OpenAPI text and its summary.

The web's types are generated from the OpenAPI text. The summary is committed."""

from __future__ import annotations

import json
import os
import sys
from pathlib import Path
from typing import Any


def contract() -> str:
    """The OpenAPI text the web's types are generated from."""
    from config.api import api

    schema = json.loads(json.dumps(api.get_openapi_schema()))
    return json.dumps(schema, indent=1, ensure_ascii=False, sort_keys=True) + "\n"


def summary() -> str:
    """Return a line for each call (parameters, body, answers) and for each schema (its members; `?` marks optional ones).

    A change of the API shows in it as one line."""
    text = json.loads(contract())
    calls = [
        f"{verb.upper()} {path} {_asked(call)}-> {_answered(call)}"
        for path, verbs in text["paths"].items()
        for verb, call in verbs.items()
    ]
    return (
        "\n".join([*sorted(calls), "", *(_shape(*each) for each in sorted(text["components"]["schemas"].items()))])
        + "\n"
    )


def _asked(call: dict[str, Any]) -> str:
    names = [
        f"{each['name']}{'' if each.get('required') else '?'}"
        for each in call.get("parameters", [])
        if each["in"] == "query"
    ]
    bodies = [_kind(each.get("schema", {})) for each in call.get("requestBody", {}).get("content", {}).values()]
    return " ".join([*(["(" + ", ".join(names) + ")"] if names else []), *bodies, ""])


def _answered(call: dict[str, Any]) -> str:
    found = []
    for status, answer in sorted(call["responses"].items()):
        kinds = [_kind(each.get("schema", {})) for each in answer.get("content", {}).values()]
        found.append(" ".join([str(status), *kinds]))
    return ", ".join(found)


def _shape(name: str, schema: dict[str, Any]) -> str:
    if "properties" not in schema:
        return f"{name} = {_kind(schema)}"
    needed = schema.get("required", [])
    members = [
        f"{each}{'' if each in needed else '?'}: {_kind(of)}" for each, of in sorted(schema["properties"].items())
    ]
    return f"{name} {{{', '.join(members)}}}"


def _kind(schema: dict[str, Any]) -> str:
    """Return a short name of a schema's type."""
    if "$ref" in schema:
        return str(schema["$ref"]).rsplit("/", 1)[1]
    for several in ("anyOf", "oneOf", "allOf"):
        if several in schema:
            return " | ".join(_kind(each) for each in schema[several])
    if "enum" in schema or "const" in schema:
        return " | ".join(json.dumps(each) for each in schema.get("enum", [schema.get("const")]))
    if schema.get("type") == "array":
        return f"[{_kind(schema.get('items', {}))}]"
    if isinstance(schema.get("additionalProperties"), dict):
        return f"{{of {_kind(schema['additionalProperties'])}}}"
    return str(schema.get("type", "any"))


if __name__ == "__main__":
    import django

    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "config.settings")
    django.setup()
    Path(sys.argv[1]).write_text(contract())
    if len(sys.argv) > 2:
        Path(sys.argv[2]).write_text(summary())
