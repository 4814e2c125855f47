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
        view="digits",
        check="dual-axis-level",
        method="half-turn",
        minutes=4,
        cautions=(),
        given={"readings": [{"heading_deg": "0"}, {"heading_deg": "180"}]},
        hides=(
            MayBeHidden(
                "index_along_arcsec",
                "Index, along",
                "arcsec",
                screw="along",
                good=5.0,
                bad=10.0,
                most=60.0,
                within=3.0,
                per_turn=STORED,
            ),
            MayBeHidden(
                "index_across_arcsec",
                "Index, across",
                "arcsec",
                screw="across",
                good=5.0,
                bad=10.0,
                most=60.0,
                within=3.0,
                per_turn=STORED,
            ),
        ),
        screws=(
            ScrewOfLesson("pair", "Foot screws 1 and 2", adjusting=False),
            ScrewOfLesson("third", "Foot screw 3", adjusting=False),
            ScrewOfLesson("along", "Stored index, along", stores=True),
            ScrewOfLesson("across", "Stored index, across", stores=True),
        ),
        good_enough="found within 3″ each way, left within 5″; a good one left alone",
        to_adjust="Enter both indexes as they were found: the instrument takes them off what it shows. Read it again at both headings.",
        headings=(0, 180),
    ),
    InstrumentLesson(
        "tracker",
        "Target tracker",
        "A total station with a target tracker. Point twice by eye and twice by the tracker, in both faces. The tracker's error is what it "
        "points beside the prism. If it is too much, enter it into the instrument, which then takes it off.",
        view="circles",
        check="tracker",
        method="three",
        minutes=10,
        cautions=("sun", "beam", "turns-by-itself"),
        given={
            "targets": [
                {
                    "distance_m": f"{TARGET_M:g}",
                    "manual": _faces(2),
                    "auto": _faces(2),
                }
            ]
        },
        hides=(
            MayBeHidden(
                "tracker_hz_arcsec",
                "Tracker, across",
                "arcsec",
                screw="across",
                good=8.0,
                bad=15.0,
                most=60.0,
                within=8.0,
                per_turn=STORED,
            ),
            MayBeHidden(
                "tracker_v_arcsec",
                "Tracker, in height",
                "arcsec",
                screw="height",
                good=8.0,
                bad=15.0,
                most=60.0,
                within=8.0,
                per_turn=STORED,
            ),
        ),
        screws=(
            ScrewOfLesson("across", "Stored error of the tracker, across", stores=True),
            ScrewOfLesson("height", "Stored error of the tracker, in height", stores=True),
        ),
        good_enough="found within 8″ each way, left within 8″; a good one left alone",
        to_adjust="Enter both errors as they were found: the instrument takes them off where its tracker points. Point again.",
        places=((LEVEL_SIGHT, "The prism"),),
        pointing=(("manual", "By eye"), ("auto", "By the tracker")),
    ),
    InstrumentLesson(
        "rounds",
        "Rounds of directions",
        "One angle in two rounds, both faces, with the reference again at the end of each. Set the circle to another place between the "
        "rounds. The faces also show what c is.",
        view="circles",
        check="direction-rounds",
        method="angle",
        minutes=15,
        cautions=("sun",),
        given={},
        hides=(
            MayBeHidden(
                "collimation_arcsec",
                "Collimation c",
                "arcsec",
                screw="",
                good=10.0,
                bad=20.0,
                most=90.0,
                within=8.0,
                per_turn=NO_TURN,
            ),
        ),
        screws=(),
        good_enough="c found within 8″",
        places=(("1", "Target 1, the reference"), ("2", "Target 2")),
    ),
    InstrumentLesson(
        "staff",
        "Staff beside a tape",
        "A levelling staff whose foot may be worn and whose divisions may be too short. Lay a checked tape beside it from the foot, and read "
        "the tape at each mark of the staff to a tenth of a millimetre.",
        view="scale",
        check="staff",
        method="three-metre",
        minutes=6,
        cautions=(),
        given={"sections": [{"graduation": mark} for mark in STAFF_MARKS], "foot_firm": "yes", "joints_firm": "yes"},
        hides=(
            MayBeHidden(
                "zero_offset_mm",
                "Zero of the foot",
                "mm",
                screw="",
                good=0.3,
                bad=0.6,
                most=3.0,
                within=0.3,
                per_turn=NO_TURN,
            ),
            MayBeHidden(
                "scale_ppm", "Scale", "ppm", screw="", good=50.0, bad=100.0, most=600.0, within=120.0, per_turn=NO_TURN
            ),
        ),
        screws=(),
        good_enough="zero found within 0.3 mm, scale within 120 ppm",
        places=tuple((mark, f"{mark} m") for mark in STAFF_MARKS),
        reads=ON_TAPE,
    ),
    InstrumentLesson(
        "tape",
        "Tape over known marks",
        "A steel tape over marks whose distances are known, pulled as it is used. Read it at each mark to a tenth of a millimetre: what "
        "grows with the distance is its scale, the rest its zero.",
        view="scale",
        check="tape",
        method="base",
        minutes=5,
        cautions=(),
        given={"tension_n": "50", "lengths": [{"known": mark} for mark in TAPE_MARKS]},
        hides=(
            MayBeHidden(
                "scale_ppm", "Scale", "ppm", screw="", good=30.0, bad=60.0, most=300.0, within=25.0, per_turn=NO_TURN
            ),
            MayBeHidden(
                "zero_offset_mm", "Zero", "mm", screw="", good=0.3, bad=1.0, most=5.0, within=0.4, per_turn=NO_TURN
            ),
        ),
        screws=(),
        good_enough="scale found within 25 ppm, zero within 0.4 mm",
        places=tuple((mark, f"{mark} m") for mark in TAPE_MARKS),
        reads=ON_TAPE,
    ),
)
