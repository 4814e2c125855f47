"""A tape compared with known lengths, at a stated tension and temperature.

What the tape reads is brought to its standard temperature and tension: read · (1 + α(T − T₀) + (P − P₀)/(A·E)). The
rest is the tape's own: a zero that is worn, and a scale that has stretched.
"""

from __future__ import annotations

import random
from collections.abc import Sequence
from dataclasses import dataclass
from math import hypot
from typing import Any, Literal

from pydantic import Field as Bounds

from ..envelope import Envelope, Part, Typed
from ..judgement import Estimate, Limits
from ..lengths import METRES
from ..priors import TAPE_BETWEEN_MM, TAPE_READING_MM
from ..readings import Range, Sheet
from ..wording import figure, length_words
from .sheet.answer import Recipe, SoFar
from .sheet.circumstances import Circumstances
from .sheet.compared import Compared, Lengths, Pairs, Reckoned, all_read, compare, read_pairs, without_each
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
    shown,
)
from .sheet.kinds import kind_of_rows
from .sheet.straight import PPM, Straight
from .sheet.table import Table
from .sheet.typed import number
from .sheet.warmth import ask_temperature, sigma_kelvin, tell_compared, tell_temperature
from .staff import picture, running

Data = dict[str, Any]
SCALE, ZERO = "scale_ppm", "zero_offset_mm"
PER_K = {"steel": 11.5e-6, "fibreglass": 8.0e-6}
STEEL_N_PER_MM2 = 2.0e5
STANDARD_C, STANDARD_N = 20.0, 50.0
PPM_PER_N = {"steel": 2.0, "fibreglass": 7.0}
"""What a newton stretches a usual band by, where its cross-section is not known, parts in a million."""
BALANCE_N = 3.0
"""How well a spring balance is held and read."""
KNOWN_PPM = 20.0
"""What the known lengths, or the proved tape beside it, may be out by in their own scale: one standard deviation."""
BESIDE_KELVIN = 1.0
"""By how much two bands side by side in the shade differ in temperature."""
TENSION_SAID_N = 5.0
NAMES, FEWEST = ("known", "reads"), 2
LENGTH = Range(0.0, 200.0, "a length of the tape")
APART_SHARE = 0.005
CAUTIONS = {"before": ("tape", "traffic"), "reading": ("tape",), "adjusting": ("tape",)}
where = Where(
    {
        "lengths": "length",
        "known": "known length",
        "reads": "tape reads",
        "tension_n": "tension",
        "standard_tension_n": "standard tension",
        "standard_temperature_c": "standard temperature",
        "cross_section_mm2": "cross-section of the band",
    }
)


class KnownLength(Part):
    """A known length, and what the tape reads there."""

    known: Typed | None = None
    reads: Typed | None = None


class Observations(Part):
    material: Literal["steel", "fibreglass"] = "steel"
    against: Literal["marks", "tape"] = "marks"
    """What the known lengths are: marks measured by something proved, or read off a proved steel tape beside it."""
    tension_n: Typed | None = None
    standard_tension_n: Typed | None = None
    standard_temperature_c: Typed | None = None
    cross_section_mm2: Typed | None = None
    lengths: list[KnownLength] = Bounds(default=[], max_length=40)


class Tape(Envelope):
    """A comparison of a tape."""

    kind: Literal["tape"]
    observations: Observations


@dataclass
class Band:
    """A tape's comparison as read: lengths, tension and what is standard."""

    read: Pairs
    tension_n: float | None
    standard_n: float
    standard_c: float
    section_mm2: float | None


def _beside(document: Tape) -> bool:
    """Whether the known lengths were read off a proved tape beside it."""
    return document.observations.against == "tape"


def _read(document: Tape, sheet: Sheet) -> Band:
    o = document.observations
    read = read_pairs(
        sheet, "observations.lengths", o.lengths, NAMES, where, LENGTH, FEWEST, both_read=_beside(document)
    )
    words = length_words(document.units.length)
    for path, known, reads in read.marks:
        if abs(known - reads) > max(0.05, APART_SHARE * known):
            sheet.fault(
                path,
                where(path),
                f"{words.reading(known)} and {words.reading(reads)}",
                "a known length and what the tape reads there, within half a hundredth",
            )
    lengths = [known for _, known, _ in read.marks]
    if all_read(read, o.lengths, NAMES, FEWEST) and max(lengths) - min(lengths) < 0.2 * max(lengths):
        sheet.fault(
            "observations.lengths",
            "the lengths",
            ", ".join(words.distance(one) for one in lengths),
            "lengths that differ: a short one and one near the end of the tape",
        )

    def told(name: str, unit: str, low: float, high: float, *, wanted: bool = False) -> float | None:
        path = f"observations.{name}"
        one = number(sheet, path, where(path), getattr(o, name), unit, low, high, wanted=wanted)
        return one.value if one else None

    tension = told("tension_n", "n", 1, 400, wanted=True)
    standard_n, standard_c = told("standard_tension_n", "n", 1, 400), told("standard_temperature_c", "c", -20, 40)
    section = told("cross_section_mm2", "mm", 0.2, 20)
    return Band(read, tension, standard_n or STANDARD_N, STANDARD_C if standard_c is None else standard_c, section)


def _not_brought_back(document: Tape, band: Band) -> float:
    """By how many newtons it was pulled otherwise than at its standard without that being reckoned with."""
    if band.tension_n is None or (band.section_mm2 is not None and document.observations.material == "steel"):
        return 0.0
    return abs(band.tension_n - band.standard_n)


def _strain(document: Tape, band: Band) -> tuple[float, float, float]:
    """What temperature and tension stretch it by, and what temperature stretches the tape beside it by: shares of length."""
    t = document.conditions.temperature_c
    kelvin = (t if t is not None else band.standard_c) - band.standard_c
    warm = PER_K[document.observations.material] * kelvin
    if _beside(document):  # both are pulled alike: what that stretches them by falls out
        return warm, 0.0, PER_K["steel"] * kelvin
    pulled = 0.0
    if band.section_mm2 is not None and band.tension_n is not None and document.observations.material == "steel":
        pulled = (band.tension_n - band.standard_n) / (band.section_mm2 * STEEL_N_PER_MM2)
    return warm, pulled, 0.0


def _reckoned(document: Tape, band: Band, *, told: bool | None = None) -> Reckoned:
    """Variances: reading; of the scale what it was compared with, its temperature (`told`: as if known) and its pull."""
    material = document.observations.material
    readings = 2 if _beside(document) else 1
    within = readings * ((TAPE_READING_MM[material] * noise_factor(document)) ** 2 + band.read.step_mm**2 / 12)
    kelvin = sigma_kelvin(document, told=told)
    warm = PER_K[material] * PPM * kelvin
    if _beside(document):  # both lie at one temperature, but for a kelvin
        warm = hypot((PER_K[material] - PER_K["steel"]) * PPM * kelvin, PER_K[material] * PPM * BESIDE_KELVIN)
    pull = PPM_PER_N[material] * hypot(BALANCE_N, _not_brought_back(document, band))
    return Reckoned(within, TAPE_BETWEEN_MM**2, prior_dof(document), KNOWN_PPM**2 + warm**2 + pull**2)


def _told(document: Tape, band: Band) -> Lengths:
    """Known lengths, and what the tape reads too much there, brought to its standard."""
    warm, pulled, beside = _strain(document, band)
    places = [known for _, known, _ in band.read.marks]
    known = [one * (1.0 + beside) for one in places]
    errors = [
        (reads * (1.0 + warm + pulled) - one) * 1000 for (_, _, reads), one in zip(band.read.marks, known, strict=True)
    ]
    return Lengths(tuple(places), tuple(known), tuple(errors))


def _estimates(found: Compared) -> list[Estimate]:
    return [found.line.scale(), found.line.zero()]


def _judge(document: Tape, band: Band, _circumstances: Circumstances) -> Judged:
    how, lengths = _reckoned(document, band), _told(document, band)
    compared, errors = compare(lengths, how), lengths.error_mm
    found = compared.line
    paths = [band.read.marks[i][0] for i in compared.kept]
    left_out = without_each(lengths, how, compared.kept, _estimates)
    rests = [
        tuple((path, one[at] if one else None) for path, one in zip(paths, left_out, strict=True)) for at in (0, 1)
    ]
    steel = document.observations.material == "steel"
    source = f"opening value for a {document.observations.material} tape of site work"
    use, watch = (100.0, 300.0) if steel else (300.0, 600.0)
    told = f"{figure(-found.scale_ppm * 0.03, 1)} mm to every 30 m read, {figure(-found.zero_mm, 1)} mm to every length"
    quantities = [
        Quantity(SCALE, "the scale", "ppm", found.scale(), limits_from(document, SCALE, Limits(use, watch, watch, source, False)), found.solved.q_within(1) * PPM, how.scale_ppm2,
                 condition=f"With its correction: add {told}.", without=rests[0]),
        Quantity(ZERO, "the zero", "mm", found.zero(), limits_from(document, ZERO, Limits(1.0, 2.0, 2.0, source, False)), found.solved.q_within(0), how.between,
                 condition="Hold on a full metre instead of the ring, and take it off again.", without=rests[1]),
    ]  # fmt: skip
    figures: Data = {
        SCALE: found.scale_ppm,
        f"sigma_{SCALE}": found.scale().sigma,
        ZERO: found.zero_mm,
        f"sigma_{ZERO}": found.zero().sigma,
        "correction_mm_per_30_m": -found.scale_ppm * 0.03,
        "errors": [{"known_m": known, "error_mm": e} for (_, known, _), e in zip(band.read.marks, errors, strict=True)],
        "repeats": repeats_of(found.solved.spread),
    }
    judged = Judged(
        quantities, figures, _finding(found), [shown(quantities[0], "Reads too much, scale"), shown(quantities[1], "Reads too much, from the start")],
        _worked(document, band, found, errors), _work(found), found.solved.spread, one_more=("reading at every length", "readings at every length"),
        again="Pull it afresh to the same tension and read once more. Both count together.", send="Put it out of use: a stretched tape is not mended.",
    )  # fmt: skip
    judged.reasons += _said(document, band)
    tell_compared(judged, compared, [path for path, _, _ in band.read.marks], where)
    with_it = compare(lengths, _reckoned(document, band, told=True)).line.scale()
    tell_temperature(judged, document, quantities[0], found.scale(), with_it)
    return judged


def _said(document: Tape, band: Band) -> list[Said]:
    off = _not_brought_back(document, band)
    if off <= TENSION_SAID_N:
        return []
    cost = PPM_PER_N[document.observations.material] * off
    why = "without the band's cross-section" if document.observations.material == "steel" else "for such a band"
    text = f"Pulled at {band.tension_n:g} N, standard is {band.standard_n:g} N: {why} that is not brought back, and the scale is {figure(cost, 0)} parts in a million less sure. Pull at the standard tension."
    return [("tension-not-brought-back", text)]


def _finding(found: Straight) -> str:
    scale, zero = found.scale(), found.zero()
    if abs(scale.value) <= scale.u95 and abs(zero.value) <= zero.u95:
        return f"No error shown: proved within {figure(scale.proved_to * 0.03, 1)} mm in 30 m, {figure(zero.proved_to, 1)} mm at its zero."
    at_30 = scale.value * 0.03 + zero.value
    return f"The tape reads {figure(abs(at_30), 1)} mm too {'much' if at_30 > 0 else 'little'} in 30 m, ± {figure(scale.u95 * 0.03, 1)} mm, brought to its standard temperature and tension."


def _worked(document: Tape, band: Band, found: Straight, errors: Sequence[float]) -> list[Data]:
    words = length_words(document.units.length)
    warm, pulled, beside = _strain(document, band)
    lines = [
        line("Brought to standard temperature and tension", "read · (1 + α(T − T₀) + (P − P₀)/(A·E))"),
        line("Temperature, tension", f"{figure(warm * PPM, 1)} ppm, {figure(pulled * PPM, 1)} ppm"),
    ]
    if _beside(document):
        lines.append(line("The tape beside it, by its temperature", f"{figure(beside * PPM, 1)} ppm"))
    for (_, known, reads), e in zip(band.read.marks, errors, strict=True):
        lines.append(
            line(
                f"Known {words.reading(known)} {words.name}",
                f"reads {words.reading(reads)}: {figure(e, 2)} mm too much",
            )
        )
    lines.append(
        line(
            "error = zero + scale · length",
            f"zero {figure(found.zero_mm, 2)} mm, scale {figure(found.scale_ppm, 1)} ppm",
        )
    )
    return lines


def _work(found: Straight) -> list[Data]:
    return [
        effect(
            f"length-{d}-m",
            f"A length of {d} m is read {figure(abs(found.zero_mm + found.scale_ppm * d / 1000), 1)} mm too {'long' if found.zero_mm + found.scale_ppm * d / 1000 > 0 else 'short'}.",
        )
        for d in (5, 10, 30)
    ]


def _picture(document: Tape, band: Band, judged: Judged | None) -> Data | None:
    lengths = _told(document, band)
    limit = judged.quantities[1].limits.use if judged else None
    return picture(lengths.error_mm, lengths.place_m, limit, "tape and known length agree", "along the tape")


def _so_far(document: Tape, band: Band) -> SoFar:
    return SoFar([*ask_temperature(document), *_said(document, band), *running(_told(document, band).error_mm)])


def simulate(rng: random.Random, truth: Data) -> Data:
    """A plausible document. truth: `scale_ppm`, `zero_mm`, `temperature_c` (20), `lengths`, `noise`, `unit`, `material`."""
    unit, noise, material = truth.get("unit", "m"), truth.get("noise", 1.0), truth.get("material", "steel")
    t = truth.get("temperature_c", STANDARD_C)
    common = rng.gauss(0, TAPE_BETWEEN_MM * noise)
    rows = []
    for known in truth.get("lengths", (1.0, 10.0, 20.0, 30.0)):
        error = (
            truth.get("zero_mm", 0.0)
            + common
            + truth.get("scale_ppm", 0.0) * known / 1000
            + rng.gauss(0, TAPE_READING_MM[material] * noise)
        )
        reads = (known + error / 1000) / (1 + PER_K[material] * (t - STANDARD_C))
        rows.append({"known": f"{known / METRES[unit]:.4f}", "reads": f"{reads / METRES[unit]:.4f}"})
    return {
        "kind": "tape",
        "units": {"length": unit},
        "conditions": {"temperature_c": t},
        "observations": {"material": material, "tension_n": "50", "lengths": rows},
    }


BAND = Group(
    "observations", "The tape and its pull",
    (
        Field("material", "Band", kind="choice", options=(Option("steel", "Steel"), Option("fibreglass", "Fibreglass"))),
        Field("tension_n", "Pulled with", "N"),
        Field("standard_tension_n", "Standard tension, 50 if none is printed", "N", optional=True),
        Field("cross_section_mm2", "Cross-section, if pulled otherwise", "mm²", optional=True),
    ),
)  # fmt: skip
LENGTHS = Group("observations.lengths", "Known length and tape", (Field("known", "Known", kind="length", given=False), Field("reads", "Tape reads", kind="length")), rows=True, most=40, more="One more length",
                note="Against a proved tape side by side, or marks measured by a proved instrument.")  # fmt: skip
RECIPE = Recipe("tape", _read, _judge, _so_far, _picture, CAUTIONS, where)
TABLE = Table(
    "tape",
    ("material", "against", "tension_n", "standard_tension_n", "standard_temperature_c", "cross_section_mm2"),
    "lengths",
    ("known", "reads"),
)
KIND = kind_of_rows(
    RECIPE,
    Tape,
    TABLE,
    title="Tape compared",
    applies_to=("tape",),
    minutes=10,
    interval_days=365,
    bring=("A proved tape, or a base of marks of known lengths", "A spring balance", "A thermometer that lies beside the band"),
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
    simulate=simulate,
    ways=(
        Way("base", "Against known lengths", "Marks whose distances were measured by something proved.", {"material": "steel", "against": "marks", "lengths": [{}, {}, {}]}, (BAND, LENGTHS),
            ("Flat, straight, pulled to the stated tension by the balance.", "Read at each mark: a short one first, for the zero.")),
        Way("side-by-side", "Beside a proved tape", "Both bands pulled alike, side by side: what the proved one reads is the known length.", {"material": "steel", "against": "tape", "lengths": [{}, {}, {}, {}]}, (BAND, LENGTHS),
            ("Side by side, both pulled to the same tension.", "At four places: what the proved one reads, what this one reads.")),
    ),
    asks=Asks(temperature=True),
    why="A tape that was run over reads short by millimetres, in every length alike, and nothing contradicts it.",
    order=80,
    unit="ppm",
    kept=("correction_mm_per_30_m", ZERO),
)  # fmt: skip
