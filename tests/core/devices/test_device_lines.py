"""Readings that arrive: whole, in pieces, damaged, twice, backwards, too many; and the stand-ins that send them."""

from __future__ import annotations

import json
import socket
import subprocess
import sys
import zlib
from pathlib import Path
from typing import Any

import pytest

from naveta_core.devices.lines import DeviceLine, DeviceLines, written_line
from naveta_core.devices.reading import arrive
from naveta_core.registry import DOCUMENTS, document_of
from naveta_practice.devices import ElectronicLevelStandIn, LevelStandIn, TotalStationStandIn, yard_of

AT = "2027-03-02T06:40:12.250+00:00"


def line(seq: int = 1, **more: Any) -> DeviceLine:
    fields = {"naveta": 1, "device": "level-1", "run": "00c0ffee", "seq": seq, "at": AT, "quantity": "staff",
              "value": "1.4683", "unit": "m", "face": None}  # fmt: skip
    return DeviceLine.model_validate({**fields, **more})


def sent(*lines: DeviceLine) -> bytes:
    return "".join(written_line(each) for each in lines).encode()


def codes(said: list[Any]) -> list[str]:
    return [reason.code for reason in said]


def test_a_line_by_hand() -> None:
    text = written_line(line())
    fields = json.loads(text)
    # The checksum written again from the text itself: keys in order, no blanks, without the sum.
    plain = ('{"at":"2027-03-02T06:40:12.250+00:00","device":"level-1","naveta":1,"quantity":"staff","run":"00c0ffee",'
             '"seq":1,"unit":"m","value":"1.4683"}')  # fmt: skip
    assert fields.pop("sum") == f"{zlib.crc32(plain.encode()):08x}"
    assert text.endswith("}\n")
    good, said = DeviceLines().feed(text.encode(), 0.0)
    assert (good, said) == ([line()], [])


def test_pieces_of_any_size_give_the_same_lines() -> None:
    data = sent(*(line(i) for i in range(1, 8)))
    for size in (1, 3, 50, 1000):
        reader, found = DeviceLines(), []
        for i in range(0, len(data), size):
            good, said = reader.feed(data[i : i + size], 0.0)
            found += good
            assert said == []
        assert [each.seq for each in found] == [1, 2, 3, 4, 5, 6, 7]


@pytest.mark.parametrize(
    ("data", "code"),
    [
        (b"hello there\n", "not-a-line"),
        (b"[1, 2]\n", "damaged-line"),
        (b"\xff\xfe\n", "not-a-line"),
        (b"x" * 1001, "not-a-line"),
        (b'{"device":"level-1"}\n', "damaged-line"),
        (sent(line()).replace(b"1.4683", b"1.4688"), "damaged-line"),
    ],
)
def test_what_is_no_good_line_is_said_once_and_what_follows_is_read(data: bytes, code: str) -> None:
    reader = DeviceLines()
    good, said = reader.feed(data * 3, 0.0)
    assert (good, codes(said)) == ([], [code])
    good, said = reader.feed(b"\n" + sent(line()), 0.0)
    assert [each.seq for each in good] == [1]


def signed(**more: Any) -> bytes:
    """A line with a right checksum and whatever in it."""
    fields = {**json.loads(written_line(line())), **more}
    fields.pop("sum")
    text = json.dumps(fields, sort_keys=True, separators=(",", ":"), ensure_ascii=False)
    return json.dumps({**fields, "sum": f"{zlib.crc32(text.encode()):08x}"}).encode() + b"\n"


@pytest.mark.parametrize(
    ("more", "code", "word"),
    [
        ({"unit": "gon"}, "unknown-unit", "staff in gon"),
        ({"quantity": "weather"}, "not-understood", "quantity"),
        ({"value": "much"}, "not-understood", "value"),
        ({"at": "yesterday"}, "not-understood", "at"),
        ({"at": "2027-03-02T06:40:12"}, "not-understood", "at"),
        ({"naveta": 2}, "not-understood", "naveta"),
        ({"face": "up"}, "not-understood", "face"),
        ({"seq": 0}, "not-understood", "seq"),
    ],
)
def test_a_line_that_cannot_be_used_says_why(more: dict[str, Any], code: str, word: str) -> None:
    good, said = DeviceLines().feed(signed(**more), 0.0)
    assert (good, codes(said)) == ([], [code])
    assert word in said[0].text


def test_sent_twice_is_read_once_without_a_word() -> None:
    reader = DeviceLines()
    reader.feed(sent(line(1), line(2), line(3)), 0.0)
    good, said = reader.feed(sent(line(2), line(3), line(4)), 1.0)
    assert ([each.seq for each in good], said) == ([4], [])


def test_missing_ones_are_counted_and_numbers_that_jump_back_left_out() -> None:
    reader = DeviceLines()
    reader.feed(sent(line(5)), 0.0)
    good, said = reader.feed(sent(line(8)), 0.0)
    assert ([each.seq for each in good], said[0].text) == ([8], "level-1: two readings did not arrive.")
    good, said = reader.feed(sent(line(6), line(7)), 0.0)
    assert (good, codes(said)) == ([], ["jumps-back"])


def test_a_device_switched_on_again_begins_at_one_and_two_of_one_name_are_distinguished() -> None:
    reader = DeviceLines()
    reader.feed(sent(line(40)), 0.0)
    good, said = reader.feed(sent(line(1, run="11111111")), 0.0)
    assert ([each.seq for each in good], said) == ([1], [])
    good, said = reader.feed(sent(line(41)), 0.0)
    assert (good, codes(said)) == ([], ["two-devices"])


def test_a_thousand_a_second_are_bounded_and_said_once() -> None:
    reader = DeviceLines()
    good, said = reader.feed(sent(*(line(i) for i in range(1, 1001))), 7.2)
    assert (len(good), codes(said)) == (200, ["too-many-readings"])
    assert good[-1].seq == 200
    good, said = reader.feed(sent(line(1001)), 8.0)
    assert ([each.seq for each in good], codes(said)) == ([1001], ["readings-missing"])


def test_what_is_remembered_is_bounded() -> None:
    reader = DeviceLines()
    for i in range(1, 3001):
        reader.feed(sent(line(i)), i / 100)
    assert len(reader._devices["level-1"].seen) == 500


def test_a_levels_readings_reduce_to_its_hidden_error() -> None:
    level = next(device for device in yard_of(4, readings=4) if isinstance(device, LevelStandIn))
    shots = level.shots()
    setups = []
    for distances in ((30, 30), (56, 4)):
        sights = [[next(shots)[0][1] for _ in range(4)] for _ in distances]
        setups.append(
            {
                name: {"distance": f"{d}", "readings": read}
                for name, d, read in zip("ab", distances, sights, strict=True)
            }
        )
    looks = {"bubble_holds": "yes", "line_returns": "yes"}
    document = document_of(
        {"kind": "two-peg", "units": {"length": "m"}, "observations": {"setups": setups, "looks": looks},
         "instrument": {"kind": "level", "reading": "digital"}}
    )  # fmt: skip
    result = DOCUMENTS["two-peg"].reduce(document).plain()["result"]
    assert result["collimation_arcsec"] == pytest.approx(level.collimation_arcsec, abs=3.0)


def degrees(packed: str) -> float:
    """102.43055 is 102°43′05.5″."""
    whole, digits = packed.split(".")
    return int(whole) + int(digits[:2]) / 60 + float(f"{digits[2:4]}.{digits[4:]}") / 3600


def test_a_total_station_shows_its_hidden_errors_between_the_faces() -> None:
    station = next(device for device in yard_of(4) if isinstance(device, TotalStationStandIn))
    shots = station.shots()
    pointings = [next(shots) for _ in range(22)]
    assert [face for (_, _, _, face), _ in pointings] == ["left"] * 10 + ["right"] * 10 + ["left"] * 2
    by_face = {
        face: [
            (degrees(hz), degrees(v))
            for (_, hz, _, shown), (_, v, _, _) in pointings[first : first + 5]
            if shown == face
        ]
        for face, first in (("left", 0), ("right", 15))
    }
    left, right = ([sum(c) / 5 for c in zip(*by_face[face], strict=True)] for face in ("left", "right"))
    c = ((left[0] - right[0] + 180.0 + 180.0) % 360.0 - 180.0) / 2 * 3600
    i = (left[1] + right[1] - 360.0) / 2 * 3600
    assert abs(c) == pytest.approx(abs(station.instrument.c), abs=4.0)
    assert i == pytest.approx(station.instrument.i, abs=4.0)


def test_an_electronic_level_sends_both_figures_five_times_a_second() -> None:
    level = next(device for device in yard_of(4) if isinstance(device, ElectronicLevelStandIn))
    shots = level.shots()
    along = [float(next(shots)[0][1]) for _ in range(50)]
    assert level.every_s == 0.2
    assert sum(along) / 50 == pytest.approx(level.along_arcsec, abs=2.0)


def port_of(process: subprocess.Popen[str]) -> int:
    """Return the port a stand-in reports in its next line; the kernel chose it."""
    assert process.stdout
    return int(process.stdout.readline().rsplit(" ", 1)[1])


def received(port: int, lines: int) -> bytes:
    """Return what a port sends, once it is at least so many lines."""
    with socket.create_connection(("127.0.0.1", port), timeout=10) as link:
        data = b""
        while data.count(b"\n") < lines:
            data += link.recv(4096)
        return data


def test_served_recorded_and_replayed_by_tcp_with_the_link_cut_in_between(tmp_path: Path) -> None:
    command = [
        sys.executable,
        "-m",
        "naveta_practice.serving",
        "serve",
        "--port",
        "0",
        "--seed",
        "4",
        "--faster",
        "100",
    ]
    served = subprocess.Popen(command, stdout=subprocess.PIPE, text=True)
    try:
        port = port_of(served)
        first, second = received(port, 6), received(port, 60)
    finally:
        served.terminate()
        served.wait(timeout=10)
    reader = DeviceLines()
    good, said = reader.feed(first[: first.rindex(b"\n") + 1], 0.0)
    more, said_later = reader.feed(second[: second.rindex(b"\n") + 1], 1.0)
    numbers = [each.seq for each in (*good, *more)]
    assert numbers == list(range(1, numbers[-1] + 1)), "nothing lost, nothing doubled"
    assert (said, said_later) == ([], [])
    file = tmp_path / "field.ndjson"
    file.write_bytes(sent(*good))
    command = [
        sys.executable,
        "-m",
        "naveta_practice.serving",
        "replay",
        str(file),
        "--port",
        "0",
        "--every",
        "0",
    ]
    replayed = subprocess.Popen(command, stdout=subprocess.PIPE, text=True)
    try:
        again = port_of(replayed)
        assert DeviceLines().feed(received(again, len(good)), 0.0)[0] == good
        kept = tmp_path / "recorded.ndjson"
        subprocess.run(
            [sys.executable, "-m", "naveta_practice.serving", "record", str(again), str(kept)], timeout=30, check=True
        )
        assert kept.read_bytes() == file.read_bytes()
    finally:
        replayed.terminate()
        replayed.wait(timeout=10)


def test_by_hand_a_shot_for_each_number_and_other_words_are_refused() -> None:
    command = [sys.executable, "-m", "naveta_practice.serving", "serve", "--by-hand", "--seed", "4", "--port"]
    served = subprocess.Popen([*command, "0"], stdin=subprocess.PIPE, stdout=subprocess.PIPE, text=True)
    assert served.stdin
    assert served.stdout
    try:
        assert [served.stdout.readline().split(":")[0] for _ in range(3)] == [
            "level-1",
            "station-1",
            "electronic-level-1",
        ]
        answers = []
        for asked in ("1", "", "2", "9", "3 tilt 12", "1 tilt 12 -40", "3 tilt 12 -40"):
            served.stdin.write(f"{asked}\n")
            served.stdin.flush()
            answers.append(served.stdout.readline())
            if asked == "2":
                answers.append(served.stdout.readline())
    finally:
        served.terminate()
        served.wait(timeout=10)
    (first, again, hz, v, *refused, tilted) = answers
    assert [json.loads(line)["seq"] for line in (first, again)] == [1, 2]
    assert [json.loads(line)["quantity"] for line in (hz, v)] == ["hz", "v"]
    assert refused[0] == "9: wanted is the number of a device, 1 to 3\n"
    assert all("wanted is `tilt ALONG ACROSS` of an electronic level" in line for line in refused[1:])
    assert tilted == "electronic-level-1 is tilted\n"


def test_a_port_that_is_taken_is_said() -> None:
    with socket.socket() as taken:
        taken.bind(("127.0.0.1", 0))
        taken.listen()
        command = [sys.executable, "-m", "naveta_practice.serving", "serve", "--port", str(taken.getsockname()[1])]
        done = subprocess.run(command, capture_output=True, text=True, timeout=30, check=False)
    assert done.returncode == 1
    assert done.stderr.startswith("naveta-sim:")


def test_what_was_kept_for_a_minute_comes_at_once_and_is_whole() -> None:
    """Five readings a second for a minute, read together once somebody reads again."""
    kept = [line(i, at=f"2027-03-02T06:{40 + i // 300:02d}:{i // 5 % 60:02d}+00:00") for i in range(1, 301)]
    good, said = DeviceLines().feed(sent(*kept), 12.0)
    assert ([each.seq for each in good], said) == (list(range(1, 301)), [])


def test_a_reader_that_reported_something_reads_on() -> None:
    """As the page asks: what was answered goes back with the next question, as plain data."""

    def asked(data: bytes, state: Any) -> Any:
        question = {"verb": "readings-arrive", "text": data.decode(), "clock_s": 3.0, "state": state}
        return json.loads(json.dumps(arrive(json.loads(json.dumps(question))).plain()))

    first = asked(b"no line\n" + sent(line(1), line(5)), None)
    assert [each["code"] for each in first["messages"]] == ["not-a-line", "readings-missing"]
    second = asked(sent(line(6)), first["state"])
    assert ([each["seq"] for each in second["lines"]], second["messages"]) == ([6], [])
