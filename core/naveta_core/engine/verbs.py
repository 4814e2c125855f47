"""What is done with a document before anything is read: begun, taken once more, run again as left, taken from a file.

Plain documents in, plain documents out, as somebody would type them; which method they are taken by is stated in them.
"""

from __future__ import annotations

from copy import deepcopy
from typing import Any

from ..units.lengths import METRES
from ..units.numbers import as_typed
from .fields import Field, FieldTable, changed_fields
from .kind import Kind

Data = dict[str, Any]
IN_FEET = ("ft", "usft")
NEVER_TYPED = ("instrument", "limits", "stored", "before", "before_at")
"""What the server states: it is left to it."""


def begin(kind: Kind, method: str, length: str = "m", angle: str = "") -> Data:
    """A document of a kind as one of its methods begins it. Raises KeyError where there is no such method."""
    chosen = kind.method(method)
    if chosen is None:
        raise KeyError(method)
    length = chosen.unit or length
    units = {"length": length, **({"angle": angle} if angle else {})}
    return {"kind": kind.name, "method": method, "units": units, "observations": _begun(kind, method, length)}


def _begun(kind: Kind, method: str, length: str) -> Data:
    chosen = kind.method(method)
    assert chosen is not None, method
    if length in IN_FEET and chosen.in_feet is not None:
        return deepcopy(chosen.in_feet)
    observations = deepcopy(chosen.observations)
    own_unit = chosen.unit or ("m" if chosen.in_feet is not None else length)
    # Distances a method brings along are given in metres where there are none in feet.
    return observations if own_unit == length else _given_in(kind.table, observations, own_unit)


def _given_in(table: FieldTable, data: Data, unit: str) -> Data:
    """Lengths with their unit behind them."""

    def change(field: Field, value: Any) -> Any:
        return f"{value} {unit}" if field.kind == "length" and value not in ("", None) else value

    return changed_fields(table, data, change)


def take_method(kind: Kind, document: Data, method: str, length: str) -> Data:
    """The document by another method or in another unit: what a method brought along gives way, what was typed stays."""
    old = kind.method(document.get("method"))
    unit = document.get("units", {}).get("length", "m")
    before = _begun(kind, old.name, unit) if old else {}
    after = _begun(kind, method, length)
    observations = _merged(document.get("observations", {}), before, after)
    units = {**document.get("units", {}), "length": length}
    return {**document, "method": method, "units": units, "observations": observations}


def _merged(held: Any, before: Any, after: Any) -> Any:
    if isinstance(after, dict):
        held = held if isinstance(held, dict) else {}
        before = before if isinstance(before, dict) else {}
        names = [*held, *(name for name in after if name not in held)]
        found = {name: _merged(held.get(name), before.get(name), after.get(name)) for name in names}
        return {name: value for name, value in found.items() if value is not None}
    if isinstance(after, list):
        held = held if isinstance(held, list) else []
        before = before if isinstance(before, list) else []
        count = max(len(held), len(after))
        return [_merged(_at(held, i), _at(before, i), _at(after, i)) for i in range(count)]
    if after is None:
        # What only the earlier method brought along is not its own any more.
        return None if held is not None and held == before and not isinstance(held, dict | list) else held
    return after if is_empty(held) or held == before else held


def _at(listed: list[Any], i: int) -> Any:
    return listed[i] if i < len(listed) else None


def is_empty(value: Any) -> bool:
    """Whether nothing was typed; a row that only says in which repeat it is taken holds nothing yet."""
    if value is None or isinstance(value, bool):
        return value is None
    if isinstance(value, dict):
        return all(name == "repeat" or is_empty(entry) for name, entry in value.items())
    return all(map(is_empty, value)) if isinstance(value, list) else not str(value).strip()


def repeat(kind: Kind, document: Data) -> Data:
    """The document with everything that is read still to come once more, as a repeat of its own: both count together."""
    observations = document.get("observations", {})
    if kind.repeat is not None:
        return {**document, "observations": kind.repeat(deepcopy(observations))}
    following = 1 + _last_repeat(kind.table, observations)
    template = _template(kind, document)
    return {**document, "observations": _grown(kind.table, deepcopy(observations), template, following)}


def _template(kind: Kind, document: Data) -> Data:
    """What the rows begin with: as the method begins them, else the first repeat as it was prefilled."""
    method = document.get("method")
    length = document.get("units", {}).get("length", "m")
    if kind.method(method) is not None:
        return _begun(kind, str(method), length)
    return _unread(kind.table, document.get("observations", {}))


def _unread(table: FieldTable, data: Data) -> Data:
    """A document with nothing of it read: rows of the first repeat with what is prefilled, given fields left out."""
    found: Data = {}
    for name, field in table.fields.items():
        if name in data and (field.prefilled or (field.kind == "choice" and not field.ask_again)):
            found[name] = data[name]
    for name, (_, part) in table.parts.items():
        found[name] = _unread(part, data.get(name) or {})
    for name, listed in table.lists.items():
        rows = data.get(name) or []
        if listed.entry is None:
            found[name] = [""] * max(1, len(rows)) if rows else []
        elif listed.entry.lists or listed.entry.parts:
            found[name] = [_unread(listed.entry, row) for row in rows]
        else:
            found[name] = [_unread(listed.entry, row) for row in rows if (row.get("repeat") or 1) == 1]
    return found


def _last_repeat(table: FieldTable, data: Data) -> int:
    found = [1]
    for name, listed in table.lists.items():
        for item in data.get(name) or []:
            if listed.entry is not None and isinstance(item, dict):
                found += [item.get("repeat") or 1, _last_repeat(listed.entry, item)]
    for name, (_, part) in table.parts.items():
        found.append(_last_repeat(part, data.get(name) or {}))
    return max(found)


def _grown(table: FieldTable, data: Data, template: Data, following: int) -> Data:
    """Rows of the template behind those there are, as far as there is room."""
    for name, listed in table.lists.items():
        held, fresh = data.get(name) or [], template.get(name) or []
        nested = listed.entry is not None and bool(listed.entry.lists or listed.entry.parts)
        if nested and listed.entry is not None:
            data[name] = [
                _grown(listed.entry, item, _at(fresh, i) or {}, following) if isinstance(item, dict) else item
                for i, item in enumerate(held)
            ]
        elif fresh:
            room = max(0, listed.rows.most - len(held))
            numbered = listed.entry is not None and "repeat" in listed.entry.fields
            rows = [{**item, "repeat": following} if numbered else item for item in fresh[:room]]
            data[name] = [*held, *rows]
    for name, (_, part) in table.parts.items():
        if template.get(name):
            data[name] = _grown(part, data.get(name) or {}, template[name], following)
    return data


def as_left(kind: Kind, document: Data, result: Data) -> Data:
    """The same check again, everything that is read still to come; what was found goes along, as far as it is asked."""
    typed = from_file(kind, document)
    observations = _template(kind, typed)
    _store_entered(kind.table, observations, typed["observations"])
    found = {name: result[name] for name in kind.as_left_inputs if isinstance(result.get(name), int | float)}
    if found:
        observations["found"] = found
    begun: Data = {key: typed[key] for key in ("kind", "method", "units") if key in typed}
    begun["stage"] = "as-left"
    return {**begun, "observations": observations}


def _store_entered(table: FieldTable, fresh: Data, typed: Data) -> None:
    """What describes the stand and the thing itself stays; what a look answered, and what was stored before, does not."""
    for name, field in table.fields.items():
        if field.kind in ("number", "length", "switch") and not field.ask_again and not is_empty(typed.get(name)):
            fresh[name] = typed[name]
    for name, listed in table.lists.items():
        if listed.entry is None or not (listed.entry.lists or listed.entry.parts):
            continue
        for mine, theirs in zip(fresh.get(name) or [], typed.get(name) or [], strict=False):
            _store_entered(listed.entry, mine, theirs)
    for name, (_, part) in table.parts.items():
        if isinstance(typed.get(name), dict):
            _store_entered(part, fresh.setdefault(name, {}), typed[name])


def from_file(kind: Kind, document: Data) -> Data:
    """A stored document as somebody would type it: what the server states is left to it, plain numbers are text."""

    def typed(field: Field, value: Any) -> Any:
        if isinstance(value, bool) or not isinstance(value, int | float) or field.kind in ("count", "switch"):
            return value
        return (
            typed_length(value, document)
            if field.kind == "length"
            else typed_figure(value, angle=field.kind == "angle")
        )

    observations = changed_fields(kind.table, document.get("observations", {}), typed)
    return {**around_observations(document), "observations": observations}


def around_observations(document: Data) -> Data:
    """Everything of a stored document but its observations as somebody would type it; what the server states left out."""
    kept = {key: value for key, value in document.items() if key not in NEVER_TYPED}
    kept["units"] = {**document.get("units", {}), "length": _length_unit(document)}
    if "conditions" in kept:
        kept["conditions"] = {name: _text(value) for name, value in document["conditions"].items()}
    return kept


def typed_length(value: float, document: Data) -> str:
    """A plain number of metres, whatever the unit of the document."""
    plain = as_typed(value)
    return plain if METRES[_length_unit(document)] == 1.0 else f"{plain} m"


def typed_figure(value: float, *, angle: bool = False) -> str:
    """A plain number in its own unit; an angle is decimal degrees, whatever angles are typed in."""
    return f"{as_typed(value)}°" if angle else as_typed(value)


def _length_unit(document: Data) -> str:
    return str(document.get("units", {}).get("length", "m"))


def _text(value: Any) -> Any:
    return as_typed(value) if isinstance(value, int | float) and not isinstance(value, bool) else value
