"""Does the vial of a pole or staff say plumb: turned half round in its stand, or held against a plumb line.

The same equations as for an instrument's circular vial. An error of the vial leans the pole: at the top of a pole of
height h the mark is out by h times the angle.
"""

from __future__ import annotations

import random
from typing import Any, Literal

from pydantic import Field as Bounds

from ..angles import ARCSEC_PER_RADIAN
from ..envelope import Envelope, Part, Typed
from ..judgement import Limits
from ..readings import Sheet
from ..wording import figure
from .circular_vial import BUBBLE, SENSITIVITY, turned_rows
from .circular_vial.reckon import bubble_to_middle, vial_figures
from .circular_vial.simulate import simulate as simulate_vial
from .circular_vial.solve import QUANTITY, USUAL_SENSITIVITY, BubbleReading, Read, find, provable_mm, read_bubbles
from .circular_vial.words import drawn_vial, minutes, running
from .sheet.answer import Recipe, SoFar
from .sheet.aside import aside
from .sheet.circumstances import Circumstances, Needs
from .sheet.entry import HEADING, Asks, Field, Group, Way, Where
from .sheet.judged import Judged, Quantity, effect, limits_from, line, name_apart, raised, row, shown, tell_scatter
from .sheet.kinds import kind_of_rows
from .sheet.table import Table
from .sheet.typed import number

Data = dict[str, Any]
USUAL_HEIGHT_M = 2.0
AGAINST_MM = 0.1
"""What a plumb line or a proved instrument leaves open, seen in the vial."""
CAUTIONS = {"before": ("overhead-lines",), "reading": ("overhead-lines", "wind"), "adjusting": ("vial-screws",)}
where = Where(
    {
        "readings": "reading",
        "heading_deg": "heading",
        "x_mm": "bubble right or left",
        "y_mm": "bubble away or towards you",
        "height_m": "height of the target",
        "sensitivity_arcmin_per_2mm": "sensitivity of the vial",
    }
)


class Observations(Part):
    item: Literal["pole", "staff"] = "pole"
    method: Literal["half-turn", "plumb-line", "proved-instrument"] = "half-turn"
    height_m: Typed | None = None
    sensitivity_arcmin_per_2mm: Typed | None = None
    readings: list[BubbleReading] = Bounds(default=[], max_length=24)


class PoleVial(Envelope):
    """A check of the vial of a pole or staff."""

    kind: Literal["pole-vial"]
    observations: Observations


def _read(document: PoleVial, sheet: Sheet) -> Read:
    o = document.observations
    turns = o.method == "half-turn"
    bubbles, steps = read_bubbles(sheet, o.readings, turns=turns, words=where)
    typed = number(
        sheet, "observations.sensitivity_arcmin_per_2mm", where("sensitivity_arcmin_per_2mm"),
        o.sensitivity_arcmin_per_2mm, "arcmin", 0.5, 90, wanted=False,
    )  # fmt: skip
    number(sheet, "observations.height_m", where("height_m"), o.height_m, "m", 0.3, 8, wanted=False)
    return Read(bubbles, turns, typed.value if typed else document.instrument.circular_vial_arcmin_per_2mm, steps)


def _height(document: PoleVial) -> float:
    typed = number(Sheet(), "", "", document.observations.height_m, "m", 0.3, 8, wanted=False)
    return typed.value if typed else USUAL_HEIGHT_M


def _needs(_document: PoleVial) -> Needs:
    return Needs(wind=True)


def _judge(document: PoleVial, read: Read, told: Circumstances) -> Judged:
    o = document.observations
    sensitivity = read.sensitivity or USUAL_SENSITIVITY
    found = find(
        document, read.bubbles, read.steps, turns=read.turns, told=told, more_mm=0.0 if read.turns else AGAINST_MM
    )
    scale, use = USUAL_SENSITIVITY / sensitivity, 0.5 if o.item == "pole" else 1.0
    opening = Limits(
        use * scale, 2 * use * scale, 5.0, f"opening value for a {o.item} with a vial of {sensitivity:g}′ per 2 mm"
    )
    opening = raised(opening, provable_mm(turns=read.turns, more_mm=AGAINST_MM), "mm", "a bubble read by eye")
    lean_mm = found.estimate.value * sensitivity * 30 / ARCSEC_PER_RADIAN * _height(document) * 1000
    turn = (
        f"Turn the {o.item} in its stand until the bubble lies where it rests, {aside(found.x, found.y)}: now it is plumb. Then bring it to the middle by the vial's own screws."
        if read.turns
        else f"Held plumb and still, bring the bubble from {aside(found.x, found.y)} to the middle by the vial's own screws."
    )
    quantity = Quantity(
        QUANTITY, f"the vial of the {o.item}", "mm", found.estimate, limits_from(document, QUANTITY, opening),
        found.q_within, found.q_between, True, f"For work that bears {figure(lean_mm, 1)} mm, or held at half its height.", turn,
    )  # fmt: skip
    judged = Judged(
        [quantity],
        {**vial_figures(found, read.sensitivity), "lean_mm": lean_mm},
        _finding(o.item, found, lean_mm, _height(document)),
        [
            shown(quantity, "Vial's own error"),
            row("lean_mm", f"Lean at {figure(_height(document), 2)} m", f"{figure(lean_mm, 1)} mm", lean_mm, "mm"),
            row("vial_error_x_mm", "Rests right of the middle", f"{figure(found.x, 2)} mm", found.x, "mm"),
            row("vial_error_y_mm", "Rests away from you", f"{figure(found.y, 2)} mm", found.y, "mm"),
        ],
        [
            line(
                "What stays is the vial's, what turns is the lean",
                "x = k·T·u(θ + 90°) + e_x, y = k·T·u(θ) + e_y" if read.turns else "held plumb: x = e_x, y = e_y",
            ),
            line(
                "Vial's own error",
                f"e_x = {figure(found.x, 3)}, e_y = {figure(found.y, 3)} mm; size {figure(found.estimate.value, 3)} mm",
            ),
            line(
                f"At {sensitivity:g}′ per 2 mm",
                f"{minutes(found.estimate.value, sensitivity)}; over {figure(_height(document), 2)} m: {figure(lean_mm, 2)} mm",
            ),
            line(
                "Standard uncertainty of each part, degrees of freedom",
                f"{figure(found.estimate.sigma, 3)} mm, {figure(found.estimate.dof, 1)}",
            ),
        ],
        _costs(o.item, found.estimate.value, sensitivity),
        found.solved.spread,
        one_more=("round of headings", "rounds of headings") if read.turns else ("reading", "readings"),
        again="Seat the point afresh and turn once more before a screw is touched. Both count together.",
        send="Fit another vial: a vial that cannot be set is a part, not a repair.",
    )
    tell_scatter(judged, found.solved, "headings")
    if found.apart:
        name_apart(judged, found.apart, f"The {where(found.apart)} does not fit the others: read it again.")
    return judged


def _finding(item: str, found: Any, lean_mm: float, height_m: float) -> str:
    e = found.estimate
    if e.value <= 2.0 * e.sigma:
        return f"No error shown: the vial of the {item} is proved within {figure(e.proved_to, 1)} mm."
    return f"Held by its vial the {item} leans {figure(lean_mm, 1)} mm at {figure(height_m, 1)} m: the bubble, plumb, rests {aside(found.x, found.y)}, ± {figure(e.u95, 1)} mm."


def _costs(item: str, error_mm: float, sensitivity: float) -> list[Data]:
    angle = error_mm * sensitivity * 30 / ARCSEC_PER_RADIAN
    if item == "staff":
        text = f"A staff that leans so reads {figure(3000 * angle * angle / 2, 2)} mm too much at 3 m."
        return [effect("staff-leans", text)]
    return [
        effect(f"lean-{h:g}-m", f"At {h:g} m the point is out by {figure(h * 1000 * angle, 1)} mm.")
        for h in (1.3, 2.0, 3.6)
    ]


def _picture(_document: PoleVial, read: Read, judged: Judged | None) -> Data | None:
    return drawn_vial(read, judged, "lean of the pole as it stood")


def _so_far(document: PoleVial, read: Read) -> SoFar:
    said = running(read, len(document.observations.readings))
    if read.turns and len(read.bubbles) == 1:
        said = [("turn-now", "Point and bipod stay; turn the pole by half a turn about itself, read again.")]
    return SoFar(said)


def simulate(rng: random.Random, truth: Data) -> Data:
    """A plausible document; truth as for a circular vial."""
    return simulate_vial(rng, {"kind": "pole-vial", **truth})


POLE = Group("observations", "The pole", (Field("height_m", "Height of the target", "m", optional=True),))
TURNED = Group("observations.readings", "The bubble in its vial", (HEADING, *BUBBLE), rows=True, most=24, more="One more heading", rounds=True,
               note="From the middle of the ring; right and away from you are plus, seen along the mark on the vial.")  # fmt: skip
HELD = Group(
    "observations.readings", "The bubble while it is held plumb", BUBBLE, rows=True, most=24, more="Read it once more"
)
RECIPE = Recipe("pole-vial", _read, _judge, _so_far, _picture, CAUTIONS, where, _needs)
TABLE = Table(
    "pole-vial",
    ("item", "method", "height_m", "sensitivity_arcmin_per_2mm"),
    "readings",
    ("heading_deg", "x_mm", "y_mm", "round"),
    ("round",),
)
KIND = kind_of_rows(
    RECIPE,
    PoleVial,
    TABLE,
    title="Vial of a pole or staff",
    acting=bubble_to_middle,
    applies_to=("pole", "staff"),
    minutes=4,
    interval_days=30,
    bring=("A bipod, or a hook and a plumb line", "A small hole for the point: a punch mark in steel or stone"),
    before_you_start=("Is the pole straight? Roll it on a flat floor: a bent one has no vial error that can be set.",),
    who_adjusts=("manager", "crew"),
    when_bad=(
        ("real", "Is it real?", "Seat the point afresh, turn once more. Both count together, never the better one alone."),
        ("keep", "Keep what was found", "Save as found before a screw is touched."),
        ("adjust", "Adjust it", "Plumb first, where the bubble rests; then the vial's own screws bring it to the middle. Then run it again, as left."),
        ("without", "Or do without it", "Hold it by where the bubble rests, or take another."),
        ("look-back", "What was done with it since", "Points set with it since the last good check lean the same way only if it always faced the same way."),
    ),
    watch_condition="Low, and with the vial facing the instrument.",
    main_quantity=QUANTITY,
    quantity_label="vial",
    simulate=simulate,
    ways=(
        Way("four-quarters", "Pole, four quarters in its bipod", "The whole: four headings check each other.", {"item": "pole", "method": "half-turn", "readings": turned_rows(0, 90, 180, 270)},
            (TURNED, POLE, SENSITIVITY), ("Point in a punch mark, bipod spread, bubble near the middle.", "Read it. Turn the pole by a quarter about itself, bipod untouched. Read again: four times."), needs=(("kind", ("pole",)),)),
        Way("half-turn", "Pole, half a turn in its bipod", "Needs nothing but the bipod.", {"item": "pole", "method": "half-turn", "readings": turned_rows(0, 180)},
            (TURNED, POLE, SENSITIVITY), ("Point in a punch mark, bipod spread, bubble near the middle.", "Read it. Turn the pole half round about itself, bipod untouched. Read again."), needs=(("kind", ("pole",)),)),
        Way("plumb-line", "Pole, against a plumb line", "Indoors or in the lee: a bob from the ceiling, its string along the pole in two directions.",
            {"item": "pole", "method": "plumb-line", "readings": [{}]}, (HELD, POLE, SENSITIVITY), ("Bring the pole along the string, seen from two sides at right angles.", "Read the bubble."), ("bob",), needs=(("kind", ("pole",)),)),
        Way("proved-instrument", "Pole, against a levelled instrument", "The vertical cross of a proved and levelled instrument, from two sides.",
            {"item": "pole", "method": "proved-instrument", "readings": [{}]}, (HELD, POLE, SENSITIVITY), ("Bring the pole along the vertical cross from one side, then from the other at right angles.", "Read the bubble."), ("sun",), needs=(("kind", ("pole",)),)),
        Way("staff", "Staff, against a plumb line", "A staff's vial, against a string or a corner that was plumbed.",
            {"item": "staff", "method": "plumb-line", "readings": [{}]}, (HELD, SENSITIVITY), ("Bring the staff along the string in both directions.", "Read the bubble."), ("overhead-lines",), needs=(("kind", ("staff",)),)),
    ),
    asks=Asks(wind=True),
    why="A pole held by a wrong vial puts every point out by the same lean, and nothing in the instrument shows it.",
    order=60,
    unit="mm",
    kept=("lean_mm",),
)  # fmt: skip
