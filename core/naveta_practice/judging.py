"""How a lesson went: what is left of tilt and offset, where the time went, which habits showed, what to do otherwise."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from itertools import pairwise

from naveta_core.errors import Fault, Refused
from naveta_core.geometry import Plane
from naveta_core.results import Reason
from naveta_core.setup.mechanism import see
from naveta_core.units.formatting import arcsec, count

from .lessons import Lesson
from .results import Gesture, Judged, ShortStep, Stage
from .shortest import shortest_way
from .situations import Situation, situation_of

STAGES = {
    "carry": "Placing", "foot": "Placing", "press": "Pressing in", "leg": "Legs", "open": "Legs", "close": "Legs",
    "screws": "Foot screws", "slide": "Sliding", "heading": "Turning round",
}  # fmt: skip
OTHER = "Looking"
MAX_GESTURES = 3000
PAST_THE_MIDDLE, WORTH_ARCSEC = 0.35, 60.0
"""A turn is past the middle when more than this share of the tilt stands on the other side; below so much nobody sees it."""
WORSE = 1.1
TURNED_ROUND_DEG = 150.0


@dataclass(frozen=True, slots=True)
class _Course:
    """A course of gestures with how it began."""

    situation: Situation
    gestures: Sequence[Gesture]
    axis_mm: Plane
    tilt_arcsec: Plane

    def before(self, i: int) -> tuple[Plane, Plane, float]:
        """Axis, tilt and time before a gesture."""
        if i == 0:
            return self.axis_mm, self.tilt_arcsec, 0.0
        last = self.gestures[i - 1]
        return last.axis_mm, last.tilt_arcsec, last.seconds

    def seconds_of(self, wanted: Iterable[int]) -> float:
        """How long some of the gestures took, by their places."""
        return sum(self.gestures[i].seconds - self.before(i)[2] for i in wanted if i < len(self.gestures))


def judge(lesson_name: str, seed: int, gestures: Sequence[Gesture], seconds: float) -> Judged:
    """How a lesson went, from every gesture as it ended, and the seconds it took altogether.

    Raises Refused for gestures that go back in time, or are too many.
    """
    situation = situation_of(lesson_name, seed)
    _refuse_unlikely(gestures, seconds)
    lesson, seen = situation.lesson, see(situation.equipment, situation.start)
    course = _Course(situation, gestures, seen.axis_mm, seen.tilt_arcsec)
    axis, tilt, _ = course.before(len(gestures))
    off_mm, tilt_arcsec = math.hypot(*axis), math.hypot(*tilt)
    passed = bool(gestures) and _good(lesson, off_mm, tilt_arcsec)
    habits = _habits(course, off_mm)
    measure = _measure(course, seconds)
    return Judged(
        lesson=lesson.name,
        passed=passed,
        headline=_headline(lesson, passed=passed, off_mm=off_mm, tilt_arcsec=tilt_arcsec),
        seconds=seconds,
        off_mm=off_mm,
        tilt_arcsec=tilt_arcsec,
        measure=measure,
        measure_text=_measure_text(lesson, measure),
        stages=_stages(course, seconds),
        habits=[habit for _, habit, _ in habits],
        otherwise=_otherwise(habits, passed=passed),
        start=ShortStep(text="As it stood", axis_mm=seen.axis_mm, tilt_arcsec=seen.tilt_arcsec),
        shortest=list(shortest_way(lesson.name, seed)),
    )


def _refuse_unlikely(gestures: Sequence[Gesture], seconds: float) -> None:
    if len(gestures) > MAX_GESTURES:
        text = f"at most {MAX_GESTURES} gestures"
        raise Refused([Fault("gestures", "the gestures", str(len(gestures)), text)])
    times = [0.0, *(gesture.seconds for gesture in gestures), seconds]
    for i, (one, other) in enumerate(pairwise(times)):
        if other < one:
            where = "seconds" if i == len(gestures) else f"gestures[{i}].seconds"
            raise Refused([Fault(where, "the time of it", f"{other:g} s", "not before the one before")])


def _good(lesson: Lesson, off_mm: float, tilt_arcsec: float) -> bool:
    level = lesson.within_arcsec is None or tilt_arcsec <= lesson.within_arcsec
    return level and (lesson.within_mm is None or off_mm <= lesson.within_mm)


def _headline(lesson: Lesson, *, passed: bool, off_mm: float, tilt_arcsec: float) -> str:
    parts = [f"axis {_tilt_words(tilt_arcsec)} out of plumb"]
    if lesson.within_mm is not None:
        parts.append(f"{off_mm:.1f} mm off the mark")
    text = " and ".join(parts)
    return f"Good: {text}." if passed else f"Not yet: {text}."


def good_enough(lesson: Lesson) -> str:
    """What a lesson takes for good, in words."""
    level = "" if lesson.within_arcsec is None else f"axis within {_tilt_words(lesson.within_arcsec)} of plumb"
    near = "" if lesson.within_mm is None else f"{lesson.within_mm:g} mm of the mark"
    return " and within ".join(part for part in (level, near) if part)


def _tilt_words(arcseconds: float) -> str:
    return arcsec(arcseconds) if arcseconds < 100.0 else f"{arcseconds / 60.0:.0f}′"


def _measure(course: _Course, seconds: float) -> int:
    match course.situation.lesson.measure:
        case "moves":
            return sum(gesture.do == "leg" for gesture in course.gestures)
        case "wrong":
            return len(_wrong_turns(course))
        case "passes":
            return _passes(course.gestures)
        case _:
            return round(seconds)


def _measure_text(lesson: Lesson, measure: int) -> str:
    match lesson.measure:
        case "moves":
            return count(measure, "move of a leg", "moves of legs")
        case "wrong":
            return count(measure, "turn the wrong way", "turns the wrong way")
        case "passes":
            return f"{count(measure, 'time', 'times')} round"
        case _:
            return count(measure, "second", "seconds")


def _wrong_turns(course: _Course) -> list[int]:
    found = []
    for i, gesture in enumerate(course.gestures):
        before = math.hypot(*course.before(i)[1])
        if gesture.do == "screws" and math.hypot(*gesture.tilt_arcsec) > max(WORSE * before, before + 5.0):
            found.append(i)
    return found


def _passes(gestures: Sequence[Gesture]) -> int:
    """How often somebody went over to sliding: each is once round."""
    kinds = [gesture.do for gesture in gestures if gesture.do in ("slide", "screws")]
    return sum(do == "slide" and (i == 0 or kinds[i - 1] != "slide") for i, do in enumerate(kinds))


def _past_the_middle(course: _Course, do: str) -> list[int]:
    found = []
    for i, gesture in enumerate(course.gestures):
        (x, y), (u, v) = course.before(i)[1], gesture.tilt_arcsec
        size = math.hypot(x, y)
        # Only what was turned over, not what lies across: the share along the tilt there was.
        if gesture.do == do and size > WORTH_ARCSEC and (x * u + y * v) / size < -PAST_THE_MIDDLE * size:
            found.append(i)
    return found


def _stages(course: _Course, seconds: float) -> list[Stage]:
    """Time goes to the gesture it led to; what came after the last one was looking."""
    sums: dict[str, float] = {}
    for i, gesture in enumerate(course.gestures):
        label = STAGES.get(gesture.do, OTHER)
        sums[label] = sums.get(label, 0.0) + gesture.seconds - course.before(i)[2]
    sums[OTHER] = sums.get(OTHER, 0.0) + seconds - course.before(len(course.gestures))[2]
    return [Stage(label=label, seconds=spent) for label, spent in sums.items() if spent >= 0.05]


HABITS = {
    "over-correcting": "Goes past the middle",
    "wrong-way": "Turns the wrong way",
    "legs-after-screws": "Legs after the foot screws",
    "not-pressed": "Feet not pressed in",
    "forgot-the-plummet": "Forgets the plummet",
    "never-turned": "Does not turn round",
}
"""What each habit is called in a list."""
Habit = tuple[float, Reason, str]
"""What it took in seconds, what was seen, what to do otherwise."""


def _habits(course: _Course, off_mm: float) -> list[Habit]:
    """The habits that showed, the one that took longest first."""
    found = [*_of_turning(course), *_of_order(course), *_of_looking(course, off_mm)]
    return sorted(found, key=lambda habit: -habit[0])


def _of_turning(course: _Course) -> list[Habit]:
    found = []
    for do, thing in (("screws", "foot screws"), ("leg", "legs")):
        past = set(_past_the_middle(course, do))
        if len(past) >= 2:
            text = f"With the {thing} you went past the middle {count(len(past), 'time', 'times')}."
            spent = course.seconds_of(past | {i + 1 for i in past})
            otherwise = "Do half of what you think is needed, wait until the bubble rests, then look again."
            found.append((spent, Reason(code="over-correcting", text=text), otherwise))
    wrong = set(_wrong_turns(course))
    if len(wrong) >= 2:
        text = f"{count(len(wrong), 'turn', 'turns').capitalize()} took the bubble away from the middle."
        spent = course.seconds_of(wrong)
        otherwise = "Before you turn, say which way the left thumb goes: the bubble goes with it."
        found.append((spent, Reason(code="wrong-way", text=text), otherwise))
    return found


def _of_order(course: _Course) -> list[Habit]:
    found = []
    first = next((i for i, gesture in enumerate(course.gestures) if gesture.do == "screws"), None)
    if first is not None:
        late = {i for i, g in enumerate(course.gestures) if i > first and g.do in ("leg", "foot", "carry", "press")}
        if late:
            text = f"After the foot screws you went back to the legs or feet {count(len(late), 'time', 'times')}."
            spent = course.seconds_of(late)
            otherwise = (
                "Legs until the bubble is in its ring, and only then the foot screws: they are not touched before."
            )
            found.append((spent, Reason(code="legs-after-screws", text=text), otherwise))
    ground, gestures = course.situation.ground, course.gestures
    if gestures and ground.loose_mm and gestures[-1].pressed < 3:
        text = f"{count(3 - gestures[-1].pressed, 'foot was', 'feet were')} not pressed in: it goes on sinking."
        otherwise = "Press in all three feet before you level anything: what sinks later takes the level with it."
        found.append((5.0, Reason(code="not-pressed", text=text[0].upper() + text[1:]), otherwise))
    return found


def _of_looking(course: _Course, off_mm: float) -> list[Habit]:
    found, lesson, gestures = [], course.situation.lesson, course.gestures
    hands = [gesture.do for gesture in gestures if gesture.do in ("screws", "leg", "slide", "carry", "foot")]
    if lesson.within_mm is not None and off_mm > lesson.within_mm and hands and hands[-1] in ("screws", "leg"):
        text = "After levelling the plummet was off the mark, and you left it so."
        otherwise = "Look at the plummet again each time you have levelled: levelling moves it."
        found.append((8.0, Reason(code="forgot-the-plummet", text=text), otherwise))
    turned = max((abs(gesture.heading_deg) for gesture in gestures), default=0.0)
    if lesson.vial_off_mm and turned < TURNED_ROUND_DEG:
        text = "You never turned the instrument round: a level vial alone cannot show its own error."
        otherwise = (
            "Turn by 180°. What changes is twice the tilt that is left: take half of it, the rest is the vial's."
        )
        found.append((10.0, Reason(code="never-turned", text=text), otherwise))
    return found


def _otherwise(habits: Sequence[Habit], *, passed: bool) -> str:
    """The one thing to do otherwise."""
    if habits:
        return habits[0][2]
    if not passed:
        return "Take your time: it is finished when it is good enough, not when it is quick."
    return "Nothing to change. Do it again with another number, and quicker."
