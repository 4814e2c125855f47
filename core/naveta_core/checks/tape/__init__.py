"""A tape compared with known lengths, at a stated tension and temperature.

What the tape reads is brought to its standard temperature and tension: read · (1 + α(T − T₀) + (P − P₀)/(A·E)). The
rest is the tape's own: a zero that is worn, and a scale that has stretched.
"""

from __future__ import annotations

from typing import Any

from ...engine.form import Group, Method
from ...engine.kind import Kind, RequiredConditions
from .document import SCALE, ZERO, Tape, read_document, where
from .judge import CAUTIONS, grow, judge
from .text import draw

Data = dict[str, Any]
BAND = Group(
    "observations", "The tape and its pull", ("material", "tension_n", "standard_tension_n", "cross_section_mm2")
)
LENGTHS = Group(
    "observations.lengths",
    "Known length and tape",
    note="Against a proved tape side by side, or marks measured by a proved instrument.",
)
GENERAL = (Group("observations", "The tape and its pull"), LENGTHS)
KIND = Kind(
    document=Tape,
    where=where,
    read=read_document,
    judge=judge,
    caution_codes=CAUTIONS,
    draw=draw,
    grow=grow,
    general=GENERAL,
    title="Tape compared",
    applies_to=("tape",),
    minutes=10,
    interval_days=365,
    bring=(
        "A proved tape, or a base of marks of known lengths",
        "A spring balance",
        "A thermometer that lies beside the band",
    ),
    before_you_start=("The tape flat on the ground, in the shade, a quarter of an hour.",),
    who_adjusts=(),
    when_bad=(
        ("real", "Is it real?", "Pull it afresh and read once more. Both count together."),
        ("keep", "Keep what was found", "Save as found: the correction is what it is good for."),
        ("adjust", "Nothing to turn", "A tape is never adjusted: it is corrected, or put out of use."),
        ("without", "Do without it", "Take another, or use this one with its correction."),
        ("look-back", "What was done with it since", "Long lengths taped since the last comparison carry it."),
    ),
    watch_condition="With its correction.",
    main_quantity=SCALE,
    quantity_label="scale",
    methods=(
        Method(
            "base",
            "Against known lengths",
            "Marks whose distances were measured by something proved.",
            {"material": "steel", "against": "marks", "lengths": [{}, {}, {}]},
            (BAND, LENGTHS),
            (
                "Flat, straight, pulled to the stated tension by the balance.",
                "Read at each mark: a short one first, for the zero.",
            ),
        ),
        Method(
            "side-by-side",
            "Beside a proved tape",
            "Both bands pulled alike, side by side: what the proved one reads is the known length.",
            {"material": "steel", "against": "tape", "lengths": [{}, {}, {}, {}]},
            (BAND, LENGTHS),
            (
                "Side by side, both pulled to the same tension.",
                "At four places: what the proved one reads, what this one reads.",
            ),
        ),
    ),
    required_conditions=RequiredConditions(temperature=True),
    why="A tape that was run over reads short by millimetres, in every length alike, and nothing contradicts it.",
    order=80,
    unit="ppm",
    kept=("correction_mm_per_30_m", ZERO),
)
