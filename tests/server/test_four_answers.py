"""Yard, due list, kit and Today give one answer, whatever was done with an instrument and happened to it."""

from __future__ import annotations

from fleet.due_items import DueItem
from fleet.listing import fleet_row
from fleet.selectors import Listed, Row, Status
from naveta_core.history.due_list import due_entries
from naveta_core.history.standing import checks_due, standing_of
from naveta_core.jobs.fitness import Candidate, checks_before
from tests.amount import tries
from tests.core.histories import TODAY, histories

GOES = ("ready", "ready-if")


def test_all_four_name_the_same_checks_in_five_thousand_random_histories() -> None:
    seen = set()
    for number, (instrument, records, events, planned) in enumerate(histories(44, tries(5000, 300))):
        kind = instrument.kind or ""
        one = Listed(1, "XX-01", kind, "Ondine", "Merrow", "", None, "", TODAY, "")
        found = checks_due(instrument, records, events, today=TODAY, planned=planned)
        stood = standing_of(found, events, TODAY, "watch")
        due = due_entries(found, stood, TODAY)
        row = Row(one, Status(stood, due), None)
        yard = {check.check for check in stood.checks if check.needed}
        plan = {entry.check for entry in due if entry.due_on and DueItem(row, entry, entry.due_on).key[0] is False}
        today = {check["check"] for check in fleet_row(row)["needed"]}
        candidate = Candidate("XX-01", "", instrument, standing=stood, due=due)
        kit = {check.check for check in checks_before(candidate) if check.where == "before-leaving"}
        assert yard == plan == today == kit, number
        assert fleet_row(row)["state"] == stood.state
        assert (stood.state in GOES) <= (not yard), number
        seen.add((stood.state, bool(yard)))
    assert {("ready", False), ("ready-if", False), ("check-first", True), ("hold", True)} <= seen
