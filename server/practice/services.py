"""Storing practice and letting people work alone."""

from __future__ import annotations

import uuid
from datetime import UTC, datetime, timedelta

from django.db import transaction

from naveta_core.documents.json_io import canonical
from naveta_core.errors import Fault, Refused, quote
from naveta_practice.instruments.fault_judging import FaultWork, judge_fault
from naveta_practice.instruments.judging import InstrumentJudged, InstrumentWork, judge_instrument
from naveta_practice.judging import judge
from naveta_practice.morning_judging import MorningJudged, MorningWork, judge_morning
from naveta_practice.results import Gesture, Judged
from people.models import Person, SignOff
from people.services import somebody
from practice.models import PracticeRun
from shared import clock
from shared.errors import Conflict
from shared.rights import SIGN_OFFS, require

AHEAD = timedelta(minutes=10)
Work = InstrumentWork | FaultWork | MorningWork
"""What was done with an instrument, to find a fault, or to choose a morning's kit."""


@transaction.atomic
def save_run(
    *,
    actor: Person,
    identity: uuid.UUID,
    lesson: str,
    seed: int,
    at: datetime,
    seconds: float,
    advised: bool,
    gestures: list[Gesture],
    work: Work | None = None,
    sent_digest: str,
) -> tuple[PracticeRun, bool]:
    """Store a lesson, judged here from its gestures; the same again is the one stored. Raises Refused, Conflict."""
    stored = PracticeRun.objects.filter(pk=identity).first()
    if stored is not None:
        if stored.sent_digest != sent_digest or stored.person_id != actor.pk:
            raise Conflict("other-content", "Another lesson is stored under this id.")
        return stored, False
    if at.tzinfo is None or at > clock.now() + AHEAD:
        raise Refused([Fault("at", "when it was finished", at.isoformat(), "a moment with its offset, not to come")])
    judged = _judged(lesson, seed, gestures, work, seconds)
    done = gestures if work is None else [work]
    run = PracticeRun(
        id=identity,
        person=actor,
        lesson=lesson,
        seed=seed,
        at=at.astimezone(UTC),
        seconds=seconds,
        passed=judged.passed,
        advised=advised,
        measure=judged.measure if isinstance(judged, Judged) else round(judged.seconds),
        habits=[habit.code for habit in judged.habits],
        gestures=canonical([each.model_dump(mode="json") for each in done]),
        result=canonical(judged.plain()),
        sent_digest=sent_digest,
    )
    run.save(force_insert=True)
    return run, True


def _judged(
    lesson: str, seed: int, gestures: list[Gesture], work: Work | None, seconds: float
) -> Judged | InstrumentJudged | MorningJudged:
    """A lesson judged from what was done in it. Raises Refused where the work is of another one."""
    if work is None:
        return judge(lesson, seed, gestures, seconds)
    if (work.lesson, work.seed) != (lesson, seed):
        raise Refused([Fault("lesson", "the lesson of the work", quote(work.lesson), lesson)])
    if isinstance(work, MorningWork):
        return judge_morning(work)
    return judge_fault(work) if isinstance(work, FaultWork) else judge_instrument(work)


@transaction.atomic
def sign_off(*, actor: Person, username: str, what: str) -> SignOff:
    """Let somebody do something alone; the same again is the one there is. Raises Refused, Forbidden."""
    require(actor, "sign-off")
    person = somebody(username)
    if what not in SIGN_OFFS:
        raise Refused([Fault("what", "what they may do", quote(what), "one of " + ", ".join(SIGN_OFFS))])
    if person.pk == actor.pk:
        raise Refused([Fault("username", "the person", person.name, "somebody else: nobody signs off themselves")])
    kept = SignOff.objects.filter(person=person, what=what, revoked_at__isnull=True).first()
    return kept or SignOff.objects.create(person=person, what=what, by=actor, at=clock.now())


@transaction.atomic
def revoke(*, actor: Person, username: str, what: str) -> None:
    """Take it back; it stays on record with who did so."""
    require(actor, "sign-off")
    kept = SignOff.objects.filter(person=somebody(username), what=what, revoked_at__isnull=True)
    kept.update(revoked_at=clock.now(), revoked_by=actor)
