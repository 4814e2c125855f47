"""What a two-peg test says in people's words and units: finding, figures, effect, calculation, sensitivity."""

from __future__ import annotations

from dataclasses import dataclass
from math import fsum

from ...engine.kind import SheetProgress
from ...engine.parser import ordinal
from ...engine.rows import line
from ...engine.work import work_sight_m
from ...results import (
    CalculationLine,
    CodedText,
    Effect,
    Peg,
    PegPicture,
    Sensitivity,
    SetUpPicture,
    Shown,
    StaffPicture,
)
from ...stats.estimate import PRIOR_DOF, scale_squared
from ...stats.outliers import likely_slip
from ...units.angles import ARCSEC_PER_RADIAN
from ...units.formatting import MINUS, LengthWords, arcsec, capital, count, figure, length_words, limit, signed
from ...units.lengths import METRES, in_unit
from .document import (
    MIN_IMBALANCE_SPREAD_M,
    MIN_SETUPS,
    PegsRead,
    Setups,
    StaffReading,
    StaffSight,
    TwoPeg,
    limits_of,
)
from .solve import PegFinding, ReadingPriors, baseline_m, expected_u95, outlier_among, place_m, within_variance

IMBALANCES_M = (10.0, 20.0, 50.0)
IMBALANCES_FT = (30.0, 60.0, 150.0)
_SENSITIVITY_MM = 1.0


def direction(c: float) -> str:
    """'up' or 'down'; c in any unit, up positive."""
    return "up" if c > 0 else "down"


@dataclass(frozen=True, slots=True)
class PegTexts:
    """What is stated of one finding: as a sentence, as figures, as its effect on the work, as a calculation."""

    finding: str
    shown: list[Shown]
    work: list[Effect]
    calculation: list[CalculationLine]
    sensitivity: list[Sensitivity]


def texts_of(document: TwoPeg, found: PegFinding) -> PegTexts:
    """Everything said of one finding."""
    u95 = found.solution.estimate.u95
    plus_minus = arcsec(u95, u95)
    return PegTexts(
        finding=finding_of(document, found, plus_minus),
        shown=shown_of(document, found, plus_minus),
        work=work_of(document, found),
        calculation=worked_of(document, found),
        sensitivity=sensitivity_of(document, found),
    )


def finding_of(document: TwoPeg, found: PegFinding, plus_minus: str) -> str:
    """The finding as one sentence."""
    e, words, sight = found.solution.estimate, length_words(document.units.length), work_sight_m(document)
    if abs(e.value) <= e.u95:
        limit = arcsec(e.proved_to, e.proved_to)
        return f"Line of sight: no error found, within {limit} of level."
    high = "too high" if e.value > 0 else "too low"
    effect = words.small(abs(found.solution.c) * sight)
    return f"Line of sight {arcsec(abs(e.value), e.u95)} {direction(e.value)}, ± {plus_minus}: {effect} {high} at {words.distance(sight)}."


def shown_of(document: TwoPeg, found: PegFinding, plus_minus: str) -> list[Shown]:
    """The result as people read it, in the document's units."""
    e, unit = found.solution.estimate, document.units.length
    words, u_small = length_words(unit), e.u95 / ARCSEC_PER_RADIAN
    feet = unit in ("ft", "usft", "in")
    per = "ft per 100 ft" if feet else "mm per m"
    scale = 100.0 if feet else 1000.0
    decimals = 4 if feet else 3
    misclosure, rise = misclosure_m(found), found.solution.height_difference_m
    seconds = signed(e.value, 0 if e.u95 >= 10 else 1) + "″"
    linear, u_linear = found.solution.c * scale, figure(u_small * scale, decimals)
    above = f"{words.reading(rise)} {words.name}"
    small, small_unit = in_unit(misclosure, words.small_unit), words.small_unit
    closes = words.small(misclosure)
    return [
        _row(
            "collimation_arcsec", "Line of sight", seconds, plus_minus=plus_minus, value=e.value, unit="arcsec", per=1.0
        ),
        _row(
            "collimation_mm_per_m",
            "In linear units",
            f"{signed(linear, decimals)} {per}",
            plus_minus=u_linear,
            value=linear,
            unit=per,
            per=scale / 1000,
        ),
        _row(
            "height_difference_m",
            "B above A",
            above,
            plus_minus=None,
            value=in_unit(rise, unit),
            unit=unit,
            per=1 / METRES[unit],
        ),
        _row(
            "misclosure_m",
            "Misclosure of the set-ups",
            closes,
            plus_minus=None,
            value=small,
            unit=small_unit,
            per=1 / METRES[small_unit],
        ),
    ]


def _row(quantity: str, label: str, text: str, *, plus_minus: str | None, value: float, unit: str, per: float) -> Shown:
    return Shown(
        quantity=quantity, label=label, text=text, plus_minus=plus_minus, value=value, unit=unit, per_canonical=per
    )


def misclosure_m(found: PegFinding) -> float:
    """(a - b) of the last set-up minus that of the first, as read."""
    differences = [a.mean_m - b.mean_m for a, b in (found.solution.setups[0], found.solution.setups[-1])]
    return differences[1] - differences[0]


def work_of(document: TwoPeg, found: PegFinding) -> list[Effect]:
    """The effect of the error on a run of levels, for sights that differ by so much."""
    unit, c = document.units.length, found.solution.c
    words = length_words(unit)
    feet = unit in ("ft", "usft", "in")
    steps = [imbalance * METRES["ft"] for imbalance in IMBALANCES_FT] if feet else list(IMBALANCES_M)
    own = document.work.sight_imbalance_m
    if (
        "sight_imbalance_m" in document.work.model_fields_set
        and own > 0
        and all(abs(own - step) > 0.5 for step in steps)
    ):
        steps.insert(0, own)
    lines = [
        Effect(
            code=f"imbalance-{round(step)}-m",
            text=f"A {words.distance(step)} difference between backsight and foresight adds {words.small(abs(c) * step)} of height error.",
            imbalance_m=step,
            height_m=c * step,
        )
        for step in steps
    ]
    text = "With equal backsight and foresight there is no error."
    balanced = Effect(code="balanced", text=text, imbalance_m=0.0, height_m=0.0)
    # Whoever works with balanced sights reads first that it does not concern them.
    return [balanced, *lines] if document.work.balanced_sights else [*lines, balanced]


def worked_of(document: TwoPeg, found: PegFinding) -> list[CalculationLine]:
    """How it was calculated, with this check's figures."""
    solution, words, e = found.solution, length_words(document.units.length), found.solution.estimate
    unit, curvature = words.name, document.observations.curvature
    equation = "a − b = Δh + c·(Da − Db)" + (" + (1 − k)(Da² − Db²)/2R" if curvature else "")
    lines = [line("Each set-up gives one equation", equation)]
    for (a, b), reduced, imbalance in zip(solution.setups, solution.reduced_m, solution.imbalances_m, strict=True):
        text = f"{ordinal(a.setup).capitalize()} set-up: a − b" + (
            ", less curvature and refraction" if curvature else ""
        )
        value = f"{words.reading(a.mean_m)} − {words.reading(b.mean_m)}"
        bent = a.mean_m - b.mean_m - reduced
        if curvature and abs(bent) > 5e-6:
            value += f" − {words.reading(bent, 1)}" if bent > 0 else f" + {words.reading(-bent, 1)}"
        lines.append(line(text, f"{value} = {words.reading(reduced, 1)} {unit}; Da − Db = {words.distance(imbalance)}"))
    lines += _solved(found, words)
    lines.append(line("In seconds of arc (× 206 265)", f"c = {signed(e.value, 2)}″"))
    lines.append(line("Expected scatter", _prior_words(found)))
    lines.append(line("Scatter found here", _found_words(found)))
    lines.append(line("Standard uncertainty, degrees of freedom", f"{figure(e.sigma, 2)}″, {figure(e.dof, 1)}"))
    lines.append(line("95 % interval", f"± {figure(e.u95, 2)}″; one-sided limit {figure(e.proved_to, 1)}″"))
    return lines


def _solved(found: PegFinding, words: LengthWords) -> list[CalculationLine]:
    solution = found.solution
    if len(solution.setups) == 2:
        (y1, y2), (i1, i2) = solution.reduced_m, solution.imbalances_m
        top = f"({words.reading(y2, 1)} − {words.reading(y1, 1)})".replace(f"− {MINUS}", "+ ")
        bottom = f"({words.distance(i2)} − {words.distance(i1)})".replace(f"− {MINUS}", "+ ")
        return [
            line(
                "Second minus first, divided by the change of Da − Db",
                f"c = {top} / {bottom} = {signed(solution.c * 1000, 4)} mm per m",
            )
        ]
    worst = max(abs(v) for v in solution.fit.residuals)
    text = f"Least squares through {len(solution.setups)} set-ups, equal weights"
    return [line(text, f"c = {signed(solution.c * 1000, 4)} mm per m; largest residual {words.small(worst)}")]


def _prior_words(found: PegFinding) -> str:
    within, between = found.solution.q_within**0.5, found.solution.q_between**0.5
    learned = " (learned from earlier tests)" if found.priors.dof != PRIOR_DOF else ""
    return f"reading {figure(within, 2)}″{learned}, pointing and refraction {figure(between, 2)}″"


def _found_words(found: PegFinding) -> str:
    spread = found.solution.spread
    if spread.dof == 0:
        return "no repeats and no third set-up: expected scatter used"
    return f"{figure(scale_squared(spread, found.priors.dof) ** 0.5, 2)} times the expected scatter, from {spread.dof:g} repeats"


def sensitivity_of(document: TwoPeg, found: PegFinding) -> list[Sensitivity]:
    """How much one reading moves the finding: arcsec of c per millimetre (or 0.01 ft), reading by reading."""
    words = length_words(document.units.length)
    step_m = 0.01 * METRES[words.unit] if words.unit in ("ft", "usft") else _SENSITIVITY_MM / 1000
    step = f"0.01 {words.name}" if words.unit in ("ft", "usft") else words.small(step_m)
    rows = []
    for g, (a, b) in zip(found.solution.fit.gain[1], found.solution.setups, strict=True):
        for seen, sign in ((a, 1.0), (b, -1.0)):
            per_metre = sign * g / len(seen.readings) * ARCSEC_PER_RADIAN
            for pointing in seen.readings:
                rows.append(_sensitive(pointing, seen, per_metre, per_metre * step_m, step))
    return rows


def _sensitive(reading: StaffReading, seen: StaffSight, per_metre: float, moved: float, step: str) -> Sensitivity:
    return Sensitivity(
        path=reading.path,
        where=seen.called,
        given=reading.text,
        arcsec_per_mm=per_metre / 1000,
        text=f"{step} more changes it by {arcsec(abs(moved))} {direction(moved)}",
    )


def outlier_text(document: TwoPeg, seen: StaffSight, index: int, priors: ReadingPriors) -> str:
    """Names the reading that is an outlier, and what was perhaps meant."""
    reading = seen.readings[index]
    rest = [other.m for i, other in enumerate(seen.readings) if i != index]
    mean, sigma = fsum(rest) / len(rest), within_variance(seen, priors) ** 0.5
    words, unit = length_words(document.units.length), METRES[document.units.length]
    text = f"{reading.text} ({seen.called}) is {words.small(abs(reading.m - mean))} from the others and is set aside as an outlier."
    slip = None if seen.three_wire else likely_slip(reading.text, mean / unit, 3 * sigma / unit)
    return f"{text} Typed {reading.text} for {slip}?" if slip else text


STICKING_LOOK = (
    "If the line does not return after a tap, the compensator sticks: work for service."
    " Put the level on hold; a two-peg test cannot help."
)


BUBBLE = (
    "Adjust the circular level first: half with the foot screws, half with the level vial screws,"
    " until it stays centred all round. Then read."
)


def progress_of(document: TwoPeg, read: PegsRead) -> SheetProgress:
    """While it grows: differences so far, the spread of each sight, what this layout can prove."""
    setups, words, priors = read.setups, length_words(document.units.length), ReadingPriors.of(document)
    sheet_progress = SheetProgress(looks=_quick_check_texts(document))
    sheet_progress.messages = [
        _difference(i, a, b, words) for i, (a, b) in enumerate(setups) if a.readings and b.readings
    ]
    sheet_progress.messages += _expected(document, setups, priors)
    found = outlier_among(setups, priors)
    for index, seen in enumerate(entry for setup in setups for entry in setup):
        note = _beside(seen, words)
        if note:
            sheet_progress.notes.append((seen.path, note))
        if found is None or found.group != index:
            continue
        if found.sole_pair:
            sheet_progress.notes.append((seen.path, "These two differ by more than reading error: take a third."))
        else:
            sheet_progress.outlier = (
                seen.readings[found.index].path,
                outlier_text(document, seen, found.index, priors),
            )
    return sheet_progress


def _beside(seen: StaffSight, words: LengthWords) -> str | None:
    """The spread of a sight read more than once; its distance where the wires given it."""
    parts = []
    if seen.taped_m is None and seen.distance_m is not None:
        parts.append(f"stadia distance {words.distance(seen.distance_m)}")
    if len(seen.readings) > 1:
        values = [reading.m for reading in seen.readings]
        spread = words.small(max(values) - min(values))
        parts.append(f"mean {words.reading(seen.mean_m, 1)} {words.name}, range {spread}")
    return capital(", ".join(parts)) if parts else None


def _quick_check_texts(document: TwoPeg) -> list[CodedText]:
    """What the quick checks say before anything is read."""
    looks, messages = document.observations.looks, list[CodedText]()
    if looks.line_returns == "no":
        messages.append(("sticking", STICKING_LOOK))
    if looks.bubble_holds == "no":
        messages.append(("bubble-does-not-hold", BUBBLE))
    return messages


def _difference(index: int, a: StaffSight, b: StaffSight, words: LengthWords) -> CodedText:
    rise = a.mean_m - b.mean_m
    side = "above" if rise >= 0 else "below"
    text = f"{ordinal(index).capitalize()} set-up, as read: B {words.reading(abs(rise), 1)} {words.name} {side} A."
    return "difference", text


def _expected(document: TwoPeg, setups: Setups, priors: ReadingPriors) -> list[CodedText]:
    """What this layout can prove, while readings are missing."""
    if len(setups) >= MIN_SETUPS and all(entry.complete for setup in setups for entry in setup):
        return []
    pairs = [(a.distance_m, b.distance_m) for a, b in setups if a.distance_m and b.distance_m]
    gaps = [a - b for a, b in pairs]
    if len(pairs) < MIN_SETUPS or max(gaps) - min(gaps) < MIN_IMBALANCE_SPREAD_M:
        return []
    # As many at every sight as the fullest has: the test is still being filled.
    readings = max(1, *(len(entry.readings) for setup in setups for entry in setup))
    u, most = expected_u95(pairs, readings, priors), limits_of(document).use
    text = f"With {count(readings, 'reading', 'readings')} at each sight you can find the line of sight to about ± {arcsec(u, u)}; the limit is {limit(most)}."
    enough = next((n for n in range(readings, 11) if expected_u95(pairs, n, priors) <= most / 2), None)
    if enough is None:
        text += " More readings do not help: use a larger sight imbalance."
    elif enough > readings:
        text += f" {count(enough, 'reading', 'readings').capitalize()} at each sight give a precise test."
    return [("expected", text)]


def draw_pegs(document: TwoPeg, setups: Setups, c: float | None, dh: float | None) -> PegPicture:
    """Pegs, set-ups and sight lines, in metres; heights above peg A, errors along the staff (up positive)."""
    words = length_words(document.units.length)
    known = [(a.distance_m, b.distance_m) for a, b in setups if a.distance_m and b.distance_m]
    if not known:
        return PegPicture(draws="pegs", baseline_m=None, pegs=[], setups=[])
    base = baseline_m(known, document.method)
    rise = dh if dh is not None else _first_rise(setups)
    pegs = [Peg(name="A", x_m=0.0, height_m=0.0), Peg(name="B", x_m=base, height_m=rise or 0.0)]
    drawn = [_drawn_setup(a, b, base, c=c, rise=rise, words=words) for a, b in setups if a.distance_m and b.distance_m]
    return PegPicture(draws="pegs", baseline_m=base, pegs=pegs, setups=drawn)


def _first_rise(setups: Setups) -> float | None:
    for a, b in setups:
        if a.readings and b.readings:
            return a.mean_m - b.mean_m
    return None


def _drawn_setup(
    a: StaffSight, b: StaffSight, base: float, *, c: float | None, rise: float | None, words: LengthWords
) -> SetUpPicture:
    return SetUpPicture(
        index=a.setup,
        label=f"{ordinal(a.setup)} set-up",
        x_m=place_m(base, a.sight_m, b.sight_m),
        line_height_m=_line_height(a, b, c, rise),
        a=_drawn_staff(a, c, words),
        b=_drawn_staff(b, c, words),
    )


def _line_height(a: StaffSight, b: StaffSight, c: float | None, rise: float | None) -> float | None:
    """Height of the level's own line of sight above peg A, from whichever staff has been read."""
    for seen, ground in ((a, 0.0), (b, rise or 0.0)):
        if seen.readings and seen.distance_m is not None:
            return seen.mean_m + ground - (c or 0.0) * seen.distance_m
    return None


def _drawn_staff(seen: StaffSight, c: float | None, words: LengthWords) -> StaffPicture:
    error = c * seen.distance_m if c is not None and seen.distance_m is not None else None
    text = None
    if error is not None:
        text = f"{words.small(abs(error))} too {'high' if error > 0 else 'low'} on {seen.staff}"
    return StaffPicture(
        distance_m=seen.distance_m,
        distance_text=words.distance(seen.sight_m),
        read_m=seen.mean_m if seen.readings else None,
        error_m=error,
        error_text=text,
    )
