"""The bridge: lines from TCP and serial port to a WebSocket, cut, taken up again, and whom it refuses."""

from __future__ import annotations

import json
import os
import socket
import subprocess
import sys
import threading
from collections.abc import Iterator
from contextlib import contextmanager
from typing import Any

import pytest
from websockets.exceptions import InvalidStatus
from websockets.sync.client import ClientConnection, connect

from bridge.lines import KEPT, Cutter, Lines
from bridge.sources import SerialPort, Tcp, source_of


class Adapter:
    """Something that sends lines to whoever connects to its port."""

    def __init__(self, port: int = 0) -> None:
        self.listener = socket.create_server(("127.0.0.1", port))
        self.port = self.listener.getsockname()[1]
        self.links: list[socket.socket] = []
        self.linked = threading.Event()
        threading.Thread(target=self._accept, daemon=True).start()

    def _accept(self) -> None:
        while True:
            try:
                self.links.append(self.listener.accept()[0])
                self.linked.set()
            except OSError:
                return

    def send(self, text: str) -> None:
        assert self.linked.wait(10), "nobody connected"
        self.links[-1].sendall(text.encode())

    def close(self) -> None:
        for link in self.links:
            link.shutdown(socket.SHUT_RDWR)
            link.close()
        self.listener.shutdown(socket.SHUT_RDWR)
        self.listener.close()


@contextmanager
def bridged(*sources: str) -> Iterator[str]:
    """A bridge that runs, and its address."""
    command = [sys.executable, "-m", "bridge", *sources, "--port", "0", "--page", "https://naveta.example"]
    process = subprocess.Popen(command, stdout=subprocess.PIPE, text=True)
    try:
        assert process.stdout
        yield process.stdout.readline().split()[-1]
    finally:
        process.terminate()
        process.wait(timeout=10)


def received(browser: ClientConnection, count: int) -> list[list[Any]]:
    """So many lines with their numbers, whatever else is stated between them."""
    found: list[list[Any]] = []
    while len(found) < count:
        found += json.loads(browser.recv(timeout=10)).get("lines", [])
    return found


def there(browser: ClientConnection, source: str, wanted: bool) -> None:
    """Wait until the bridge says whether a source is there."""
    while json.loads(browser.recv(timeout=10)).get("sources", {}).get(source) is not wanted:
        pass


def test_lines_pass_with_their_numbers_and_a_late_browser_gets_only_what_comes() -> None:
    adapter = Adapter()
    with bridged(f"tcp:127.0.0.1:{adapter.port}") as address, connect(address) as early:
        begins = json.loads(early.recv(timeout=10))
        assert begins["last"] == 0
        adapter.send("one\ntwo\nthr")
        adapter.send("ee\n\n")
        assert received(early, 3) == [[1, "one"], [2, "two"], [3, "three"]]
        with connect(address) as late:
            assert json.loads(late.recv(timeout=10))["last"] == 3
            adapter.send("four\n")
            assert received(late, 1) == [[4, "four"]]
        with connect(f"{address}/?after={begins['run']}-2") as back:
            assert json.loads(back.recv(timeout=10))["last"] == 2
            assert received(back, 2) == [[3, "three"], [4, "four"]]
        with connect(f"{address}/?after=otherrun-2") as other:
            # It knew the bridge before it was started again: it is given all, and its reader knows what it has.
            assert json.loads(other.recv(timeout=10))["last"] == 0
            assert len(received(other, 4)) == 4
    adapter.close()


def test_a_source_that_goes_is_said_and_taken_up_again_without_half_a_line() -> None:
    adapter = Adapter()
    name = f"tcp:127.0.0.1:{adapter.port}"
    with bridged(name) as address, connect(address) as browser:
        adapter.send("one\nhal")
        assert received(browser, 1) == [[1, "one"]]
        adapter.close()
        there(browser, name, False)
        again = Adapter(adapter.port)
        again.send("half\n")
        assert received(browser, 1) == [[2, "half"]]
        again.close()


def test_a_serial_port_is_read_and_one_that_is_taken_away_is_said() -> None:
    ours, theirs = os.openpty()
    name = f"serial:{os.ttyname(theirs)}:19200"
    with bridged(name) as address, connect(address) as browser:
        there(browser, name, True)
        os.write(ours, b"one\ntwo\n")
        assert received(browser, 2) == [[1, "one"], [2, "two"]]
        os.close(theirs)
        os.close(ours)
        there(browser, name, False)


@pytest.mark.parametrize(
    ("origin", "served"),
    [
        ("http://127.0.0.1:8000", True),
        ("http://localhost:8123", True),
        ("https://naveta.example", True),
        ("https://elsewhere.example", False),
        ("http://127.0.0.1.elsewhere.example", False),
        ("http://localhost:8000.elsewhere.example", False),
    ],
)
def test_only_pages_of_this_machine_and_named_ones_are_served(origin: str, served: bool) -> None:
    with bridged("tcp:127.0.0.1:1") as address:
        if served:
            with connect(address, origin=origin) as browser:  # type: ignore[arg-type]
                assert "run" in json.loads(browser.recv(timeout=10))
        else:
            with pytest.raises(InvalidStatus):
                connect(address, origin=origin)  # type: ignore[arg-type]


def test_so_many_lines_are_kept_and_no_more() -> None:
    lines = Lines()
    for i in range(KEPT + 500):
        lines.add(str(i))
    assert len(lines.kept) == KEPT
    assert lines.after(0)[0] == (501, "500")
    assert lines.after(lines.last) == []


def test_what_never_ends_is_passed_on_cut() -> None:
    cutter = Cutter()
    assert cutter.cut(b"x" * 900) == []
    (found,) = cutter.cut(b"x" * 900)
    assert len(found) == 1001
    assert cutter.cut(b"one\n") == ["one"]


@pytest.mark.parametrize("text", ["tcp:here", "tcp::4100", "tcp:host:0", "tcp:host:99999", "serial:", "usb:1", ""])
def test_a_source_that_is_none_is_refused_in_words(text: str) -> None:
    with pytest.raises(ValueError, match="wanted is tcp:HOST:PORT"):
        source_of(text)


def test_sources_as_they_are_written() -> None:
    assert source_of("tcp:10.0.0.5:4100") == Tcp("10.0.0.5", 4100)
    assert source_of("serial:/dev/ttyUSB0") == SerialPort("/dev/ttyUSB0", 9600)
    assert source_of("serial:COM3:115200") == SerialPort("COM3", 115200)
