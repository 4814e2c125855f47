"""The verbs of practice, beside the core's: one question in, one answer out, both as text."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any, TypeVar

from pydantic import Field, ValidationError

from naveta_core import dispatch as core
from naveta_core.cautions import cautions
from naveta_core.checks import KINDS
from naveta_core.documents.envelope import Part
from naveta_core.documents.model_faults import faults_of
from naveta_core.errors import Refused, path_in_words
from naveta_core.geometry import Plane, Vector
from naveta_core.setup.mechanism import State
from naveta_core.setup.methods import SET_UP_METHODS
from naveta_core.setup.tripod import Pose

from .advice import next_move
from .instruments.fault_judging import GOOD_ENOUGH, FaultWork, judge_fault
from .instruments.faults import (
    FAULT_LESSONS,
    NOTHING,
    FaultLessonOut,
    FaultSituationOut,
    NameOut,
    PartOut,
    fault_of,
)
from .instruments.judging import InstrumentWork, judge_instrument
from .instruments.lesson import InstrumentLesson, InstrumentLessonOut, PlaceOut, ScrewOut, SetAgainOut
from .instruments.lessons import BY_NAME, INSTRUMENT_LESSONS
from .instruments.looking import LookQuestion, look
from .judging import good_enough, judge
from .lessons import LESSONS, MEASURES
from .morning_judging import MorningWork, judge_morning
from .mornings import MORNING_LESSONS, MorningChoice, morning_of, offered
from .moves import Move, moved
from .results import LISTS, Figure, Gesture, Judged, LessonOut, PracticeAdvice, PracticeStep
from .seen import seen_of
from .shortest import shortest_way
from .situations import Situation, situation_of
from .stand import Stand, Three, advanced, begun, plain

Data = dict[str, Any]
T = TypeVar("T", bound=Part)
MAX_MOVES = 40


class StandState(Part):
    """A stand as it was answered."""

    model_config = LISTS

    seconds: Figure
    feet: tuple[Vector, Vector, Vector]
    legs: Three
    at: Vector
    turn: tuple[Vector, Vector, Vector]
    slide: Plane
    tribrach_turn_deg: Figure
    screws: tuple[Figure, ...]
    heading_deg: Figure
    pressed: tuple[bool, bool, bool]
    sunk_mm: Three
    hole_mm: Three
    open_leg: str
    bubble_mm: Plane
    plate_div: Figure
    laser_until_s: Figure
    lost_since_s: Figure | None
    focus_index: Figure
    focus_ground: Figure

    def as_stand(self, situation: Situation) -> Stand:
        """The same as the mechanism takes it."""
        rest = self.model_dump(include=STAND_FIELDS)
        state = State(
            self.feet, self.legs, Pose(self.at, self.turn), mark=situation.start.mark, slide=self.slide, tribrach_turn_deg=self.tribrach_turn_deg,
            screws=self.screws, heading_deg=self.heading_deg,
        )  # fmt: skip
        return Stand(state, **rest)


STAND_FIELDS = {
    "seconds", "pressed", "sunk_mm", "hole_mm", "open_leg", "bubble_mm", "plate_div", "laser_until_s", "lost_since_s",
    "focus_index", "focus_ground",
}  # fmt: skip


class StepQuestion(Part):
    """Moves, then some seconds; without a state, the lesson begins."""

    verb: str
    lesson: str
    seed: int
    state: StandState | None = None
    moves: list[Move] = Field(default=[], max_length=MAX_MOVES)
    seconds: Figure = 0.0


class SituationQuestion(Part):
    """A situation of a lesson."""

    verb: str
    lesson: str
    seed: int


class JudgeQuestion(Part):
    """A lesson with every gesture as it ended."""

    verb: str
    lesson: str
    seed: int
    gestures: list[Gesture]
    seconds: Figure


def _read(model: type[T], question: Data) -> T:
    try:
        return model.model_validate(question)
    except ValidationError as error:
        raise Refused(faults_of(error, path_in_words)) from None


def step(question: Data) -> PracticeStep:
    """A stand after moves and time. What is in the way is stated, and what came before it holds."""
    query = _read(StepQuestion, question)
    situation = situation_of(query.lesson, query.seed)
    stand, refused = _stand(query, situation), ""
    for move in query.moves:
        stand, reason = moved(situation, stand, move)
        refused = reason or refused
    stand = advanced(situation, stand, query.seconds)
    return PracticeStep(state=plain(stand), seen=seen_of(situation, stand), refused=refused)


def _stand(query: StepQuestion, situation: Situation) -> Stand:
    return begun(situation) if query.state is None else query.state.as_stand(situation)


def advise(question: Data) -> PracticeAdvice:
    """The next move."""
    query = _read(StepQuestion, question)
    situation = situation_of(query.lesson, query.seed)
    return next_move(situation, _stand(query, situation))


def judged(question: Data) -> Judged:
    """How a lesson went."""
    query = _read(JudgeQuestion, question)
    return judge(query.lesson, query.seed, query.gestures, query.seconds)


def lessons() -> list[LessonOut]:
    """Every lesson, in the order in which people learn."""
    return [
        LessonOut(
            name=lesson.name,
            title=lesson.title,
            aim=lesson.aim,
            measure=MEASURES[lesson.measure],
            minutes=lesson.minutes,
            controls=list(lesson.controls),
            shows=list(lesson.shows),
            good_enough=good_enough(lesson),
            cautions=cautions(*lesson.caution),
            steps=len(shortest_way(lesson.name, 0)),
            methods=[SET_UP_METHODS[name].title for name in lesson.practises],
        )
        for lesson in LESSONS
    ]


def _sheet_of(lesson: InstrumentLesson) -> Data:
    begun = core.begin(lesson.check, lesson.method, "m", "")
    sheet = {**begun, "observations": {**begun["observations"], **lesson.given}}
    return {**sheet, "instrument": lesson.stated} if lesson.stated else sheet


def _offered(lesson: InstrumentLesson) -> InstrumentLessonOut:
    return InstrumentLessonOut(
        name=lesson.name,
        title=lesson.title,
        aim=lesson.aim,
        view=lesson.view,
        check=lesson.check,
        document=_sheet_of(lesson),
        minutes=lesson.minutes,
        good_enough=f"{lesson.good_enough}; or found within the check's ±",
        to_adjust=lesson.to_adjust,
        screws=[
            ScrewOut(
                name=screw.name,
                label=screw.label,
                adjusting=screw.adjusting,
                stores="″" if screw.stores else "",
                most=screw.most,
            )
            for screw in lesson.screws
        ],
        cautions=cautions(*lesson.cautions),
        headings=list(lesson.headings),
        places=[PlaceOut(name=name, label=label) for name, label in lesson.places],
        staffs=lesson.staffs,
        pointing=[PlaceOut(name=name, label=label) for name, label in lesson.pointing],
        set_again=_between_sets(lesson),
        reads=lesson.reads,
    )


def _between_sets(lesson: InstrumentLesson) -> SetAgainOut | None:
    again = lesson.set_again
    return SetAgainOut(label=again.label, each=again.each, most=again.most) if again else None


def instrument_lessons() -> list[InstrumentLessonOut]:
    """Every lesson with a simulated instrument."""
    return [_offered(lesson) for lesson in INSTRUMENT_LESSONS]


def fault_lessons() -> list[FaultLessonOut]:
    """Every lesson in which a fault is named."""
    return [
        FaultLessonOut(
            name=lesson.name,
            title=lesson.title,
            aim=lesson.aim,
            minutes=lesson.minutes,
            good_enough=GOOD_ENOUGH,
            names=[
                *(NameOut(name=each.name, label=each.label) for each in lesson.may_be),
                NameOut(name=NOTHING, label=lesson.nothing_label),
            ],
        )
        for lesson in FAULT_LESSONS
    ]


def _part(lesson: InstrumentLesson, seed: int) -> PartOut:
    return PartOut(title=KINDS[lesson.check].title, lesson=_offered(lesson), seed=seed)


def fault_situation(question: Data) -> FaultSituationOut:
    """What was noticed in a situation, and the checks to choose from."""
    query = _read(SituationQuestion, question)
    situation = fault_of(query.lesson, query.seed)
    parts = [_part(BY_NAME[part], seed) for part, seed in situation.seeds.items()]
    return FaultSituationOut(noticed=situation.noticed, parts=parts)


def morning(question: Data) -> MorningChoice:
    """A job, and the instruments to choose from."""
    query = _read(SituationQuestion, question)
    return offered(morning_of(query.lesson, query.seed))


VERBS: dict[str, Callable[[Data], Any]] = {
    **core.VERBS,
    "practice-step": step,
    "practice-advice": advise,
    "practice-judge": judged,
    "practice-instruments": lambda _: [lesson.plain() for lesson in instrument_lessons()],
    "practice-look": lambda q: look(_read(LookQuestion, q)),
    "practice-instrument-judge": lambda q: judge_instrument(_read(InstrumentWork, q)),
    "practice-faults": lambda _: [lesson.plain() for lesson in fault_lessons()],
    "practice-fault": fault_situation,
    "practice-fault-judge": lambda q: judge_fault(_read(FaultWork, q)),
    "practice-mornings": lambda _: [lesson.plain() for lesson in MORNING_LESSONS],
    "practice-morning": morning,
    "practice-morning-judge": lambda q: judge_morning(_read(MorningWork, q)),
    "practice-lessons": lambda _: [lesson.plain() for lesson in lessons()],
}


def answer(text: str) -> str:
    """Answer one question, of practice or of the core. Never raises."""
    return core.answer(text, VERBS)
