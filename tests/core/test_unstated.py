"""Unknown is not absent: what is not stated is asked for, and only what is stated as none is none."""

from __future__ import annotations

import pytest

from naveta_core.checks import KINDS, kinds_for
from naveta_core.documents.envelope import Instrument
from naveta_core.jobs.unstated import FACTS, unstated
from naveta_core.registry import document_of


@pytest.mark.parametrize("kind", ["total-station", "robotic-total-station", "theodolite", "tribrach"])
@pytest.mark.parametrize(("plummet", "asked"), [(None, True), ("optical", True), ("laser", True), ("none", False)])
def test_a_plummet_is_checked_unless_it_is_stated_that_there_is_none(
    kind: str, plummet: str | None, asked: bool
) -> None:
    checks = {check.name for check in kinds_for(Instrument.model_validate({"kind": kind, "plummet": plummet}))}
    assert ("plummet" in checks) is asked


def test_what_is_missing_is_named_with_what_depends_on_it() -> None:
    bare = dict(unstated(Instrument(kind="total-station")))
    assert list(bare) == ["plummet", "angle_accuracy_arcsec", "distance_accuracy_mm"]
    assert "Its check is due until then" in bare["plummet"]
    whole = Instrument(kind="total-station", plummet="none", angle_accuracy_arcsec=3.0, distance_accuracy_mm=2.0)
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
