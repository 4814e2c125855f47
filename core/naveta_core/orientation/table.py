"""Tables of orientation: control points in and out, and sights in and out."""

from __future__ import annotations

from functools import partial
from typing import Any

from ..documents.csv_io import Rows, TableFaults, read_rows, write_rows
from ..documents.table_shape import TableField, TableShape
from ..errors import Fault
from ..units.angles import parse_angle
from ..units.lengths import METRES, in_unit, parse_length
from ..units.numbers import rounded
from .document import MAX_SHOTS, Backsight, FreeStation
from .names import same
from .read import ONE_SPOT_M

Data = dict[str, Any]
POINT_COLUMNS = ("name", "e", "n", "h", "description", "unit")
SHOT_COLUMNS = ("point", "hz", "v", "slope_distance", "horizontal_distance", "target_height", "face", "length", "angle")
SIGHTED = SHOT_COLUMNS[1:-3]
POINTS_NEED = ("name", "e", "n")
SHOTS_NEED = ("point", "hz")
ANGLES = ("dms", "deg", "gon")
FACES = ("left", "right")
SHOT_FIELDS = (
    TableField("point", "Point", "text"),
    *(
        TableField(name, label, "angle", read=True, given=tuple((("face", face),) for face in FACES))
        for name, label in (("hz", "Horizontal circle"), ("v", "Vertical circle"))
    ),
    TableField("slope_distance", "Slope distance", "length"),
    TableField("horizontal_distance", "Horizontal distance", "length"),
    TableField("target_height", "Target height", "length"),
    TableField("face", "Face", "choice", options=tuple((face, face) for face in FACES)),
)
POINT_FIELDS = (
    TableField("name", "Name", "text"),
    TableField("e", "Easting", "length", read=True),
    TableField("n", "Northing", "length", read=True),
    TableField("h", "Height", "length"),
    TableField("description", "Description", "text"),
)
MOVES = "A control point with new coordinates moves your work: is this table newer, and from the same survey?"
MAX_NAME, MAX_DESCRIPTION = 40, 200


def read_points(text: str, unit: str = "m") -> list[Data]:
    """A table of control points as `{"name", "e_m", "n_m", "h_m", "description"}`; columns in any order.

    unit: what plain numbers are in where the table has no column `unit`. Raises TableFaults by line and column.
    """
    return point_rows(read_rows(text, POINT_COLUMNS, POINTS_NEED), unit)


def point_rows(rows: Rows, unit: str = "m") -> list[Data]:
    """The rows of a table of control points, plain numbers in `unit`. Raises TableFaults."""
    faults: list[Fault] = []
    points: list[Data] = []
    for row in rows:
        point = _point(row, rows, unit, faults)
        if point is None:
            continue
        twin = next((entry for entry in points if same(entry["name"], point["name"])), None)
        if twin is not None:
            faults.append(rows.fault(row, "name", f"each point once: {twin['name']} is listed above"))
            continue
        spot = next(
            (
                entry
                for entry in points
                if abs(entry["e_m"] - point["e_m"]) + abs(entry["n_m"] - point["n_m"]) < ONE_SPOT_M
            ),
            None,
        )
        if spot is not None:
            faults.append(rows.fault(row, "e", f"different points: {spot['name']} has the same position"))
            continue
        points.append(point)
    if faults:
        raise TableFaults(faults)
    return points


def _point(row: Data, rows: Rows, unit: str, faults: list[Fault]) -> Data | None:
    name = row["name"].strip()
    if not name or len(name) > MAX_NAME:
        faults.append(rows.fault(row, "name", f"a name of up to {MAX_NAME} characters"))
        return None
    stated = row["unit"].strip().lower() or unit
    if stated not in METRES:
        faults.append(rows.fault(row, "unit", "one of " + ", ".join(METRES)))
        return None
    fields: Data = {"name": name, "description": row["description"][:MAX_DESCRIPTION]}
    for column in ("e", "n", "h"):
        if column == "h" and not row["h"].strip():
            fields["h_m"] = None
            continue
        try:
            fields[f"{column}_m"] = rounded(parse_length(row[column], stated).m, 6)
        except ValueError as error:
            faults.append(rows.fault(row, column, str(error)))
            return None
    return fields


def write_points(points: list[Data], unit: str = "m") -> str:
    """Control points as a table in a unit."""
    decimals = 4
    rows = [
        {
            "name": point["name"],
            "e": f"{in_unit(point['e_m'], unit):.{decimals}f}",
            "n": f"{in_unit(point['n_m'], unit):.{decimals}f}",
            "h": "" if point["h_m"] is None else f"{in_unit(point['h_m'], unit):.{decimals}f}",
            "description": point["description"],
            "unit": unit,
        }
        for point in points
    ]
    return write_rows(POINT_COLUMNS, rows)


def read_shots(kind: str, text: str) -> Data:
    """A table of sights as a document without its control points; units stated in it hold for all rows. Raises TableFaults."""
    return read_shot_rows(kind, read_rows(text, SHOT_COLUMNS, SHOTS_NEED))


def read_shot_rows(kind: str, rows: Rows) -> Data:
    """The rows of a table of sights as a document without its control points. Raises TableFaults."""
    faults: list[Fault] = []
    shots = []
    lengths = _stated(rows, "length", tuple(METRES), "m", faults)
    angles = _stated(rows, "angle", ANGLES, "dms", faults)
    for row in rows:
        face = row["face"].strip().lower() or "left"
        if face not in FACES:
            faults.append(rows.fault(row, "face", "left or right"))
            continue
        for column in ("hz", "v"):
            if row[column].strip():
                try:
                    parse_angle(row[column], angles)
                except ValueError as error:
                    faults.append(rows.fault(row, column, str(error)))
        shots.append(
            {"point": row["point"].strip(), "face": face, **{name: row[name] for name in SIGHTED if row[name].strip()}}
        )
    if len(shots) > MAX_SHOTS:
        faults.append(Fault("$", "the table", f"{len(shots)} sights", f"at most {MAX_SHOTS} sights"))
    if faults:
        raise TableFaults(faults)
    return {"kind": kind, "units": {"length": lengths, "angle": angles}, "observations": {"shots": shots}}


def _stated(rows: Rows, column: str, allowed: tuple[str, ...], usual: str, faults: list[Fault]) -> str:
    stated = [row for row in rows if row[column].strip()]
    if not stated:
        return usual
    unit = str(stated[0][column]).strip().lower()
    if unit not in allowed:
        faults.append(rows.fault(stated[0], column, "one of " + ", ".join(allowed)))
        return usual
    others = [row for row in stated if row[column].strip().lower() != unit]
    faults += [rows.fault(row, column, f"{unit}, as in the rows above") for row in others]
    return unit


def write_shots(document: FreeStation | Backsight) -> str:
    """The sights of an orientation as a table, as they were typed."""
    rows = []
    units = {"length": document.units.length, "angle": document.units.angle}
    for shot in document.observations.shots:
        found = {name: getattr(shot, name) for name in SIGHTED}
        rows.append(
            {
                "point": shot.point,
                "face": shot.face,
                **units,
                **{name: str(entry) for name, entry in found.items() if entry is not None},
            }
        )
    return write_rows(SHOT_COLUMNS, rows)


def shot_shape(kind: str) -> TableShape:
    """What a table of sights can hold."""
    return TableShape(
        SHOT_COLUMNS,
        SHOTS_NEED,
        SHOT_FIELDS,
        length_column="length",
        angle_column="angle",
        read=partial(read_shot_rows, kind),
    )


def _points_document(rows: Rows) -> Data:
    return {"points": point_rows(rows)}


POINT_SHAPE = TableShape(
    POINT_COLUMNS, POINTS_NEED, POINT_FIELDS, length_column="unit", angle_column="", read=_points_document
)
"""What a table of control points can hold."""
