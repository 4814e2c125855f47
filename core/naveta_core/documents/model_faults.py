"""Errors of form, found by the models, worded as faults."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from pydantic import ValidationError

from ..errors import Fault, plain_number, quote
from ..units.lengths import in_unit

WANTED = {
    "extra_forbidden": "a field this document knows",
    "missing": "this field",
    "list_type": "a list",
    "dict_type": "an object",
    "model_type": "an object",
    "model_attributes_type": "an object",
    "string_type": "text",
    "bool_type": "true or false",
    "float_type": "a number",
    "finite_number": "a finite number",
    "int_type": "a whole number",
}


def path_of(location: tuple[int | str, ...]) -> str:
    """('observations', 'setups', 1, 'a') as 'observations.setups[1].a'; '$' for the whole."""
    path = ""
    for step in location:
        if isinstance(step, int):
            path += f"[{step}]"
        else:
            path += f".{step}" if path else step
    return path or "$"


def _bound(limit: float, name: str, unit: str) -> str:
    """A bound with its unit; of a name that ends in `_m` in the unit it was typed in."""
    if not name.endswith("_m"):
        return plain_number(limit)
    return f"{plain_number(float(f'{in_unit(limit, unit):.4g}'))} {unit}"


def _wanted(error: Any, unit: str) -> str:
    kind, context = error["type"], error.get("ctx", {})
    if kind == "value_error":
        return str(context["error"])
    if kind in ("literal_error", "enum"):
        return "one of " + str(context["expected"]).replace(" or ", ", ").replace("'", "")
    if kind in ("greater_than", "greater_than_equal", "less_than", "less_than_equal"):
        ((word, bound),) = context.items()
        signs = {"gt": "more than", "ge": "at least", "lt": "less than", "le": "at most"}
        return f"a number {signs[word]} {_bound(bound, str(error['loc'][-1]), unit)}"
    if kind in ("string_too_long", "too_long"):
        return f"at most {context['max_length']} " + ("characters" if kind == "string_too_long" else "entries")
    if kind in ("string_too_short", "too_short"):
        return f"at least {context['min_length']}"
    return WANTED.get(kind) or str(error["msg"])


def faults_of(error: ValidationError, where: Callable[[str], str], unit: str = "m") -> list[Fault]:
    """Every error of form as a fault, in document order; `where` words a path, `unit` is what lengths are typed in."""
    faults = []
    for entry in error.errors(include_url=False):
        path = path_of(entry["loc"])
        given = "nothing" if entry["type"] == "missing" else quote(entry["input"])
        faults.append(Fault(path, where(path), given, _wanted(entry, unit)))
    return faults
