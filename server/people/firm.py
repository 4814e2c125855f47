"""What the firm as a whole sets: its name and zone, how it writes and judges, and what its work is."""

from __future__ import annotations

from typing import Any
from zoneinfo import ZoneInfo

from django.conf import settings
from django.db import transaction
from pydantic import ValidationError as ModelError

from naveta_core.documents.envelope import Work
from naveta_core.documents.model_faults import faults_of
from naveta_core.errors import Fault, Refused, path_in_words, quote
from naveta_core.history.rules import CLIMATES
from naveta_core.setup.methods import SET_UP_METHODS
from people.changes import record_changes, refuse_if_changed
from people.models import Organisation, Person
from shared import clock
from shared.rights import require

ABOUT = "firm"
LABELS = {
    "name": "name of the firm",
    "time_zone": "time zone",
    "staff_word": "word for a levelling staff",
    "decimal_mark": "decimal mark",
    "length_unit": "unit of length",
    "angle_unit": "angle format",
    "judge_raw": "raw differences 2c and 2i",
    "preferred_method": "preferred method of setting up",
    "work": "what the work is",
    "least_grade": "smallest grade to go out",
    "climate": "climate",
}
GRADES = ("watch", "use")


def organisation() -> Organisation:
    """What the firm has set."""
    return Organisation.objects.order_by("pk").first() or Organisation()


def zone_of(firm: Organisation) -> str:
    """The firm's zone; the server's own where it has set none."""
    return firm.time_zone or settings.TIME_ZONE


@transaction.atomic
def change_firm(*, actor: Person, given: dict[str, Any], version: int | None = None) -> Organisation:
    """Set some of it; what is not given stays. Raises Forbidden, Refused, Conflict."""
    require(actor, "manage-fleet")
    firm = Organisation.objects.select_for_update().order_by("pk").first() or Organisation()
    faults = _faults(given)
    if faults:
        raise Refused(faults)
    refuse_if_changed(ABOUT, firm, version)
    if "work" in given:
        given = {**given, "work": _work(given["work"])}
    before = {name: getattr(firm, name) for name in given}
    if record_changes(actor, ABOUT, firm, before=before, after=given, labels=LABELS):
        for name, value in given.items():
            setattr(firm, name, value)
        firm.save()
        clock.forget_zone()
    return firm


clock.use_zone(lambda: organisation().time_zone)


def _work(typed: dict[str, Any]) -> dict[str, Any]:
    found = Work.model_validate(typed, context={"length": "m"})
    return found.model_dump(mode="json", exclude_unset=True)


def _faults(given: dict[str, Any]) -> list[Fault]:
    """What cannot be, field by field."""
    faults = []
    zone, method, grade = given.get("time_zone"), given.get("preferred_method"), given.get("least_grade")
    if zone and not _is_zone(zone):
        faults.append(Fault("time_zone", "time zone", quote(zone), "a zone such as Europe/London or America/Chicago"))
    climate = given.get("climate")
    if climate and climate not in CLIMATES:
        faults.append(Fault("climate", "climate", quote(climate), f"one of {', '.join(CLIMATES)}, or nothing"))
    offered = sorted(name for name, entry in SET_UP_METHODS.items() if not entry.for_levels)
    if method and method not in offered:
        faults.append(
            Fault("preferred_method", "the method", quote(method), f"one of {', '.join(offered)}, or nothing")
        )
    if grade is not None and grade not in GRADES:
        faults.append(Fault("least_grade", "smallest grade to go out", quote(grade), "use or watch"))
    if given.get("work") is not None:
        try:
            _work(given["work"])
        except ModelError as error:
            faults += [Fault(f"work.{f.path}", f.where, f.given, f.wanted) for f in faults_of(error, path_in_words)]
    return faults


def _is_zone(name: str) -> bool:
    try:
        ZoneInfo(name)
    except (ValueError, OSError, KeyError):
        return False
    return True
