"""From what was typed to figures: points in metres, sights in degrees and metres, and every fault on the way."""

from __future__ import annotations

import math
from dataclasses import KW_ONLY, dataclass

from ..documents.envelope import Envelope, Typed
from ..engine.parser import Parser, Range, ordinal
from ..errors import quote
from ..geometry import EARTH_RADIUS_M, REFRACTION
from ..units.angles import parse_angle
from ..units.lengths import Length
from .document import ControlPoint, FreeStationObservations, Oriented, Shot
from .names import near_misses, same

COORDINATE = Range(-10_000_000.0, 10_000_000.0, "a coordinate")
HEIGHT = Range(-500.0, 9000.0, "a height")
DISTANCE = Range(0.5, 10_000.0, "a distance")
TARGET = Range(0.0, 10.0, "a target height")
INSTRUMENT = Range(0.0, 3.0, "an instrument height")
ONE_SPOT_M = 0.05


@dataclass(frozen=True, slots=True)
class FixedPoint:
    """A control point in metres."""

    name: str
    e: float
    n: float
    h: float | None = None


@dataclass(frozen=True, slots=True)
class Sight:
    """A sight in figures: face left, counted clockwise. Distances in metres, `horizontal` reduced from the slope."""

    index: int
    point: FixedPoint
    hz_deg: float
    _: KW_ONLY
    z_deg: float | None
    horizontal_m: float | None
    rise_m: float | None
    """From the axis of the instrument to the mark: with curvature, refraction and the target's height."""


@dataclass
class Read:
    """A document read: what could be understood of it. Angles in degrees, lengths in metres."""

    document: Envelope
    parser: Parser
    control: list[FixedPoint]
    sights: list[Sight]
    instrument_m: float | None
    closing: tuple[FixedPoint, float, float | None] | None = None
    station: FixedPoint | None = None


def read(document: Envelope, *, station: ControlPoint | None = None, over_point: bool = False) -> Read:
    """Read an orientation. `station` is the point stood over, where one is."""
    o: Oriented = document.observations
    parser = Parser(document.units.length)
    control = _control(document, parser)
    found = Read(document, parser, control, [], _instrument(document, parser))
    if over_point:
        found.station = _station(parser, station)
    for i, shot in enumerate(o.shots):
        sight = _sight(document, parser, i, shot=shot, control=control, found=found)
        if sight is not None and not shot.left_out:
            found.sights.append(sight)
    found.closing = _closing(document, parser, control)
    _enough(document, parser, over_point=over_point)
    return found


def angle(
    document: Envelope, parser: Parser, path: str, where: str, value: Typed | None, *, wanted: bool = True
) -> float | None:
    """A typed angle in degrees, 0 to 360; a full circle's worth more is stated to look like gon."""
    if value is None or (isinstance(value, str) and not value.strip()):
        if wanted:
            parser.want(path, where)
        return None
    unit = document.units.angle
    try:
        degrees = parse_angle(value, unit).value if isinstance(value, str) else float(value)
    except ValueError as error:
        parser.fault(path, where, quote(value), str(error))
        return None
    if not -360.0 <= degrees <= 360.0:
        looks_gon = unit != "gon" and 360.0 < degrees < 400.0
        parser.fault(
            path,
            where,
            quote(value),
            "an angle up to 360°" + ("; is this in gon? change the unit" if looks_gon else ""),
        )
        return None
    return degrees % 360.0


def _instrument(document: Envelope, parser: Parser) -> float | None:
    o: Oriented = document.observations
    value = o.instrument_height
    if value is None or (isinstance(value, str) and not value.strip()):
        if any(_filled(shot.v) for shot in o.shots):
            parser.want(
                "observations.instrument_height",
                "the instrument height (0 for a free station)",
            )
        return None
    length = parser.length("observations.instrument_height", "the instrument height", value, INSTRUMENT)
    return None if length is None else length.m


def _filled(value: Typed | None) -> bool:
    return value is not None and bool(str(value).strip())


def _point(parser: Parser, path: str, where: str, point: ControlPoint) -> FixedPoint | None:
    e = parser.length(f"{path}.e", f"{where}, easting", point.e, COORDINATE)
    n = parser.length(f"{path}.n", f"{where}, northing", point.n, COORDINATE)
    h = parser.length(f"{path}.h", f"{where}, height", point.h, HEIGHT) if _filled(point.h) else None
    return None if e is None or n is None else FixedPoint(point.name.strip(), e.m, n.m, None if h is None else h.m)


def _control(document: Envelope, parser: Parser) -> list[FixedPoint]:
    o: Oriented = document.observations
    known: list[FixedPoint] = []
    for i, point in enumerate(o.control):
        path = f"observations.control[{i}]"
        entry = _point(parser, path, f"point {point.name or i + 1}", point)
        if entry is None:
            continue
        twin = next((other for other in known if same(other.name, entry.name)), None)
        if twin is not None:
            parser.fault(
                f"{path}.name",
                f"point {entry.name}",
                quote(entry.name),
                f"each point once: {twin.name} is there already",
            )
            continue
        spot = next((other for other in known if math.hypot(other.e - entry.e, other.n - entry.n) < ONE_SPOT_M), None)
        if spot is not None:
            wanted = f"different points: {entry.name} and {spot.name} have the same position"
            parser.fault(path, f"point {entry.name}", "the same coordinates", wanted)
        known.append(entry)
    return known


def _station(parser: Parser, station: ControlPoint | None) -> FixedPoint | None:
    if station is None or not station.name.strip():
        parser.want("observations.station", "the station point")
        return None
    return _point(parser, "observations.station", f"station {station.name}", station)


def find(parser: Parser, path: str, where: str, name: str, control: list[FixedPoint]) -> FixedPoint | None:
    """The control point of a name; a fault that names what may be meant when there is none."""
    if not name.strip():
        parser.want(path, where)
        return None
    found = next((earlier for earlier in control if same(earlier.name, name)), None)
    if found is None:
        near = [why for _, why in near_misses(name, [earlier.name for earlier in control])]
        wanted = (
            f"a control point; {near[0]}"
            if near
            else "one of the control points: " + ", ".join(earlier.name for earlier in control[:12])
        )
        parser.fault(path, where, quote(name), wanted if control else "a control point: there is none yet")
    return found


def _sight(
    document: Envelope, parser: Parser, i: int, *, shot: Shot, control: list[FixedPoint], found: Read
) -> Sight | None:
    path, where = f"observations.shots[{i}]", f"{ordinal(i)} sight"
    point = find(parser, f"{path}.point", f"{where}, point", shot.point, control)
    hz = angle(document, parser, f"{path}.hz", f"{where}, horizontal circle", shot.hz)
    z = angle(
        document,
        parser,
        f"{path}.v",
        f"{where}, zenith angle",
        shot.v,
        wanted=_filled(shot.slope_distance) and not _by_heights(found, point),
    )
    if z is not None:
        z = _zenith(parser, path, where, shot, z)
    target = 0.0
    if _filled(shot.target_height):
        length = parser.length(f"{path}.target_height", f"{where}, target height", shot.target_height, TARGET)
        target = length.m if length is not None else 0.0
    elif z is not None and point is not None and point.h is not None:
        parser.want(f"{path}.target_height", f"{where}, target height")
    slope, flat = _distances(parser, path, where, shot)
    if point is not None and found.station is not None and _one_spot(point, found.station):
        wanted = f"another control point than your station {found.station.name}"
        parser.fault(f"{path}.point", f"{where}, point", quote(shot.point), wanted)
        return None
    if point is None or hz is None:
        return None
    if shot.face == "right":
        hz = (hz - 180.0) % 360.0
    o: Oriented = document.observations
    if o.counts == "anticlockwise":
        hz = (360.0 - hz) % 360.0
    horizontal = None if flat is None else flat.m
    if slope is not None:
        horizontal = _reduced(
            parser,
            f"{path}.slope_distance",
            where,
            shot=shot,
            slope=slope.m,
            z=z,
            point=point,
            target=target,
            found=found,
        )
    return Sight(
        i, point, hz, z_deg=z, horizontal_m=horizontal, rise_m=rise_m(horizontal, z, found.instrument_m, target)
    )


def _distances(parser: Parser, path: str, where: str, shot: Shot) -> tuple[Length | None, Length | None]:
    """The slope and the horizontal distance as far as they are filled; both at once are a fault."""
    slope, flat = (
        parser.length(f"{path}.{name}", f"{where}, {name.replace('_', ' ')}", value, DISTANCE)
        if _filled(value)
        else None
        for name, value in (("slope_distance", shot.slope_distance), ("horizontal_distance", shot.horizontal_distance))
    )
    if _filled(shot.slope_distance) and _filled(shot.horizontal_distance):
        parser.fault(path, where, "two distances", "either the slope or the horizontal distance")
    return slope, flat


def _zenith(parser: Parser, path: str, where: str, shot: Shot, read_deg: float) -> float | None:
    """A zenith angle as face left reads it, degrees; None with the fault noted where it can be none."""
    z = 360.0 - read_deg if shot.face == "right" else read_deg
    if 1.0 <= z <= 179.0:
        return z
    wanted = "a zenith angle: 0 straight up, 90 level" + ("; face right reads more than 180" if z > 180.0 else "")
    parser.fault(f"{path}.v", f"{where}, zenith angle", quote(shot.v), wanted)
    return None


def _one_spot(known: FixedPoint, other: FixedPoint) -> bool:
    return math.hypot(known.e - other.e, known.n - other.n) < ONE_SPOT_M


def _by_heights(found: Read, point: FixedPoint | None) -> bool:
    """Whether a slope distance can be reduced by the two heights."""
    return bool(
        found.station
        and found.station.h is not None
        and point
        and point.h is not None
        and found.instrument_m is not None
    )


def _reduced(
    parser: Parser,
    path: str,
    where: str,
    *,
    shot: Shot,
    slope: float,
    z: float | None,
    point: FixedPoint,
    target: float,
    found: Read,
) -> float | None:
    if z is not None:
        return slope * math.sin(math.radians(z))
    if not _by_heights(found, point):
        return None
    assert found.station is not None
    assert found.station.h is not None
    assert found.instrument_m is not None
    assert point.h is not None
    fall = point.h + target - found.station.h - found.instrument_m
    if slope <= abs(fall):
        wanted = f"a slope distance above {abs(fall):.3f} m, by which the two points differ in height"
        parser.fault(path, f"{where}, slope distance", quote(shot.slope_distance), wanted)
        return None
    return math.sqrt(slope**2 - fall**2)


def rise_m(horizontal: float | None, z: float | None, instrument: float | None, target: float) -> float | None:
    """From the mark stood over to the mark sighted: h·cot z + (1−k)h²/2R + instrument − target height."""
    if horizontal is None or z is None or instrument is None:
        return None
    bent = (1.0 - REFRACTION) * horizontal**2 / (2.0 * EARTH_RADIUS_M)
    return horizontal / math.tan(math.radians(z)) + bent + instrument - target


def _closing(
    document: Envelope, parser: Parser, control: list[FixedPoint]
) -> tuple[FixedPoint, float, float | None] | None:
    o: Oriented = document.observations
    if o.closing is None or not (o.closing.point.strip() or _filled(o.closing.hz)):
        return None
    point = find(parser, "observations.closing.point", "closing sight, point", o.closing.point, control)
    hz = angle(document, parser, "observations.closing.hz", "closing sight, horizontal circle", o.closing.hz)
    z = angle(document, parser, "observations.closing.v", "closing sight, zenith angle", o.closing.v, wanted=False)
    if hz is not None and o.counts == "anticlockwise":
        hz = (360.0 - hz) % 360.0
    return None if point is None or hz is None else (point, hz, z)


def _enough(document: Envelope, parser: Parser, *, over_point: bool) -> None:
    o: Oriented = document.observations
    used = [shot for shot in o.shots if not shot.left_out]
    if over_point:
        if not used:
            parser.want("observations.shots[0].point", "a sight to a control point")
        return
    names = {tuple(shot.point.strip().upper().split()) for shot in used if shot.point.strip()}
    if len(names) < 2:
        at = len(o.shots) if len(names) == len(used) else len(o.shots) - 1
        parser.want(
            f"observations.shots[{max(at, 0)}].point",
            "a sight to a second control point" if names else "sights to two control points",
        )
    assert isinstance(o, FreeStationObservations)
    with_distance = [shot for shot in used if _filled(shot.slope_distance) or _filled(shot.horizontal_distance)]
    if len(names) >= 2 and len(used) + len(with_distance) < 3:
        parser.want("observations.shots[0].slope_distance", "a distance, or a third point")
