"""The terms of the trade as Naveta uses them: what each means in two lines, what else it is called, where it is met.

The screen shows a term by the first name; search finds it by any of them.
"""

from __future__ import annotations

from functools import lru_cache

from .checks import KINDS
from .results import Answer


class Term(Answer):
    """One term. `drawing` names a picture of ours, `check` the kind of check that measures it."""

    term: str
    meaning: str
    also: list[str]
    drawing: str | None = None
    check: str | None = None


def _term(term: str, meaning: str, *also: str, drawing: str | None = None, check: str | None = None) -> Term:
    return Term(term=term, meaning=meaning, also=list(also), drawing=drawing, check=check)


TERMS: tuple[Term, ...] = (
    _term(
        "accuracy forecast",
        "What centring, levelling, instrument errors and targets together do to an angle, a point or a height, at 95 %.",
        "error budget",
        "pre-analysis",
    ),
    _term(
        "as found, as left",
        "As found: measured before anything is touched. As left: measured again after adjusting. Both stay on record as a pair.",
        "before and after adjustment",
    ),
    _term(
        "backsight",
        "A sight to a point whose position or height is known. It orients the station, or carries the height on.",
        "back sight",
        "reference sight",
        "rear sight",
    ),
    _term(
        "circular level",
        "A round level vial for coarse levelling. Its bubble must stay in the ring when the instrument is turned.",
        "circular bubble",
        "bull's-eye level",
        "spherical level",
        "box level",
        drawing="circular",
        check="circular-vial",
    ),
    _term(
        "collimation error",
        "The line of sight is not square to the trunnion axis (c), or a level's line of sight is not horizontal.",
        "horizontal collimation",
        "sighting error",
        "line-of-sight error",
        drawing="collimation",
        check="two-face",
    ),
    _term(
        "compensator",
        "A pendulum that keeps the line of sight horizontal, or corrects readings, while the instrument is slightly tilted.",
        "automatic level mechanism",
        "pendulum",
        check="compensator-function",
    ),
    _term(
        "control point",
        "A point with known coordinates that others are measured from. It is never moved to fit.",
        "known point",
        "reference point",
        "benchmark",
        "station mark",
    ),
    _term(
        "default limit",
        "The limit used until your firm sets its own. It follows from the model's stated accuracy; its source is shown beside it.",
        "tolerance",
        "opening value",
    ),
    _term(
        "direction set",
        "One pass through all targets in face left and back in face right. Several sets make a round of directions.",
        "set of directions",
        "round",
        "arc of angles",
        check="direction-rounds",
    ),
    _term(
        "electronic level",
        "Two tilt sensors that show how far the axis is out of plumb and correct circle readings for it.",
        "dual-axis compensator",
        "tilt sensor",
        "digital bubble",
        check="dual-axis-level",
    ),
    _term(
        "face left, face right",
        "The two positions of the telescope: vertical circle to your left or to your right. The mean of both removes c, i and t.",
        "circle left, circle right",
        "face one, face two",
        "direct and reverse",
        "F1, F2",
        drawing="faces",
        check="two-face",
    ),
    _term("foresight", "A sight to the point whose position or height is wanted.", "fore sight", "forward sight"),
    _term(
        "free station",
        "A set-up on no mark. Sights to two or more control points give its position and orientation.",
        "resection",
        "freestation",
    ),
    _term(
        "ground mark",
        "The nail, bolt or cross on the ground that the instrument is centred over.",
        "station mark",
        "survey mark",
        "peg",
        "monument",
    ),
    _term(
        "index error",
        "What an electronic level or a vertical circle shows when it should show zero. Reading in two positions removes it.",
        "zero error",
        "vertical index error",
        "vertical collimation",
        check="dual-axis-level",
    ),
    _term(
        "level vial",
        "The glass tube a bubble moves in. The bubble is what you see; the vial is what may be out of adjustment.",
        "bubble tube",
        "spirit level",
        "vial",
        drawing="vial",
    ),
    _term(
        "line of sight",
        "The line through the reticle cross and the telescope's objective: what you actually look along.",
        "line of collimation",
        "sight line",
    ),
    _term(
        "outlier",
        "A reading that differs from the others by more than chance explains. It is named, and set aside only in your sight.",
        "blunder",
        "gross error",
    ),
    _term(
        "plate level",
        "A tubular level vial for fine levelling, with divisions of some seconds of arc.",
        "plate bubble",
        "long bubble",
        "alidade level",
        drawing="vial",
        check="plate-vial",
    ),
    _term(
        "plummet",
        "What shows the point below the vertical axis: an optical sight, a laser spot or a plumb bob.",
        "optical plummet",
        "laser plummet",
        "plumb bob",
        drawing="plummet",
        check="plummet",
    ),
    _term(
        "residual twist",
        "How much a tripod head stays turned after a hand has twisted it and let go.",
        "torsion",
        "set",
        check="tripod",
    ),
    _term(
        "reticle",
        "The cross and lines in the telescope. Its screws move the line of sight.",
        "crosshairs",
        "graticule",
        "stadia hairs",
    ),
    _term(
        "reversing point",
        "Where the bubble rests when the axis is plumb, found by turning the instrument by 180°. Level to this point, not to the middle.",
        "rest position",
        "half correction",
        "reversal point",
        drawing="reversal",
        check="plate-vial",
    ),
    _term(
        "sight imbalance",
        "Backsight distance minus foresight distance. A level's collimation error enters a height in proportion to it.",
        "unequal sights",
        "unbalanced sights",
    ),
    _term(
        "staff",
        "The graduated board that a level is read on.",
        "rod",
        "levelling rod",
        "leveling rod",
        "grade rod",
        drawing="staff",
        check="staff",
    ),
    _term(
        "target",
        "What is sighted: a prism, a plate, a sticker or a spire. A mark is on the ground, a target is above it.",
        "mark",
        "signal",
    ),
    _term(
        "target tracker",
        "The drive that points a robotic total station at a prism automatically. Its pointing has an error of its own.",
        "automatic pointing",
        "automatic target recognition",
        "robotic tracking",
        check="tracker",
    ),
    _term(
        "tribrach",
        "The three-screw part between tripod and instrument that levels and holds it.",
        "base",
        "levelling base",
        "tribach",
        "foot plate",
        drawing="tribrach",
        check="plummet",
    ),
    _term(
        "trunnion axis",
        "The horizontal axis the telescope tilts about. If it is not level, steep sights are wrong sideways (error t).",
        "tilting axis",
        "horizontal axis",
        "transit axis",
        "secondary axis",
        drawing="trunnion",
        check="two-face",
    ),
    _term(
        "two-face check",
        "The same targets read in both faces. The differences show collimation error c, index error i and trunnion axis error t.",
        "collimation check",
        "double facing",
        "2C test",
        drawing="faces",
        check="two-face",
    ),
    _term(
        "two-peg test",
        "A staff read on two pegs from the middle and from one end. The difference shows by how much the line of sight points up or down.",
        "peg test",
        "collimation test",
        "two peg test",
        drawing="peg",
        check="two-peg",
    ),
    _term(
        "vertical axis",
        "The axis the instrument turns about. Levelling makes it plumb.",
        "standing axis",
        "main axis",
        "azimuth axis",
    ),
)


@lru_cache(maxsize=1)
def glossary() -> list[Term]:
    """Every term, and every kind of check that is no term yet, by name."""
    known = {term.term.lower() for term in TERMS} | {term.check for term in TERMS}
    checks = [
        Term(term=kind.title.lower(), meaning=kind.why, also=[], check=kind.name)
        for kind in KINDS.values()
        if kind.title.lower() not in known and kind.name not in known
    ]
    return sorted((*TERMS, *checks), key=lambda term: term.term.lower())
