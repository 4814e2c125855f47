"""Random histories of an instrument: checks, events and jobs in any order, some dated ahead."""

from __future__ import annotations

import random
from collections.abc import Iterator
from datetime import UTC, date, datetime, timedelta
from typing import NamedTuple

from naveta_core.checks import KINDS, kinds_for
from naveta_core.documents.envelope import Instrument
from naveta_core.history.due import Planned
from naveta_core.history.events import EVENT_KINDS
from naveta_core.history.facts import CheckRecord, EventRecord

TODAY = date(2027, 3, 2)
OF = ("level", "total-station", "tripod", "staff", "tribrach", "robotic-total-station")
GRADES = ("use", "watch", "adjust", "service", "repeat")
AGES_H = (-9, 1, 30, 400, 2000, 9000)


class History(NamedTuple):
    """What standing, due list and plan are made of."""

    instrument: Instrument
    records: list[CheckRecord]
    events: list[EventRecord]
    planned: list[Planned]


def histories(seed: int, number: int) -> Iterator[History]:
    """So many histories, the same for the same seed."""
    rng = random.Random(seed)
    names = [event.name for event in EVENT_KINDS]

    def moment() -> datetime:
        return datetime(2027, 3, 2, 12, tzinfo=UTC) - timedelta(hours=rng.choice(AGES_H) * rng.random())

    for _ in range(number):
        instrument = Instrument(kind=rng.choice(OF))
        records = [
            CheckRecord(
                rng.choice(list(KINDS)), moment(), rng.choice(GRADES),
                stage=rng.choice(("as-found", "as-left")), codes=rng.choice(((), ("near-limit",), ("not-looked",))),
                temperature_c=rng.choice((None, 10.0, 28.0)),
            )
            for _ in range(rng.randint(0, 9))
        ]  # fmt: skip
        kept = rng.random() < 0.4
        if kept:
            # One well kept: everything passed lately, and little happened since.
            at = datetime(2027, 3, 1, 9, tzinfo=UTC) - timedelta(days=rng.randint(0, 25))
            records += [CheckRecord(kind.name, at, "use") for kind in kinds_for(instrument)]
        events = [
            EventRecord(
                rng.choice(names), moment(), "note", check=rng.choice(list(KINDS)),
                crew=rng.choice(("", "Bramble", "Fell")), until=TODAY + timedelta(days=rng.randint(-5, 40)),
            )
            for _ in range(rng.randint(0, 1 if kept else 7))
        ]  # fmt: skip
        large = Planned(TODAY + timedelta(days=rng.randint(0, 12)), large=True)
        yield History(instrument, records, events, [large] if rng.random() < 0.3 else [])
