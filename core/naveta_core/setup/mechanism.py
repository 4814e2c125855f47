"""One state of a set-up, what a person then sees, and what each move does to it.

The tribrach's plate lies on the head and slides on it; the screws' tips stand in the plate. The standing axis passes
through the plate's middle whatever the screws do, so turning a screw turns the instrument about that point. Slid
without being turned the tribrach stays parallel to the head and keeps its level; turned on a head that is not level it
loses it, since its screws make up for the head's tilt in one direction only.

Tilts are the *high-side vector*: a bubble runs to where it points, the axis is tilted the other way.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import KW_ONLY, dataclass, replace

from ..geometry import (
    ARCSEC,
    Plane,
    Rotation,
    Vector,
    about,
    add,
    along,
    clockwise,
    less,
    polar,
    product,
    times,
    turned,
    unit,
)
from .equipment import MM, Equipment
from .tripod import LEGS, Feet, Legs, Pose, hold, legs_of, level_pose


class OutOfReachError(ValueError):
    """A move beyond what leg, screw or slide can do; the text says which."""


@dataclass(frozen=True, slots=True)
class State:
    """How everything stands. `slide` in the head's frame, metres; `screws` in millimetres from mid travel."""

    feet: Feet
    legs: Legs
    pose: Pose
    _: KW_ONLY
    mark: Vector
    slide: Plane = (0.0, 0.0)
    tribrach_turn_deg: float = 0.0
    screws: tuple[float, ...] = (0.0, 0.0, 0.0)
    heading_deg: float = 0.0


@dataclass(frozen=True, slots=True)
class InstrumentView:
    """What a person sees. Directions are bearings of the set-up frame; `None` where there is nothing to see."""

    bubble_bearing_deg: float
    bubble_mm: float
    at_wall: bool
    in_ring: bool
    plate_div: float | None
    plate_at_end: bool
    along_arcsec: float | None
    across_arcsec: float | None
    spot_mm: Plane | None
    """Where the plummet points, from the mark: right and up."""
    axis_mm: Plane
    """Where the standing axis meets the height of the mark, from the mark."""
    tilt_arcsec: Plane
    """True high-side vector of the standing axis."""
    head_tilt_arcsec: Plane


def stood(equipment: Equipment, feet: Feet, head_height_m: float, mark: Vector = (0.0, 0.0, 0.0)) -> State:
    """Stood up with a level head `head_height_m` above the mark, screws at mid travel, tribrach in the middle."""
    hinge_height = mark[2] + head_height_m - equipment.pivot_height_mm * MM
    pose = level_pose(feet, hinge_height)
    legs = legs_of(feet, pose, equipment.hinge_radius_mm * MM)
    return State(feet, legs, pose, mark=mark, screws=(0.0,) * equipment.tribrach.screws)


def held(equipment: Equipment, state: State, **changes: object) -> State:
    """The state after feet or legs have changed, the head held up by them."""
    changed = replace(state, **changes)  # type: ignore[arg-type]
    return replace(changed, pose=hold(changed.feet, changed.legs, equipment.hinge_radius_mm * MM, state.pose))


def move_leg(equipment: Equipment, state: State, leg: str, mm: float) -> State:
    """Lengthen a leg (negative: shorten it). Raises OutOfReachError beyond the leg's own length."""
    legs = list(state.legs)
    legs[LEGS.index(leg)] += mm * MM
    new = legs[LEGS.index(leg)]
    if not equipment.leg_shortest_m <= new <= equipment.leg_longest_m:
        raise OutOfReachError(
            f"leg {leg} would be {new:.3f} m; its range is {equipment.leg_shortest_m} to {equipment.leg_longest_m} m"
        )
    return held(equipment, state, legs=tuple(legs))


def move_foot(
    equipment: Equipment, state: State, leg: str, *, right_mm: float, up_mm: float, rise_mm: float = 0.0
) -> State:
    """Set a foot down elsewhere; `rise_mm` negative treads it in."""
    feet = list(state.feet)
    at = LEGS.index(leg)
    feet[at] = add(feet[at], (right_mm * MM, up_mm * MM, rise_mm * MM))
    return held(equipment, state, feet=tuple(feet))


def carry_over(state: State, right_mm: float, up_mm: float) -> State:
    """Carry the whole tripod as it stands: its head keeps its tilt."""
    step = (right_mm * MM, up_mm * MM, 0.0)
    a, b, c = state.feet
    feet = (add(a, step), add(b, step), add(c, step))
    return replace(state, feet=feet, pose=Pose(add(state.pose.at, step), state.pose.turn))


def turn_screw(equipment: Equipment, state: State, turns: dict[int, float]) -> State:
    """Turn foot screws (numbered from 1, positive clockwise from above). Raises OutOfReachError at a stop."""
    screws = list(state.screws)
    sense = 1.0 if equipment.tribrach.clockwise_raises else -1.0
    for number, amount in turns.items():
        screws[number - 1] += sense * amount * equipment.tribrach.pitch_mm
        if abs(screws[number - 1]) > equipment.tribrach.travel_mm / 2.0 + 1e-9:
            raise OutOfReachError(f"screw {number} is at its stop")
    return replace(state, screws=tuple(screws))


def slide(equipment: Equipment, state: State, right_mm: float, up_mm: float, turn_deg: float = 0.0) -> State:
    """Slide the tribrach on the head by a step seen from above; `turn_deg` is what it turned meanwhile."""
    transposed: Rotation = tuple(zip(*state.pose.turn, strict=True))  # type: ignore[assignment]
    step = turned(transposed, (right_mm * MM, up_mm * MM, 0.0))
    slid = (state.slide[0] + step[0], state.slide[1] + step[1])
    if math.hypot(*slid) > equipment.slide_range_mm * MM + 1e-9:
        raise OutOfReachError(
            f"the tribrach slides {equipment.slide_range_mm} mm from the middle of the head and no further"
        )
    return replace(state, slide=slid, tribrach_turn_deg=state.tribrach_turn_deg + turn_deg)


def turn_to(state: State, heading_deg: float) -> State:
    """Turn the instrument until it points to a heading."""
    return replace(state, heading_deg=heading_deg % 360.0)


def _tribrach_turn(equipment: Equipment, state: State) -> Rotation:
    """The tribrach's own frame in the set-up frame: the head's, turned on it, tilted by the screws."""
    spots = [unit(b) for b in equipment.tribrach.bearings_deg]
    radius = equipment.tribrach.radius_mm
    # The plane through the tips (through four: the nearest one), of which the tribrach stands `screws` above.
    gx = math.fsum(h * u[0] for h, u in zip(state.screws, spots, strict=True)) * 2.0 / (len(spots) * radius)
    gy = math.fsum(h * u[1] for h, u in zip(state.screws, spots, strict=True)) * 2.0 / (len(spots) * radius)
    size = math.hypot(gx, gy)
    flat = product(state.pose.turn, clockwise(state.tribrach_turn_deg))
    if size == 0.0:
        return flat
    angle = math.atan(size)
    return product(flat, about((gy / size * angle, -gx / size * angle, 0.0)))


def strain_mm(state: State) -> float:
    """By how much four screws contradict each other: the tribrach rocks or is bent. 0 for three."""
    if len(state.screws) < 4:
        return 0.0
    a, b, c, d = state.screws
    return abs(a + c - b - d) / 4.0


def see(equipment: Equipment, state: State) -> InstrumentView:
    """What is seen in a state."""
    tribrach = _tribrach_turn(equipment, state)
    up = (tribrach[0][2], tribrach[1][2], tribrach[2][2])
    tilt = (-up[0] / up[2], -up[1] / up[2])
    head_up = state.pose.normal
    pivot = state.pose.point((state.slide[0], state.slide[1], equipment.pivot_height_mm * MM))
    bubble = _bubble(equipment, tilt, tribrach, state.heading_deg)
    bearing, size = polar(*bubble)
    plate_div, at_end = _plate(equipment, tilt, state.heading_deg)
    level = _electronic(equipment, tilt, state.heading_deg)
    axis = _meets(pivot, times(up, -1.0), state.mark)
    return InstrumentView(
        bubble_bearing_deg=bearing,
        bubble_mm=min(size, equipment.circular.wall_mm),
        at_wall=size >= equipment.circular.wall_mm,
        in_ring=size <= equipment.circular.ring_mm,
        plate_div=plate_div,
        plate_at_end=at_end,
        along_arcsec=level[0] if level else None,
        across_arcsec=level[1] if level else None,
        spot_mm=_spot(equipment, state, tribrach, pivot),
        axis_mm=axis,
        tilt_arcsec=(tilt[0] * ARCSEC, tilt[1] * ARCSEC),
        head_tilt_arcsec=(-head_up[0] / head_up[2] * ARCSEC, -head_up[1] / head_up[2] * ARCSEC),
    )


def _bubble(equipment: Equipment, tilt: Plane, tribrach: Rotation, heading_deg: float) -> Plane:
    vial = equipment.circular
    turn = polar(tribrach[0][1], tribrach[1][1])[0] if vial.on_tribrach else heading_deg
    resting = turned(clockwise(turn), (vial.error_x_mm, vial.error_y_mm, 0.0))
    return (vial.mm_per_radian * tilt[0] + resting[0], vial.mm_per_radian * tilt[1] + resting[1])


def _plate(equipment: Equipment, tilt: Plane, heading_deg: float) -> tuple[float | None, bool]:
    if equipment.plate is None:
        return None, False
    shown = along(tilt, heading_deg + equipment.plate.at_deg) * ARCSEC / equipment.plate.sensitivity_arcsec_per_div
    shown += equipment.plate.error_div
    end = equipment.plate.end_div
    return max(-end, min(end, shown)), abs(shown) >= end


def _electronic(equipment: Equipment, tilt: Plane, heading_deg: float) -> Plane | None:
    if equipment.electronic is None:
        return None
    shown = (along(tilt, heading_deg) * ARCSEC, along(tilt, heading_deg + 90.0) * ARCSEC)
    if max(abs(entry) for entry in shown) > equipment.electronic.range_arcmin * 60.0:
        return None
    return (shown[0] + equipment.electronic.index_along_arcsec, shown[1] + equipment.electronic.index_across_arcsec)


def _meets(start: Vector, way: Vector, mark: Vector) -> Plane:
    """Where a ray meets the height of the mark, in millimetres from the mark."""
    reach = (mark[2] - start[2]) / way[2]
    at = less(add(start, times(way, reach)), mark)
    return (at[0] / MM, at[1] / MM)


def _spot(equipment: Equipment, state: State, tribrach: Rotation, pivot: Vector) -> Plane | None:
    if equipment.plummet is None:
        return None
    plummet = equipment.plummet
    carrier = tribrach
    if plummet.place == "turning":
        # The alidade turns about the tribrach's axis; its heading is given in the set-up frame.
        north = polar(tribrach[0][1], tribrach[1][1])[0]
        carrier = product(tribrach, clockwise(state.heading_deg - north))
    outlet = add(pivot, turned(carrier, (plummet.shift_x_mm * MM, plummet.shift_y_mm * MM, plummet.height_mm * MM)))
    way = turned(carrier, (plummet.error_x_arcsec / ARCSEC, plummet.error_y_arcsec / ARCSEC, -1.0))
    return _meets(outlet, way, state.mark)


def axis_height_m(equipment: Equipment, state: State) -> float:
    """Height of the trunnion axis above the mark."""
    tribrach = _tribrach_turn(equipment, state)
    rise = equipment.axis_height_mm + math.fsum(state.screws) / len(state.screws)
    pivot = state.pose.point((state.slide[0], state.slide[1], equipment.pivot_height_mm * MM))
    return add(pivot, turned(tribrach, (0.0, 0.0, rise * MM)))[2] - state.mark[2]


def turn_all(equipment: Equipment, state: State, turns: Sequence[float]) -> State:
    """Every screw at once, in the order of their numbers."""
    return turn_screw(equipment, state, {i + 1: amount for i, amount in enumerate(turns)})
