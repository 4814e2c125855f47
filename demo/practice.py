"""Three months of a trainee at the simulated tripod: slow and past the middle at first, quick and alone at the end."""

from __future__ import annotations

import random
import uuid
from datetime import datetime, time, timedelta

from naveta_core.setup.mechanism import see
from naveta_practice.lessons import LESSONS
from naveta_practice.results import Gesture, Pair
from naveta_practice.shortest import shortest_way
from naveta_practice.situations import situation_of
from people.models import Person
from practice.services import save_run
from shared import clock

SPACE = uuid.UUID("6e617665-7461-4000-8000-000000000004")
DAYS = (84, 82, 77, 75, 70, 66, 63, 61, 56, 52, 49, 47, 42, 40, 35, 33, 28, 26, 21, 19, 14, 12, 9, 7, 6, 5, 3, 2)
"""So many days ago somebody practised, two runs an evening."""
FIRST_WORDS = {
    "Carry": "carry",
    "Press": "press",
    "Lengthen": "leg",
    "Shorten": "leg",
    "Turn": "screws",
    "Slide": "slide",
}


def write_practice(trainee: Person) -> None:
    """Written through the service, as the device would have sent it."""
    rng = random.Random("practice of the demo")
    for evening, days in enumerate(DAYS):
        skill = evening / (len(DAYS) - 1)
        # The next lesson every four evenings, and one of those before it.
        newest = min(len(LESSONS) - 1, evening // 4)
        for run, lesson in enumerate((LESSONS[newest], LESSONS[rng.randint(0, newest)])):
            at = datetime.combine(clock.today() - timedelta(days=days), time(18, 10 + 15 * run), clock.zone())
            _run(trainee, lesson.name, rng, skill, at)


def _run(trainee: Person, lesson: str, rng: random.Random, skill: float, at: datetime) -> None:
    seed = rng.randint(1, 9_999)
    gestures = _gestures(lesson, seed, rng, skill)
    with clock.frozen_now(at):
        save_run(
            actor=trainee,
            identity=uuid.uuid5(SPACE, at.isoformat()),
            lesson=lesson,
            seed=seed,
            at=at,
            seconds=gestures[-1].seconds + rng.uniform(4.0, 12.0),
            advised=skill < 0.3 and rng.random() < 0.4,
            gestures=gestures,
            sent_digest="demo",
        )


def _gestures(lesson: str, seed: int, rng: random.Random, skill: float) -> list[Gesture]:
    """The shortest way, each step of it in several tries: past the middle at first, nearer with practice."""
    situation, seconds, found = situation_of(lesson, seed), 0.0, []
    seen = see(situation.equipment, situation.start)
    axis, tilt = seen.axis_mm, seen.tilt_arcsec
    heading = 180.0 if skill > 0.97 else 0.0
    left_over = 0.8 if rng.random() < 0.5 * (1.0 - skill) else 1.0
    way = shortest_way(lesson, seed)
    for step in way:
        do = FIRST_WORDS[step.text.split()[0]]
        tries = [1.0] if do in ("carry", "press") else [*_tries(rng, skill), 1.0 + rng.gauss(0.0, 0.02) * (1.0 - skill)]
        if step is way[-1]:
            tries[-1] *= left_over  # put down before it was good enough
        for share in tries:
            seconds += rng.uniform(2.5, 4.0) + 7.0 * (1.0 - skill) * rng.random()
            found.append(
                Gesture(seconds=seconds, do=do, axis_mm=_between(axis, step.axis_mm, share),
                        tilt_arcsec=_between(tilt, step.tilt_arcsec, share), heading_deg=heading)
            )  # fmt: skip
        axis, tilt = found[-1].axis_mm, found[-1].tilt_arcsec
    return found


def _tries(rng: random.Random, skill: float) -> list[float]:
    """Shares of the way at which a hand stops before it is there."""
    count = rng.choice((2, 3)) if skill < 0.35 else rng.choice((1, 2)) if skill < 0.75 else rng.choice((0, 1))
    wide = 0.7 * (1.0 - skill) + 0.1
    return [1.0 + wide * (1 if i % 2 == 0 else -0.6) * rng.uniform(0.6, 1.1) for i in range(count)]


def _between(one: Pair, other: Pair, share: float) -> Pair:
    return (one[0] + share * (other[0] - one[0]), one[1] + share * (other[1] - one[1]))
