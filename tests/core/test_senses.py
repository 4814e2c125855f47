"""Displays that count the other way and screws with the other thread: one place turns figures into canonical ones."""

from __future__ import annotations

import copy
import json
from itertools import product
from math import cos, hypot, radians, sin
from typing import Any

import pytest

from naveta_core.registry import document_of
from tests.core.plain import adjusting_of, guided, previewed, reduce_of

Data = dict[str, Any]
AT = "2027-03-02T06:40:00+00:00"
SENSES = list(product(("high-forward", "low-forward"), ("high-right", "high-left")))
STAND = 180.0
SCREWS = (0.0, 120.0, 240.0)


def display(along: str, across: str) -> Data:
    return {"along_positive": along, "across_positive": across}


def signs(along: str, across: str) -> tuple[int, int]:
    return (1 if along == "high-forward" else -1, 1 if across == "high-right" else -1)


def shown(tilt: tuple[float, float], index: tuple[float, float], senses: tuple[str, str]) -> Data:
    """What such a level shows of a tilt's high-side vector (east, north), the sight due north of a person in the south."""
    east, north = tilt
    a, c = signs(*senses)
    return {"along": f"{a * (north + index[0]):.2f}", "across": f"{c * (east + index[1]):.2f}"}


def set_up(senses: tuple[str, str], level: Data, stored: Data | None = None, **more: Any) -> Data:
    instrument = {"kind": "total-station", "display": display(*senses), "plummet": "laser", **more}
    observations = {
        "method": "level-first",
        "mark": {"name": "PC-07"},
        "stand_bearing_deg": STAND,
        "options": {"level_type": "electronic"},
        "log": [{"step": "plate", "saw": {"level": level}}],
    }
    return {"kind": "set-up", "instrument": instrument, "stored": stored or {}, "observations": observations}


def turned(tilt: tuple[float, float], turns: Data, *, raises: bool = True) -> tuple[float, float]:
    """The tilt after foot screws on a circle of 50 mm with 0.7 mm a turn were turned: the plane through their tips."""
    rises = [(1 if raises else -1) * 0.7 * turns.get(str(i + 1), 0.0) for i in range(3)]
    mean = sum(rises) / 3
    east, north = tilt
    for rise, bearing in zip(rises, SCREWS, strict=True):
        east += (rise - mean) * sin(radians(bearing)) * 2 / 3 / 50 * 206264.8
        north += (rise - mean) * cos(radians(bearing)) * 2 / 3 / 50 * 206264.8
    return east, north


@pytest.mark.parametrize("senses", SENSES)
@pytest.mark.parametrize("thread", ["clockwise-raises", "clockwise-lowers", None])
def test_the_screws_bring_the_axis_plumb_whatever_display_and_thread(
    senses: tuple[str, str], thread: str | None
) -> None:
    """Rounds of advice followed to the letter; the index is known and comes off in the same sense."""
    index, stored = (14.0, -9.0), {"index_along_arcsec": 14.0, "index_across_arcsec": -9.0, "sigma_index_arcsec": 0.5}
    more = {} if thread is None else {"foot_screws": thread}
    tilt = (130.0, -85.0)
    for _ in range(3):
        document = set_up(senses, shown(tilt, index, senses), stored, **more)
        advice = guided(document, None, AT, "plate")["advice"]
        if advice is None or not (advice.get("result") or {}).get("turns"):
            break
        tilt = turned(tilt, advice["result"]["turns"], raises=thread != "clockwise-lowers")
    assert hypot(*tilt) < 3.0


@pytest.mark.parametrize("senses", SENSES)
def test_the_end_is_judged_in_one_sense(senses: tuple[str, str]) -> None:
    """Tilt 4″ east and 3″ south; index 12″ forward and −7″ right: whatever the display counts."""
    first, index = shown((4.0, -3.0), (12.0, -7.0), senses), (12.0, -7.0)
    turned_round = shown((-4.0, 3.0), index, senses)
    document = set_up(senses, {})
    document["observations"].update(
        level={"by": "electronic", "first": first, "turned": turned_round},
        centring_mm="0.2",
        height={"readings": ["1.55", "1.55"]},
        log=[],
    )
    result = previewed(document, None, AT)["reduced"]["result"]
    assert result["tilt_arcsec"] == pytest.approx(5.0, abs=0.01)
    assert (result["index_along_arcsec"], result["index_across_arcsec"]) == (pytest.approx(12.0), pytest.approx(-7.0))


@pytest.mark.parametrize("senses", SENSES)
def test_a_known_index_is_taken_off_in_the_same_sense(senses: tuple[str, str]) -> None:
    stored = {"index_along_arcsec": 12.0, "index_across_arcsec": -7.0, "sigma_index_arcsec": 0.5}
    document = set_up(senses, {}, stored)
    document["observations"].update(
        level={"by": "electronic", "first": shown((4.0, -3.0), (12.0, -7.0), senses)},
        centring_mm="0.2",
        height={"readings": ["1.55", "1.55"]},
        log=[],
    )
    assert previewed(document, None, AT)["reduced"]["result"]["tilt_arcsec"] == pytest.approx(5.0, abs=0.01)
    hint = next(hint["text"] for hint in guided(document, None, AT, "plate")["tips"] if hint["code"] == "index-known")
    a, c = signs(*senses)
    assert f"{a * 12:+.0f}″ along and {c * -7:+.0f}″ across".replace("-", "−") in hint, "as this display shows them"


def dual(senses: tuple[str, str], index: tuple[float, float], before: tuple[str, str], **more: Any) -> Data:
    rows = []
    for heading in (0, 90, 180, 270):
        t = radians(heading)
        tilt = (6.0 * cos(t) - 2.0 * sin(t), 6.0 * sin(t) + 2.0 * cos(t))
        found = shown(tilt, index, senses)
        rows.append({"heading_deg": str(heading), "along_arcsec": found["along"], "across_arcsec": found["across"]})
    observations = {"readings": rows, "before_along_arcsec": before[0], "before_across_arcsec": before[1], **more}
    instrument = {
        "kind": "total-station",
        "display": display(*senses),
        "stores": "error",
        "angle_accuracy_arcsec": 1,
        "electronic_level_step_arcsec": 0.1,
    }
    return {"kind": "dual-axis-level", "instrument": instrument, "observations": observations}


@pytest.mark.parametrize("senses", SENSES)
def test_storing_takes_the_error_away_and_the_second_round_proves_it(senses: tuple[str, str]) -> None:
    """The instrument takes what it shows too much, in its own counting; given back in that counting it comes to nothing."""
    a, c = signs(*senses)
    index = (21.0, -16.0)
    document = document_of(dual(senses, index, ("3", "-2")))
    text = adjusting_of("dual-axis-level", document, [])["text"].replace("−", "-")
    assert f"to {3 + a * 21:+.1f}″" in text
    assert f"to {-2 + c * -16:+.1f}″" in text
    found = reduce_of("dual-axis-level", document)["result"]
    carried = {
        name: found[name]
        for name in (
            "index_along_arcsec",
            "index_across_arcsec",
            "sigma_index_along_arcsec",
            "sigma_index_across_arcsec",
        )
    }
    proved = dual(senses, (0.0, 0.0), (f"{3 + a * 21}", f"{-2 + c * -16}"), found=carried)
    result = reduce_of("dual-axis-level", document_of(json.loads(json.dumps(proved))))
    assert [reason["code"] for reason in result["verdict"]["reasons"]].count("stored-and-proved") == 2


def test_what_can_be_tried_uses_the_same_senses() -> None:
    plain = set_up(SENSES[0], shown((50.0, 20.0), (0.0, 0.0), SENSES[0]))
    other = set_up(SENSES[3], shown((50.0, 20.0), (0.0, 0.0), SENSES[3]), foot_screws="clockwise-lowers")
    tried = [guided(copy.deepcopy(document_), None, AT, "plate")["trial"]["question"] for document_ in (plain, other)]
    assert tried[0]["tilt"] == pytest.approx(tried[1]["tilt"])
    assert tried[1]["tribrach"]["clockwise_from_above"] == "lowers"
