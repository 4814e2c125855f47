"""More lessons: an electronic level, a target tracker, rounds, a staff and a tape. What is wrong with them has no screw: it is
stored, or stays."""

from __future__ import annotations

from typing import Any

from .lesson import LEVEL_SIGHT, TARGET_M, InstrumentLesson, MayBeHidden, ScrewOfLesson

STAFF_MARKS = ("0.1", "0.5", "1", "1.5", "2", "2.5", "3")
TAPE_MARKS = ("5", "10", "20", "30")
ON_TAPE = "Numbers in centimetres. Read where the mark crosses the tape."
NO_TURN = (0.0, 0.0)
STORED = (1.0, 1.0)
"""A value that is stored takes off as much of an error."""


def _faces(count: int) -> dict[str, Any]:
    return {face: [{} for _ in range(count)] for face in ("left", "right")}


MORE: tuple[InstrumentLesson, ...] = (
    InstrumentLesson(
        "electronic-level",
        "Electronic level",
        "An electronic level whose index may be off. Read it along and across, turn the instrument by 180°, read again: half of the sum is "
        "the index, half of the difference the tilt of the axis. If it is too much, enter it into the instrument, which then takes it off.",
        "digits",
        "dual-axis-level",
        "half-turn",
        4,
        (),
        {"readings": [{"heading_deg": "0"}, {"heading_deg": "180"}]},
        (
            MayBeHidden("index_along_arcsec", "Index, along", "arcsec", "along", 5.0, 10.0, 60.0, 3.0, STORED),
            MayBeHidden("index_across_arcsec", "Index, across", "arcsec", "across", 5.0, 10.0, 60.0, 3.0, STORED),
        ),
        (
            ScrewOfLesson("pair", "Foot screws 1 and 2", adjusting=False),
            ScrewOfLesson("third", "Foot screw 3", adjusting=False),
            ScrewOfLesson("along", "Stored index, along", stores=True),
            ScrewOfLesson("across", "Stored index, across", stores=True),
        ),
        "found within 3″ each way, left within 5″; a good one left alone",
        "Enter both indexes as they were found: the instrument takes them off what it shows. Read it again at both headings.",
        headings=(0, 180),
    ),
    InstrumentLesson(
        "tracker",
        "Target tracker",
        "A total station with a target tracker. Point twice by eye and twice by the tracker, in both faces. The tracker's error is what it "
        "points beside the prism. If it is too much, enter it into the instrument, which then takes it off.",
        "circles",
        "tracker",
        "three",
        10,
        ("sun",),
        {
            "targets": [
                {
                    "distance_m": f"{TARGET_M:g}",
                    "manual": _faces(2),
                    "auto": _faces(2),
                }
            ]
        },
        (
            MayBeHidden("tracker_hz_arcsec", "Tracker, across", "arcsec", "across", 8.0, 15.0, 60.0, 8.0, STORED),
            MayBeHidden("tracker_v_arcsec", "Tracker, in height", "arcsec", "height", 8.0, 15.0, 60.0, 8.0, STORED),
        ),
        (
            ScrewOfLesson("across", "Stored error of the tracker, across", stores=True),
            ScrewOfLesson("height", "Stored error of the tracker, in height", stores=True),
        ),
        "found within 8″ each way, left within 8″; a good one left alone",
        "Enter both errors as they were found: the instrument takes them off where its tracker points. Point again.",
        places=((LEVEL_SIGHT, "The prism"),),
        pointing=(("manual", "By eye"), ("auto", "By the tracker")),
    ),
    InstrumentLesson(
        "rounds",
        "Rounds of directions",
        "One angle in two rounds, both faces, with the reference again at the end of each. Set the circle to another place between the "
        "rounds. The faces also show what c is.",
        "circles",
        "direction-rounds",
        "angle",
        15,
        ("sun",),
        {},
        (MayBeHidden("collimation_arcsec", "Collimation c", "arcsec", "", 10.0, 20.0, 90.0, 8.0, NO_TURN),),
        (),
        "c found within 8″",
        places=(("1", "Target 1, the reference"), ("2", "Target 2")),
    ),
    InstrumentLesson(
        "staff",
        "Staff beside a tape",
        "A levelling staff whose foot may be worn and whose divisions may be too short. Lay a checked tape beside it from the foot, and read "
        "the tape at each mark of the staff to a tenth of a millimetre.",
        "scale",
        "staff",
        "three-metre",
        6,
        (),
        {"sections": [{"graduation": mark} for mark in STAFF_MARKS], "foot_firm": "yes", "joints_firm": "yes"},
        (
            MayBeHidden("zero_offset_mm", "Zero of the foot", "mm", "", 0.3, 0.6, 3.0, 0.3, NO_TURN),
            MayBeHidden("scale_ppm", "Scale", "ppm", "", 50.0, 100.0, 600.0, 120.0, NO_TURN),
        ),
        (),
        "zero found within 0.3 mm, scale within 120 ppm",
        places=tuple((mark, f"{mark} m") for mark in STAFF_MARKS),
        reads=ON_TAPE,
    ),
    InstrumentLesson(
        "tape",
        "Tape over known marks",
        "A steel tape over marks whose distances are known, pulled as it is used. Read it at each mark to a tenth of a millimetre: what "
        "grows with the distance is its scale, the rest its zero.",
        "scale",
        "tape",
        "base",
        5,
        (),
        {"tension_n": "50", "lengths": [{"known": mark} for mark in TAPE_MARKS]},
        (
            MayBeHidden("scale_ppm", "Scale", "ppm", "", 30.0, 60.0, 300.0, 25.0, NO_TURN),
            MayBeHidden("zero_offset_mm", "Zero", "mm", "", 0.3, 1.0, 5.0, 0.4, NO_TURN),
        ),
        (),
        "scale found within 25 ppm, zero within 0.4 mm",
        places=tuple((mark, f"{mark} m") for mark in TAPE_MARKS),
        reads=ON_TAPE,
    ),
)
