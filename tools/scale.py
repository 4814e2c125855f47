"""Every question somebody waits for, at one hundredth of the records and at all of them. Part of `make bench` and
`make chaos`; `RECORDS=200000` (2,000 instruments) by default."""

from __future__ import annotations

import json
import os
import statistics
import sys
import tempfile
import time
import uuid
from collections.abc import Callable
from datetime import UTC, datetime, timedelta
from functools import partial
from pathlib import Path
from typing import Any

ROOT = Path(__file__).resolve().parents[1]
sys.path[:0] = [str(ROOT / "server"), str(ROOT)]
RECORDS = int(os.environ.get("RECORDS", "200000"))
OF_EACH = 100
BEGAN = datetime(2026, 1, 5, 7, tzinfo=UTC)
REPEATED = 15
APART = 100
"""Between the arrivals of grown records: room for what is saved while asking."""
BEFORE = {"its series": 52, "records, last page": 53, "records of a kind": 10, "records by a person": 64}
"""How many times longer each took at the hundredfold when it was first measured; every seal took 365 s, a device's fleet 19.5 MB."""


def main() -> None:
    folder = tempfile.mkdtemp(prefix="naveta-scale-")
    os.environ.update(
        NAVETA_DATA=folder, NAVETA_DEMO="1", DJANGO_SETTINGS_MODULE="config.settings", NAVETA_NOW="2027-03-02T06:40:00"
    )
    os.environ.pop("DATABASE_URL", None)
    (Path(folder) / "this-is-a-naveta-demo").touch()
    import django

    django.setup()
    from django.core.management import call_command

    call_command("migrate", verbosity=0)
    grown = Grown()
    grown.to(RECORDS // 100)
    small = requested(grown.client)
    grown.to(RECORDS)
    large = requested(grown.client)
    print(f"{'':<44}{RECORDS // 100:>9}{RECORDS:>9}   records")
    for name, first in small.items():
        before = f"   before {BEFORE[name]} times" if name in BEFORE else ""
        print(f"{name:<44}{first:8.1f} {large[name]:8.1f} ms   {large[name] / first:5.2f} times{before}")
    verifying(grown.client)


class Grown:
    """A firm that grows: instruments of a hundred records each, all sealed as the server seals them."""

    def __init__(self) -> None:
        from django.test import Client

        from fleet.models import InstrumentModel
        from people.models import Crew, Person

        crew = Crew.objects.create(name="Bramble")
        self.people = [
            Person.objects.create(username=f"p{i}", name=f"Person {i}", role="manager", crew=crew) for i in range(20)
        ]
        self.model = InstrumentModel.objects.create(
            maker="Ondine", name="Merrow", kind="level", stated={"reading": "optical"}
        )
        self.client = Client(headers={"host": "localhost"})
        self.client.force_login(self.people[0], backend="django.contrib.auth.backends.ModelBackend")
        self.count = 0
        self.template = self._template()

    def _template(self) -> tuple[str, str]:
        from naveta_core.checks import KINDS
        from naveta_core.documents.instrument_context import complete
        from naveta_core.documents.json_io import canonical
        from naveta_core.registry import document_of
        from tests.core.builders import exact

        data = complete(exact(1, (30, 30), (56, 4), copies=4), None, BEGAN.isoformat())
        return canonical(data), canonical(KINDS["two-peg"].reduce(document_of(data)).plain())

    def to(self, records: int) -> None:
        """So many records, each instrument's in one go."""
        from django.db import transaction

        while self.count < records:
            with transaction.atomic():
                for _ in range(20):
                    if self.count < records:
                        self._instrument()
            if not self.count % 20_000:
                print(f"{self.count} records written", flush=True)

    def _instrument(self) -> None:
        from fleet.models import ChangeCounter, Instrument
        from records.derived import derived_of
        from records.models import Record

        number = self.count // OF_EACH
        entry = Instrument.objects.create(
            tag=f"LV-{100 + number}", model=self.model, since=BEGAN.date(), place=f"Shelf {number % 40}"
        )
        rows, previous = [], "0" * 64
        from naveta_core.documents.json_io import GENESIS

        previous = GENESIS
        for i in range(OF_EACH):
            rows.append(self._record(entry, i, previous))
            previous = rows[-1].digest
        Record.objects.bulk_create(rows)
        self.count += OF_EACH
        ChangeCounter.objects.update_or_create(pk=1, defaults={"value": APART * self.count, "stamp": uuid.uuid4().hex})
        entry.chain_length, entry.chain_head, entry.changed = OF_EACH, previous, APART * self.count
        entry.derived, entry.derived_stamp = json.loads(json.dumps(derived_of(entry))), uuid.uuid4().hex
        entry.save()

    def _record(self, item: Any, i: int, previous: str) -> Any:
        from naveta_core import __version__
        from naveta_core.documents.json_io import canonical
        from records import chain
        from records.models import Record
        from records.summary import grade_of, search_text, summary_text

        at = BEGAN + timedelta(days=4 * i, minutes=self.count // OF_EACH % 600)
        who = self.people[(self.count // OF_EACH + i) % 20]
        knock = i % 10 == 5
        document, result = (canonical({"event": "knock", "note": ""}), canonical({})) if knock else self.template
        record = Record(
            id=uuid.uuid4(),
            instrument=item,
            category="event" if knock else "check",
            kind="knock" if knock else "two-peg",
            stage="" if knock else "as-found",
            observed_at=at.isoformat(),
            observed_at_utc=at,
            received_at=at,
            observed_by=who,
            entered_by=who,
            entry="typed",
            document=document,
            result=result,
            core_version=__version__,
            arrival=APART * (self.count + i + 1),
            sequence=i + 1,
            previous=previous,
            sent_digest="x",
        )
        record.summary = summary_text(record)
        record.grade, record.search = grade_of(record), search_text(record)
        record.digest = chain.seal(record)
        return record


def requested(client: Any) -> dict[str, float]:
    """The median time of each question, in milliseconds."""
    last = _last_page()
    from records.selectors import newest_cursor

    newest = newest_cursor()
    paths = {
        "an empty call (session)": "session",
        "a yard page of 20": "instruments?limit=20",  # as many rows in the small fleet as in the large one
        "an instrument": "instruments/LV-100",
        "its records": "records?instrument=LV-100",
        "its series": "instruments/LV-100/series",
        "all its series": "instruments/LV-100/history",
        "records, first page": "records",
        "records, last page": f"records?cursor={last}" if last else "records",
        "records of a kind": "records?kind=two-peg",
        "records of a category": "records?category=event",
        "records by a person": "records?by=p3",
        "the fleet": "fleet",
        "what is due in a month": "due?days=30&limit=20",
        "a month of the calendar": "due/month?month=2027-04",
        "the load, levelled": "due/levelled?days=7&crew=Bramble",
        "the ledger, first page": "ledger?limit=20",
        "the ledger, one grade": "ledger?grade=use&limit=20",
        "the ledger, a month": "ledger?first=2026-06-01&last=2026-06-30&limit=20",
        "the ledger, an instrument": "ledger?instrument=LV-100&limit=20",
        "the ledger, words often found": "ledger?words=no error found&limit=20",
        "the ledger, words found nowhere": "ledger?words=nowhere&limit=20",
        "what a device asks in the morning": f"device?since={newest}",
    }
    times = {name: _median(partial(client.get, "/api/" + path)) for name, path in paths.items()}
    return {**times, "a check saved": _median(partial(_save, client))}


def _save(client: Any) -> Any:
    from tests.core.builders import exact

    document = {**exact(1, (30, 30), (56, 4), copies=4)}
    body = {"instrument": "LV-101", "observed_at": "2027-03-02T06:40:00+00:00", "document": document}
    return client.put(f"/api/checks/{uuid.uuid4()}", json.dumps(body), content_type="application/json")


def _last_page() -> str:
    """The mark of the last page, without turning all of them."""
    from shared import paging

    return paging.encode([51 * APART])


def _median(call: Callable[[], Any]) -> float:
    taken = []
    for _ in range(REPEATED):
        begun = time.perf_counter()
        answer = call()
        taken.append(1000 * (time.perf_counter() - begun))
        assert answer.status_code in (200, 201), answer.content[:300]
    return statistics.median(taken[1:])


def verifying(client: Any) -> None:
    """Every seal: how long until the first line, and altogether; and what a day's work costs."""
    begun = time.perf_counter()
    lines = iter(client.get("/api/health/chains").streaming_content)
    next(lines)
    first = time.perf_counter() - begun
    total = json.loads(list(lines)[-1])
    print(
        f"every seal: first line {first:.2f} s, all {time.perf_counter() - begun:.0f} s (before 365 s, without progress); {json.dumps(total)}"
    )
    begun = time.perf_counter()
    list(client.get(f"/api/health/chains?since={total['cursor'] - 200 * APART}").streaming_content)
    print(f"seals of the last 200 records: {time.perf_counter() - begun:.2f} s")
    pages, since, size, more = 0, 0, 0, True
    while more:
        answer = client.get(f"/api/device?since={since}", headers={"accept-encoding": "gzip"})
        size, pages = size + len(answer.content), pages + 1
        import gzip

        data = json.loads(gzip.decompress(answer.content))
        since, more = data["cursor"], data["more"]
    print(f"a new device's fleet: {pages} pages, {size / 1000:.0f} kB packed (before 19,500 kB)")


if __name__ == "__main__":
    main()
