"""Which instruments are fit for a job, from what is on record of them, and the kit with the shortest checks."""

from __future__ import annotations

import json
from datetime import date, datetime, time, timedelta
from statistics import median

from fleet.models import Instrument
from fleet.selectors import DaySettings, Status, state_stamp, statuses_at
from naveta_core.documents.instrument_context import InstrumentContext
from naveta_core.errors import Fault, Refused
from naveta_core.jobs.accuracy import Practice
from naveta_core.jobs.fitness import ROLES, Candidate, fitness_of, needed_roles
from naveta_core.jobs.kit import KitAnswer, kit_for
from naveta_core.jobs.needs import JobNeeds
from naveta_core.units.formatting import length_words
from people.firm import organisation
from people.models import Crew
from plan.jobs import needs_of
from plan.models import Job
from records.instrument_context import contexts_of
from records.models import Record
from shared import clock

PRACTICE_DAYS = 90
PRACTICE_SET_UPS = 12
MAX_ANSWERS = 50
_answers: dict[int, tuple[tuple[str, int, date, str], KitAnswer]] = {}
"""Kits worked out already, by job."""


def kit_of(pk: int) -> tuple[Job, date, KitAnswer]:
    """A job, the day its instruments are looked at (its first, or today once it runs), and what is fit. Raises Refused."""
    job = Job.objects.select_related("crew").filter(pk=pk).first()
    if job is None:
        raise Refused([Fault("job", "the job", str(pk), "a job that is planned")])
    on = max(job.starts_on, clock.today())
    # Asked for whenever the yard is opened; every record, job, rule and instrument that changes makes another stamp.
    stamp = (state_stamp()[0], job.version, on, organisation().length_unit)
    known = _answers.get(pk)
    if not stamp[0] or known is None or known[0] != stamp:
        if len(_answers) > MAX_ANSWERS:
            _answers.clear()
        known = _answers[pk] = (stamp, _answer(needs_of(job), job.crew, on))
    return job, on, known[1]


def _answer(needs: JobNeeds, crew: Crew | None, on: date) -> KitAnswer:
    practice, words = practice_of(crew), length_words(organisation().length_unit)
    at = datetime.combine(on, time(7), clock.zone()).isoformat()
    found = [fitness_of(candidate, needs, practice, words, at) for candidate in _candidates(needs, crew, on)]
    order = {role: place for place, role in enumerate(ROLES)}
    fitness = sorted((each for each in found if each), key=lambda each: (order[each.role], each.tag))
    return kit_for(needs, fitness)


def _candidates(needs: JobNeeds, crew: Crew | None, on: date) -> list[Candidate]:
    """What the crew holds, and what nobody holds; for a job of all crews everything."""
    kinds = [kind for role in needed_roles(needs) for kind in ROLES[role]]
    found = Instrument.objects.select_related("model", "crew").filter(model__kind__in=kinds)
    rows = [row for row in found if crew is None or row.crew_id in (None, crew.pk)]
    statuses = statuses_at(rows, DaySettings.of(on))
    contexts = contexts_of([row.pk for row in rows])
    return [_candidate(row, statuses[row.pk], contexts[row.pk], crew) for row in rows]


def _candidate(row: Instrument, status: Status, context: InstrumentContext, crew: Crew | None) -> Candidate:
    return Candidate(
        tag=row.tag,
        model=str(row.model),
        instrument=context.instrument,
        standing=status.standing,
        due=status.due,
        limits=context.limits,
        before=context.before,
        own=crew is None or row.crew_id == crew.pk,
        place=f"{row.crew.name} crew" if row.crew else row.place or "Yard",
    )


def practice_of(crew: Crew | None) -> Practice:
    """How the latest set-ups of a crew's people ended, in the middle; of everybody's where no crew is named."""
    since = clock.now() - timedelta(days=PRACTICE_DAYS)
    rows = Record.objects.filter(category="set-up", observed_at_utc__gte=since, amendments__isnull=True)
    if crew is not None:
        rows = rows.filter(observed_by__crew=crew)
    latest = rows.order_by("-arrival").values_list("result", flat=True)[:PRACTICE_SET_UPS]
    ends = [json.loads(result)["result"].get("budget", {}) for result in latest]
    centring = [end["centring_mm"] for end in ends if end.get("centring_mm") is not None]
    tilt = [end["tilt_arcsec"] for end in ends if end.get("tilt_arcsec") is not None]
    return Practice(median(centring) if centring else None, median(tilt) if tilt else None)
