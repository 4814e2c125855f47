"""Does an automatic level's compensator do its work: a staff read with the bubble run to each side of its ring.

A healthy one gives the same reading whichever way the level leans. What is left fore and aft, or left and right, is
told in seconds, and per minute of lean where that is known. A line that does not return after a tap is sticking.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from math import fsum, sqrt
from typing import Any, Literal

from pydantic import Field as Bounds

from ...angles import ARCSEC_PER_RADIAN
from ...blunders import find_apart, likely_slip, repeats
from ...envelope import Envelope, Part, Typed
from ...judgement import Estimate, Limits, Spread, pooled
from ...lengths import METRES
from ...priors import staff_spread
from ...quantiles import t_quantile
from ...readings import Range, Sheet
from ...wording import arcsec, figure, length_words
from ..sheet.answer import SoFar
from ..sheet.circumstances import Circumstances
from ..sheet.entry import Where
from ..sheet.judged import (
    Judged,
    Quantity,
    Said,
    effect,
    limits_from,
    line,
    noise_factor,
    prior_dof,
    raised,
    repeats_of,
    row,
    shown,
)
from ..sheet.pictures import deviations
from ..sheet.typed import number, rounding

Data = dict[str, Any]
QUANTITY = "largest_shift_arcsec"
SIDES = ("toward", "away", "left", "right")
PLACES = ("centre", *SIDES)
WORDS = {
    "centre": "bubble in the middle",
    "toward": "run towards the staff",
    "away": "run away from the staff",
    "left": "run to the left",
    "right": "run to the right",
}
DISTANCE, STAFF = Range(5.0, 100.0, "a distance"), Range(-0.5, 7.0, "a staff reading")
GOOD_M = (30.0, 60.0)
USUAL_M, USUAL_READINGS, PROVABLE_DOF, PASSES = 45.0, 5, 24.0, 0.8
CAUTIONS = {
    "before": ("overhead-lines", "traffic"),
    "reading": ("sun", "tap", "overhead-lines"),
    "adjusting": ("focus-stop",),
}
where = Where(
    {
        "positions": "",
        **WORDS,
        "distance": "distance to the staff",
        "tilt_arcmin": "how far the bubble was run",
        "after_tap": "reading after a tap",
    }
)


class Positions(Part):
    """Staff readings with the bubble in the middle and run to each side of its ring."""

    centre: list[Typed] = Bounds(default=[], max_length=20)
    toward: list[Typed] = Bounds(default=[], max_length=20)
    away: list[Typed] = Bounds(default=[], max_length=20)
    left: list[Typed] = Bounds(default=[], max_length=20)
    right: list[Typed] = Bounds(default=[], max_length=20)


class Observations(Part):
    distance: Typed | None = None
    positions: Positions = Positions()
    tilt_arcmin: Typed | None = None
    after_tap: list[Typed] = Bounds(default=[], max_length=10)
    returns: Literal["yes", "no"] | None = None


class CompensatorFunction(Envelope):
    """A check of how a compensator works."""

    kind: Literal["compensator-function"]
    observations: Observations


@dataclass(frozen=True, slots=True)
class Staff:
    """One reading of the staff."""

    path: str
    m: float
    step_m: float
    text: str


@dataclass
class Read:
    """Readings by position, what was read after the tap, distance and lean."""

    at: dict[str, list[Staff]]
    after_tap: list[Staff]
    distance_m: float | None
    tilt_arcmin: float | None


def _list(sheet: Sheet, path: str, values: list[Any], *, wanted: bool) -> list[Staff]:
    filled = [(i, value) for i, value in enumerate(values) if not (isinstance(value, str) and not value.strip())]
    if not filled and wanted:
        sheet.want(f"{path}[0]", where(f"{path}[0]"))
    found = []
    for i, value in filled:
        length = sheet.length(f"{path}[{i}]", where(f"{path}[{i}]"), value, STAFF)
        if length is not None:
            found.append(Staff(f"{path}[{i}]", length.m, length.step_m, str(value)))
    return found


def read_document(document: CompensatorFunction, sheet: Sheet) -> Read:
    o = document.observations
    length = sheet.length("observations.distance", where("distance"), o.distance, DISTANCE)
    at = {
        name: _list(sheet, f"observations.positions.{name}", getattr(o.positions, name), wanted=True) for name in PLACES
    }
    path = "observations.tilt_arcmin"
    tilt = number(sheet, path, where(path), o.tilt_arcmin, "arcmin", 0.5, 60, wanted=False)
    tap = _list(sheet, "observations.after_tap", o.after_tap, wanted=False)
    return Read(at, tap, length.m if length else None, tilt.value if tilt else None)


def _class_limit(document: CompensatorFunction, tilt: float | None) -> Limits:
    s = document.instrument.levelling_accuracy_mm_per_km
    step = 0 if s is not None and s <= 1.0 else 1 if s is not None and s <= 2.0 else 2
    what = f"levels of {s:g} mm per km" if s is not None else "levels whose accuracy is not stated"
    use, why = (3.0, 6.0, 10.0)[step], "bubble at the ring"
    if tilt is not None:
        use, why = (0.5, 1.0, 1.5)[step] * tilt, f"per minute of lean, {tilt:g}′"
    return Limits(use, use, use, f"opening value for {what}, {why}", adjustable=False)


def _limit(document: CompensatorFunction, tilt: float | None) -> Limits:
    """The limit of its class, but never below what five readings a place can show at the distance that shows most."""
    read = Read({}, [], USUAL_M, tilt)
    within, between = _within(document, read)
    sigma = sqrt(2 * (within / USUAL_READINGS + between)) * ARCSEC_PER_RADIAN / USUAL_M
    # Of a faultless one the largest shift of four stays below this four times in five: so much it can be proved to.
    seen = t_quantile((1 + PASSES ** (1 / len(SIDES))) / 2, PROVABLE_DOF) * sigma
    least = Estimate(seen, sigma, PROVABLE_DOF, of=len(SIDES)).proved_to
    what = f"{USUAL_READINGS} readings a place at {USUAL_M:g} m"
    return raised(_class_limit(document, tilt), least, "arcsec", what)


def _within(document: CompensatorFunction, read: Read) -> tuple[float, float]:
    """Variances of one reading, m²: within, and common to a position (the compensator's rest)."""
    one = document.instrument
    reading = one.reading or ("digital" if one.kind == "digital-level" else None)
    spread = staff_spread(
        read.distance_m or 45.0, reading, one.levelling_accuracy_mm_per_km, (one.prior or {}).get("staff_reading_mm")
    )
    digit = rounding(s.step_m for group in read.at.values() for s in group)
    return (spread.within_mm / 1000 * noise_factor(document)) ** 2 + digit, (spread.between_mm / 1000) ** 2


def _standardised(at: dict[str, list[Staff]], within: float) -> list[list[float]]:
    return [[one.m / sqrt(within) for one in at[name]] for name in PLACES]


def _mean(group: list[Staff]) -> float:
    return fsum(one.m for one in group) / len(group)


def judge(document: CompensatorFunction, read: Read, _told: Circumstances) -> Judged:
    assert read.distance_m is not None
    within, between = _within(document, read)
    aside, refused = _apart(read, within, document.units.length)
    groups = {name: [one for one in read.at[name] if one.path not in aside] for name in PLACES}
    scale, centre = ARCSEC_PER_RADIAN / read.distance_m, _mean(groups["centre"])
    shifts = {name: (_mean(groups[name]) - centre) * scale for name in SIDES}
    spread = repeats(_standardised(groups, within))
    largest = max(SIDES, key=lambda name: abs(shifts[name]))
    q_within = within * (1 / len(groups[largest]) + 1 / len(groups["centre"])) * scale**2
    q_between = 2 * between * scale**2
    found = pooled(shifts[largest], q_within, q_between, spread, prior_dof(document))
    estimate = replace(found, of=len(SIDES))
    quantity = Quantity(
        QUANTITY,
        "the compensator",
        "arcsec",
        estimate,
        limits_from(document, QUANTITY, _limit(document, read.tilt_arcmin)),
        q_within,
        q_between,
    )
    fore_aft, across = (shifts["toward"] - shifts["away"]) / 2, (shifts["right"] - shifts["left"]) / 2
    figures: Data = {
        QUANTITY: estimate.value,
        f"sigma_{QUANTITY}": estimate.sigma,
        "shifts": [
            {"position": name, "shift_mm": shifts[name] / scale * 1000, "shift_arcsec": shifts[name]} for name in SIDES
        ],
        "fore_and_aft_arcsec": fore_aft,
        "left_and_right_arcsec": across,
        "repeats": repeats_of(spread),
    }
    if read.tilt_arcmin:
        figures["arcsec_per_arcmin"] = abs(estimate.value) / read.tilt_arcmin
    judged = Judged(
        [quantity], figures, _finding(estimate.value, estimate.u95, WORDS[largest]), _shown(quantity, figures),
        _worked(document, groups, shifts), _work(document, estimate.value), spread,
        one_more=("reading at every position", "readings at every position"),
        again="The level not moved: read once more at every place. Both count together.",
        send="A compensator is work for a service, never for a screw of the crew.",
    )  # fmt: skip
    judged.set_aside = list(aside)
    judged.reasons += [(code, text) for code, text in aside.values()]
    judged.refused += refused
    judged.reasons += _pattern(fore_aft, across, estimate.u95)
    judged.service += _sticking(document, read, centre, within, between)
    if document.observations.returns is None and not read.after_tap:
        judged.reasons.append(("not-tapped", "It was not tapped: a compensator that sticks would go unseen."))
    if not GOOD_M[0] <= read.distance_m <= GOOD_M[1]:
        words = length_words(document.units.length)
        judged.reasons.append(
            ("distance", f"40 to 50 m shows most: at {words.distance(read.distance_m)} the ± is what it is.")
        )
    return judged


def _apart(read: Read, within: float, unit: str) -> tuple[dict[str, Said], list[Said]]:
    """The reading that stands apart, set aside in sight where three or more stand beside it."""
    found = find_apart(_standardised(read.at, within))
    if found is None:
        return {}, []
    group = read.at[PLACES[found.group]]
    if found.sole_pair:
        return {}, [
            (
                "readings-differ",
                f"The two readings with {WORDS[PLACES[found.group]]} differ by more than reading explains: take a third.",
            )
        ]
    one = group[found.index]
    rest = fsum(x.m for x in group if x is not one) / (len(group) - 1)
    away = length_words(unit).small(abs(one.m - rest))
    slip = likely_slip(one.text, rest / METRES[unit], 3 * sqrt(within) / METRES[unit])
    text = f"{one.text} ({where(one.path)}) lies {away} from its fellows and is set aside." + (
        f" Typed {one.text} for {slip}?" if slip else ""
    )
    return {one.path: ("set-aside", text)}, []


def _sticking(document: CompensatorFunction, read: Read, centre: float, within: float, between: float) -> list[Said]:
    text = "The line does not come back after a tap: the compensator sticks."
    if document.observations.returns == "no":
        return [("sticking", text)]
    if not read.after_tap:
        return []
    off = abs(_mean(read.after_tap) - centre)
    bound = 3 * sqrt(within * (1 / len(read.after_tap) + 1 / len(read.at["centre"])) + 2 * between)
    return (
        [("sticking", f"{text} It stays {length_words(document.units.length).small(off)} off.")]
        if off > max(bound, 0.0005)
        else []
    )


def _pattern(fore_aft: float, across: float, u: float) -> list[Said]:
    if abs(fore_aft) > u and abs(fore_aft) > 2 * abs(across):
        return [
            (
                "fore-and-aft",
                "It is fore and aft: the compensator turns more, or less, than the lean. Keep the bubble in the middle along the sight.",
            )
        ]
    if abs(across) > u and abs(across) > 2 * abs(fore_aft):
        return [
            (
                "left-and-right",
                "It is left and right: the compensator hangs askew. Always bring the bubble in from the same side.",
            )
        ]
    return []


def _finding(value: float, u: float, position: str) -> str:
    if abs(value) <= u:
        return f"The compensator does its work: no shift beyond {arcsec(abs(value) + u, u)} wherever the bubble stands in its ring."
    return f"With the bubble {position} the line of sight points {arcsec(abs(value), u)} {'up' if value > 0 else 'down'}, ± {arcsec(u, u)}: the compensator lets that much of the lean through."


def _shown(quantity: Quantity, figures: Data) -> list[Data]:
    rows = [shown(quantity, "Largest shift")]
    for one in figures["shifts"]:
        text = f"{arcsec(one['shift_arcsec'])}, {figure(one['shift_mm'], 1)} mm"
        rows.append(
            row(
                f"shift_{one['position']}_arcsec",
                WORDS[one["position"]].capitalize(),
                text,
                one["shift_arcsec"],
                "arcsec",
            )
        )
    if "arcsec_per_arcmin" in figures:
        rows.append(
            row(
                "arcsec_per_arcmin",
                "Per minute of lean",
                f"{figure(figures['arcsec_per_arcmin'], 2)}″",
                figures["arcsec_per_arcmin"],
                "arcsec",
            )
        )
    return rows


def _worked(document: CompensatorFunction, groups: dict[str, list[Staff]], shifts: dict[str, float]) -> list[Data]:
    words = length_words(document.units.length)
    lines = [
        line(
            "Each position against the middle, over the distance",
            "shift = (mean there − mean in the middle) / D · 206 265",
        )
    ]
    for name, group in groups.items():
        told = f"{words.reading(_mean(group), 1)} {words.name}, mean of {len(group)}"
        lines.append(
            line(WORDS[name].capitalize(), told if name == "centre" else f"{told}: {figure(shifts[name], 2)}″")
        )
    return lines


def _work(document: CompensatorFunction, value: float) -> list[Data]:
    """What the shift costs, the bubble let run to its ring: as an error of the line of sight in unbalanced sights."""
    d = document.work.sight_m
    text = f"With the bubble left at its ring, {figure(abs(value) / ARCSEC_PER_RADIAN * d * 1000, 1)} mm at {d:g} m; in the inner quarter of the ring a quarter of it."
    return [effect("bubble-at-ring", text)]


def drawn(document: CompensatorFunction, read: Read, judged: Judged | None) -> Data | None:
    if not read.at["centre"] or read.distance_m is None:
        return deviations(
            "arcsec", [(WORDS[name], float(i), None) for i, name in enumerate(SIDES)], None, "bubble in the middle", ""
        )
    centre, scale = _mean(read.at["centre"]), ARCSEC_PER_RADIAN / read.distance_m
    marks = [
        (WORDS[name], float(i), (_mean(read.at[name]) - centre) * scale if read.at[name] else None)
        for i, name in enumerate(SIDES)
    ]
    limit = judged.quantities[0].limits.use if judged else _limit(document, read.tilt_arcmin).use
    return deviations("arcsec", marks, limit, "bubble in the middle", "")


def so_far(document: CompensatorFunction, read: Read) -> SoFar:
    said: list[Said] = []
    within, between = _within(document, read)
    if read.distance_m:
        n = max(1, *(len(g) for g in read.at.values()))
        scale = ARCSEC_PER_RADIAN / read.distance_m
        u = pooled(0.0, 2 * within / n * scale**2, 2 * between * scale**2, Spread(), prior_dof(document)).u95
        readings = "one reading" if n == 1 else f"{n} readings"
        said.append(
            (
                "expected",
                f"With {readings} a position this shows a shift to about ± {arcsec(u, u)}; the limit is {figure(_limit(document, read.tilt_arcmin).use, 1)}″.",
            )
        )
        said += _running(read, scale)
    found = find_apart(_standardised(read.at, within))
    if found is None or found.sole_pair:
        return SoFar(said)
    one = read.at[PLACES[found.group]][found.index]
    return SoFar(said, (one.path, f"{one.text} lies apart from its fellows: read it once more there."))


def _running(read: Read, scale: float) -> list[Said]:
    """The largest shift so far, while places are still to come."""
    seen = [name for name in SIDES if read.at[name] and read.at["centre"]]
    if not seen or len(seen) == len(SIDES):
        return []
    shifts = {name: (_mean(read.at[name]) - _mean(read.at["centre"])) * scale for name in seen}
    name = max(seen, key=lambda one: abs(shifts[one]))
    return [("running", f"So far the most is {arcsec(shifts[name])}, {WORDS[name]}.")]
