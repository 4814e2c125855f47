"""A staff against a steel tape: is its zero at its foot, are its divisions true, do its sections meet.

The tape's zero lies at the foot plate. error = graduation − taped length; a straight line through the errors gives the
zero offset and the scale, what lies off the line is a division or a joint.
"""

from __future__ import annotations

import random
from collections.abc import Sequence
from typing import Any, Literal

from pydantic import Field as Bounds

from ..envelope import Envelope, Part, Typed
from ..judgement import Estimate, Limits
from ..lengths import METRES
from ..priors import TAPE_BETWEEN_MM, TAPE_READING_MM
from ..readings import Range, Sheet
from ..wording import figure, length_words
from .sheet.acts import by_hand
from .sheet.answer import Recipe, SoFar
from .sheet.circumstances import Circumstances
from .sheet.compared import (
    Compared,
    Lengths,
    Pairs,
    Reckoned,
    all_read,
    compare,
    places_among,
    read_pairs,
    without_each,
)
from .sheet.entry import Asks, Field, Group, Option, Way, Where
from .sheet.judged import (
    Judged,
    Quantity,
    Said,
    effect,
    limits_from,
    line,
    noise_factor,
    prior_dof,
    repeats_of,
    row,
    shown,
)
from .sheet.kinds import kind_of_rows
from .sheet.pictures import deviations
from .sheet.straight import PPM, Straight, spread_m
from .sheet.table import Table
from .sheet.warmth import ask_temperature, sigma_kelvin, tell_compared, tell_temperature

Data = dict[str, Any]
ZERO, SCALE, STEP = "zero_offset_mm", "scale_ppm", "largest_step_mm"
STEEL_PER_K = 11.5e-6
STANDARD_C = 20.0
STEEL_TAPE_PPM = 50.0
"""What a steel tape that was compared may still be out by, its pull not told: one standard deviation."""
ZERO_WATCH_MM = 1.5
SOURCE = "opening value for a staff of site work"
NAMES, FEWEST = ("mark", "tape"), 3
LENGTH = Range(-0.05, 8.0, "a length along the staff")
APART_MM = 20.0
LEAST_SPREAD_M = 0.5
CAUTIONS = {"before": ("tape", "overhead-lines"), "reading": ("tape",), "adjusting": ("tape",)}
where = Where(
    {
        "sections": "mark",
        "mark": "graduation",
        "tape": "taped",
        "foot_firm": "the foot plate",
        "joints_firm": "the joints",
    }
)


class Section(Part):
    """One graduation, and how far it is from the foot plate by the tape."""

    mark: Typed | None = None
    tape: Typed | None = None


class Observations(Part):
    sections: list[Section] = Bounds(default=[], max_length=40)
    foot_firm: Literal["yes", "no"] | None = None
    joints_firm: Literal["yes", "no"] | None = None


class Staff(Envelope):
    """A check of a levelling staff."""

    kind: Literal["staff"]
    observations: Observations


def _read(document: Staff, sheet: Sheet) -> Pairs:
    o = document.observations
    read = read_pairs(sheet, "observations.sections", o.sections, NAMES, where, LENGTH, FEWEST)
    words = length_words(document.units.length)
    for path, mark, tape in read.marks:
        if abs(mark - tape) * 1000 > APART_MM:
            given = f"{words.reading(mark)} and {words.reading(tape)}"
            sheet.fault(
                path, where(path), given, f"graduation and taped length of the same place, within {APART_MM:g} mm"
            )
    if all_read(read, o.sections, NAMES, FEWEST):
        _far_enough(read, sheet)
    return read


def _far_enough(read: Pairs, sheet: Sheet) -> None:
    graduations = [mark for _, mark, _ in read.marks]
    if spread_m(graduations) < LEAST_SPREAD_M or places_among(graduations) < FEWEST:
        sheet.fault(
            "observations.sections",
            "the marks",
            f"marks at {', '.join(f'{one:.2f} m' for one in graduations)}",
            f"three marks or more along the whole staff, {LEAST_SPREAD_M:g} m apart at the least",
        )


def _reckoned(document: Staff, read: Pairs, *, told: bool | None = None) -> Reckoned:
    """Variances: reading the tape; of the scale the tape's own and its temperature (`told`: as if it were known)."""
    within = (TAPE_READING_MM["steel"] * noise_factor(document)) ** 2 + read.step_mm**2 / 12
    kelvin = sigma_kelvin(document, told=told)
    scale = STEEL_TAPE_PPM**2 + (STEEL_PER_K * PPM * kelvin) ** 2
    return Reckoned(within, TAPE_BETWEEN_MM**2, prior_dof(document), scale)


def _told(document: Staff, read: Pairs) -> Lengths:
    """True lengths by the tape, and what the graduations are out by."""
    t = document.conditions.temperature_c
    warm = 1.0 + STEEL_PER_K * ((t if t is not None else STANDARD_C) - STANDARD_C)
    lengths = [tape * warm for _, _, tape in read.marks]
    marks = [mark for _, mark, _ in read.marks]
    errors = [(mark - length) * 1000 for mark, length in zip(marks, lengths, strict=True)]
    return Lengths(tuple(marks), tuple(lengths), tuple(errors))


def _estimates(found: Compared) -> list[Estimate]:
    return [found.line.zero(), found.line.scale(), found.misfit]


def _quantities(document: Staff, read: Pairs, found: Compared, how: Reckoned) -> list[Quantity]:
    left_out = without_each(_told(document, read), how, found.kept, _estimates)
    paths = [read.marks[i][0] for i in found.kept]

    def quantity(
        at: int, name: str, noun: str, unit: str, use: float, q: tuple[float, float], condition: str
    ) -> Quantity:
        watch = ZERO_WATCH_MM if name == ZERO else 2 * use
        opening = Limits(use, watch, watch, SOURCE, False)
        without = tuple((path, one[at] if one else None) for path, one in zip(paths, left_out, strict=True))
        limits = limits_from(document, name, opening)
        return Quantity(name, noun, unit, _estimates(found)[at], limits, *q, condition=condition, without=without)

    solved = found.line.solved
    return [
        quantity(0, ZERO, "the zero at the foot", "mm", 0.7, (solved.q_within(0), how.between),
                 "Use this one staff for back and fore sight: its zero then falls out. Never with another in one run."),
        quantity(1, SCALE, "the divisions", "ppm", 300.0, (solved.q_within(1) * PPM, how.scale_ppm2),
                 "On flat ground only: the error grows with the height carried."),
        quantity(2, STEP, "the mark that fits least", "mm", 1.0, (found.misfit_variance, 0.0), "Not across the joint that is out."),
    ]  # fmt: skip


def _judge(document: Staff, read: Pairs, _circumstances: Circumstances) -> Judged:
    how = _reckoned(document, read)
    told = _told(document, read)
    compared, errors = compare(told, how), told.error_mm
    found, at, misfit = compared.line, compared.at, compared.misfit.value
    quantities = _quantities(document, read, compared, how)
    words, o = length_words(document.units.length), document.observations
    figures: Data = {
        ZERO: found.zero_mm,
        f"sigma_{ZERO}": found.zero().sigma,
        SCALE: found.scale_ppm,
        f"sigma_{SCALE}": found.scale().sigma,
        STEP: misfit,
        "errors": [
            {"graduation_m": mark, "error_mm": e, "misfit_mm": v}
            for (_, mark, _), e, v in zip(read.marks, errors, compared.residuals, strict=True)
        ],
        "repeats": repeats_of(found.solved.spread),
    }
    place = words.reading(read.marks[at][1])
    judged = Judged(
        quantities, figures, _finding(found, quantities), [
            shown(quantities[0], "Zero at the foot"),
            shown(quantities[1], "Divisions, too short is plus"),
            row(STEP, "Fits least", f"{figure(misfit, 2)} mm at {place}", misfit, "mm"),
        ],
        _worked(document, read, found, errors), _work(found), found.solved.spread, taken=1,
        again="Lay the tape afresh and read once more. Both count together.", send="Put it out of use: a staff is replaced, not adjusted.",
    )  # fmt: skip
    judged.reasons += _said(document)
    tell_compared(judged, compared, [path for path, _, _ in read.marks], where)
    tell_temperature(judged, document, quantities[1], found.scale(), _with_temperature(document, read))
    if o.foot_firm == "no":
        judged.to_mend.append(("fix-foot", "Fix the foot plate, then measure again: its zero has moved."))
    if o.joints_firm == "no":
        judged.to_mend.append(
            ("clean-joints", "Clean the joints, see that each section clicks home, then measure again.")
        )
    return judged


def _with_temperature(document: Staff, read: Pairs) -> Estimate:
    """The scale as sure as it would be with the temperature."""
    return compare(_told(document, read), _reckoned(document, read, told=True)).line.scale()


def _said(document: Staff) -> list[Said]:
    said: list[Said] = []
    o = document.observations
    if o.foot_firm == "no":
        said.append(("foot-loose", "The foot plate is loose: the zero is wherever it sits."))
    if o.joints_firm == "no":
        said.append(("joints-loose", "A joint has play: every height read above it is in doubt."))
    return said


def _finding(found: Straight, quantities: list[Quantity]) -> str:
    zero, scale = found.zero(), found.scale()
    parts = []
    if abs(zero.value) > zero.u95:
        parts.append(f"its zero lies {figure(abs(zero.value), 1)} mm {'below' if zero.value > 0 else 'above'} the foot")
    if abs(scale.value) > scale.u95:
        parts.append(
            f"its divisions are {figure(abs(scale.value), 0)} parts in a million too {'short' if scale.value > 0 else 'long'}"
        )
    if not parts:
        return f"No error shown: zero within {figure(zero.proved_to, 1)} mm, divisions within {figure(scale.proved_to, 0)} parts in a million."
    good = all(abs(one.estimate.value) <= one.limits.use for one in quantities)
    lead = "Within its limits" if good else "The staff is out"
    return f"{lead}: {' and '.join(parts)}, ± {figure(zero.u95, 1)} mm and ± {figure(scale.u95, 0)} ppm."


def _worked(document: Staff, read: Pairs, found: Straight, errors: Sequence[float]) -> list[Data]:
    words = length_words(document.units.length)
    t = document.conditions.temperature_c
    lines = [line("error = graduation − taped length", "error = zero + scale · length")]
    if t is not None:
        lines.append(
            line(f"Steel tape at {t:g} °C, true at 20 °C", f"× (1 + 11.5·10⁻⁶ · {t - STANDARD_C:g})".replace("-", "−"))
        )
    for (_, mark, tape), e in zip(read.marks, errors, strict=True):
        lines.append(
            line(
                f"Graduation {words.reading(mark)}",
                f"taped {words.reading(tape)} {words.name}: error {figure(e, 2)} mm",
            )
        )
    lines.append(
        line("Line through them", f"zero {figure(found.zero_mm, 3)} mm, scale {figure(found.scale_ppm, 1)} ppm")
    )
    return lines


def _work(found: Straight) -> list[Data]:
    per_metre = found.scale_ppm / 1000
    return [
        effect("per-metre-of-rise", f"Each metre of rise between the sights costs {figure(abs(per_metre), 2)} mm."),
        effect(
            "with-another-staff",
            f"Used with another staff, {figure(abs(found.zero_mm), 1)} mm for every odd number of set-ups; alone, nothing.",
        ),
    ]


def picture(errors: Sequence[float], at: Sequence[float], limit: float | None, zero: str, along: str) -> Data:
    """Errors along the length, as far as they are in."""
    listed: list[tuple[str, float, float | None]] = [
        (f"{length:.2f} m", length, e) for length, e in zip(at, errors, strict=True)
    ]
    return deviations("mm", listed, limit, zero, along)


def _picture(document: Staff, read: Pairs, judged: Judged | None) -> Data | None:
    limit = judged.quantities[0].limits.use if judged else None
    told = _told(document, read)
    return picture(told.error_mm, told.place_m, limit, "graduation and tape agree", "up the staff")


def running(errors_mm: Sequence[float]) -> list[Said]:
    """What the first lengths say while the others are still to come."""
    if len(errors_mm) < 2:
        return []
    low, high = (figure(one, 1) for one in (min(errors_mm), max(errors_mm)))
    return [("running", f"So far {len(errors_mm)} places, errors from {low} to {high} mm.")]


def _so_far(document: Staff, read: Pairs) -> SoFar:
    return SoFar([*_said(document), *ask_temperature(document), *running(_told(document, read).error_mm)])


def simulate(rng: random.Random, truth: Data) -> Data:
    """A plausible document. truth: `zero_mm`, `scale_ppm`, `lengths`, `noise`, `unit`, `temperature_c`."""
    unit, noise = truth.get("unit", "m"), truth.get("noise", 1.0)
    zero, scale, t = truth.get("zero_mm", 0.0), truth.get("scale_ppm", 0.0), truth.get("temperature_c", 20.0)
    sections = []
    common = rng.gauss(0, TAPE_BETWEEN_MM * noise)
    for length in truth.get("lengths", (0.1, 0.5, 1.0, 1.5, 2.0, 2.5, 3.0)):
        true = (length - (zero + common) / 1000) / (1 + scale / PPM)
        taped = true / (1 + STEEL_PER_K * (t - STANDARD_C)) + rng.gauss(0, TAPE_READING_MM["steel"] * noise) / 1000
        sections.append({"mark": f"{length / METRES[unit]:.4f}", "tape": f"{taped / METRES[unit]:.4f}"})
    return {
        "kind": "staff",
        "units": {"length": unit},
        "conditions": {"temperature_c": t},
        "observations": {"sections": sections, "foot_firm": "yes", "joints_firm": "yes"},
    }


YES_NO = (Option("yes", "Yes"), Option("no", "No"))
LOOKS = Group(
    "observations",
    "First a look",
    (
        Field("foot_firm", "Is the foot plate firm and clean?", kind="choice", options=YES_NO),
        Field("joints_firm", "Do the joints hold without play?", kind="choice", options=YES_NO),
    ),
)
SECTIONS = Group("observations.sections", "Graduation and tape", (Field("mark", "Graduation", kind="length", given=True), Field("tape", "Tape reads", kind="length")), rows=True, most=40, more="One more mark",
                 note="Zero of the tape at the foot plate, the tape along the face, read at the edge of the graduation.")  # fmt: skip
RECIPE = Recipe("staff", _read, _judge, _so_far, _picture, CAUTIONS, where)
TABLE = Table("staff", ("foot_firm", "joints_firm"), "sections", ("mark", "tape"))


def _sections(*marks: str) -> list[Data]:
    return [{"mark": one} for one in marks]


KIND = kind_of_rows(
    RECIPE,
    Staff,
    TABLE,
    title="Staff against a tape",
    acting=by_hand,
    applies_to=("staff",),
    minutes=10,
    interval_days=365,
    bring=("A steel tape that was compared itself", "A flat place to lay the staff, in the shade", "A thermometer"),
    before_you_start=("Sections out as for work, each clicked home.",),
    who_adjusts=("manager", "crew"),
    when_bad=(
        ("real", "Is it real?", "Lay the tape afresh and read once more. Both count together."),
        ("keep", "Keep what was found", "Save as found."),
        ("adjust", "Mend what a look found", "A loose foot plate or a dirty joint is mended by hand; then measure again, as left. Divisions are not."),
        ("without", "Or do without it", "One staff alone for both sights bears a wrong zero; wrong divisions bear no heights."),
        ("look-back", "What was done with it since", "Runs with two staffs, and runs with much rise, carry its error."),
    ),
    watch_condition="Alone, for both sights, on flat ground.",
    main_quantity=ZERO,
    quantity_label="zero at the foot",
    simulate=simulate,
    ways=(
        Way("three-metre", "Along three metres", "Seven marks: zero, divisions and joints.", {"sections": _sections("0.1", "0.5", "1", "1.5", "2", "2.5", "3")}, (LOOKS, SECTIONS),
            ("Lay the staff flat, tape along its face, zero at the foot plate, light tension.", "Read the tape at each graduation.")),
        Way("five-metre", "Along five metres", "For long sectional staffs: each joint has a mark below and above.", {"sections": _sections("0.1", "1", "2", "3", "4", "5")}, (LOOKS, SECTIONS),
            ("Lay the staff flat, all sections out and clicked home, tape along its face, zero at the foot plate.", "Read the tape at each graduation.")),
        Way("ten-feet", "Along ten feet", "The same for a staff in feet; type in feet.", {"sections": _sections("0.5", "2", "4", "6", "8", "10")}, (LOOKS, SECTIONS),
            ("Lay the staff flat, tape along its face, zero at the foot plate.", "Read the tape at each graduation."), unit="ft"),
    ),
    asks=Asks(temperature=True),
    why="A worn foot or a loose joint is in every height read with it, and closes all the same.",
    order=70,
    unit="mm",
    kept=(SCALE,),
)  # fmt: skip
