"""What a careful person does before the first reading and at the end: short items to tick, on record, judged by nothing."""

from __future__ import annotations

from dataclasses import asdict, dataclass
from typing import Any


@dataclass(frozen=True, slots=True)
class CheckOff:
    """One item; `when`: before the first reading, or at the end."""

    code: str
    text: str
    when: str = "before"

    def as_dict(self) -> dict[str, Any]:
        """What the web lays out."""
        return asdict(self)


ITEMS = {
    item.code: item
    for item in (
        CheckOff("cross-sharp", "Crosshair sharp against the sky or a white card."),
        CheckOff("target-sharp", "Target sharp; the crosshair does not move over it when you move your eye."),
        CheckOff("slow-motion", "Rough sight first, then clamp, then the slow motion, ending clockwise."),
        CheckOff("face-known", "Face left or face right: known before each reading."),
        CheckOff("battery", "Battery charged, plus to plus, no damaged cell; a spare is here."),
        CheckOff("tribrach-locked", "Tribrach clamp closed; nothing plays when it is touched lightly."),
        CheckOff("clamps", "Every leg clamp closed after the last change of a leg."),
        CheckOff("screws-centred", "Foot screws back to the middle of their run.", "end"),
        CheckOff("parked", "Telescope parked and clamps free, as the case needs it.", "end"),
        CheckOff("case-picture", "Everything lies in the case as in its picture; nothing is forced.", "end"),
    )
}
"""Every item there is, by its code."""

LEVEL_SIGHTS = ("cross-sharp", "target-sharp", "screws-centred", "parked", "case-picture")
ANGLE_SIGHTS = (
    "battery", "tribrach-locked", "cross-sharp", "target-sharp", "slow-motion", "face-known",
    "screws-centred", "parked", "case-picture",
)  # fmt: skip
PACKED = ("screws-centred", "parked", "case-picture")
SET_UP = ("battery", "tribrach-locked", "clamps", *PACKED)
