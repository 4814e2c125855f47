"""The lessons with levels, plummets, theodolites and poles that have a secret."""

from __future__ import annotations

from typing import Any

from .full_tests import FULL_TESTS
from .lesson import (
    COMPENSATOR_M,
    LEVEL_SIGHT,
    PLUMMET_M,
    STEEP_SIGHT,
    TARGET_M,
    VIAL_ARCSEC_PER_DIV,
    InstrumentLesson,
    MayBeHidden,
    ScrewOfLesson,
)
from .more_lessons import MORE, STORED


def _twice(*pairs: tuple[str, str]) -> list[dict[str, Any]]:
    """Set-ups with both staffs to be read twice: one reading each does not prove enough to turn a screw."""
    return [
        {staff: {"distance": far, "readings": ["", ""]} for staff, far in zip("ab", pair, strict=True)}
        for pair in pairs
    ]


QUARTERS = tuple({"heading_deg": str(heading)} for heading in (0, 90, 180, 270))
THIRDS = tuple({"heading_deg": str(heading)} for heading in (0, 120, 240))
PLUMMET_ERRORS = (
    MayBeHidden(
        "offset_x_mm",
        "Plummet, to the right",
        "mm",
        screw="right",
        good=0.6,
        bad=1.2,
        most=4.0,
        within=0.5,
        per_turn=(3.0, 6.0),
    ),
    MayBeHidden(
        "offset_y_mm",
        "Plummet, forward",
        "mm",
        screw="forward",
        good=0.6,
        bad=1.2,
        most=4.0,
        within=0.5,
        per_turn=(3.0, 6.0),
    ),
)
PLUMMET_SCREWS = (
    ScrewOfLesson("right", "Plummet side screw"),
    ScrewOfLesson("forward", "Plummet front screw"),
)
PLUMMET_GOOD = "found within 0.5 mm, left within 0.6 mm each way; a good one left alone"
RING_FEET = (
    ScrewOfLesson("pair", "Foot screws 1 and 2", adjusting=False),
    ScrewOfLesson("third", "Foot screw 3", adjusting=False),
)
RING_SCREWS = (
    ScrewOfLesson("right", "Vial side screw"),
    ScrewOfLesson("forward", "Vial front screw"),
)
RING_GOOD = "found within 0.3 mm, left within 0.4 mm each way; a good one left alone"


def _vial_errors(label: str) -> tuple[MayBeHidden, ...]:
    """The errors of a circular vial in its own frame."""
    return (
        MayBeHidden(
            "vial_error_x_mm",
            f"{label}, to the right",
            "mm",
            screw="right",
            good=0.4,
            bad=0.8,
            most=2.5,
            within=0.3,
            per_turn=(2.0, 4.0),
        ),
        MayBeHidden(
            "vial_error_y_mm",
            f"{label}, forward",
            "mm",
            screw="forward",
            good=0.4,
            bad=0.8,
            most=2.5,
            within=0.3,
            per_turn=(2.0, 4.0),
        ),
    )


LEVELS_AND_CIRCLES: tuple[InstrumentLesson, ...] = (
    InstrumentLesson(
        "half-and-whole",
        "Half and whole",
        "A level vial that may be wrong. Read its bubble, turn the instrument by 180°, read again: half of the change is the vial, half "
        "the tilt of the axis. If the vial is wrong, take its half away with its adjusting screw and the rest with the foot screws.",
        view="vial",
        check="plate-vial",
        method="half-turn",
        minutes=5,
        cautions=("force",),
        given={
            "sensitivity_arcsec_per_div": f"{VIAL_ARCSEC_PER_DIV:g}",
            "readings": [{"heading_deg": str(heading)} for heading in (0, 180)],
        },
        hides=(
            MayBeHidden(
                "reversal_div",
                "Level vial",
                "div",
                screw="vial",
                good=0.5,
                bad=1.0,
                most=4.0,
                within=0.4,
                per_turn=(4.0, 8.0),
            ),
        ),
        screws=(
            ScrewOfLesson("pair", "Foot screws 1 and 2", adjusting=False),
            ScrewOfLesson("third", "Foot screw 3", adjusting=False),
            ScrewOfLesson("vial", "Level vial screw"),
        ),
        good_enough="found within 0.4 divisions, left within 0.5; a good one left alone",
    ),
    InstrumentLesson(
        "plummet",
        "Plummet",
        "An optical plummet that may point beside the axis. Read the paper at four headings without touching a foot screw. If the marks "
        "lie on a circle, move the plummet to its middle with its two screws. A good plummet is left alone.",
        view="paper",
        check="plummet",
        method="four-quarters",
        minutes=6,
        cautions=("force",),
        given={"sets": [{"height_m": f"{PLUMMET_M:g}", "marks": list(QUARTERS)}]},
        hides=PLUMMET_ERRORS,
        screws=PLUMMET_SCREWS,
        good_enough=PLUMMET_GOOD,
    ),
    InstrumentLesson(
        "two-peg",
        "Two-peg test",
        "A level whose error nobody knows. Read both staffs twice from the middle, then from near B. Say whether its line of sight is "
        "level; if it is not, turn the reticle screw until it is. A good level is left alone.",
        view="staff",
        check="two-peg",
        method="middle-then-near",
        minutes=8,
        cautions=("sun", "force"),
        given={"looks": {"bubble_holds": "yes", "line_returns": "yes"}, "setups": _twice(("30", "30"), ("56", "4"))},
        hides=(
            MayBeHidden(
                "collimation_arcsec",
                "Line of sight",
                "arcsec",
                screw="reticle",
                good=10.0,
                bad=20.0,
                most=70.0,
                within=10.0,
                per_turn=(90.0, 160.0),
            ),
        ),
        screws=(ScrewOfLesson("reticle", "Reticle screw"),),
        good_enough="found within 10″, left within 10″; a good one left alone",
        places=(("middle", "In the middle"), ("near-b", "Near B")),
        staffs=2,
    ),
    InstrumentLesson(
        "two-faces",
        "Two-face check",
        "A theodolite whose errors nobody knows. Point at the target and read both circles three times, turn over, and do the same. "
        "Half of what the faces differ by is the instrument's own error. If it is too much, turn its screw until both faces agree.",
        view="circles",
        check="two-face",
        method="quick",
        minutes=8,
        cautions=("force", "sun"),
        given={
            "targets": [
                {
                    "distance_m": f"{TARGET_M:g}",
                    "target_type": "plate",
                    "left": [{}, {}, {}],
                    "right": [{}, {}, {}],
                },
            ]
        },
        hides=(
            MayBeHidden(
                "collimation_arcsec",
                "Collimation c",
                "arcsec",
                screw="reticle",
                good=10.0,
                bad=20.0,
                most=90.0,
                within=8.0,
                per_turn=(90.0, 160.0),
            ),
            MayBeHidden(
                "index_arcsec",
                "Vertical index i",
                "arcsec",
                screw="index",
                good=10.0,
                bad=20.0,
                most=90.0,
                within=8.0,
                per_turn=(90.0, 160.0),
            ),
        ),
        screws=(ScrewOfLesson("reticle", "Reticle side screw"), ScrewOfLesson("index", "Vertical index screw")),
        good_enough="found within 8″, left within 10″; a good one left alone",
        to_adjust="For c, in face left: set the horizontal circle to the mean of both faces, face right less 180°. Bring the vertical hair "
        "back on to the target with the reticle side screw. For i: point at the target, and take i out of the vertical reading with "
        "the vertical index screw.",
        places=((LEVEL_SIGHT, "The target"),),
    ),
    InstrumentLesson(
        "round-bubble",
        "Circular level",
        "The circular level of an instrument. Read where its bubble stands at four headings, right and away from you. What turns with the "
        "instrument is the vial's own error: if it is too much, take it away with the vial's two screws. A good one is left alone.",
        view="ring",
        check="circular-vial",
        method="four-quarters",
        minutes=6,
        cautions=("force",),
        given={"readings": list(QUARTERS)},
        hides=_vial_errors("Circular level"),
        screws=(*RING_FEET, *RING_SCREWS),
        good_enough=RING_GOOD,
    ),
    InstrumentLesson(
        "pole",
        "Pole in its bipod",
        "A pole that may be out of plumb although its bubble is in the middle. Read the bubble at four headings of the pole. What turns with the pole "
        "is its vial: if it is too much, take it away with the two screws of the vial.",
        view="ring",
        check="pole-vial",
        method="four-quarters",
        minutes=6,
        cautions=("force",),
        given={"readings": list(QUARTERS)},
        hides=_vial_errors("Level of the pole"),
        screws=(
            ScrewOfLesson("third", "Bipod leg, sideways", adjusting=False),
            ScrewOfLesson("pair", "Bipod leg, forward", adjusting=False),
            *RING_SCREWS,
        ),
        good_enough=RING_GOOD,
    ),
    InstrumentLesson(
        "tribrach-plummet",
        "Plummet of a tribrach",
        "An optical plummet built into a tribrach. Read the paper with the tribrach turned by 120° twice in its own outline. If the three "
        "marks lie apart, move the plummet to their middle with its two screws.",
        view="paper",
        check="plummet",
        method="tribrach-thirds",
        minutes=6,
        cautions=("force",),
        given={"place": "tribrach", "sets": [{"height_m": f"{PLUMMET_M:g}", "marks": list(THIRDS)}]},
        hides=PLUMMET_ERRORS,
        screws=PLUMMET_SCREWS,
        good_enough=PLUMMET_GOOD,
        headings=(0, 120, 240),
    ),
    InstrumentLesson(
        "compensator",
        "Compensator",
        "A level whose compensator may hang. Read the staff twice with the bubble in the middle, then with the bubble run to each side "
        "of its ring. If the reading follows the bubble, the compensator does not. No screw on site takes that away.",
        view="staff",
        check="compensator-function",
        method="two",
        minutes=8,
        cautions=("sun",),
        given={"distance": f"{COMPENSATOR_M:g}", "returns": "yes"},
        hides=(
            MayBeHidden(
                "fore_and_aft_arcsec",
                "Compensator, along the sight",
                "arcsec",
                screw="",
                good=3.0,
                bad=12.0,
                most=40.0,
                within=6.0,
                per_turn=(0.0, 0.0),
            ),
        ),
        screws=(),
        good_enough="found within 6″",
        places=(
            ("centre", "Bubble in the middle"),
            ("toward", "Towards the staff"),
            ("away", "Away from it"),
            ("left", "To the left"),
            ("right", "To the right"),
        ),
    ),
    InstrumentLesson(
        "steep-target",
        "Steep target",
        "A total station and two targets, one level and one high. Point at each three times in both faces. What both faces differ by at the high target "
        "and not at the level one comes from the trunnion axis. Nothing on site takes that away; c is stored, and taken off.",
        view="circles",
        check="two-face",
        method="full",
        minutes=12,
        cautions=("force", "sun"),
        given={
            "targets": [
                {
                    "distance_m": f"{TARGET_M:g}",
                    "target_type": "plate",
                    "left": [{}, {}, {}],
                    "right": [{}, {}, {}],
                }
                for _ in range(2)
            ],
            "closing": [],
        },
        hides=(
            MayBeHidden(
                "collimation_arcsec",
                "Collimation c",
                "arcsec",
                screw="c",
                good=10.0,
                bad=20.0,
                most=90.0,
                within=8.0,
                per_turn=STORED,
            ),
            MayBeHidden(
                "tilting_axis_arcsec",
                "Trunnion axis t",
                "arcsec",
                screw="",
                good=10.0,
                bad=25.0,
                most=90.0,
                within=15.0,
                per_turn=(0.0, 0.0),
            ),
        ),
        screws=(ScrewOfLesson("c", "Stored collimation c", stores=True),),
        good_enough="c found within 8″ and left within 10″, t found within 15″",
        to_adjust="Enter c as it was found: the instrument takes it off the horizontal circle. Point again in both faces.",
        places=((LEVEL_SIGHT, "First target, level"), (STEEP_SIGHT, "Second target, steep")),
    ),
)
INSTRUMENT_LESSONS = (*LEVELS_AND_CIRCLES, *MORE, *FULL_TESTS)
BY_NAME = {lesson.name: lesson for lesson in INSTRUMENT_LESSONS}
