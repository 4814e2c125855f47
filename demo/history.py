"""Writes the scenario's two years through the services, as the people themselves would have done."""

from __future__ import annotations

import random
import uuid
from collections.abc import Iterator
from dataclasses import KW_ONLY, dataclass
from datetime import date, datetime, time, timedelta
from typing import Any

from control_points.services import import_table
from demo.files import write_files
from demo.plan import write_plan
from demo.practice import write_practice
from demo.practice_instruments import write_instrument_runs
from demo.scenario import FIRM_NAME, LEVELS, MODELS, PEOPLE, POINTS, Level
from demo.things import MODELS as OTHER_MODELS
from demo.things import THINGS, Checked, Thing, same
from fleet.models import Instrument, InstrumentModel
from fleet.services import add_instrument, add_model, store_derived
from naveta_core.checks import KINDS
from naveta_sim import simulate
from people.firm import change_firm
from people.models import Crew, Person
from people.services import add_person
from records.derived import derived_of
from records.models import Record
from records.requests import CheckIn, EventIn
from records.services import digest_of_sent, save_check, save_event
from shared import clock

SEED = 20270302
SPACE = uuid.UUID("6e617665-7461-4000-8000-000000000000")
CHECK_EVERY_DAYS = 28
BESIDE = {
    "circular-vial": Checked(
        "circular-vial", 84, 0, same(error_mm=(0.05, -0.1), headings=(0, 90, 180, 270), noise=0.7)
    ),
    "compensator-function": Checked(
        "compensator-function", 84, 0, same(instrument={"levelling_accuracy_mm_per_km": 2.0}, noise=0.7)
    ),
}
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
        person[0]: add_person(
            actor=None, username=person[0], name=person[1], role=person[2], crew=person[3], password=None
        )
        for person in PEOPLE
    }
    change_firm(actor=people["ines"], given={"name": FIRM_NAME})
    models = {check["name"]: _add_model(people["ines"], check).id for check in (*MODELS, *OTHER_MODELS)}
    for level in LEVELS:
        progress(
            f"  {level.tag}: two years of checks, knocks and days out…"
            if level.since_days > 30
            else f"  {level.tag}: new"
        )
        _write(level, people, models[level.model])
    with clock.frozen_now(_at(420, time(9))):
        import_table(actor=people["ines"], text=POINTS, unit="m", store=True)
    for thing in THINGS:
        progress(f"  {thing.tag}: {', '.join(check.kind for check in thing.checks)}…")
        _write_thing(thing, people, models[thing.model])
    write_plan(people["ines"])
    write_files(people["ines"])
    write_practice(people["jory"])
    write_instrument_runs(people["jory"])
    _put_where_they_are()


def _put_where_they_are() -> None:
    """Crew and place of this morning, whatever the last day out left."""
    everything: list[Level | Thing] = [*LEVELS, *THINGS]
    for one in everything:
        # The year's custody was written after the checks, with the clock put back: what follows from all of it is this.
        written = Instrument.objects.select_related("model").get(tag=one.tag)
        if written.chain_length:
            store_derived(instrument=written, derived=derived_of(written))
        crew = Crew.objects.filter(name=one.crew).first() if one.crew else None
        Instrument.objects.filter(tag=one.tag).update(crew=crew, place=one.place)


def _add_model(actor: Person, stated: dict[str, Any]) -> InstrumentModel:
    return add_model(actor=actor, **stated)


def _write_thing(thing: Thing, people: dict[str, Person], model: int) -> None:
    """Everything but levels: added once, checked as often as its checks say."""
    chief = people["wren" if thing.crew == "Thrift" else "tam"]
    with clock.frozen_now(_at(thing.since_days, time(8))):
        add_instrument(
            actor=people["ines"], tag=thing.tag, model=model, serial=thing.serial, place=thing.place, crew=thing.crew
        )
    rows = [
        (day, check)
        for check in thing.checks
        for day in range(check.last_days, thing.since_days - 10, check.every_days)
    ]
    for day, entry in sorted(rows, key=lambda row: -row[0]):
        write_check(thing.tag, entry, day, chief)
    for day, kinds in thing.rounds:
        write_round(thing.tag, day, kinds, chief)


def write_round(tag: str, day: int, kinds: tuple[str, ...], chief: Person) -> None:
    """A pre-work check, of checks of that morning."""
    at = _at(day, time(8))
    steps = [{"check": kind, "record": str(uuid.uuid5(SPACE, f"{tag}/{kind}/{day}"))} for kind in kinds]
    document = {"kind": "pre-survey", "observations": {"minutes": 10, "steps": steps}}
    data = {"instrument": tag, "observed_at": _text(at), "entry": "simulated", "document": document}
    with clock.frozen_now(at):
        identity = uuid.uuid5(SPACE, f"{tag}/pre-survey/{day}")
        save_check(actor=chief, identity=identity, sent=CheckIn.model_validate(data), sent_digest=digest_of_sent(data))


def write_check(tag: str, checked: Checked, day: int, chief: Person, today: date | None = None) -> None:
    """One simulated check of a kind on a morning so many days before `today`; without one, before the clock's day."""
    rng = random.Random(f"{SEED}{tag}{checked.kind}{day}")
    at = _at(day, time(7, rng.randrange(2, 50)), today)
    celsius = _celsius(at, rng)
    document = simulate(checked.kind, rng, checked.truth(day, celsius))
    document["observations"].update(checked.typed)
    fields = {"temperature_c": celsius, "wind": "calm", **document.get("conditions", {})}
    data = {
        "instrument": tag,
        "observed_at": _text(at),
        "entry": "simulated",
        "document": {**document, "conditions": fields},
    }
    identity = uuid.uuid5(SPACE, f"{tag}/{checked.kind}/{day}")
    with clock.frozen_now(at):
        save_check(actor=chief, identity=identity, sent=CheckIn.model_validate(data), sent_digest=digest_of_sent(data))


def _celsius(at: datetime, rng: random.Random) -> int:
    return TEMPERATURES[at.month - 1] + rng.randrange(-3, 4)


def _write(level: Level, people: dict[str, Person], model: int) -> None:
    rng = random.Random(f"{SEED}{level.tag}")
    chief = people["wren" if level.crew == "Thrift" else "tam"]
    start = _at(level.since_days, time(8))
    with clock.frozen_now(start):
        instrument = add_instrument(
            actor=people["ines"], tag=level.tag, model=model, serial=level.serial, place=level.place, crew=level.crew
        )
    writer = _Writer(level, instrument, people["ines"], chief=chief, rng=rng, today=clock.today())
    for moment in sorted([*_moments(level, rng), *_beside(level)], key=lambda entry: entry.at):
        with clock.frozen_now(moment.at):
            writer.write(moment)


def _at(days_ago: int, hour: time, today: date | None = None) -> datetime:
    day = (today or clock.today()) - timedelta(days=days_ago)
    return datetime.combine(day, hour, clock.zone())


def _moments(level: Level, rng: random.Random) -> Iterator[Moment]:
    """What happens to a level, in no order yet."""
    if level.since_days < 30:
        return
    quiet = set(level.adjusted_days) | {day for day, _ in level.knocks}
    for day in range(level.last_check_days, level.since_days - 10, CHECK_EVERY_DAYS):
        if not any(abs(day - entry) <= 2 for entry in quiet):
            yield Moment(_at(day, time(7, rng.randrange(5, 40))), "check")
    for day, note in level.knocks:
        yield Moment(_at(day, time(14, 10)), "knock", note)
    for day in level.adjusted_days:
        yield Moment(_at(day, time(7, 10)), "adjust")
    if level.bad_this_morning:
        yield Moment(_at(0, time(6, 10)), "check")
    day = level.since_days - rng.randrange(5, 12)
    while day > 1:
        if all(abs(day - entry) > 1 for entry in quiet):
            yield Moment(_at(day, time(7, 45)), "out", rng.choice(level.jobs))
            yield Moment(_at(day, time(16, rng.randrange(10, 50))), "in")
        day -= rng.randrange(max(2, level.out_every_days - 5), level.out_every_days + 6)


def _beside(level: Level) -> Iterator[Moment]:
    """The circular bubble and the compensator of a level, looked at every three months before its peg test."""
    if level.since_days < 30:
        return
    for kind, last in (("circular-vial", 4), ("compensator-function", 6)):
        for day in range(level.last_check_days + last, level.since_days - 20, 84):
            yield Moment(_at(day, time(6, 50)), kind)


MISSING = {"LV-05": ["Rain cover"]}
"""What is missing from a case whenever somebody looks."""


@dataclass
class _Writer:
    level: Level
    instrument: Instrument
    manager: Person
    _: KW_ONLY
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
        elif moment.what in KINDS:
            write_check(self.level.tag, BESIDE[moment.what], self._days_ago(moment.at), self.chief, self.today)
        else:
            self.event(moment.what, moment.at, note=moment.text)

    def event(self, event: str, at: datetime, **more: Any) -> None:
        if event == "out":
            more["crew"] = self.chief.crew.name if self.chief.crew else None
        if event == "in":
            more |= {
                "place": self.level.place or "Yard",
                "case_looked": True,
                "missing": MISSING.get(self.level.tag, []),
            }
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
        document = simulate("two-peg", self.rng, truth)
        document["conditions"] = {
            "temperature_c": _celsius(at, self.rng),
            "wind": self.rng.choice(("calm", "calm", "breeze")),
        }
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
        """Days before the morning the history ends on; the clock is given otherwise while writing."""
        return (self.today - at.date()).days

    def adjust(self, at: datetime) -> None:
        """A bad finding, adjusted and proved: as found, the act, as left."""
        found = self.check(at, days_ago=self._days_ago(at) + 1)
        self.event("adjusted", at + timedelta(minutes=25), record=str(found.id), note="Reticle, two turns of the pin.")
        with clock.frozen_now(at + timedelta(minutes=45)):
            self.check(at + timedelta(minutes=45), days_ago=self._days_ago(at), stage="as-left", pair=str(found.id))


def _text(at: datetime) -> str:
    return at.astimezone(clock.zone()).isoformat()
