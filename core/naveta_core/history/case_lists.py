"""What belongs into an instrument's case, and what has to be ready before one leaves with it.

The default list of a kind holds until a firm writes one for the model. What was ticked, and what was missing, is on
record with the taking out or handing in.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from ..results import Answer
from ..units.formatting import capital, joined

_OPTICAL = ("Hex key and adjusting pin", "Rain cover", "Lens brush and cloth", "Short handbook")
_POWER = ("Battery", "Spare battery", "Charger")
_STATION = (*_POWER, "Target prism", *_OPTICAL, "Tape for the height")
DEFAULT_CONTENTS: dict[str, tuple[str, ...]] = {
    "level": ("Plumb bob", *_OPTICAL),
    "digital-level": (*_POWER, *_OPTICAL),
    "theodolite": ("Plumb bob", "Spare battery", *_OPTICAL),
    "total-station": _STATION,
    "robotic-total-station": ("Controller", "Controller battery", *_STATION),
    "tribrach": ("Adjusting pin",),
    "tripod": ("Hinge key", "Fixing screw"),
    "pole": ("Point",),
    "staff": ("Staff level",),
}
"""Our own default lists, by kind of instrument."""


class DepartureItem(Answer):
    """One thing that has to be ready before leaving; `missing` names it in a sentence."""

    code: str
    label: str
    missing: str


@dataclass(frozen=True, slots=True)
class _Item:
    item: DepartureItem
    kinds: tuple[str, ...] = ()
    """Empty: every kind that has a case list."""


def _item(code: str, label: str, missing: str, *kinds: str) -> _Item:
    return _Item(DepartureItem(code=code, label=label, missing=missing), kinds)


_POWERED = ("digital-level", "total-station", "robotic-total-station")
_ITEMS = (
    _item("batteries", "Batteries charged", "batteries not charged", *_POWERED),
    _item("spare", "Spare battery charged", "no charged spare battery", *_POWERED),
    _item("link", "Controller linked", "controller not linked", "robotic-total-station"),
    _item("job", "The right job loaded", "right job not loaded", "total-station", "robotic-total-station"),
    _item("photograph", "Photograph of its case at hand", "no photograph of its case", *_POWERED, "theodolite"),
    _item("tools", "Adjusting tools in the case", "adjusting tools not in the case"),
)


def contents_of(kind: str, own: Sequence[str] = ()) -> list[str]:
    """What belongs into the case of an instrument: the firm's list of its model, else the default one of its kind."""
    return list(own) or list(DEFAULT_CONTENTS.get(kind, ()))


def departure_list(kind: str) -> list[DepartureItem]:
    """What has to be ready before leaving with an instrument of a kind."""
    if kind not in DEFAULT_CONTENTS:
        return []
    return [entry.item for entry in _ITEMS if not entry.kinds or kind in entry.kinds]


def departure_text(kind: str, ready: Sequence[str]) -> str:
    """'Ready to leave', or 'Not ready: batteries not charged and right job not loaded'. ready: codes that were ticked."""
    open_ = [item.missing for item in departure_list(kind) if item.code not in ready]
    return f"Not ready: {joined(open_)}" if open_ else "Ready to leave"


def missing_text(missing: Sequence[str]) -> str:
    """'Missing: hex key and rain cover', 'Nothing missing'."""
    return (
        capital(f"missing: {joined([name[:1].lower() + name[1:] for name in missing])}")
        if missing
        else "Nothing missing"
    )
