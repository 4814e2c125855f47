"""The methods. A way is data: steps in an order, with conditions; never a screen of its own."""

from __future__ import annotations

from dataclasses import KW_ONLY, dataclass, replace
from typing import Any

from ..documents.envelope import Instrument
from .context import TribrachGeometry
from .results import LevelOffer, MethodOffer, SetUpMethods
from .steps import STEPS, SetUpStep
from .tips import plummet_level_text

LEVELS = ("level", "digital-level")
LEVEL_TYPES = ("electronic", "plate", "two-plates")


@dataclass(frozen=True, slots=True)
class SetUpMethod:
    """A method: its steps in order, and which of them come round again until a pass changes nothing."""

    name: str
    title: str
    good_for: str
    _: KW_ONLY
    steps: tuple[str, ...]
    levels_by: str = ""
    centres_by: str = ""
    for_levels: bool = False
    needs: str = ""
    """`plummet`: an optical or laser plummet; `tilts`: that it still shows and points when tilted; `four`: four screws."""


_BEGIN = ("lay-out", "tripod")
_END = ("turn-round", "final-check", "laser-off", "heights", "zero")
_PLUMMET = ("focus", "laser-on")

_ALL = (
    SetUpMethod(
        "plummet-first",
        "Plummet first, then the legs",
        "Fast on any ground. Needs a plummet that works while the instrument is tilted.",
        steps=(*_BEGIN, "mount", *_PLUMMET, "near", "press-feet", "back-on", "circular", "plate", "slide", *_END),
        levels_by="plate",
        centres_by="slide",
        needs="tilts",
    ),
    SetUpMethod(
        "level-first",
        "Level first, then over the mark",
        "For firm, even ground: coarse with the tripod, fine with the tribrach.",
        steps=(
            *_BEGIN,
            "mount",
            *_PLUMMET,
            "over",
            "press-feet",
            "circular",
            "circular-screws",
            "slide",
            "plate",
            *_END,
        ),
        levels_by="plate",
        centres_by="slide",
        needs="plummet",
    ),
    SetUpMethod(
        "shift-by-leg",
        "Level, then shift by a leg",
        "For instruments that shut off when tilted: level near the mark, then shift the plummet with one leg.",
        steps=(*_BEGIN, "mount", *_PLUMMET, "over", "press-feet", "circular", "plate", "shift", "slide", *_END),
        levels_by="plate",
        centres_by="slide",
        needs="plummet",
    ),
    SetUpMethod(
        "plumb-bob",
        "Plumb bob",
        "Without plummet, or to check one: within 1 mm in still air, 3 mm in wind.",
        steps=(*_BEGIN, "mount", "bob", "press-feet", "circular", "plate", "bob", *_END),
        levels_by="plate",
        centres_by="bob",
    ),
    SetUpMethod(
        "four-screws",
        "Four-screw tribrach",
        "Turn opposite pairs, lightly tight, in four positions.",
        steps=(*_BEGIN, "mount", "ease", *_PLUMMET, "over", "press-feet", "circular", "four", "slide", *_END),
        levels_by="four",
        centres_by="slide",
        needs="four",
    ),
    SetUpMethod(
        "no-point",
        "Level: no ground mark",
        "For levelling: two legs downhill, coarse with the legs, fine with the screws.",
        steps=(*_BEGIN, "mount", "press-feet", "circular", "circular-screws", "ring-round"),
        levels_by="circular-screws",
        for_levels=True,
    ),
)
SET_UP_METHODS: dict[str, SetUpMethod] = {one.name: one for one in _ALL}


def steps_of(method: SetUpMethod, plummet: str | None) -> list[SetUpStep]:
    """The steps of a way for an instrument with this plummet, each once, in order."""
    skipped = {"optical": ("laser-on", "laser-off"), "laser": ("focus",), "none": ("laser-on", "laser-off", "focus")}
    out = skipped.get(plummet or "optical", ())
    if method.name == "plumb-bob":
        out = ("laser-on", "laser-off", "focus")
    seen: dict[str, SetUpStep] = {}
    for name in method.steps:
        if name not in out:
            seen.setdefault(name, STEPS[name])
    return list(seen.values())


def method_of(observations: Any) -> SetUpMethod:
    """The way somebody works by: with four screws a plumb bob's way eases them first and levels in opposite pairs."""
    method = SET_UP_METHODS[observations.method]
    if observations.tribrach.screws != 4 or method.name != "plumb-bob":
        return method
    steps = tuple("four" if step == "plate" else step for step in method.steps)
    mounted = steps.index("mount") + 1
    return replace(method, steps=(*steps[:mounted], "ease", *steps[mounted:]), levels_by="four")


def cannot(method: SetUpMethod, instrument: Instrument, tribrach: Instrument | None = None) -> str | None:
    """Why a method does not fit an instrument on its tribrach, in a sentence; None when it does.

    tribrach: `foot_screw_count` and `plummet` of the tribrach it stands on, as far as they are known.
    """
    below = tribrach or Instrument()
    own, in_tribrach = instrument.plummet, below.plummet
    plummet = in_tribrach if own in (None, "none") and in_tribrach not in (None, "none") else own
    screws = below.foot_screw_count or instrument.foot_screw_count
    if method.for_levels != (instrument.kind in LEVELS):
        return (
            "This method is for levels: there is no ground mark."
            if method.for_levels
            else "A level is not set up over a mark."
        )
    if method.needs in ("plummet", "tilts", "four") and plummet == "none":
        return "Neither instrument nor tribrach has a plummet: use the plumb bob."
    if method.needs == "tilts" and own == plummet and instrument.plummet_tilted is False:
        return plummet_level_text(instrument)
    if method.needs == "four" and screws == 3:
        return "This tribrach has three screws."
    if screws == 4 and method.needs != "four" and method.name != "plumb-bob" and not method.for_levels:
        return "This tribrach has four screws: they need opposite pairs."
    return None


def cannot_level(level_type: str, instrument: Instrument) -> str | None:
    """Why the fine level cannot be had by `fine`, in a sentence; None when it can, or when nobody said."""
    if level_type == "electronic" and instrument.has_electronic_level is False:
        return "This instrument has no electronic level."
    if level_type != "electronic" and instrument.has_plate_vial is False:
        return "This instrument has no plate vial."
    return None


def _usual(instrument: Instrument) -> list[str]:
    """Return the means of fine levelling, the usual ones of the instrument first."""
    plates_first = instrument.kind == "theodolite" and not instrument.has_electronic_level
    return sorted(LEVEL_TYPES, key=lambda level: (level == "electronic") == plates_first)


def fitting(instrument: Instrument, tribrach: Instrument | None = None) -> SetUpMethods:
    """`methods`: every method with what it is good for, and why it cannot be taken here, the fitting ones first; `fine`: the
    same for the means of fine levelling; `tribrach`: what a set-up notes of the tribrach it stands on."""
    methods = [
        MethodOffer(method=one.name, title=one.title, good_for=one.good_for, cannot=cannot(one, instrument, tribrach))
        for one in _ALL
    ]
    return SetUpMethods(
        methods=sorted(methods, key=lambda one: one.cannot is not None),
        level_type=[
            LevelOffer(level_type=level, cannot=cannot_level(level, instrument)) for level in _usual(instrument)
        ],
        tribrach=_noted(tribrach or Instrument()),
    )


def _noted(tribrach: Instrument) -> TribrachGeometry:
    """A tribrach's facts under the names a set-up's `tribrach` has for them."""
    sense = {"clockwise-lowers": "lowers", "clockwise-raises": "raises"}.get(tribrach.foot_screws or "")
    noted = {"screws": tribrach.foot_screw_count, "plummet": tribrach.plummet, "clockwise_from_above": sense}
    return TribrachGeometry.model_validate({name: value for name, value in noted.items() if value is not None})
