"""The circles of a faultless instrument on a level target, in both faces."""

from __future__ import annotations

from ...engine.at_best import Faultless

FAULTLESS_FACES = Faultless(
    (
        ("*left.*.hz", "30.0007"),
        ("*left.*.v", "90.0003"),
        ("*right.*.hz", "210.0007"),
        ("*right.*.v", "269.5957"),
        ("closing.*.hz", "30.0007"),
        ("closing.*.v", "90.0003"),
    )
)
