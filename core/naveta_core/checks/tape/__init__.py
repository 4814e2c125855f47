"""A tape compared with known lengths, at a stated tension and temperature.

What the tape reads is brought to its standard temperature and tension: read · (1 + α(T − T₀) + (P − P₀)/(A·E)). The
rest is the tape's own: a zero that is worn, and a scale that has stretched.
"""

from __future__ import annotations

from ...engine.form import Group, Method
from ...engine.kind import Kind, LimitedQuantity
from .document import SCALE, ZERO, Tape, read_document, where
from .judge import CAUTIONS, judge, progress_of
from .text import draw

BAND = Group("observations", "Tape and tension", ("material", "tension_n", "standard_tension_n", "cross_section_mm2"))
LENGTHS = Group(
    "observations.lengths",
    "Known length and tape",
    note="Beside a checked tape, or along marks measured with a checked instrument.",
)
GENERAL = (Group("observations", "Tape and tension"), LENGTHS)
KIND = Kind(
    document=Tape,
    where=where,
    read=read_document,
    judge=judge,
    caution_codes=CAUTIONS,
    draw=draw,
    progress_of=progress_of,
    general=GENERAL,
    title="Tape check",
    applies_to=("tape",),
    minutes=10,
    interval_days=365,
    bring=(
        "A checked tape, or a line of marks with known distances",
        "A spring balance",
        "A thermometer beside the tape",
    ),
    before_you_start=("Lay the tape flat on the ground, in the shade, for 15 minutes.",),
    who_adjusts=(),
    when_bad=(
        ("real", "Confirm it", "Pull the tape again and read once more. Both runs count together."),
        ("keep", "Save as found", "Save as found: the result gives you the correction."),
        ("adjust", "No field adjustment", "A tape is never adjusted: apply the correction, or take it out of use."),
        ("without", "Use another instrument", "Use another tape, or use this one with its correction."),
        ("impact-review", "Review affected work", "Long distances taped since the last comparison contain this error."),
    ),
    watch_condition="With its correction.",
    limited=(
        LimitedQuantity("scale_ppm", "Scale", "ppm"),
        LimitedQuantity("zero_offset_mm", "Zero", "mm"),
    ),
    main_quantity=SCALE,
    quantity_label="scale",
    methods=(
        Method(
            "base",
            "Against known distances",
            "Marks whose distances were measured with a checked instrument.",
            observations={"material": "steel", "against": "marks", "lengths": [{}, {}, {}]},
            groups=(BAND, LENGTHS),
            steps=(
                "Flat and straight, pulled to the standard tension with the spring balance.",
                "Read at each mark, a short distance first for the zero.",
            ),
        ),
        Method(
            "side-by-side",
            "Beside a checked tape",
            "Both tapes side by side, same tension: the checked tape gives the known length.",
            observations={"material": "steel", "against": "tape", "lengths": [{}, {}, {}, {}]},
            groups=(BAND, LENGTHS),
            steps=(
                "Side by side, both pulled to the same tension.",
                "At four places, read the checked tape, then this one.",
            ),
        ),
    ),
    why="A damaged or stretched tape is wrong by millimetres in every length, and nothing shows it.",
    order=80,
    unit="ppm",
    carried=("correction_mm_per_30_m", ZERO),
)
