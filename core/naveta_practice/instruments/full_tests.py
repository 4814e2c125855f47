"""Lessons with checks that take their time: a tripod turned by hand, what a level reaches, what a circle reaches."""

from __future__ import annotations

from .lesson import LET_GO, TURNED, InstrumentLesson, MayBeHidden, ScrewOfLesson, SetAgain

NO_TURN = (0.0, 0.0)
READ_MORE = "Read every figure to the millimetre, and set the level again between all pairs."

FULL_TESTS: tuple[InstrumentLesson, ...] = (
    InstrumentLesson(
        "tripod",
        "Tripod",
        "An instrument on a tripod that may be worn, pointed at a scale 20 m away. Read it, read it again while a hand turns the head "
        "lightly, and once more when it is let go; then the other way. If it gives too much, tighten its hinges.",
        view="scale",
        check="tripod",
        method="four-rounds",
        minutes=6,
        cautions=("pinch", "leg-drops"),
        given={"clamps_hold": "yes", "hinges_firm": "yes", "shoes_firm": "yes", "distance": "20"},
        hides=(
            MayBeHidden(
                "twist_arcsec",
                "Twist under the hand",
                "arcsec",
                screw="hinges",
                good=20.0,
                bad=45.0,
                most=150.0,
                within=12.0,
                per_turn=(90.0, 160.0),
                size=True,
            ),
        ),
        screws=(ScrewOfLesson("hinges", "Hinge bolts"),),
        good_enough="found within 12″, left within 20″; a good one left alone",
        to_adjust="Tighten the hinge bolts, clockwise, until the head gives no more than it should; then read all again.",
        places=(("free", "Nobody touches it"), (TURNED, "Turned by hand"), (LET_GO, "Let go")),
        set_again=SetAgain("The next one, the other way", "Load cycle", 4),
        reads="Numbers in centimetres. Read where the hair crosses the scale.",
        missed="Read all three to a tenth of a millimetre each time, and change the way the hand turns.",
    ),
    InstrumentLesson(
        "levelling-accuracy",
        "What a level reaches",
        "Two staffs 60 m apart, and a level whose maker states 3 mm for 1 km levelled twice. Read both staffs ten times from the middle, then "
        "ten times from nearer A, the level lifted and set again each time. What the ten differ by shows what it reaches.",
        view="staff",
        check="levelling-accuracy",
        method="simplified",
        minutes=20,
        cautions=("sun",),
        given={},
        hides=(
            MayBeHidden(
                "levelling_sigma_mm_per_km",
                "Of 1 km levelled twice",
                "mm_per_km",
                screw="",
                good=3.0,
                bad=6.0,
                most=16.0,
                within=2.0,
                per_turn=NO_TURN,
                size=True,
            ),
        ),
        screws=(),
        good_enough="found within 2 mm/km",
        places=(("middle", "In the middle"), ("near-a", "Nearer A")),
        staffs=2,
        set_again=SetAgain("Lift the level and set it again", "Pair", 10),
        stated={"levelling_accuracy_mm_per_km": 3.0},
        missed=READ_MORE,
    ),
    InstrumentLesson(
        "direction-accuracy",
        "What a circle reaches",
        "Four targets, and a theodolite whose maker states 6″. Point at all of them in face left and back in face right: three sets, the circle "
        "set on between them. What the sets differ by shows what its circle reaches.",
        view="circles",
        check="direction-accuracy",
        method="horizontal-simplified",
        minutes=25,
        cautions=("sun",),
        given={},
        hides=(
            MayBeHidden(
                "direction_sigma_arcsec",
                "One direction in both faces",
                "arcsec",
                screw="",
                good=6.0,
                bad=15.0,
                most=45.0,
                within=6.0,
                per_turn=NO_TURN,
                size=True,
            ),
        ),
        screws=(),
        good_enough="found within 6″",
        places=(("1", "Target 1"), ("2", "Target 2"), ("3", "Target 3"), ("4", "Target 4")),
        set_again=SetAgain("Set the circle on, next set", "Set", 3),
        stated={"angle_accuracy_arcsec": 6.0},
        missed="Focus, point with great care, and set the circle on between the sets.",
    ),
)
