"""Where readings that arrived go: into the next open cell of a sheet that asks for what was read, in its unit and face."""

from __future__ import annotations

from itertools import groupby
from typing import Any, Literal, TypeVar

from pydantic import Field, ValidationError

from ..documents.envelope import Part
from ..documents.model_faults import faults_of
from ..errors import Refused, path_in_words
from ..results import Answer, Reason
from ..units.lengths import NAMES as LENGTHS
from .lines import DeviceLine, Quantity

NAMES: dict[str, str] = {
    "staff": "staff readings",
    "distance": "distances",
    "hz": "horizontal circle readings",
    "v": "vertical circle readings",
    "along": "electronic level readings",
    "across": "electronic level readings",
}
"""What a quantity is called in a sentence."""
ANGLES: dict[str, str] = {
    "dms": "degrees, minutes and seconds",
    "deg": "decimal degrees",
    "gon": "gon",
    "arcsec": "seconds",
}
UNITS: dict[str, str] = {**LENGTHS, **ANGLES}
"""What a unit is called in a sentence."""
LIVE = ("along", "across")
"""What is sent all the time and taken when somebody wants it."""
MAX_CELLS = 600


Question = TypeVar("Question", bound=Part)


def read_query(model: type[Question], question: dict[str, Any]) -> Question:
    """A question as its model. Raises Refused."""
    try:
        return model.model_validate(question)
    except ValidationError as error:
        raise Refused(faults_of(error, path_in_words)) from None


class OpenCell(Part):
    """A cell that is empty: its place in the document, and what it asks for."""

    path: str
    quantity: Quantity
    unit: str
    face: Literal["left", "right"] | None = None


class Placed(Answer):
    """A reading that goes into a cell."""

    path: str
    value: str
    device: str
    unit: str


class Placing(Answer):
    """What goes where, what is stated, and which readings (by their number in the list) found no cell."""

    placed: list[Placed]
    messages: list[Reason]
    left_over: list[int]


class PlacingQuestion(Part):
    """Readings in the order in which they came, and the open cells in the order in which they are read.

    `quantities`: every quantity the sheet asks for, in a cell open or filled.
    """

    verb: str
    lines: list[DeviceLine] = Field(max_length=400)
    cells: list[OpenCell] = Field(max_length=MAX_CELLS)
    quantities: list[Quantity] = []


def place(question: dict[str, Any]) -> Placing:
    """Each reading to the first open cell that asks for it. One that does not fit is left out, with a message. Raises Refused.

    A shot that gives several readings is placed or left out as one.
    """
    query = read_query(PlacingQuestion, question)
    cells, outcome = list(query.cells), Placing(placed=[], messages=[], left_over=[])
    numbered = enumerate(query.lines)
    for _, found in groupby(numbered, key=lambda entry: (entry[1].device, entry[1].at)):
        shot = list(found)
        pairs = _cells_for([line for _, line in shot], cells)
        unfit = [reason for line, cell in pairs if cell is not None and (reason := _unfit(line, cell))]
        messages = unfit or [_no_cell(line, query.quantities) for line, cell in pairs if cell is None]
        outcome.messages.extend(
            reason for reason in messages if all(reason.text != other.text for other in outcome.messages)
        )
        for (number, line), (_, cell) in zip(shot, pairs, strict=True):
            if unfit or cell is None:
                outcome.left_over.append(number)
            else:
                cells.remove(cell)
                outcome.placed.append(Placed(path=cell.path, value=line.value, device=line.device, unit=line.unit))
    return outcome


def _cells_for(shot: list[DeviceLine], cells: list[OpenCell]) -> list[tuple[DeviceLine, OpenCell | None]]:
    """The readings of a shot, each with a cell of its own."""
    free, pairs = list(cells), []
    for line in shot:
        cell = next((cell for cell in free if cell.quantity == line.quantity), None)
        if cell is not None:
            free.remove(cell)
        pairs.append((line, cell))
    return pairs


def _no_cell(line: DeviceLine, quantities: list[Quantity]) -> Reason:
    name = NAMES[line.quantity]
    if line.quantity in quantities:
        text = f"{line.device}: every cell for {name} is filled, so {line.value} was left out. Open one more row if it belongs here."
        return Reason(code="sheet-full", text=text)
    return Reason(code="not-asked-for", text=f"{line.device} sends {name}. This sheet does not ask for any.")


def _unfit(line: DeviceLine, cell: OpenCell) -> Reason | None:
    if line.unit != cell.unit:
        text = (
            f"{line.device} sends {UNITS[line.unit]}, this sheet is read in {UNITS.get(cell.unit, cell.unit)}: "
            f"{line.value} was left out. Set the instrument to {UNITS.get(cell.unit, cell.unit)}, or the sheet to {UNITS[line.unit]}."
        )
        return Reason(code="other-unit", text=text)
    if line.face is not None and cell.face is not None and line.face != cell.face:
        text = (
            f"{line.device} measured in face {line.face}; the next cell is for face {cell.face}. {line.value} was left out. "
            f"Turn the instrument to face {cell.face}, or go to the cell you mean."
        )
        return Reason(code="other-face", text=text)
    return None
