"""Reading practice: one's own runs, how somebody comes along, what to practise next."""

from __future__ import annotations

import json
from collections import Counter
from typing import Any

from django.http import Http404

from naveta_practice import judging, morning_judging
from naveta_practice.instruments.fault_judging import ALL_HABITS
from naveta_practice.instruments.faults import FAULT_LESSONS
from naveta_practice.instruments.lessons import INSTRUMENT_LESSONS
from naveta_practice.lessons import LESSONS
from naveta_practice.mornings import MORNING_LESSONS
from people.models import Person, SignOff
from practice.models import PracticeRun
from shared.rights import SIGN_OFFS, Forbidden, may

Data = dict[str, Any]
ALL = [
    *(lesson.name for lesson in LESSONS),
    *(lesson.name for lesson in INSTRUMENT_LESSONS),
    *(lesson.name for lesson in FAULT_LESSONS),
    *(lesson.name for lesson in MORNING_LESSONS),
]
HABITS = {**judging.HABITS, **ALL_HABITS, **morning_judging.HABITS}
MAX_RUNS = 200
GOOD_IN_A_ROW = 3
"""So many good ones running, without advice, and a lesson is mastered."""
LATELY = 10


def runs_of(person: Person) -> list[PracticeRun]:
    """The latest first, without their gestures."""
    return list(PracticeRun.objects.filter(person=person).defer("gestures", "result").order_by("-at", "-id")[:MAX_RUNS])


def run_of(asker: Person, identity: str) -> PracticeRun:
    """One run, for whoever made it or signs people off. Raises Http404."""
    run = PracticeRun.objects.select_related("person").filter(pk=identity).first()
    if run is None or (run.person_id != asker.pk and not may(asker, "sign-off").allowed):
        raise Http404(str(identity))
    return run


def seen_by(asker: Person, username: str) -> Person:
    """Whose practice is looked at: one's own, or anybody's for whoever signs people off. Raises Http404, Forbidden."""
    if not username or username == asker.username:
        return asker
    answer = may(asker, "sign-off")
    if not answer.allowed:
        raise Forbidden(answer)
    person = Person.objects.select_related("crew").filter(username=username).first()
    if person is None:
        raise Http404(username)
    return person


def progress(person: Person) -> Data:
    """Lesson by lesson how somebody comes along, the habits seen lately, and what to practise next."""
    runs = runs_of(person)
    lessons = [_lesson(name, [run for run in runs if run.lesson == name]) for name in ALL]
    habits = Counter(code for run in runs[:LATELY] for code in run.habits)
    return {
        "username": person.username,
        "name": person.name,
        "crew": person.crew.name if person.crew else None,
        "role": person.role,
        "runs": len(runs),
        "last": runs[0].at if runs else None,
        "lessons": lessons,
        "habits": [{"code": code, "label": HABITS[code], "times": times} for code, times in habits.most_common()],
        "next": next((lesson["lesson"] for lesson in lessons if not lesson["mastered"]), None),
        "sign_offs": sign_offs_of(person),
    }


def _lesson(name: str, runs: list[PracticeRun]) -> Data:
    good = [run for run in runs if run.passed]
    alone = [run.passed and not run.advised for run in runs[:GOOD_IN_A_ROW]]
    return {
        "lesson": name,
        "runs": len(runs),
        "passed": len(good),
        "best_seconds": min((run.seconds for run in good), default=None),
        "mastered": len(alone) == GOOD_IN_A_ROW and all(alone),
        "recent": [
            {"id": str(run.pk), "at": run.at, "seconds": run.seconds, "passed": run.passed, "measure": run.measure,
             "advised": run.advised, "seed": run.seed}
            for run in runs[:LATELY]
        ],
    }  # fmt: skip


def sign_offs_of(person: Person) -> list[Data]:
    """What somebody may do alone, by whom and since when; and what nobody has signed off yet."""
    kept = {s.what: s for s in SignOff.objects.select_related("by").filter(person=person, revoked_at__isnull=True)}
    return [
        {
            "what": what,
            "label": label,
            "by": kept[what].by.name if what in kept else None,
            "at": kept[what].at if what in kept else None,
        }
        for what, label in SIGN_OFFS.items()
    ]


def everybody(asker: Person) -> list[Data]:
    """Who practises or is a trainee, for whoever signs people off."""
    people = Person.objects.select_related("crew").filter(is_active=True).order_by("name")
    practised = set(PracticeRun.objects.values_list("person_id", flat=True).distinct())
    return [progress(one) for one in people if one.pk != asker.pk and (one.role == "trainee" or one.pk in practised)]


def whole(run: PracticeRun) -> Data:
    """A run with everything in it, as its replay needs it."""
    return {
        "id": str(run.pk),
        "name": run.person.name,
        "username": run.person.username,
        "lesson": run.lesson,
        "seed": run.seed,
        "at": run.at,
        "advised": run.advised,
        "gestures": json.loads(run.gestures),
        "judged": json.loads(run.result),
    }
