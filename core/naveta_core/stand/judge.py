"""A set-up judged: what tilt and centring are left, how sure that is, and what it does to the work.

Electronic level or plate vial both ways round: tilt = (first − turned)/2, index = (first + turned)/2. From one way
round the index is not known: it is then counted as an uncertainty.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, field
from typing import Any

from .. import __version__
from ..cautions import cautions
from ..errors import said
from ..judgement import ORDER, Decision, Estimate, Limits, decide, worst
from ..numerals import numeral
from ..priors import PRIOR_DOF
from ..readings import Range, Sheet
from ..wording import arcsec, count, figure, joined, length_words, limit
from .advisors.effect import Sights, centring_sigma_arcsec, tilt_most_arcsec
from .advisors.heights import instrument_height
from .circumstances import circumstances
from .set_up import SetUpDocument
from .told_at import rests, swing_of
from .ways import WAYS, acts_of

Data = dict[str, Any]
HEIGHT = Range(0.3, 3.0, "a height of the instrument")
EYE = Range(1.0, 2.3, "the height of an eye")
COMPENSATED = ("level", "digital-level", "total-station", "robotic-total-station")
UNKNOWN_INDEX_ARCSEC = 10.0
UNKNOWN_REST_DIV = 1.0
CENTRING_SIGMA_MM = {"optical": 0.3, "laser": 0.5, "bob": 1.0}
BOB_IN_WIND_MM = 3.0
BOB_HANGS_MM = 0.5
"""No string is read better than this, whatever its swing."""
RESTS_APART_DIV = 0.5
"""Two rest positions of one vial that differ by more do not belong together (three standard deviations)."""
HEIGHTS_APART_M = 0.003
MANY_PASSES = 4
KEPT_WHEN_QUICK = {"last-look", "heights", "ring-round", "turn-round"}
"""What a set-up noted afterwards still has to answer for."""


@dataclass
class Judged:
    """Everything that is known of a set-up once it has been read."""

    document: SetUpDocument
    sheet: Sheet
    tilt: tuple[float, float] | None = None
    index: tuple[float, float] | None = None
    tilt_estimate: Estimate | None = None
    centring: Estimate | None = None
    heights_m: list[float] = field(default_factory=list)
    minutes: float | None = None


def read(document: SetUpDocument) -> Judged:
    """Read what was typed; faults and what is missing are in its sheet."""
    judged = Judged(document, Sheet(document.units.length))
    o = document.observations
    if needs_point(document) and not o.mark.free and not o.mark.name.strip():
        judged.sheet.want("observations.mark.name", "the mark")
    if needs_point(document):
        _read_level(judged)
        if not o.mark.free:
            _read_centring(judged)
            _read_heights(judged)
    elif o.ring_holds == "not-looked":
        judged.sheet.want("observations.ring_holds", "does the bubble stay in its ring")
    if o.eye_height is not None and str(o.eye_height).strip():
        judged.sheet.length("observations.eye_height", "the height of your eye", o.eye_height, EYE)
    minutes = _number(judged.sheet, "observations.minutes", "minutes it took", o.minutes, 0, 600, wanted=False)
    judged.minutes = minutes
    return judged


def needs_point(document: SetUpDocument) -> bool:
    """Whether it stands over a point; a level does not."""
    return not WAYS[document.observations.way].for_levels


def _number(
    sheet: Sheet, path: str, where: str, value: Any, low: float, high: float, *, wanted: bool = True
) -> float | None:
    if value is None or (isinstance(value, str) and not value.strip()):
        if wanted:
            sheet.want(path, where)
        return None
    try:
        number = numeral(value).value if isinstance(value, str) else float(value)
    except ValueError as error:
        sheet.fault(path, where, said(value), str(error))
        return None
    if not low <= number <= high:
        sheet.fault(path, where, said(value), f"{low:g} to {high:g}")
        return None
    return number


def _read_level(judged: Judged) -> None:
    level, sheet = judged.document.observations.level, judged.sheet
    plate = level.by == "plate"
    unit, most = ("divisions", 20.0) if plate else ("seconds", 3600.0)
    scale = level.sensitivity_arcsec_per_div if plate else 1.0
    read: dict[str, float | None] = {}
    for turn, look, wanted in (("first", level.first, True), ("turned", level.turned, False)):
        for axis in ("along", "across"):
            where = f"level {axis}{', turned half round' if turn == 'turned' else ''}, {unit}"
            path = f"observations.level.{turn}.{axis}"
            read[f"{turn}.{axis}"] = _number(sheet, path, where, getattr(look, axis), -most, most, wanted=wanted)
    first = (read["first.along"], read["first.across"])
    turned = (read["turned.along"], read["turned.across"])
    _number(sheet, "observations.level.rest_div", "where the bubble rests", level.rest_div, -20, 20, wanted=False)
    if first[0] is None or first[1] is None:
        return
    sigma = 0.18 * scale if plate else _level_sigma(judged.document)
    if turned[0] is not None and turned[1] is not None:
        judged.tilt = ((first[0] - turned[0]) / 2.0 * scale, (first[1] - turned[1]) / 2.0 * scale)
        judged.index = ((first[0] + turned[0]) / 2.0 * scale, (first[1] + turned[1]) / 2.0 * scale)
        sigma /= math.sqrt(2.0)
    else:
        known = rests(judged.document) if plate else (0.0, 0.0)
        judged.tilt = ((first[0] - known[0]) * scale, (first[1] - known[1]) * scale)
        # Of two vials only one's rest position is known: the other's counts as not known.
        sure = judged.document.rest_div() is not None and judged.document.observations.options.fine == "plate"
        unknown = 0.0 if plate and sure else UNKNOWN_REST_DIV * scale if plate else UNKNOWN_INDEX_ARCSEC
        sigma = math.hypot(sigma, unknown)
    judged.tilt_estimate = Estimate(math.hypot(*judged.tilt), sigma, PRIOR_DOF)


def _level_sigma(document: SetUpDocument) -> float:
    """One look at an electronic level: its noise by the instrument's class, and half a second of its own."""
    accuracy = document.instrument.angle_accuracy_arcsec or 5.0
    noise = 0.5 if accuracy <= 1 else 1.0 if accuracy <= 3 else 2.0
    return math.hypot(noise, 0.5)


def _read_centring(judged: Judged) -> None:
    o = judged.document.observations
    off = _number(judged.sheet, "observations.centring_mm", "off the mark, mm", o.centring_mm, 0, 200)
    if off is None:
        return
    judged.centring = Estimate(off, _centring_sigma_mm(judged.document), PRIOR_DOF)


def _centring_sigma_mm(document: SetUpDocument) -> float:
    """By what it was centred with; a bob in wind by its swing, where that was read from two sides."""
    by = centred_by(document)
    if by != "bob":
        return CENTRING_SIGMA_MM[by]
    swings = [one.saw.swing for one in document.observations.log if one.saw is not None and one.saw.swing is not None]
    swung = swing_of(document, swings[-1]) if swings else None
    if swung is not None and swung.sigma_mm is not None:
        return max(swung.sigma_mm, BOB_HANGS_MM)
    return BOB_IN_WIND_MM if document.conditions.wind in ("breeze", "strong") else CENTRING_SIGMA_MM[by]


def centred_by(document: SetUpDocument) -> str:
    """With what it was centred."""
    o = document.observations
    if o.centred_by:
        return o.centred_by
    if o.way == "plumb-bob" or document.instrument.plummet == "none":
        return "bob"
    return "laser" if document.instrument.plummet == "laser" else "optical"


def _read_heights(judged: Judged) -> None:
    height = judged.document.observations.height
    if not height.readings:
        judged.sheet.want("observations.height.readings[0]", "height of the instrument")
    for i, value in enumerate(height.readings):
        where = "height of the instrument" if i == 0 else "height of the instrument, measured again"
        if i and isinstance(value, str) and not value.strip():
            continue
        length = judged.sheet.length(f"observations.height.readings[{i}]", where, value, HEIGHT)
        if length is not None:
            judged.heights_m.append(instrument_height(length.m, height.radius_mm / 1000.0, height.constant_mm / 1000.0))


def limits_of(document: SetUpDocument) -> dict[str, Limits]:
    """What the set-up is judged against: the document's own limits, or the opening values."""
    o, given = document.observations, document.limits
    kind = document.instrument.kind
    compensated = kind in COMPENSATED or document.instrument.compensator_range_arcmin is not None
    half_division = o.level.sensitivity_arcsec_per_div / 2.0 if o.level.by == "plate" else 0.0
    tilt = 30.0 if compensated else max(10.0, half_division)
    why = "opening value with a compensator at work" if compensated else "opening value without a compensator"
    opening = {"tilt_arcsec": (tilt, why), "centring_mm": (1.0, "opening value where the job names none")}
    limits = {}
    for name, (use, source) in opening.items():
        if name in given:
            told = given[name]
            watch = told.watch or told.use
            limits[name] = Limits(
                told.use, watch, told.adjust or watch, told.source or "set for this work", adjustable=False
            )
        else:
            limits[name] = Limits(use, use, use, source, adjustable=False)
    return limits


def graded(estimate: Estimate, limits: Limits) -> Decision:
    """The decision rule; what is beyond its limit is done again: there is nothing to adjust or to send away."""
    decision = decide(estimate, limits)
    if decision.grade in ("use", "watch"):
        return decision
    return Decision("repeat", ("beyond-limit",) if estimate.value > limits.use else ("not-proved",))


def passed_over(judged: Judged) -> list[str]:
    """What was not confirmed, in the words of the acts."""
    document = judged.document
    o = document.observations
    confirmed = {one.act for one in o.log if one.confirmed}
    if o.level.turned.along is not None or o.ring_holds == "yes":
        confirmed |= {"turn-round", "ring-round"}
    if o.looked_last:
        confirmed.add("last-look")
    if len(judged.heights_m) >= 2:
        confirmed.add("heights")
    if o.zero.reading is not None and str(o.zero.reading).strip():
        confirmed.add("zero")
    acts = acts_of(WAYS[o.way], document.instrument.plummet)
    if o.quick:
        acts = [one for one in acts if one.name in KEPT_WHEN_QUICK]
    if o.mark.free:
        acts = [one for one in acts if one.name not in ("heights", "focus", "laser-on", "laser-off")]
    return [one.confirms for one in acts if one.confirms and one.name not in confirmed]


def passes(document: SetUpDocument) -> int:
    """How often the mark was looked at once the fine level had been set: rounds until a pass changed nothing."""
    way = WAYS[document.observations.way]
    rounds, levelled = 0, False
    for one in document.observations.log:
        if one.act in (way.levels_by, "circular-screws"):
            levelled = True
        elif one.act == way.centres_by and levelled:
            rounds, levelled = rounds + 1, False
    return rounds


def preview(document: SetUpDocument) -> Data:
    """What can be said already; the whole result once it is complete."""
    judged = read(document)
    complete = not judged.sheet.missing and not judged.sheet.faults
    return {
        "complete": complete,
        "missing": judged.sheet.missing,
        "faults": [fault.as_dict() for fault in judged.sheet.faults],
        **({"reduced": _result(judged)} if complete else {}),
    }


def reduce(document: SetUpDocument) -> Data:
    """A complete set-up to its result. Raises Refused with every fault and everything missing."""
    judged = read(document)
    judged.sheet.demand_complete()
    return _result(judged)


def _result(judged: Judged) -> Data:
    document = judged.document
    limits = limits_of(document)
    parts, reasons = [], []
    for name, estimate in (("tilt_arcsec", judged.tilt_estimate), ("centring_mm", judged.centring)):
        if estimate is not None:
            decision = graded(estimate, limits[name])
            parts.append(_part(name, estimate, limits[name], decision))
            reasons += _reasons(judged, name, estimate, limits[name], decision)
    grades = [part["grade"] for part in parts] or ["use"]
    if document.observations.ring_holds == "no":
        grades.append("watch")
        reasons.append(
            ("ring-left", "The circular bubble leaves its ring when turned: its vial is out. Check it at the bench.")
        )
    rests_apart = _rests_apart_div(judged)
    if rests_apart > RESTS_APART_DIV:
        grades.append("watch")
        reasons.append(
            (
                "rests-differ",
                f"One vial, two rest positions {figure(rests_apart, 1)} div apart: something moved between the looks."
                " Turn it round once more.",
            )
        )
    apart = _heights_apart(judged)
    if apart > HEIGHTS_APART_M:
        grades.append("watch")
        reasons.append(
            (
                "heights-differ",
                f"The two heights differ by {length_words(document.units.length).small(apart)}: measure a third time.",
            )
        )
    parts.sort(key=lambda part: -ORDER.index(part["grade"]))
    left = passed_over(judged)
    if left:
        reasons.append(("not-confirmed", f"Not confirmed: {joined(left)}."))
    rounds = passes(document)
    if rounds >= MANY_PASSES:
        reasons.append(
            ("many-passes", "It took many passes: feet that settle, a plummet or a vial that is out. Check those.")
        )
    grade = worst(grades)
    return {
        "kind": "set-up",
        "result": _figures(judged, left, rounds),
        "finding": {"text": _finding(judged)},
        "verdict": {
            "grade": grade,
            "reasons": [{"code": code, "text": text} for code, text in reasons],
            "next": [_next(grade)],
            "parts": parts,
            "set_aside": [],
        },
        "shown": _shown(judged),
        "picture": None,
        "work": _work(judged),
        "cautions": cautions("wind"),
        "worked": _worked(judged),
        "core_version": __version__,
    }


def _part(name: str, e: Estimate, limits: Limits, decision: Decision) -> Data:
    unit = "″" if name == "tilt_arcsec" else " mm"
    return {
        "quantity": name,
        "value": e.value,
        "sigma": e.sigma,
        "u95": e.u95,
        "dof": e.dof,
        "basis": "a-priori",
        "proved_to": e.proved_to,
        "limits": {"use": limits.use, "watch": limits.watch, "adjust": limits.adjust},
        "why": limits.source,
        "limit_text": f"Limit {limits.use:g}{unit}: {limits.source}",
        "grade": decision.grade,
    }


def _reasons(judged: Judged, name: str, e: Estimate, limits: Limits, decision: Decision) -> list[tuple[str, str]]:
    if decision.grade == "use":
        return []
    words = length_words(judged.document.units.length)
    tilt = name == "tilt_arcsec"
    value, bound = (
        (arcsec(e.value), limit(limits.use))
        if tilt
        else (words.small(e.value / 1000.0), words.small(limits.use / 1000.0))
    )
    what = "The axis" if tilt else "The plummet"
    if "beyond-limit" in decision.codes:
        act = "Level it once more" if tilt else "Slide it over once more"
        return [("beyond-limit", f"{what} is {value} out; the limit is {bound}. {act}.")]
    if tilt and judged.index is None:
        return [
            (
                "not-turned",
                f"Seen from one side only it is not proved within {bound}: turn it half round and look again.",
            )
        ]
    proved = arcsec(e.proved_to) if tilt else words.small(e.proved_to / 1000.0)
    return [("not-proved", f"{what} is within {bound} as seen, and proved within {proved}.")]


def _next(grade: str) -> Data:
    if grade == "repeat":
        return {"code": "do-again", "text": "Put that right before you measure: nothing is lost, the log goes on."}
    if grade == "watch":
        return {"code": "carry-on-minding", "text": "Go on, minding what is said here."}
    return {
        "code": "carry-on",
        "text": "Set up. Look at bubble and mark again after a while, and whenever somebody leaned on it.",
    }


def _rests_apart_div(judged: Judged) -> float:
    """By how much the rest positions of the one vial differ that was read in four directions."""
    o = judged.document.observations
    if judged.index is None or o.level.by != "plate" or o.options.fine == "two-plates":
        return 0.0
    return abs(judged.index[0] - judged.index[1]) / o.level.sensitivity_arcsec_per_div


def _heights_apart(judged: Judged) -> float:
    return max(judged.heights_m) - min(judged.heights_m) if len(judged.heights_m) > 1 else 0.0


def _figures(judged: Judged, left: list[str], rounds: int) -> Data:
    figures: Data = {
        "passes": rounds,
        "minutes": judged.minutes,
        "not_confirmed": left,
        "told": circumstances(judged.document, rounds),
    }
    if judged.tilt_estimate is not None and judged.tilt is not None:
        figures["tilt_arcsec"] = judged.tilt_estimate.value
        figures["sigma_tilt_arcsec"] = judged.tilt_estimate.sigma
        figures["tilt_along_arcsec"], figures["tilt_across_arcsec"] = judged.tilt
    if judged.index is not None:
        figures["index_along_arcsec"], figures["index_across_arcsec"] = judged.index
        if judged.document.observations.level.by == "plate":
            o = judged.document.observations
            along, across = (one / o.level.sensitivity_arcsec_per_div for one in judged.index)
            figures["rest_div"] = along if o.options.fine == "two-plates" else (along + across) / 2.0
    if judged.centring is not None:
        figures["centring_mm"], figures["sigma_centring_mm"] = judged.centring.value, judged.centring.sigma
    if judged.heights_m:
        figures["height_m"] = math.fsum(judged.heights_m) / len(judged.heights_m)
        figures["heights_apart_m"] = _heights_apart(judged)
    return figures


def _finding(judged: Judged) -> str:
    document, words = judged.document, length_words(judged.document.units.length)
    o = document.observations
    if not needs_point(document):
        ring = {
            "yes": "the bubble stays in its ring",
            "no": "the bubble leaves its ring",
            "not-looked": "ring not looked at",
        }
        return f"Level set up: {ring[o.ring_holds]} when turned."
    told = [f"axis within {arcsec(judged.tilt_estimate.value)} of plumb"] if judged.tilt_estimate else []
    if judged.centring is not None:
        told.append(f"{words.small(judged.centring.value / 1000.0)} off the mark")
    if judged.heights_m:
        told.append(f"{words.reading(math.fsum(judged.heights_m) / len(judged.heights_m))} {words.name} above it")
    return f"{'Free station' if o.mark.free else f'Over {o.mark.name.strip()}'}: {joined(told)}."


def _shown(judged: Judged) -> list[Data]:
    words = length_words(judged.document.units.length)
    rows: list[Data] = []

    def row(quantity: str, label: str, text: str, plus_minus: str | None, value: float, unit: str) -> None:
        rows.append(
            {
                "quantity": quantity,
                "label": label,
                "text": text,
                "plus_minus": plus_minus,
                "value": value,
                "unit": unit,
                "per_canonical": 1.0,
            }
        )

    if judged.tilt_estimate is not None:
        e = judged.tilt_estimate
        row("tilt_arcsec", "Axis out of plumb", arcsec(e.value), arcsec(e.u95), e.value, "arcsec")
    if judged.index is not None:
        row("index_along_arcsec", "Index along the sight", arcsec(judged.index[0]), None, judged.index[0], "arcsec")
        row("index_across_arcsec", "Index across", arcsec(judged.index[1]), None, judged.index[1], "arcsec")
    if judged.centring is not None:
        e = judged.centring
        row("centring_mm", "Off the mark", words.small(e.value / 1000.0), words.small(e.u95 / 1000.0), e.value, "mm")
    if judged.heights_m:
        height = math.fsum(judged.heights_m) / len(judged.heights_m)
        row("height_m", "Height of the axis", f"{words.reading(height)} {words.name}", None, height, "m")
    if judged.minutes is not None:
        row("minutes", "Time", count(round(judged.minutes), "minute", "minutes"), None, judged.minutes, "min")
    return rows


def sights_of(document: SetUpDocument) -> Sights:
    """The sights of the work ahead."""
    work = document.work
    return Sights(back_m=work.sight_m, fore_m=work.sight_m, elevation_deg=work.elevation_deg)


def _work(judged: Judged) -> list[Data]:
    """What the remainder does to an angle and a height at the sights told."""
    sights, words = sights_of(judged.document), length_words(judged.document.units.length)
    far = words.distance(sights.back_m)
    told = []
    if judged.centring is not None:
        sigma = centring_sigma_arcsec(judged.centring.proved_to, sights)
        told.append(("angle-from-centring", f"With sights of {far} the centring costs an angle up to {arcsec(sigma)}."))
    if judged.tilt_estimate is not None:
        most = tilt_most_arcsec(judged.tilt_estimate.proved_to, sights.elevation_deg)
        kind = judged.document.instrument.kind
        text = f"At {figure(sights.elevation_deg, 0)}° up the tilt costs a direction up to {arcsec(most)}"
        told.append(
            ("direction-from-tilt", f"{text}{', unless the compensator takes it' if kind in COMPENSATED else ''}.")
        )
    if _heights_apart(judged):
        told.append(
            (
                "height",
                f"Heights from here carry the {words.small(_heights_apart(judged))} by which the two readings differ.",
            )
        )
    return [{"code": code, "text": text, "imbalance_m": None, "height_m": None} for code, text in told]


def _worked(judged: Judged) -> list[Data]:
    lines: list[Data] = []
    level = judged.document.observations.level
    if judged.tilt is not None and judged.index is not None:
        for i, axis in enumerate(("along", "across")):
            first, turned = getattr(level.first, axis), getattr(level.turned, axis)
            unit = " div" if level.by == "plate" else "″"
            lines.append(
                {
                    "text": f"Tilt {axis} = (first − turned)/2 = ({first}{unit} − {turned}{unit})/2",
                    "value": arcsec(judged.tilt[i]),
                }
            )
            lines.append({"text": f"Index {axis} = (first + turned)/2", "value": arcsec(judged.index[i])})
    if judged.tilt_estimate is not None:
        e = judged.tilt_estimate
        lines.append({"text": "Proved to = tilt + t(95 %, one-sided) · σ", "value": arcsec(e.proved_to)})
    height = judged.document.observations.height
    if judged.heights_m and (height.radius_mm or height.constant_mm):
        text = f"Height = √(slope² − ({height.radius_mm:g} mm)²) + {height.constant_mm:g} mm"
        lines.append({"text": text, "value": f"{judged.heights_m[0]:.4f} m"})
    return lines


WHERE = {
    "observations.tripod": "the tripod",
    "observations.tripod.foot_spacing_m": "how far the feet are apart",
    "observations.tripod.head_height_m": "the height of the head",
    "observations.tripod.slope_deg": "the slope of the ground",
    "observations.level.sensitivity_arcsec_per_div": "what a division of the vial is worth",
    "observations.height.radius_mm": "from the side of the instrument to its axis",
    "observations.height.constant_mm": "what is to be added to the height",
    "conditions.temperature_c": "the temperature of the air",
    "work.sight_m": "the shortest sight",
    "work.elevation_deg": "the steepest sight",
}


def where(path: str) -> str:
    """A path of a set-up, for the person."""
    if path in WHERE:
        return WHERE[path]
    for name, verb in (("shorten_mm", "shortened"), ("lengthen_mm", "lengthened")):
        if f"tripod.{name}." in path:
            return f"how far leg {path.rsplit('.', 1)[1]} can be {verb}"
    return path.removeprefix("observations.").replace("_", " ").replace(".", ", ")
