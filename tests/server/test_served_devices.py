"""Several devices at once against the served server: each check arrives once, every chain stays whole."""

from __future__ import annotations

import http.client
import shutil
import time
import uuid
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path
from typing import Any

import pytest

from tests.conftest import Device
from tests.served import serving
from tests.written_demo import demo_environment, written_demo


def check(level: str, at: str, reading: str = "1.8868") -> dict[str, Any]:
    def sight(distance: str, value: str) -> dict[str, Any]:
        return {"distance": distance, "readings": [value]}

    setups = [
        {"a": sight("30", "1.8851"), "b": sight("30", "1.4020")},
        {"a": sight("56", reading), "b": sight("4", "1.4000")},
    ]
    document = {"kind": "two-peg", "observations": {"setups": setups}}
    return {"instrument": level, "observed_at": at, "document": document}


def test_the_same_check_sent_by_many_at_once_is_stored_once(server_url: str, level: str) -> None:
    devices = [Device(server_url, "tam") for _ in range(4)]
    identity, sent = uuid.uuid4(), check(level, "2027-03-02T06:41:00+00:00")
    with ThreadPoolExecutor(8) as pool:
        answers = list(pool.map(lambda i: devices[i % 4].call("PUT", f"checks/{identity}", sent), range(12)))
    assert sorted({status for status, _ in answers}) == [200, 201]
    assert sum(status == 201 for status, _ in answers) == 1
    assert len({answer["digest"] for _, answer in answers}) == 1


def test_checks_of_one_instrument_from_several_devices_keep_one_chain(server_url: str, level: str) -> None:
    devices = [Device(server_url, who) for who in ("tam", "wren", "ines")]
    sent = [(uuid.uuid4(), check(level, f"2027-03-02T06:4{i}:30+00:00", f"1.886{i}")) for i in range(9)]
    with ThreadPoolExecutor(9) as pool:
        answers = list(pool.map(lambda i: devices[i % 3].call("PUT", f"checks/{sent[i][0]}", sent[i][1]), range(9)))
    assert [status for status, _ in answers] == [201] * 9
    sequences = sorted(answer["sequence"] for _, answer in answers)
    assert sequences == list(range(sequences[0], sequences[0] + 9))
    by_sequence = {answer["sequence"]: answer for _, answer in answers}
    for here in sequences[1:]:
        assert by_sequence[here]["previous"] == by_sequence[here - 1]["digest"]
    assert devices[2].call("GET", "health/chains")[1]["ok"]


def test_a_previewed_sheet_is_answered_while_others_save(server_url: str, level: str) -> None:
    reader, writer = Device(server_url, "jory"), Device(server_url, "tam")
    document = check(level, "2027-03-02T06:50:00+00:00")["document"]

    def act(i: int) -> int:
        if i % 3:
            return reader.call("POST", "preview", {"instrument": level, "document": document})[0]
        return writer.call("PUT", f"checks/{uuid.uuid4()}", check(level, f"2027-03-02T06:5{i // 3 % 10}:00+00:00"))[0]

    with ThreadPoolExecutor(6) as pool:
        assert set(pool.map(act, range(18))) == {200, 201}


@pytest.mark.long
def test_a_connection_is_kept_while_somebody_reads_the_staff(tmp_path: Path) -> None:
    """After two seconds, as before, each reading on a slow line needed a new connection, and a request sent as the server
    closed the old one was lost."""
    shutil.copytree(written_demo(), tmp_path / "data")
    with serving({**demo_environment(tmp_path / "data"), "NAVETA_DEMO": "1"}) as address:
        line = http.client.HTTPConnection(address.removeprefix("http://"), timeout=60)
        line.request("GET", "/api/session")
        first = line.getresponse()
        assert (first.status, first.will_close) == (200, False)
        first.read()
        held = line.sock
        time.sleep(6)
        line.request("GET", "/api/session")
        assert line.getresponse().status == 200
        assert line.sock is held is not None
        line.close()
