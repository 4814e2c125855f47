"""Writes the scenario's two years through the services, as the people themselves would have done."""

from __future__ import annotations

import random
import uuid
from collections.abc import Iterator
from dataclasses import dataclass
from datetime import date, datetime, time, timedelta
from typing import Any

from bench.entries import CheckIn, EventIn
from bench.models import Record
from bench.services import digest_of_sent, save_check, save_event
from control.services import import_table
from demo.scenario import LEVELS, MODELS, OTHER_MODELS, OTHERS, PEOPLE, POINTS, Level
from fleet.models import Instrument, InstrumentModel
from fleet.services import add_instrument, add_model
from naveta_core.checks import KINDS
from people.models import Person
from people.services import add_person
from shared import clock

SEED = 20270302
SPACE = uuid.UUID("6e617665-7461-4000-8000-000000000000")
CHECK_EVERY_DAYS = 28
TEMPERATURES = (4, 5, 8, 11, 14, 17, 19, 19, 16, 12, 8, 5)


@dataclass(frozen=True)
class Moment:
    """Something to be written, in order of time."""

    at: datetime
    what: str
    text: str = ""


def load(progress: Any = print) -> None:
    """Write everything. The folder must be empty of people."""
    people = {
        one[0]: add_person(actor=None, username=one[0], name=one[1], role=one[2], crew=one[3], password=None)
        for one in PEOPLE
    }
    models = {one["name"]: add_model(actor=people["ines"], **one).id for one in (*MODELS, *OTHER_MODELS)}
    for level in LEVELS:
        progress(
            f"  {level.tag}: two years of checks, knocks and days out…"
            if level.since_days > 30
            else f"  {level.tag}: new"
        )
        _write(level, people, models[level.model])
    with clock.told(_at(420, time(9))):
        import_table(actor=people["ines"], text=POINTS, unit="m", keep=True)
    with clock.told(_at(400, time(8))):
        for tag, model, serial, crew, place in OTHERS:
            add_instrument(actor=people["ines"], tag=tag, model=models[model], serial=serial, place=place, crew=crew)


def _write(level: Level, people: dict[str, Person], model: int) -> None:
    rng = random.Random(f"{SEED}{level.tag}")
    chief = people["wren" if level.crew == "Thrift" else "tam"]
    start = _at(level.since_days, time(8))
    with clock.told(start):
        instrument = add_instrument(
            actor=people["ines"], tag=level.tag, model=model, serial=level.serial, place=level.place, crew=level.crew
        )
    writer = _Writer(level, instrument, people["ines"], chief, rng, clock.today())
    for moment in sorted(_moments(level, rng), key=lambda one: one.at):
        with clock.told(moment.at):
            writer.write(moment)
    with clock.told(_at(0, time(6))):
        Instrument.objects.filter(pk=instrument.pk).update(crew=chief.crew if level.crew else None, place=level.place)


def _at(days_ago: int, hour: time) -> datetime:
    day = clock.today() - timedelta(days=days_ago)
    return datetime.combine(day, hour, clock.zone())


def _moments(level: Level, rng: random.Random) -> Iterator[Moment]:
    """What happens to a level, in no order yet."""
    if level.since_days < 30:
        return
    quiet = set(level.adjusted_days) | {day for day, _ in level.knocks}
    for day in range(level.last_check_days, level.since_days - 10, CHECK_EVERY_DAYS):
        if not any(abs(day - one) <= 2 for one in quiet):
            yield Moment(_at(day, time(7, rng.randrange(5, 40))), "check")
    for day, note in level.knocks:
        yield Moment(_at(day, time(14, 10)), "knock", note)
    for day in level.adjusted_days:
        yield Moment(_at(day, time(7, 10)), "adjust")
    if level.bad_this_morning:
        yield Moment(_at(0, time(6, 10)), "check")
    day = level.since_days - rng.randrange(5, 12)
    while day > 1:
        if all(abs(day - one) > 1 for one in quiet):
            yield Moment(_at(day, time(7, 45)), "out", rng.choice(level.jobs))
            yield Moment(_at(day, time(16, rng.randrange(10, 50))), "in")
        day -= rng.randrange(max(2, level.out_every_days - 5), level.out_every_days + 6)


@dataclass
class _Writer:
    level: Level
    instrument: Instrument
    manager: Person
    chief: Person
    rng: random.Random
    today: date
    count: int = 0

    def _id(self) -> uuid.UUID:
        self.count += 1
        return uuid.uuid5(SPACE, f"{self.level.tag}/{self.count}")

    def write(self, moment: Moment) -> None:
        if moment.what == "check":
            self.check(moment.at)
        elif moment.what == "adjust":
            self.adjust(moment.at)
        else:
            self.event(moment.what, moment.at, note=moment.text)

    def event(self, event: str, at: datetime, **more: Any) -> None:
        if event == "out":
            more["crew"] = self.chief.crew.name if self.chief.crew else None
        if event == "in":
            more["place"] = self.level.place or "Yard"
        # The manager writes custody so that a level another crew held yesterday can be taken by this one.
        actor = self.manager if event in ("out", "in") else self.chief
        data = {"instrument": self.level.tag, "event": event, "at": _text(at), **more}
        save_event(
            actor=actor, identity=self._id(), sent=EventIn.model_validate(data), sent_digest=digest_of_sent(data)
        )

    def check(self, at: datetime, *, days_ago: float | None = None, **more: Any) -> Record:
        ago = self._days_ago(at) if days_ago is None else days_ago
        stated = InstrumentModel.objects.get(pk=self.instrument.model_id).stated
        truth = {
            "collimation_arcsec": self.level.error(ago),
            "readings": self.level.readings,
            "instrument": stated,
            "noise": 0.85,
        }
        document = KINDS["two-peg"].simulate(self.rng, truth)
        degrees = TEMPERATURES[at.month - 1] + self.rng.randrange(-3, 4)
        document["conditions"] = {"temperature_c": degrees, "wind": self.rng.choice(("calm", "calm", "breeze"))}
        data = {
            "instrument": self.level.tag,
            "observed_at": _text(at),
            "entry": "simulated",
            "document": document,
            **more,
        }
        return save_check(
            actor=self.chief, identity=self._id(), sent=CheckIn.model_validate(data), sent_digest=digest_of_sent(data)
        ).record

    def _days_ago(self, at: datetime) -> int:
        """Days before the morning the history ends on; the clock is told otherwise while writing."""
        return (self.today - at.date()).days

    def adjust(self, at: datetime) -> None:
        """A bad finding, adjusted and proved: as found, the act, as left."""
        found = self.check(at, days_ago=self._days_ago(at) + 1)
        self.event("adjusted", at + timedelta(minutes=25), record=str(found.id), note="Reticle, two turns of the pin.")
        with clock.told(at + timedelta(minutes=45)):
            self.check(at + timedelta(minutes=45), days_ago=self._days_ago(at), stage="as-left", pair=str(found.id))


def _text(at: datetime) -> str:
    return at.astimezone(clock.zone()).isoformat()
