"""Leading through a set-up: where somebody is in their method, and what follows from what they see.

A pure function of the document: the log says what was seen and done, the method says what comes when. Nothing is locked;
the step asked for is answered, whichever it is.
"""

from __future__ import annotations

from .. import __version__
from ..cautions import cautions
from ..documents.envelope import Work
from ..engine.check_off import ITEMS, SET_UP
from ..engine.work import words_of
from ..units.lengths import in_unit
from ..units.numbers import rounded
from .answers import advice_at, by_eye, by_rounds
from .context import TripodGeometry
from .document import LevelReadings, SetUpDocument
from .methods import SetUpMethod, method_of, steps_of
from .reading import passes
from .results import CheckOffItem, Guide, LaserOn, MethodStep, StepAtHand
from .site import site_of
from .steps import STEPS, SetUpStep
from .tips import RECHECK_MINUTES, tips
from .tolerance import last_of, within_tolerance
from .trial import trial

LASER_MINUTES = 3
USUAL: dict[str, float] = {
    **TripodGeometry().model_dump(include={"foot_spacing_m", "head_height_m", "slope_deg"}),
    **LevelReadings().model_dump(include={"sensitivity_arcsec_per_div"}),
    **Work().model_dump(include={"sight_m", "elevation_deg"}),
}
"""What is calculated with where nothing was given."""
LASER = {"laser-on", "laser-off"}


def guide(document: SetUpDocument, step: str | None = None) -> Guide:
    """The steps of the method, the step at hand, and what to do about what was last seen at it."""
    o = document.observations
    method = method_of(o)
    steps = steps_of(method, document.plummet)
    names = [step.name for step in steps]
    may = _may_take(document, method, steps)
    at = step if step in may else _following(document, method, names)
    here = STEPS[at]
    last = last_of(o, at)
    if here.prompt == "rounds":
        advice = by_rounds(document)
    elif here.prompt == "eye":
        advice = by_eye(document)
    else:
        advice = advice_at(document, here, last) if last else None
    is_enough = within_tolerance(document, here, last)
    following = _after(document, method, names, at)
    return Guide(
        method=method.name,
        method_title=method.title,
        steps=_steps_of_method(document, steps, at, may),
        step=_at_hand(document, here),
        advice=advice,
        within_tolerance=is_enough,
        next=following,
        next_title=STEPS[following].short_title if following else None,
        may_skip=is_enough or not o.options.strict,
        tips=tips(document, at),
        check_off=_to_tick(at, following),
        recheck_minutes=RECHECK_MINUTES.get(document.conditions.ground or ""),
        trial=trial(document, here, last),
        unit=words_of(document).name,
        usual=_usual(document),
        laser=_laser(document, at),
        passes=passes(document),
        converges=_converges(document),
        site=site_of(document, here, last, advice),
        core_version=__version__,
    )


def _to_tick(at: str, following: str | None) -> list[CheckOffItem]:
    """What is ticked off at a step: what comes before at the first, clamps at the fine level, what comes last at the end."""
    shown = {"lay-out": ("battery",), "mount": ("tribrach-locked",), "circular": ("clamps",)}.get(at, ())
    codes = shown if following else tuple(code for code in SET_UP if ITEMS[code].when == "end")
    return [CheckOffItem.model_validate(ITEMS[code].as_dict()) for code in codes]


def _usual(document: SetUpDocument) -> dict[str, str]:
    """What is calculated with where nothing was given, as somebody would type it; lengths in the unit of the document."""
    unit = document.units.length
    return {
        name: f"{rounded(in_unit(value, unit) if name.endswith('_m') else value, 1):g}" for name, value in USUAL.items()
    }


def _at_hand(document: SetUpDocument, here: SetUpStep) -> StepAtHand:
    return StepAtHand(
        name=here.name,
        title=here.title,
        prompt=_prompt_of(document, here),
        look=here.look,
        do=here.do,
        why=here.why,
        wrong=here.wrong,
        cautions=cautions(*here.cautions) if here.cautions else [],
    )


def _prompt_of(document: SetUpDocument, step: SetUpStep) -> str:
    """What is asked at an step; the fine level by the means somebody works with."""
    return (
        f"{step.prompt}-{document.observations.options.level_type}"
        if step.prompt in ("plate", "rounds")
        else step.prompt
    )


def _may_take(document: SetUpDocument, method: SetUpMethod, steps: list[SetUpStep]) -> list[str]:
    """The steps that may be taken now: all of them; in strict order only up to the first that is not done."""
    if not document.observations.options.strict:
        return [step.name for step in steps]
    undone = next(
        (
            i
            for i, step in enumerate(steps)
            if not within_tolerance(document, step, last_of(document.observations, step.name))
        ),
        -1,
    )
    following = _following(document, method, [step.name for step in steps])
    return [step.name for i, step in enumerate(steps) if undone < 0 or i <= undone or step.name == following]


def _following(document: SetUpDocument, method: SetUpMethod, names: list[str]) -> str:
    """The step at hand: what follows from the last entry of the log."""
    log = [logged for logged in document.observations.log if logged.step in names]
    if not log:
        return names[0]
    last = log[-1]
    if not within_tolerance(document, STEPS[last.step], last):
        return last.step
    return _after(document, method, names, last.step) or last.step


def _after(document: SetUpDocument, method: SetUpMethod, names: list[str], step: str) -> str | None:
    """What comes after an step. A slide that moved something sends back to the level, a level that was set to the mark."""
    o = document.observations
    last = last_of(o, step)
    # Before the fine level had its turn the mark is only come near to: the steps follow one another as they stand.
    levelled = method.levels_by in names and (
        last_of(o, method.levels_by) is not None or names.index(method.levels_by) < names.index(step)
    )
    if step == method.centres_by and levelled:
        if last is not None and last.saw is not None and not within_tolerance(document, STEPS[step], last):
            return method.levels_by
        return next((name for name in names if STEPS[name].prompt in ("rounds", "look")), None)
    if step == method.levels_by and method.centres_by:
        return method.centres_by
    if (
        step == "shift"
        and last is not None
        and last.saw is not None
        and not within_tolerance(document, STEPS[step], last)
    ):
        return "plate"
    at = names.index(step)
    return names[at + 1] if at + 1 < len(names) else None


def _steps_of_method(document: SetUpDocument, steps: list[SetUpStep], at: str, may: list[str]) -> list[MethodStep]:
    o = document.observations
    furthest = max((i for i, step in enumerate(steps) if last_of(o, step.name)), default=-1)
    rows = []
    for i, entry in enumerate(steps):
        last = last_of(o, entry.name)
        if entry.name == at:
            state = "now"
        elif within_tolerance(document, entry, last):
            state = "done"
        elif i < furthest:
            state = "passed"
        else:
            state = "open"
        rows.append(
            MethodStep(
                step=entry.name,
                short_title=entry.short_title,
                title=entry.title,
                state=state,
                may_take=entry.name in may,
            )
        )
    return rows


def _converges(document: SetUpDocument) -> str | None:
    """Why it will not end, when the passes grow many."""
    if passes(document) < 4:
        return None
    return (
        "Four passes and still moving: feet settling, plummet out (it circles when you turn), or level vial out?"
        " Check them at the bench."
    )


def _laser(document: SetUpDocument, step: str) -> LaserOn | None:
    """Since when the laser plummet has been on, as far as the log says; the clock is the device's."""
    turned = [logged for logged in document.observations.log if logged.confirmed and logged.step in LASER]
    if not turned or turned[-1].step == "laser-off" or turned[-1].at is None or step == "laser-off":
        return None
    text = "The laser plummet is still on. If you see no spot, it may have timed out. Switch it off when done."
    return LaserOn(since=turned[-1].at, after_minutes=LASER_MINUTES, text=text)
