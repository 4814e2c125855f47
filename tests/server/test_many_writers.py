"""Sixteen writers at one database server: every chain stays whole. SQLite lets one write at a time; its own test is the
attacked server's."""

from __future__ import annotations

import threading
from typing import Any

import pytest
from django.db import connection, connections

from fleet.models import Instrument
from people.models import Person
from records.chain import walk
from records.models import Record
from tests.server.conftest import Api

WRITERS, EACH = 16, 6


@pytest.mark.django_db(transaction=True)
@pytest.mark.usefixtures("firm")
def test_sixteen_writers_keep_every_chain_whole() -> None:
    if connection.vendor == "sqlite":
        pytest.skip("of a database server only: make test-postgres")
    trouble: list[Any] = []

    def write(number: int) -> None:
        try:
            api = Api(Person.objects.get(username=("ines", "tam", "wren")[number % 3]))
            for i in range(EACH):
                tag = ("LV-07", "LV-02")[(number + i) % 2]
                answer = api.event("knock", "2027-03-01T06:40:00+00:00", instrument=tag, note=f"{number}/{i}")
                if answer.status_code != 201:
                    trouble.append((answer.status_code, answer.content[:200]))
        finally:
            connections.close_all()

    threads = [threading.Thread(target=write, args=(number,)) for number in range(WRITERS)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    assert trouble == []
    assert Record.objects.count() == WRITERS * EACH
    for instrument in Instrument.objects.all():
        sequences = list(instrument.records.order_by("sequence").values_list("sequence", flat=True))
        assert sequences == list(range(1, len(sequences) + 1))
        assert instrument.chain_length == len(sequences)
    assert [entry.wrong for entry in walk() if entry.wrong] == []
    assert sorted(Record.objects.values_list("arrival", flat=True))[-1] >= WRITERS * EACH
    notes = Record.objects.values_list("document", flat=True)
    assert len(set(notes)) == WRITERS * EACH, "each of them once"
