"""Documents nobody would type, by the ten thousand: every answer is a result or faults of the core's own, and none is slow.

Filled documents of every kind, and questions for advice, are changed at one to three places; what comes back must be a
result or an error of ours whose faults all have a path, what was given and what is wanted, on one line each.
"""

from __future__ import annotations

import copy
import json
import random
import time
from collections.abc import Iterator
from pathlib import Path
from typing import Any

from naveta_core import dispatch
from naveta_core.errors import NavetaError, Refused
from tests.core.plain import adjusting_steps, advise, guided, known, previewed

Data = dict[str, Any]
EXAMPLES = Path(__file__).parent.parent / "examples"
DOCUMENTS = Path(__file__).parents[3] / "docs/examples"
AT = "2027-03-02T06:40:00+00:00"
TOTAL_STATION = known({"kind": "total-station"})
SLOW_S = 1.0
NASTY: tuple[Any, ...] = (
    None,
    True,
    False,
    0,
    -1,
    1,
    2,
    3,
    90,
    180,
    360,
    1e-300,
    1e-308,
    1e300,
    -1e300,
    1e16,
    25_000,
    0.1,
    -0.0,
    "",
    " ",
    "0",
    "1",
    "-1",
    "90",
    "90.0000",
    "360",
    "1e5",
    "1.6.2",
    "12 mm",
    "5'3 1/4\"",
    "9" * 40,
    "٣",
    "NaN",
    "−4",
    "x" * 3000,
    "yes",
    "no",
    "left",
    "tape",
    "clockwise",
    "\u0000",
    "１２",
    "_",
    "2027-03-02T06:40",
    "2027-13-45",
    AT,
    "0001-01-01T00:00:00+14:00",
    [],
    {},
    [[]],
    [{}],
    [None],
    {"a": 1},
    ["1", "2"],
    [{}, {}],
    {"x": {"y": []}},
)
GROWN: tuple[Data, ...] = (
    {"instrument": {"magnification": 1e300}},
    {"instrument": {"angle_accuracy_arcsec": 1e-300}},
    {"instrument": {"prior": {"a": 1e300}}},
    {"work": {"elevation_deg": 90}},
    {"work": {"sight_m": 25_000}},
    {"work": {"sight_m": 1e-300}},
    {"work": None},
    {"before_at": "2027-03-02T06:40:00"},
    {"before_at": AT, "before": [{"check": "two-peg", "at": "x", "grade": "use", "result": {}}]},
    {
        "before_at": AT,
        "before": [{"check": "two-face", "at": AT, "grade": "use", "result": {"collimation_arcsec": None}}],
    },
    {"before_at": AT, "before": [{"check": "plate-vial", "at": AT, "grade": "use", "result": {"reversal_div": "1"}}]},
    {"stored": {"index_along_arcsec": 1e300}},
    {"stored": {"reversal_div": 1e300, "range": 1e-300}},
    {"limits": {"collimation_arcsec": {"use": 1e-300}}},
    {"limits": {"x": {"use": 1e300}}},
    {"conditions": {"temperature_c": -60}},
    {"units": {"length": "usft", "angle": "gon"}},
    {"instrument": {"noise": {"factor": 1e300, "dof": 1e-300}}},
)


SAW = [
    {"step": "near", "saw": {"spot": {"bearing_deg": 40, "distance_mm": 30}}},
    {"step": "press-feet", "confirmed": True},
    {"step": "circular", "saw": {"bubble_aside": {"right": "2", "away": "-1"}}},
    {"step": "plate", "saw": {"level": {"along": "12", "across": "-7"}}},
    {"step": "slide", "saw": {"spot_aside": {"right": "1.5", "away": "0"}}},
]
END = {
    "level": {"first": {"along": "3", "across": "-2"}, "turned": {"along": "1", "across": "4"}},
    "centring_mm": "0.4",
    "height": {"readings": ["1.552", "1.551"]},
}
SET_UPS: tuple[Data, ...] = (
    {
        "kind": "set-up",
        "work": {"sight_m": 40},
        "observations": {"method": "plummet-first", "mark": {"name": "PC-07"}, "log": SAW, **END},
    },
    {
        "kind": "set-up",
        "observations": {
            "method": "plumb-bob",
            "tribrach": {"screws": 4},
            "mark": {"name": "PC-07"},
            "level": {"by": "plate"},
            "log": [
                {
                    "step": "bob",
                    "saw": {"swing": {"here": {"left": "-3", "right": "2"}, "round": {"left": "-1", "right": "4"}}},
                }
            ],
        },
    },
    {
        "kind": "set-up",
        "instrument": {"kind": "level"},
        "observations": {"method": "no-point", "ring_holds": "yes", "log": SAW[:3]},
    },
)
QUESTIONS: tuple[Data, ...] = (
    {"advice": "legs", "bubble": {"bearing_deg": 40, "offset_mm": 3}, "tripod": {"foot_spacing_m": 1.0}},
    {"advice": "shift", "move": {"bearing_deg": 0, "distance_mm": 20}},
    {"advice": "slide", "offset": {"bearing_deg": 0, "distance_mm": 8}, "slide_range_mm": 20},
    {
        "advice": "screws",
        "tilt": {"bearing_deg": 30, "arcsec": 90},
        "stand_bearing_deg": 180,
        "tribrach": {"screws": 4},
    },
    {"advice": "screws", "vials": [{"bearing_deg": 90, "bubble_div": 1.5}, {"bearing_deg": 0, "bubble_div": -1}]},
    {"advice": "tripod-height", "eye_height_m": 1.7, "slope_deg": 8},
    {"advice": "instrument-height", "slope": "1.612", "radius_mm": 112},
    {"advice": "effect", "centring_mm": 2, "tilt_arcsec": 20, "sights": {"back_m": 20, "fore_m": 60}},
    {"advice": "budget", "back_m": 20, "fore_m": 60, "elevation_deg": 30},
    {"advice": "budget", "levelling": True, "imbalance_m": 12},
    {"advice": "pointing", "distance_m": 60},
    {"advice": "targets", "targets": [{"distance_m": 100}, {"distance_m": 30}]},
    {"advice": "steep-target", "height_m": 12, "distance_m": 20},
    {
        "advice": "bob",
        "views": [{"bearing_deg": 0, "left_mm": -3, "right_mm": 2}, {"bearing_deg": 90, "left_mm": 0, "right_mm": 1}],
    },
    {"advice": "head-tilt", "tilt_deg": 2.5},
    {"advice": "lean", "lean_deg": 0.5, "stands_out_mm": 300},
    {"advice": "turned-angle", "start": "10.0000", "end": "102.4305"},
    {"advice": "square", "one_m": 3, "two_m": 4, "diagonal_m": 5},
    {"advice": "what-if", "bubble": {"bearing_deg": 40, "offset_mm": 3}, "legs_mm": {"A": 2}},
)


def bases() -> list[Data]:
    """Every example's document and question."""
    found = [json.loads(path.read_text())["document"] for path in sorted(EXAMPLES.glob("*.json"))]
    found += [json.loads(path.read_text()) for path in sorted(DOCUMENTS.glob("*.json"))]
    return [*found, *SET_UPS, *QUESTIONS]


def places(data: Any, path: tuple[Any, ...] = ()) -> Iterator[tuple[Any, ...]]:
    """The path of everything in a document."""
    if path:
        yield path
    if isinstance(data, dict):
        for key, value in data.items():
            yield from places(value, (*path, key))
    elif isinstance(data, list):
        for i, value in enumerate(data[:6]):
            yield from places(value, (*path, i))


def mutated(rng: random.Random, base: Data) -> Data:
    """A document changed at one to three places."""
    data = copy.deepcopy(base)
    if rng.random() < 0.3:
        for key, value in rng.choice(GROWN).items():
            data[key] = {**data[key], **value} if isinstance(data.get(key), dict) and isinstance(value, dict) else value
    for _ in range(rng.randint(0, 3)):
        every = list(places(data))
        if not every:
            return data
        *method, last = rng.choice(every)
        holder = data
        for step in method:
            holder = holder[step]
        _change(rng, holder, last)
    return data


def _change(rng: random.Random, holder: Any, last: Any) -> None:
    what = rng.random()
    if what < 0.6:
        holder[last] = copy.deepcopy(rng.choice(NASTY))
    elif what < 0.75:
        del holder[last]
    elif isinstance(holder, list):
        holder.extend([copy.deepcopy(holder[last])] * rng.choice((1, 1, 1, 30)))
    elif what < 0.9:
        holder[rng.choice(("odd[", "x.y", "", "kind", "observations", "Ω"))] = copy.deepcopy(rng.choice(NASTY))
    else:
        holder[last] = [copy.deepcopy(holder[last])]


def asked(rng: random.Random, data: Data) -> None:
    """Put it to the core as a page would: preview, and sometimes the rest."""
    if "advice" in data:
        advise(data)
        return
    previewed(data, None, AT)
    if data.get("kind") == "set-up":
        guided(data, None, AT, rng.choice((None, "plate", "circular", "slide")))
    if rng.random() < 0.25:
        dispatch.reduce(data, TOTAL_STATION, AT)
    if rng.random() < 0.1:
        adjusting_steps(data, [copy.deepcopy(rng.choice(NASTY))])


def wrong(rng: random.Random, base: Data) -> str | None:
    """What is wrong with how the core takes one changed document; None when nothing is."""
    data = mutated(rng, base)
    begun = time.process_time()
    try:
        asked(rng, data)
    except Refused as error:
        for fault in error.faults:
            if not (fault.path and fault.wanted) or "\n" in str(fault):
                return f"a fault without path, or over several lines: {fault!r}\n{json.dumps(data)[:1500]}"
    except NavetaError:
        pass
    except RecursionError:
        return f"too deep: {json.dumps(data)[:300]}"
    except Exception as error:
        return f"{type(error).__name__}: {error}\n{json.dumps(data, default=str)[:1500]}"
    spent = time.process_time() - begun
    return f"{spent:.2f} s: {json.dumps(data)[:1500]}" if spent > SLOW_S else None


def run(seed: int, count: int, most: int = 20) -> list[str]:
    """What went wrong in `count` changed documents, at most `most` of them."""
    rng, listed, found = random.Random(seed), bases(), list[str]()
    for _ in range(count):
        outcome = wrong(rng, rng.choice(listed))
        if outcome:
            found.append(outcome)
            if len(found) >= most:
                break
    return found
