"""A set-up read: tilt, index, centring and heights with how sure they are, and what they are held against.

Electronic level or plate vial at two headings half a turn apart: tilt = (first − turned)/2, index = (first + turned)/2. From one
heading the index is not known: it is then counted as an uncertainty.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, field
from typing import Any

from ..engine.parser import Parser, Range
from ..engine.work import words_of
from ..errors import path_in_words, quote
from ..stats.decision import Limits
from ..stats.estimate import PRIOR_DOF, Estimate
from ..units.numbers import numeral, rounded
from .advisors.effect import Sights, centring_allowed_mm
from .advisors.heights import instrument_height
from .document import SetUpDocument
from .equipment import CircularVial
from .methods import method_of
from .observations import rests, swing_of

HEIGHT = Range(0.3, 3.0, "an instrument height")
EYE = Range(1.0, 2.3, "the height of an eye")
COMPENSATED = ("level", "digital-level", "total-station", "robotic-total-station")
MAX_LEVEL, MAX_SPOT_MM = 36_000.0, 500.0
UNKNOWN_INDEX_ARCSEC = 10.0
WANTED_SHARE, USUALLY_WANTED = 2.0, 10.0
MIN_CENTRING_MM, MAX_CENTRING_MM = 0.7, 3.0
UNKNOWN_REST_DIV = 1.0
CENTRING_SIGMA_MM = {"optical": 0.3, "laser": 0.5, "bob": 1.0}
BOB_IN_WIND_MM = 3.0
BOB_HANGS_MM = 0.5
"""No string is read better than this, whatever its swing."""
WHERE = {
    "observations.tripod": "the tripod",
    "observations.tripod.foot_spacing_m": "the distance between the feet",
    "observations.tripod.head_height_m": "the height of the head",
    "observations.tripod.slope_deg": "the slope of the ground",
    "observations.level.sensitivity_arcsec_per_div": "the value of one division of the level vial",
    "observations.height.radius_mm": "offset from instrument side to axis",
    "observations.height.constant_mm": "constant to add to the height",
    "conditions.temperature_c": "the temperature of the air",
    "work.sight_m": "the shortest sight",
    "work.elevation_deg": "the steepest sight",
}


@dataclass
class Judged:
    """Everything that is known of a set-up once it has been read. Tilt and index in arcsec, along and across."""

    document: SetUpDocument
    parser: Parser
    tilt: tuple[float, float] | None = None
    index: tuple[float, float] | None = None
    tilt_estimate: Estimate | None = None
    centring: Estimate | None = None
    heights_m: list[float] = field(default_factory=list)
    minutes: float | None = None

    def compensated(self) -> bool:
        """Whether a compensator takes what is left of the tilt."""
        return has_compensator(self.document)


def read(document: SetUpDocument) -> Judged:
    """Read what was typed; faults and what is missing are in its sheet."""
    judged = Judged(document, Parser(document.units.length))
    o = document.observations
    if needs_point(document) and not o.mark.free and not o.mark.name.strip():
        judged.parser.want("observations.mark.name", "the mark")
    if needs_point(document):
        _read_level(judged)
        if not o.mark.free:
            _read_centring(judged)
            _read_heights(judged)
    elif o.ring_holds == "not-looked":
        judged.parser.want("observations.ring_holds", "does the bubble stay in its ring")
    if o.eye_height is not None and str(o.eye_height).strip():
        judged.parser.length("observations.eye_height", "the height of your eye", o.eye_height, EYE)
    _read_log(judged)
    minutes = _number(
        judged.parser, "observations.minutes", "time needed, minutes", value=o.minutes, low=0, high=600, wanted=False
    )
    judged.minutes = minutes
    return judged


def _read_log(judged: Judged) -> None:
    """What was typed last at each step; what was corrected later no longer counts."""
    log = judged.document.observations.log
    latest = {logged.step: i for i, logged in enumerate(log) if logged.saw is not None}
    for i in sorted(latest.values()):
        saw, path = log[i].saw, f"observations.log[{i}].saw"
        assert saw is not None
        typed: list[tuple[str, str, Any, float]] = []
        if saw.level is not None:
            typed += [
                (f"level.{name}", f"level {name}", getattr(saw.level, name), MAX_LEVEL) for name in ("along", "across")
            ]
        for name, aside, most, what in (
            ("spot_aside", saw.spot_aside, MAX_SPOT_MM, "the spot"),
            ("bubble_aside", saw.bubble_aside, CircularVial().wall_mm, "the bubble"),
        ):
            if aside is not None:
                typed += [
                    (f"{name}.{way}", f"{what}, {word}, mm", getattr(aside, way), most)
                    for way, word in (("right", "to your right"), ("away", "away from you"))
                ]
        if saw.swing is not None:
            typed += [
                (
                    f"swing.{side}.{end}",
                    f"the swing, {end} end, mm",
                    getattr(getattr(saw.swing, side), end),
                    MAX_SPOT_MM,
                )
                for side in ("here", "round")
                for end in ("left", "right")
            ]
        for field_path, where_, value, most in typed:
            _number(judged.parser, f"{path}.{field_path}", where_, value=value, low=-most, high=most, wanted=False)


def needs_point(document: SetUpDocument) -> bool:
    """Whether it stands over a point; a level does not."""
    return not method_of(document.observations).for_levels


def _number(
    parser: Parser, path: str, where: str, *, value: Any, low: float, high: float, wanted: bool = True
) -> float | None:
    if value is None or (isinstance(value, str) and not value.strip()):
        if wanted:
            parser.want(path, where)
        return None
    try:
        number = numeral(value).value if isinstance(value, str) else float(value)
    except ValueError as error:
        parser.fault(path, where, quote(value), str(error))
        return None
    if not low <= number <= high:
        parser.fault(path, where, quote(value), f"{low:g} to {high:g}")
        return None
    return number


def _read_level(judged: Judged) -> None:
    level, parser = judged.document.observations.level, judged.parser
    plate = level.by == "plate"
    unit, most = ("divisions", 20.0) if plate else ("seconds", 3600.0)
    scale = level.sensitivity_arcsec_per_div if plate else 1.0
    senses = (1.0, 1.0) if plate else judged.document.instrument.senses
    read: dict[str, float | None] = {}
    for turn, look, wanted in (("first", level.first, True), ("turned", level.turned, False)):
        for axis in ("along", "across"):
            where = f"level {axis}{', turned by 180°' if turn == 'turned' else ''}, {unit}"
            path = f"observations.level.{turn}.{axis}"
            found = _number(parser, path, where, value=getattr(look, axis), low=-most, high=most, wanted=wanted)
            read[f"{turn}.{axis}"] = None if found is None else found * senses[axis == "across"]
    first = (read["first.along"], read["first.across"])
    turned = (read["turned.along"], read["turned.across"])
    _number(
        parser,
        "observations.level.rest_div",
        "the reversing point",
        value=level.rest_div,
        low=-20,
        high=20,
        wanted=False,
    )
    if first[0] is None or first[1] is None:
        return
    sigma = 0.18 * scale if plate else _level_sigma(judged.document)
    if turned[0] is not None and turned[1] is not None:
        judged.tilt = ((first[0] - turned[0]) / 2.0 * scale, (first[1] - turned[1]) / 2.0 * scale)
        judged.index = ((first[0] + turned[0]) / 2.0 * scale, (first[1] + turned[1]) / 2.0 * scale)
        sigma /= math.sqrt(2.0)
    else:
        index = None if plate else judged.document.known_index()
        known = rests(judged.document) if plate else index[:2] if index else (0.0, 0.0)
        judged.tilt = ((first[0] - known[0]) * scale, (first[1] - known[1]) * scale)
        # Of two vials only one's rest position is known: the other's counts as not known.
        sure = judged.document.rest_div() is not None and judged.document.observations.options.level_type == "plate"
        unknown = UNKNOWN_REST_DIV * scale if plate else UNKNOWN_INDEX_ARCSEC
        if plate and sure:
            unknown = 0.0
        elif index:
            unknown = index[2]
        sigma = math.hypot(sigma, unknown)
    judged.tilt_estimate = Estimate(math.hypot(*judged.tilt), sigma, PRIOR_DOF)


def _level_sigma(document: SetUpDocument) -> float:
    """One look at an electronic level: its noise by the instrument's class, and half a second of its own."""
    accuracy = document.instrument.angle_accuracy_arcsec or 5.0
    noise = 0.5 if accuracy <= 1 else 1.0 if accuracy <= 3 else 2.0
    return math.hypot(noise, 0.5)


def _read_centring(judged: Judged) -> None:
    o = judged.document.observations
    off = _number(judged.parser, "observations.centring_mm", "off the mark, mm", value=o.centring_mm, low=0, high=200)
    if off is None:
        return
    judged.centring = Estimate(off, _centring_sigma_mm(judged.document), PRIOR_DOF)


def _centring_sigma_mm(document: SetUpDocument) -> float:
    """By what it was centred with; a bob in wind by its swing, where that was read from two sides."""
    by = centred_by(document)
    if by != "bob":
        return CENTRING_SIGMA_MM[by]
    swings = [
        logged.saw.swing
        for logged in document.observations.log
        if logged.saw is not None and logged.saw.swing is not None
    ]
    swung = swing_of(document, swings[-1]) if swings else None
    if swung is not None and swung.sigma_mm is not None:
        return max(swung.sigma_mm, BOB_HANGS_MM)
    return BOB_IN_WIND_MM if document.conditions.wind in ("breeze", "strong") else CENTRING_SIGMA_MM[by]


def centred_by(document: SetUpDocument) -> str:
    """With what it was centred."""
    o = document.observations
    if o.centred_by:
        return o.centred_by
    if o.method == "plumb-bob" or document.plummet == "none":
        return "bob"
    return "laser" if document.plummet == "laser" else "optical"


def _read_heights(judged: Judged) -> None:
    height = judged.document.observations.height
    if not height.readings:
        judged.parser.want("observations.height.readings[0]", "instrument height")
    for i, value in enumerate(height.readings):
        where = "instrument height" if i == 0 else "instrument height, measured again"
        if i and isinstance(value, str) and not value.strip():
            continue
        length = judged.parser.length(f"observations.height.readings[{i}]", where, value, HEIGHT)
        if length is not None:
            judged.heights_m.append(instrument_height(length.m, height.radius_mm / 1000.0, height.constant_mm / 1000.0))


def has_compensator(document: SetUpDocument) -> bool:
    """Whether the instrument corrects its own tilt."""
    stated = document.instrument
    return stated.kind in COMPENSATED or stated.compensator_range_arcmin is not None


def limits_of(document: SetUpDocument) -> dict[str, Limits]:
    """What the set-up is judged against: the document's own limits, or the default values."""
    o, given = document.observations, document.limits
    compensated = has_compensator(document)
    half_division = o.level.sensitivity_arcsec_per_div / 2.0 if o.level.by == "plate" else 0.0
    tilt = 30.0 if compensated else max(10.0, half_division)
    why = "default limit with compensator on" if compensated else "default limit without compensator"
    default = {"tilt_arcsec": (tilt, why), "centring_mm": _centring_limit(document)}
    limits = {}
    for name, (use, source) in default.items():
        if name in given:
            found = given[name]
            watch = found.watch or found.use
            limits[name] = Limits(
                found.use, watch, found.adjust or watch, found.source or "set for this job", adjustable=False
            )
        else:
            limits[name] = Limits(use, use, use, source, adjustable=False)
    return limits


def _centring_limit(document: SetUpDocument) -> tuple[float, str]:
    """What the sights and the accuracy wanted allow at the mark, mm: e = √2·σ_β·D/(ρ·√2) at 90° between equal sights."""
    work = document.work
    usual = max(USUALLY_WANTED, WANTED_SHARE * (document.instrument.angle_accuracy_arcsec or 0.0))
    wanted = work.angle_wanted_arcsec or usual
    sights = Sights(back_m=work.sight_m, fore_m=work.sight_m)
    allowed = centring_allowed_mm(wanted, sights)
    use = min(MAX_CENTRING_MM, max(MIN_CENTRING_MM, allowed))
    why = f"for sights of {words_of(document).height(work.sight_m)} and angles to {wanted:g}″"
    if use > allowed:
        why += f": {allowed:.2g} mm, but a plummet cannot be read better than {use:g} mm"
    elif use < allowed:
        why += f": {allowed:.2g} mm, but points set out move with the instrument"
    return rounded(use, 2), why


def index_limits(document: SetUpDocument) -> tuple[float, float]:
    """Beyond what the index of the level it was set by is out, along and across: seconds."""
    o = document.observations
    if o.level.by == "plate":
        return o.level.sensitivity_arcsec_per_div, o.level.sensitivity_arcsec_per_div
    stated = document.instrument.angle_accuracy_arcsec or 0.0
    use = max(4.0, 1.5 * stated, 2 * (document.instrument.electronic_level_step_arcsec or 0.0))
    return use, use


def passes(document: SetUpDocument) -> int:
    """How often the mark was looked at once the fine level had been set: rounds until a pass changed nothing."""
    method = method_of(document.observations)
    rounds, levelled = 0, False
    for logged in document.observations.log:
        if logged.step in (method.levels_by, "circular-screws"):
            levelled = True
        elif logged.step == method.centres_by and levelled:
            rounds, levelled = rounds + 1, False
    return rounds


def where(path: str) -> str:
    """A path of a set-up, for the person."""
    if path in WHERE:
        return WHERE[path]
    for name, verb in (("shorten_mm", "shortened"), ("lengthen_mm", "lengthened")):
        if f"tripod.{name}." in path:
            return f"how far leg {path.rsplit('.', 1)[1]} can be {verb}"
    return path_in_words(path)
