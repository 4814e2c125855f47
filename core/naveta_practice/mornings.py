"""The morning's choice of kit: a job, some instruments with their histories, and one to take with the checks it needs.

What is shown are facts of the book: when each check was passed, with what, and what happened since. What follows from them
is the core's own: the same rules, budgets and minutes as on the plan of a real job.
"""

from __future__ import annotations

import random
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from functools import lru_cache

from naveta_core.checks import kinds_for
from naveta_core.documents.envelope import Earlier, Instrument
from naveta_core.engine.kind import Kind
from naveta_core.errors import Fault, Refused, quote
from naveta_core.history.due_list import due_entries
from naveta_core.history.facts import CheckRecord, EventRecord, day_words
from naveta_core.history.standing import checks_due, standing_of
from naveta_core.jobs.accuracy import Practice
from naveta_core.jobs.fitness import Candidate, Fitness, fitness_of
from naveta_core.jobs.kit import KitAnswer, kit_for
from naveta_core.jobs.needs import JOB_CLASSES, JobNeeds
from naveta_core.results import Answer
from naveta_core.units.formatting import count, length_words, signed

from .situations import refuse_unknown

NOW = datetime.fromisoformat("2027-03-02T06:40:00+00:00")
LESSON = "morning-kit"
INSTRUMENTS = 5
TRIES = 200
LATE, HAPPENED = 0.8, 0.4
"""How often a check of an instrument is overdue, and how often something happened to it: seldom is one fit as it is."""
OF_ONE = {"staffs": 0, "tripods": 0, "tribrachs": 0, "poles": 0}
EVENTS = {"drop": "Dropped", "knock": "Knocked", "transport": "Carried far on a lorry"}
MAIN = {"level": "two-peg", "total-station": "two-face"}


@dataclass(frozen=True, slots=True)
class MorningJob:
    """A job in words, and what it needs of the one instrument."""

    text: str
    needs: JobNeeds


def _needs(name: str) -> JobNeeds:
    found = next(each.needs for each in JOB_CLASSES if each.name == name)
    return found.model_copy(update=OF_ONE)


JOBS: dict[str, tuple[MorningJob, ...]] = {
    "level": (
        MorningJob(
            "Levelling benchmarks: sights of 30 m, unequal by 1 m at most; 1 mm wanted between marks.",
            _needs("fine-levelling"),
        ),
        MorningJob(
            "Levelling on site: sights of 40 m, unequal by 10 m; 3 mm wanted between marks.", _needs("levelling")
        ),
    ),
    "total-station": (
        MorningJob(
            "Setting out a structure in both faces: 30 m away, 60 m to the reference; points wanted to 5 mm.",
            _needs("structure"),
        ),
        MorningJob("Setting out points: 50 m away, 50 m to the reference; 10 mm wanted.", _needs("setting-out")),
    ),
}


@dataclass(frozen=True, slots=True)
class Choosable:
    """One instrument of a morning: what the book holds of it, and the fitness that follows."""

    tag: str
    stated: str
    facts: tuple[str, ...]
    checks: tuple[Kind, ...]
    fitness: Fitness


@dataclass(frozen=True, slots=True)
class Morning:
    """A job, the instruments there are, and the kit with the fewest minutes."""

    job: MorningJob
    instruments: dict[str, Choosable]
    kit: KitAnswer

    def fitness(self, tag: str) -> Fitness:
        """What an instrument is for the job. Raises Refused for one that is not there."""
        if tag not in self.instruments:
            raise Refused([Fault("tag", "the instrument", quote(tag), "one of " + ", ".join(self.instruments))])
        return self.instruments[tag].fitness


@lru_cache(maxsize=64)
def morning_of(lesson: str, seed: int) -> Morning:
    """The morning of a number: one instrument at least is fit or can be made so, one is not or needs more. Raises Refused."""
    refuse_unknown(lesson, seed, (LESSON,))
    for again in range(TRIES):
        found = _drawn(random.Random(f"morning {seed} {again}"))
        minutes = {each.fitness.minutes for each in found.instruments.values() if each.fitness.fit != "not-fit"}
        if found.kit.kit is not None and len(minutes) > 1:
            return found
    raise AssertionError(f"no morning for {seed}")


def _drawn(rng: random.Random) -> Morning:
    kind = rng.choice(sorted(JOBS))
    job = rng.choice(JOBS[kind])
    letters = {"level": "LV", "total-station": "TS"}[kind]
    numbers = rng.sample(range(11, 60), INSTRUMENTS)
    drawn = [_instrument(rng, kind, f"{letters}-{number}", job.needs) for number in sorted(numbers)]
    return Morning(job, {each.tag: each for each in drawn}, kit_for(job.needs, [each.fitness for each in drawn]))


def _instrument(rng: random.Random, kind: str, tag: str, needs: JobNeeds) -> Choosable:
    stated = _stated(rng, kind)
    checks = tuple(each for each in kinds_for(stated) if each.blocks_release or each.blocks_unchecked)
    main = MAIN[kind]
    ages = {each.name: rng.randint(2, max(4, each.interval_days - 12)) for each in checks}
    if rng.random() < LATE:
        late = rng.choice([each for each in checks if each.blocks_release])
        ages[late.name] = late.interval_days + rng.randint(3, 40)
    error = rng.uniform(0.5, 7.0) if rng.random() < 0.7 else rng.uniform(9.0, 16.0)
    value = rng.choice((-1.0, 1.0)) * error
    records = [CheckRecord(name, _ago(days), "use") for name, days in ages.items()]
    happened = rng.choice(sorted(EVENTS)) if rng.random() < HAPPENED else ""
    since = rng.randint(1, 9)
    events = [EventRecord(happened, _ago(since))] if happened else []
    today = NOW.date()
    found = checks_due(stated, records, events, today=today, planned=())
    stood = standing_of(found, events, today, "watch")
    candidate = Candidate(
        tag=tag,
        model="",
        instrument=stated,
        standing=stood,
        due=due_entries(found, stood, today),
        limits={},
        before=[_earlier(main, value, ages[main])],
    )
    fitness = fitness_of(candidate, needs, Practice(None, None), length_words("m"), NOW.isoformat())
    assert fitness is not None, kind
    book = [_of_check(each, ages[each.name], value if each.name == main else None) for each in checks]
    facts = (*book, *([f"{EVENTS[happened]} {_days(since)} ago."] if happened else []))
    return Choosable(tag, _words(stated), facts, checks, fitness)


def _stated(rng: random.Random, kind: str) -> Instrument:
    if kind == "level":
        return Instrument(kind="level", levelling_accuracy_mm_per_km=rng.choice((0.7, 1.0, 1.5, 2.5)))
    return Instrument(
        kind="total-station",
        angle_accuracy_arcsec=rng.choice((1.0, 3.0, 5.0, 7.0)),
        distance_accuracy_mm=2.0,
        distance_accuracy_ppm=2.0,
    )


def _words(stated: Instrument) -> str:
    if stated.kind == "level":
        return f"{stated.levelling_accuracy_mm_per_km:g} mm per km of double levelling"
    return f"Angles {stated.angle_accuracy_arcsec:g}″, distances 2 mm + 2 ppm"


def _ago(days: int) -> datetime:
    return NOW - timedelta(days=days, minutes=-50)


def _days(days: int) -> str:
    return count(days, "day", "days")


def _of_check(kind: Kind, days: int, value: float | None) -> str:
    found = "" if value is None else f": {signed(value, 1)}″\u00a0±\u00a02.0″"
    return f"{kind.title} passed {_days(days)} ago{found}."


def _earlier(check: str, value: float, days: int) -> Earlier:
    figures = {"collimation_arcsec": value, "sigma_collimation_arcsec": 1.0}
    if check == "two-face":
        figures |= {"index_arcsec": value / 2, "sigma_index_arcsec": 1.0}
        figures |= {"tilting_axis_arcsec": 0.0, "sigma_tilting_axis_arcsec": 3.0}
    return Earlier(check=check, at=_ago(days).isoformat(), grade="use", result=figures)


class MorningCheck(Answer):
    """A check that can be made before leaving."""

    check: str
    title: str
    minutes: int


class MorningInstrument(Answer):
    """An instrument as the book has it."""

    tag: str
    stated: str
    facts: list[str]
    checks: list[MorningCheck]


class MorningChoice(Answer):
    """The job and what there is to choose from."""

    job: str
    instruments: list[MorningInstrument]


class MorningLessonOut(Answer):
    """The lesson as it is offered."""

    name: str
    title: str
    aim: str
    minutes: int
    good_enough: str


MORNING_LESSONS = (
    MorningLessonOut(
        name=LESSON,
        title="The morning's choice of kit",
        aim="A job and five instruments with what the book holds of them. Take one that is fit for it, and tick the checks that it needs "
        "before you leave: every one of them, and no other.",
        minutes=4,
        good_enough="an instrument that is fit, with the checks it needs and no other, and none that takes less time",
    ),
)


def offered(morning: Morning) -> MorningChoice:
    """A morning as it is shown."""
    return MorningChoice(
        job=f"{morning.job.text} Today is {day_words(NOW)}.",
        instruments=[
            MorningInstrument(tag=each.tag, stated=each.stated, facts=list(each.facts), checks=_checks(each.checks))
            for each in morning.instruments.values()
        ],
    )


def _checks(kinds: Sequence[Kind]) -> list[MorningCheck]:
    return [MorningCheck(check=each.name, title=each.title, minutes=each.minutes) for each in kinds]
