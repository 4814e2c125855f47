"""A year of custody beside the daily one: two services, a loan, a cold night; the jobs that are planned, and two that are done."""

from __future__ import annotations

import uuid
from datetime import datetime, time, timedelta
from typing import Any

from naveta_core.jobs.needs import JOB_CLASSES
from people.models import Person
from plan.jobs import set_job
from records.requests import EventIn
from records.services import digest_of_sent, save_event
from shared import clock

SPACE = uuid.UUID("6e617665-7461-4000-8000-000000000001")
YEARLY = (("LV-03", 338), ("LV-05", 352), ("LV-07", 332), ("LV-09", 344), ("TS-03", 340), ("TD-01", 326))
"""Sent to their yearly service so many days ago, for five days."""
CUSTODY = (
    # tag, days ago, event, note
    *((tag, days, "service-out", "Yearly service.") for tag, days in YEARLY),
    *((tag, days - 5, "service-in", "Cleaned and looked over; nothing set.") for tag, days in YEARLY),
    ("LV-02", 240, "service-out", "Tolvan workshop: damping too slow."),
    ("LV-02", 228, "service-in", "Compensator damping renewed, cleaned."),
    ("LV-03", 62, "lent", "To the harbour office, until the end of their week."),
    ("LV-03", 55, "returned", ""),
    ("TS-01", 25, "service-out", "Yearly service."),
    ("TS-01", 14, "service-in", "Cleaned, tracker aligned; stored values set to zero."),
    ("TS-03", 1, "temperature-step", "A frosty night in the unheated van."),
)
COSTS = {"TS-01": 420.0, "TS-03": 380.0, "TD-01": 210.0, "LV-02": 265.0}
"""What a service cost; 140 for others."""
JOBS: tuple[tuple[Any, ...], ...] = (
    # name, crew, first day from today, days, large, place, temperature, class of job, more of its needs
    (
        "East abutment pile heads", "Bramble", 2, 4, False, "Pellow Creek, east bank", None, "structure",
        {"position_mm": 6.0, "levelling_mm": 3.0, "staffs": 1, "tribrachs": 1},
    ),
    ("Flood wall line", "Thrift", 9, 12, True, "Pellow Creek, flood wall", None, "levelling", {}),
    ("Footbridge deck", None, 30, 5, True, "Pellow Creek", None, "", {}),
    # Done already: what an instrument found bad this morning was used for.
    ("East abutment, blinding", "Bramble", -13, 3, False, "Pellow Creek, east bank", None, "", {"levelling_mm": 3.0, "imbalance_m": 20.0}),
    ("Flood wall, QB-1 to QB-3", None, -12, 1, False, "Pellow Creek, flood wall", None, "levelling", {}),
)  # fmt: skip


def write_plan(manager: Person) -> None:
    """Written through the services, as the manager would have done."""
    for tag, days, event, note in CUSTODY:
        at = datetime.combine(clock.today() - timedelta(days=days), time(16, 20), clock.zone())
        data: dict[str, Any] = {"instrument": tag, "event": event, "at": at.isoformat(), "note": note}
        if event == "service-in":
            data |= {"cost": COSTS.get(tag, 140.0), "days_cost": 35.0 * 5}
        with clock.frozen_now(at):
            sent = EventIn.model_validate(data)
            identity = uuid.uuid5(SPACE, f"{tag}/{event}/{days}")
            save_event(actor=manager, identity=identity, sent=sent, sent_digest=digest_of_sent(data))
    classes = {job.name: job.needs.model_dump(exclude_none=True) for job in JOB_CLASSES}
    for name, crew, starts, days, large, place, temperature, job_class, more in JOBS:
        first = clock.today() + timedelta(days=starts)
        given = {
            "name": name,
            "crew": crew,
            "starts_on": first,
            "ends_on": first + timedelta(days=days - 1),
            "large": large,
            "place": place,
            "temperature_c": temperature,
            "needs": {**classes.get(job_class, {}), **more},
        }
        set_job(actor=manager, given=given)
