"""Hints a firm notes for a model, step by step: which ring focuses what, which screw adjusts what."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import asdict, dataclass
from typing import Any

from .kind import Kind

TELESCOPES = ("level", "digital-level", "theodolite", "total-station", "robotic-total-station")


@dataclass(frozen=True, slots=True)
class HintField:
    """A step a model may have a hint for; `example` shows what one looks like."""

    name: str
    label: str
    example: str
    kinds: tuple[str, ...]

    def as_dict(self) -> dict[str, Any]:
        """What the web lays out."""
        return {**asdict(self), "kinds": list(self.kinds)}


OF_STEPS = (
    HintField("telescope-focus", "Focusing the telescope", "which ring, which way", TELESCOPES),
    HintField(
        "plummet-focus",
        "Focusing the plummet",
        "outer ring: its cross; inner ring: the ground",
        ("theodolite", "total-station", "robotic-total-station", "tribrach"),
    ),
    HintField(
        "plummet-laser",
        "Plummet laser on and off",
        "key, menu, when it goes off",
        ("total-station", "robotic-total-station", "tribrach"),
    ),
    HintField(
        "electronic-level",
        "Electronic level on the screen",
        "where it is found",
        ("digital-level", "total-station", "robotic-total-station"),
    ),
)


def hint_fields(kinds: Mapping[str, Kind]) -> list[HintField]:
    """Every step there is a hint for: the adjusting screws of each check that can be adjusted, then the others."""
    screws = [
        HintField(
            kind.name,
            f"Adjusting screws: {kind.title[0].lower()}{kind.title[1:]}",
            "which screw, and where the tool is",
            kind.applies_to,
        )
        for kind in kinds.values()
        if kind.adjust is not None
    ]
    return [*screws, *OF_STEPS]
