"""What practitioners watch for: ticked off, on record, told again in time, on the side of the working hand."""

from __future__ import annotations

from .conftest import PHONE, Opens, visit


def test_controls_stand_on_the_side_of_the_working_hand(opens: Opens, level: str) -> None:
    page = opens(PHONE, touch=True)
    page.get_by_role("button", name="More", exact=True).tap()
    page.get_by_role("dialog").get_by_role("button", name="Controls: right hand").tap()
    visit(page, f"/bench/new/{level}/two-peg")
    page.get_by_role("button", name="Start reading").click()
    page.locator("#row-observations-setups-0-a-readings-0").tap()
    bar = page.get_by_role("toolbar", name="Keys for readings")
    following, back = (bar.get_by_role("button", name=name, exact=True).bounding_box() for name in ("Next", "Back"))
    assert following
    assert back
    assert following["x"] < back["x"]
