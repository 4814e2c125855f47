"""A row that was opened and left empty is no row: it changes no figure and switches no check of the geometry off."""

from __future__ import annotations

import copy
import json
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest

from naveta_core.checks import KINDS
from naveta_core.errors import Refused

from .simulated import previewed, reduced

Data = dict[str, Any]
EXAMPLES = Path(__file__).resolve().parents[3] / "docs/examples"
TURNED = {
    "plate-vial": ({"sensitivity_arcsec_per_div": "20"}, "readings", {"bubble_div": "1.0"}, {"bubble_div": "2.3"}),
    "dual-axis-level": (
        {},
        "readings",
        {"along_arcsec": "3", "across_arcsec": "1"},
        {"along_arcsec": "5", "across_arcsec": "2"},
    ),
    "circular-vial": ({}, "readings", {"x_mm": "0.5", "y_mm": "0.1"}, {"x_mm": "-0.3", "y_mm": "0.2"}),
    "pole-vial": ({}, "readings", {"x_mm": "0.5", "y_mm": "0.1"}, {"x_mm": "-0.3", "y_mm": "0.2"}),
}


def lists(data: Any) -> Iterator[list[Any]]:
    """Every list of rows in a document."""
    if isinstance(data, dict):
        for value in data.values():
            yield from lists(value)
    elif isinstance(data, list) and data and isinstance(data[0], dict):
        yield data
        for entry in data:
            yield from lists(entry)


def answered(document: Data) -> Data | Refused:
    """The result, or the refusal."""
    try:
        return reduced(document)
    except Refused as error:
        return error


@pytest.mark.parametrize("kind", [one for one in KINDS if (EXAMPLES / f"{one}.json").exists()])
def test_an_opened_row_changes_nothing(kind: str) -> None:
    document = json.loads((EXAMPLES / f"{kind}.json").read_text())
    plain = reduced(document)
    for i in range(len(list(lists(document["observations"])))):
        opened = copy.deepcopy(document)
        list(lists(opened["observations"]))[i].append({})
        found = answered(opened)
        if isinstance(found, Refused):
            # A set-up, a round or a mark that was opened wants its readings, and a list may be full: said, not passed over.
            assert {fault.given for fault in found.faults} <= {"nothing", "a list"}, found
        else:
            assert found["result"] == plain["result"]
            assert found["verdict"] == plain["verdict"]


@pytest.mark.parametrize("kind", TURNED)
@pytest.mark.parametrize("headings", [("0", "90"), ("40", "40")])
def test_the_geometry_is_asked_about_all_the_same(kind: str, headings: tuple[str, str]) -> None:
    """0° and 90° with an empty last row were "adjust: 3.3 div the vial's own", two equal headings a division by zero."""
    more, path, first, second = TURNED[kind]
    rows = [{"heading_deg": headings[0], **first}, {"heading_deg": headings[1], **second}]
    for opened in ([], [{}], [{"heading_deg": ""}], [{}, {}]):
        document = {"kind": kind, "observations": {**more, path: [*rows, *opened]}}
        with pytest.raises(Refused) as caught:
            reduced(document)
        assert "180° apart" in caught.value.faults[0].wanted
        found = previewed(document)
        assert not found["complete"]
        assert found["faults"]


@pytest.mark.parametrize("headings", [("0", "90"), ("40", "40")])
def test_a_plummets_marks_too(headings: tuple[str, str]) -> None:
    marks = [{"heading_deg": heading, "x_mm": str(i), "y_mm": "0"} for i, heading in enumerate(headings)]
    document = {
        "kind": "plummet",
        "observations": {"method": "turn", "sets": [{"height_m": "1.5", "marks": [*marks, {}]}]},
    }
    with pytest.raises(Refused) as caught:
        reduced(document)
    assert "180° apart" in caught.value.faults[0].wanted
