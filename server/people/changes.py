"""What a firm sets, on record: every change of a setting with who, when, from what to what; and what two people changed at once.

Each thing that can be set has a version. Whoever saves sends the version they saw; where somebody changed it meanwhile,
nothing is saved and the answer says what was changed, so that nothing of either is lost.
"""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any, Protocol

from naveta_core.errors import Fault
from people.models import Person, SettingChange
from shared import clock
from shared.errors import Conflict

Data = Mapping[str, Any]


class Versioned(Protocol):
    """Something that can be set, and how often it was."""

    version: int


def refuse_if_changed(about: str, thing: Versioned, seen: int | None) -> None:
    """Raise Conflict where `seen` is not the present version. None asks for no such care (scripts)."""
    if seen is None or seen == thing.version:
        return
    since = SettingChange.objects.filter(about=about, version__gt=seen).select_related("by").order_by("pk")
    latest = {change.field: change for change in since}
    who = " and ".join(dict.fromkeys(change.by.name for change in since)) or "Somebody"
    faults = [
        Fault(change.field, change.label, written(change.after), "your own value, or take this one")
        for change in latest.values()
    ]
    text = f"{who} changed this meanwhile. Your entries are kept: look at both, then save again."
    raise Conflict("changed-meanwhile", text, faults)


def record_changes(actor: Person, about: str, thing: Versioned, *, before: Data, after: Data, labels: Data) -> bool:
    """Store what differs, one line a field, and count the version up; whether anything did. The caller saves the thing."""
    changed = [name for name in after if before.get(name) != after[name]]
    if not changed:
        return False
    thing.version += 1
    SettingChange.objects.bulk_create(
        SettingChange(
            about=about,
            version=thing.version,
            field=name,
            label=str(labels.get(name, name)),
            before=before.get(name),
            after=after[name],
            by=actor,
            at=clock.now(),
        )
        for name in changed
    )
    return True


def written(value: Any) -> str:
    """A value of a setting as people read it."""
    if value is None or value == "":
        return "nothing"
    if isinstance(value, bool):
        return "yes" if value else "no"
    if isinstance(value, dict):
        return ", ".join(f"{name} {written(each)}" for name, each in value.items()) or "nothing"
    if isinstance(value, list):
        return ", ".join(written(each) for each in value) or "nothing"
    return str(value)
