"""Unknown is not absent: what is not stated is asked for, and only what is stated as none is none."""

from __future__ import annotations

import pytest

from naveta_core.checks import KINDS, kinds_for
from naveta_core.dispatch import begin
from naveta_core.documents.envelope import Instrument
from naveta_core.jobs.unstated import FACTS, unstated
from naveta_core.registry import document_of
from naveta_core.setup.methods import fitting


@pytest.mark.parametrize("kind", ["total-station", "robotic-total-station", "theodolite", "tribrach"])
@pytest.mark.parametrize(("plummet", "asked"), [(None, True), ("optical", True), ("laser", True), ("none", False)])
def test_a_plummet_is_checked_unless_it_is_stated_that_there_is_none(
    kind: str, plummet: str | None, asked: bool
) -> None:
    checks = {check.name for check in kinds_for(Instrument.model_validate({"kind": kind, "plummet": plummet}))}
    assert ("plummet" in checks) is asked


HAS = [
    # kind, what is stated, then: is its electronic level checked, is its plate vial
    ("total-station", {}, True, False),
    ("total-station", {"electronic_level": False, "plate_vial": True}, False, True),
    ("total-station", {"plate_vial_arcsec_per_div": 30.0}, True, True),
    ("theodolite", {}, False, True),
    ("theodolite", {"electronic_level_step_arcsec": 1.0, "plate_vial": False}, True, False),
    ("theodolite", {"electronic_level": True}, True, True),
    ("robotic-total-station", {"electronic_level": False}, False, False),
]


@pytest.mark.parametrize(("kind", "stated", "electronic", "plate"), HAS)
def test_none_has_a_word_for_every_level(kind: str, stated: dict[str, object], electronic: bool, plate: bool) -> None:
    checks = {check.name for check in kinds_for(Instrument.model_validate({"kind": kind, **stated}))}
    assert ("dual-axis-level" in checks, "plate-vial" in checks) == (electronic, plate)


@pytest.mark.parametrize(
    ("stated", "wanted"),
    [
        ({"plate_vial": False, "plate_vial_arcsec_per_div": 30.0}, "nothing here, since it has no plate vial"),
        (
            {"electronic_level": False, "electronic_level_step_arcsec": 1.0},
            "nothing here, since it has no electronic level",
        ),
    ],
)
def test_a_figure_of_what_is_not_there_is_refused(stated: dict[str, object], wanted: str) -> None:
    with pytest.raises(ValueError, match=wanted):
        Instrument.model_validate({"kind": "theodolite", **stated})


def test_what_it_has_none_of_levels_nothing() -> None:
    def refused(**stated: bool) -> dict[str, str | None]:
        offers = fitting(Instrument(kind="theodolite", **stated)).level_type
        return {offer.level_type: offer.cannot for offer in offers}

    assert set(refused().values()) == {None}, "nothing stated refuses nothing"
    assert refused(electronic_level=False)["electronic"] == "This instrument has no electronic level."
    without = refused(plate_vial=False)
    assert without["electronic"] is None
    assert without["plate"] == without["two-plates"] == "This instrument has no plate vial."


def test_what_is_missing_is_named_with_what_depends_on_it() -> None:
    bare = dict(unstated(Instrument(kind="total-station")))
    assert list(bare) == [
        "plummet", "electronic_level", "plate_vial", "angle_accuracy_arcsec", "distance_accuracy_mm",
    ]  # fmt: skip
    assert "Its check is due until then" in bare["plummet"]
    whole = Instrument(
        kind="total-station", plummet="none", angle_accuracy_arcsec=3.0, distance_accuracy_mm=2.0,
        electronic_level_step_arcsec=1.0, plate_vial=False,
    )  # fmt: skip
    assert unstated(whole) == []
    assert [name for name, _ in unstated(Instrument(kind="tribrach"))] == ["plummet", "foot_screw_count"]
    assert unstated(Instrument(kind="staff")) == []


def test_every_fact_named_is_one_that_can_be_stated() -> None:
    for name, kinds, text in FACTS:
        assert name in Instrument.model_fields
        assert kinds
        assert text.endswith(".")


def test_the_first_check_asks_for_it() -> None:
    def said(**stated: str) -> list[str]:
        document = {"kind": "plummet", "method": "half-turn", "instrument": {"kind": "total-station", **stated}}
        found = KINDS["plummet"].preview(document_of({**document, "observations": {"sets": [{"marks": [{}]}]}}))
        return [message.code for message in found.progress.messages]

    assert "not-stated" in said()
    assert "not-stated" not in said(plummet="laser")


@pytest.mark.parametrize(
    ("check", "kind", "known"),
    [
        ("plate-vial", "theodolite", {"plate_vial_arcsec_per_div": 30}),
        ("dual-axis-level", "total-station", {"electronic_level": True}),
    ],
)
def test_a_level_nobody_stated_is_asked_for_on_its_sheet(check: str, kind: str, known: dict[str, object]) -> None:
    def said(**stated: object) -> list[str]:
        blank = begin(check, KINDS[check].methods[0].name, "m", "")
        found = KINDS[check].preview(document_of({**blank, "instrument": {"kind": kind, **stated}}))
        return [message.code for message in found.progress.messages]

    assert "not-stated" in said()
    assert "not-stated" not in said(**known)
