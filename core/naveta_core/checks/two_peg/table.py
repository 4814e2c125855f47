"""Two-peg tests as tables: one row a reading, distances on the first row of a sight."""

from __future__ import annotations

from typing import Any

from ...errors import Fault
from ...tables import Rows, TableFaults, read_rows, write_rows
from .model import MOST_SETUPS, TwoPeg

Data = dict[str, Any]
COLUMNS = ("setup", "staff", "distance", "reading", "upper", "middle", "lower", "unit")
_NEEDED = ("setup", "staff")
_UNITS = ("m", "mm", "cm", "ft", "usft", "in")


def read_csv(text: str) -> Data:
    """A table to a plain document. Raises TableFaults (a Refused) with faults by row and column."""
    rows = read_rows(text, COLUMNS, _NEEDED)
    setups: list[Data] = []
    unit, faults = _unit(rows)
    for row in rows:
        index, staff = _setup_number(row["setup"]), row["staff"].strip().lower()
        if index is None or index > len(setups):
            wanted = f"set-ups numbered from 1 without gaps, up to {MOST_SETUPS}"
            faults.append(rows.fault(row, "setup", wanted))
            continue
        if staff not in ("a", "b"):
            faults.append(rows.fault(row, "staff", "A or B"))
            continue
        if index == len(setups):
            setups.append({"a": {}, "b": {}})
        _fill(setups[index][staff], row, rows, faults)
    if faults:
        raise TableFaults(faults)
    return {"kind": "two-peg", "units": {"length": unit}, "observations": {"setups": setups}}


def _unit(rows: Rows) -> tuple[str, list[Fault]]:
    stated = [row for row in rows if row["unit"]]
    if not stated:
        return "m", []
    first = stated[0]["unit"]
    if first not in _UNITS:
        return "m", [rows.fault(stated[0], "unit", "one of " + ", ".join(_UNITS))]
    others = [row for row in stated if row["unit"] != first]
    return first, [rows.fault(row, "unit", f"{first}, as in the rows above") for row in others]


def _setup_number(text: str) -> int | None:
    return int(text) - 1 if text.isascii() and text.isdigit() and 1 <= int(text[:3]) <= MOST_SETUPS else None


def _fill(sight: Data, row: Data, rows: Rows, faults: list[Fault]) -> None:
    if row["distance"]:
        if sight.get("distance", row["distance"]) != row["distance"]:
            faults.append(rows.fault(row, "distance", f"{sight['distance']}, as in the rows above"))
        sight["distance"] = row["distance"]
    wires = {name: row[name] for name in ("upper", "middle", "lower") if row[name]}
    if row["reading"] and wires:
        faults.append(rows.fault(row, "reading", "either a reading or three wires"))
    elif row["reading"]:
        sight.setdefault("readings", []).append(row["reading"])
    elif wires:
        sight.setdefault("wires", []).append(wires)


def write_csv(document: TwoPeg) -> str:
    """A document's readings as a table; struck readings stay in the document file only."""
    rows = []
    for number, setup in enumerate(document.observations.setups, start=1):
        for staff, sight in (("A", setup.a), ("B", setup.b)):
            base = {"setup": str(number), "staff": staff, "unit": document.units.length}
            lines: list[Data] = [{"reading": str(one)} for one in sight.readings]
            lines += [{k: str(v) for k, v in one.model_dump().items() if v is not None} for one in sight.wires]
            for i, line in enumerate(lines or [{}]):
                distance = "" if sight.distance is None or i else str(sight.distance)
                rows.append({**base, "distance": distance, **line})
    return write_rows(COLUMNS, rows)
