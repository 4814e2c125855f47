"""Labels, printed and read again: the pages are drawn by one library and their codes decoded by another."""

from __future__ import annotations

from typing import Any

import pypdfium2
import pytest
import zxingcpp

from fleet.labels import SHEETS, Label, labels_pdf
from tests.server.conftest import Api


def codes(pdf: bytes) -> list[list[Any]]:
    """The codes of each page, from its picture."""
    return [zxingcpp.read_barcodes(page.render(scale=4).to_pil()) for page in pypdfium2.PdfDocument(pdf)]


def words(pdf: bytes) -> str:
    return " ".join(page.get_textpage().get_text_range() for page in pypdfium2.PdfDocument(pdf))


def labels(count: int) -> list[Label]:
    return [
        Label(f"LV-{i:02}", "Ondine Merrow", f"https://naveta.firm.example/instruments/LV-{i:02}") for i in range(count)
    ]


@pytest.mark.parametrize(
    "size", [size if SHEETS[size].count < 20 else pytest.param(size, marks=pytest.mark.long) for size in SHEETS]
)
def test_every_label_of_every_size_is_decoded_again(size: str) -> None:
    sheet = SHEETS[size]
    wanted = labels(min(sheet.count + 1, 70))
    found = codes(labels_pdf(wanted, size))
    assert [len(page) for page in found] == ([sheet.count, 1] if sheet.count > 1 else [1, 1])
    assert sorted(code.text for page in found for code in page) == sorted(label.address for label in wanted)


def test_a_sheet_begun_before_is_used_up() -> None:
    sheet = SHEETS["a4-24"]
    (page,) = codes(labels_pdf(labels(2), "a4-24", first=23))
    middles = sorted((code.position.top_left.x + code.position.bottom_right.x) / 2 for code in page)
    pixels_a_mm = 4 * 72 / 25.4
    columns = [int(middle / pixels_a_mm / sheet.width) for middle in middles]
    assert columns == [1, 2], "the second and third of the last row"
    assert [len(found) for found in codes(labels_pdf(labels(3), "a4-24", first=23))] == [2, 1]


def test_from_the_yard_with_the_address_it_was_asked_at(tam: Api) -> None:
    answer = tam.get("labels?tags=lv7,LV-02,LV-07&size=single")
    assert (answer.status_code, answer["Content-Type"]) == (200, "application/pdf")
    assert [code.text for page in codes(answer.content) for code in page] == [
        "http://testserver/instruments/LV-07",
        "http://testserver/instruments/LV-02",
    ]
    assert "LV-07" in words(answer.content)
    assert "Ondine Merrow" in words(answer.content)
    assert [size["count"] for size in tam.get("labels/sizes").json()] == [24, 65, 30, 1]


@pytest.mark.parametrize(
    ("query", "status", "path"),
    [("tags=LV-07&size=a3", 422, "size"), ("tags=LV-07&first=25", 422, "first"), ("tags=", 422, "tags")],
)
def test_what_cannot_be_is_said(tam: Api, query: str, status: int, path: str) -> None:
    answer = tam.get(f"labels?{query}")
    assert (answer.status_code, answer.json()["faults"][0]["path"]) == (status, path)


def test_an_instrument_there_is_not(tam: Api) -> None:
    assert tam.get("labels?tags=LV-99").status_code == 404
