"""The circumstances a sheet asks for: each as one short question, and what it would change while nobody has answered it."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import asdict, dataclass
from typing import Any

from ..units.formatting import capital


@dataclass(frozen=True, slots=True)
class Circumstance:
    """One circumstance: a field of a document's `conditions`. Without options a number, in `unit`."""

    name: str
    label: str
    unknown: str
    """What it would change: said while it is unknown."""
    unit: str = ""
    options: tuple[tuple[str, str], ...] = ()
    """(what the document holds, what is read)."""
    detail: bool = False
    """Asked beside the others, for whoever keeps it on record."""

    def as_dict(self) -> dict[str, Any]:
        """What the web lays out."""
        return {**asdict(self), "options": [{"value": value, "label": label} for value, label in self.options]}


CIRCUMSTANCES = {
    entry.name: entry
    for entry in (
        Circumstance("minutes_on", "Warm-up", "While it warms up, its readings drift.", "min"),
        Circumstance("temperature_c", "Temperature", "The result holds near the temperature of the check.", "°C"),
        Circumstance(
            "support",
            "Set up on",
            "On a tripod, a step beside it turns the head.",
            options=(("tripod", "Tripod"), ("pillar", "Pillar"), ("floor", "Floor")),
        ),
        Circumstance(
            "wind",
            "Wind",
            "In wind the readings scatter more, so the ± is larger.",
            options=(("calm", "Calm"), ("breeze", "Breeze"), ("strong", "Strong wind")),
        ),
        Circumstance(
            "sky",
            "Sun",
            "Sun on one side of the instrument moves its axes.",
            options=(
                ("cloud", "Cloud or shade"),
                ("shaded", "Sun, instrument shaded"),
                ("sun", "Sun on the instrument"),
            ),
        ),
        Circumstance(
            "ground",
            "Ground",
            "Hard ground in the sun bends and blurs a sight.",
            options=(
                ("grass", "Grass"),
                ("earth", "Earth"),
                ("gravel", "Gravel"),
                ("asphalt", "Asphalt"),
                ("stone", "Concrete or stone"),
                ("floor", "Indoors"),
            ),
        ),
        Circumstance(
            "shimmer",
            "Shimmer",
            "In shimmer the pointings scatter more, so the ± is larger.",
            options=(("none", "None"), ("some", "Some"), ("strong", "Strong")),
        ),
        Circumstance(
            "staff_held",
            "Staff upright by",
            "A staff out of plumb reads too much, more the higher up.",
            options=(("bipod", "Bipod"), ("level", "Staff level"), ("hand", "By hand")),
            detail=True,
        ),
        Circumstance(
            "distances_by",
            "Distances by",
            "A distance wrong by 1 m changes little; by 5 m it shows.",
            options=(
                ("steel", "Steel tape"),
                ("fibre", "Fibre tape"),
                ("stadia", "Stadia hairs"),
                ("instrument", "The instrument"),
                ("paced", "Paced"),
            ),
            detail=True,
        ),
        Circumstance(
            "triggered",
            "Measured by",
            "A finger on the key shakes the instrument.",
            options=(("remote", "Remote trigger or timer"), ("hand", "The key")),
            detail=True,
        ),
        Circumstance(
            "prism",
            "Prism",
            "An offset found with one prism does not hold for another.",
            options=(
                ("full", "Full size"),
                ("mini", "Mini prism"),
                ("all-round", "All-round prism"),
                ("sheet", "Reflector sheet"),
            ),
            detail=True,
        ),
        Circumstance(
            "regained",
            "Walk, hide, regain",
            "Walk with the prism, hide it, show it again: is it found again?",
            options=(("yes", "Found again"), ("no", "Not found again"), ("not-tried", "Not tried")),
            detail=True,
        ),
    )
}
"""Every circumstance a check can ask for, by its name in `conditions`."""

THROUGH_AIR = ("sky", "ground", "shimmer")
"""What a check asks that sights through the open air."""


def circumstances_text(conditions: Mapping[str, Any]) -> str:
    """What a document's `conditions` hold, in words: 'Warm-up 15 min, temperature 12 °C, set up on tripod'; empty where
    nobody gave any."""
    words = [
        f"{entry.label.lower()} {_answer(entry, str(conditions[name]))}"
        for name, entry in CIRCUMSTANCES.items()
        if conditions.get(name) not in (None, "")
    ]
    return capital(", ".join(words))


def _answer(entry: Circumstance, value: str) -> str:
    label = dict(entry.options).get(value)
    return label.lower() if label else f"{value} {entry.unit}".strip()
