"""A judged set-up in words: the finding, the figures shown, what the remaining error causes, how it was calculated."""

from __future__ import annotations

import math

from ..engine.rows import effect, line, row
from ..engine.work import words_of
from ..results import CalculationLine, Effect, Shown
from ..units.formatting import arcsec, count, figure, joined, length_words
from ..units.numbers import rounded
from .advisors.effect import Sights, centring_sigma_arcsec, tilt_most_arcsec
from .document import SetUpDocument
from .reading import Judged, needs_point
from .results import SetUpBudget


def heights_differ(judged: Judged) -> float:
    """By how much the measured heights differ, metres."""
    return max(judged.heights_m) - min(judged.heights_m) if len(judged.heights_m) > 1 else 0.0


def finding(judged: Judged) -> str:
    """The set-up as one sentence."""
    document, words = judged.document, length_words(judged.document.units.length)
    o = document.observations
    if not needs_point(document):
        ring = {
            "yes": "the bubble stays in its ring",
            "no": "the bubble leaves its ring",
            "not-looked": "ring not checked",
        }
        return f"Level set up: {ring[o.ring_holds]} when turned."
    rows = [f"axis {arcsec(judged.tilt_estimate.value)} out of plumb"] if judged.tilt_estimate else []
    if judged.centring is not None:
        rows.append(f"{words.small(judged.centring.value / 1000.0)} off the mark")
    if judged.heights_m:
        rows.append(f"{words.reading(math.fsum(judged.heights_m) / len(judged.heights_m))} {words.name} above it")
    return f"{'Free station' if o.mark.free else f'Over {o.mark.name.strip()}'}: {joined(rows)}."


def shown_of(judged: Judged) -> list[Shown]:
    """The figures of the result as rows: what it is, its value, its ±."""
    words = length_words(judged.document.units.length)
    rows: list[Shown] = []

    def add(quantity: str, label: str, text: str, *, value: float, unit: str, plus_minus: str | None = None) -> None:
        rows.append(row(quantity, label, text, value=value, unit=unit, plus_minus=plus_minus))

    if judged.tilt_estimate is not None:
        e = judged.tilt_estimate
        add("tilt_arcsec", "Axis out of plumb", arcsec(e.value), value=e.value, unit="arcsec", plus_minus=arcsec(e.u95))
    if judged.index is not None:
        along, across = judged.index
        add("index_along_arcsec", "Index error along the sight", arcsec(along), value=along, unit="arcsec")
        add("index_across_arcsec", "Index error across", arcsec(across), value=across, unit="arcsec")
    if judged.centring is not None:
        e = judged.centring
        text, plus_minus = words.small(e.value / 1000.0), words.small(e.u95 / 1000.0)
        add("centring_mm", "Off the mark", text, value=e.value, unit="mm", plus_minus=plus_minus)
    if judged.heights_m:
        height = math.fsum(judged.heights_m) / len(judged.heights_m)
        add("height_m", "Height of the axis", f"{words.reading(height)} {words.name}", value=height, unit="m")
    if judged.minutes is not None:
        text = count(round(judged.minutes), "minute", "minutes")
        add("minutes", "Time", text, value=judged.minutes, unit="min")
    return rows


def sights_of(document: SetUpDocument) -> Sights:
    """The sights of the work ahead."""
    work = document.work
    return Sights(back_m=work.sight_m, fore_m=work.sight_m, elevation_deg=work.elevation_deg)


def work(judged: Judged) -> list[Effect]:
    """What the remainder does to an angle and a height at the sights given."""
    sights, words = sights_of(judged.document), length_words(judged.document.units.length)
    far = words.distance(sights.back_m)
    rows = []
    if judged.centring is not None:
        sigma = centring_sigma_arcsec(judged.centring.proved_to, sights)
        rows.append(("angle-from-centring", f"With sights of {far}, centring adds up to {arcsec(sigma)}."))
    if judged.tilt_estimate is not None:
        most = tilt_most_arcsec(judged.tilt_estimate.proved_to, sights.elevation_deg)
        text = f"At {figure(sights.elevation_deg, 0)}° elevation, tilt adds up to {arcsec(most)}"
        rows.append(
            ("direction-from-tilt", f"{text}{', unless the compensator corrects it' if judged.compensated() else ''}.")
        )
    if heights_differ(judged):
        rows.append(
            (
                "height",
                f"Heights from here contain the {words.small(heights_differ(judged))} difference of the two height readings.",
            )
        )
    return [effect(code, text) for code, text in rows]


def worked(judged: Judged) -> list[CalculationLine]:
    """The calculation line by line, with the figures put in."""
    lines: list[CalculationLine] = []
    level = judged.document.observations.level
    if judged.tilt is not None and judged.index is not None:
        for i, axis in enumerate(("along", "across")):
            first, turned = getattr(level.first, axis), getattr(level.turned, axis)
            unit = " div" if level.by == "plate" else "″"
            lines.append(
                line(f"Tilt {axis} = (first − turned)/2 = ({first}{unit} − {turned}{unit})/2", arcsec(judged.tilt[i]))
            )
            lines.append(line(f"Index {axis} = (first + turned)/2", arcsec(judged.index[i])))
        if level.by == "electronic" and judged.document.instrument.senses != (1.0, 1.0):
            text = "Signs of this display changed so that high side forward and high side right are plus"
            lines.append(line(text, ""))
    if judged.tilt_estimate is not None:
        e = judged.tilt_estimate
        lines.append(line("95 % limit = tilt + t(95 %, one-sided) · σ", arcsec(e.proved_to)))
    height, words = judged.document.observations.height, words_of(judged.document)
    if judged.heights_m and (height.radius_mm or height.constant_mm):
        text = f"Height = √(slope² − ({height.radius_mm:g} mm)²) + {height.constant_mm:g} mm"
        lines.append(line(text, f"{words.reading(judged.heights_m[0])} {words.name}"))
    return lines


def budget_of(judged: Judged) -> SetUpBudget:
    """What the error budget may start from: what is left at the mark and of the tilt, and the stated accuracies."""
    instrument, work = judged.document.instrument, judged.document.work
    fields: dict[str, float | None] = {
        "angle_accuracy_arcsec": instrument.angle_accuracy_arcsec,
        "distance_accuracy_mm": instrument.distance_accuracy_mm,
        "distance_accuracy_ppm": instrument.distance_accuracy_ppm,
    }
    if judged.centring is not None:
        # Seen off by so much, and seen no better than its σ: both are in what the work gets.
        fields["centring_mm"] = rounded(math.hypot(judged.centring.value, judged.centring.sigma), 2)
    if judged.tilt_estimate is not None:
        fields["tilt_arcsec"] = rounded(judged.tilt_estimate.value, 1)
    known = {name: field for name, field in fields.items() if field is not None}
    compensated = judged.compensated()
    return SetUpBudget(fore_m=work.sight_m, elevation_deg=work.elevation_deg, compensated=compensated, **known)
