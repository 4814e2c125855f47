"""Every fact a model may state and every setting changes some answer: what is asked and read nowhere fails here."""

from __future__ import annotations

import json
import random
from functools import cache
from pathlib import Path
from typing import Any

import pytest

from naveta_core.checks import KINDS, kinds_for
from naveta_core.dispatch import reduce
from naveta_core.documents.envelope import Display, Instrument, Work
from naveta_core.errors import Refused
from naveta_core.history.standing import Standing
from naveta_core.jobs.accuracy import Practice
from naveta_core.jobs.fitness import Candidate, fitness_of
from naveta_core.jobs.needs import JobNeeds
from naveta_core.registry import document_of
from naveta_core.setup.document import Options
from naveta_core.setup.guide import guide
from naveta_core.setup.methods import SET_UP_METHODS, fitting, steps_of
from naveta_core.units.formatting import length_words
from naveta_sim import simulate
from tests.core.orientation.world import creek

EXAMPLES = sorted((Path(__file__).parent / "examples").glob("*.json"))
LEVEL, STATION = {"kind": "level"}, {"kind": "total-station", "plummet": "laser", "plummet_place": "turning"}
THEODOLITE = {"kind": "theodolite", "plummet": "optical"}
STORED = ["10 5 3"]
"""Values the instrument shows as stored, where a kind asks for them."""
AT = "2027-03-02T08:00:00+00:00"
READY = Standing(state="ready", reasons=[])
NEEDS = JobNeeds(
    position_mm=6.0, angle_arcsec=20.0, levelling_mm=3.0, sight_m=60.0, back_m=60.0, elevation_deg=30.0, imbalance_m=10.0,
)  # fmt: skip
SAW = {
    "circular": {"bubble": {"bearing_deg": 40, "offset_mm": 3}},
    "circular-screws": {"bubble": {"bearing_deg": 40, "offset_mm": 1}},
    "plate": {"level": {"along": "80", "across": "-60"}},
    "near": {"spot": {"bearing_deg": 90, "distance_mm": 40}},
    "shift": {"spot": {"bearing_deg": 90, "distance_mm": 12}},
    "slide": {"spot": {"bearing_deg": 90, "distance_mm": 3}},
}
END = {
    "mark": {"name": "PC-14"},
    "level": {"first": {"along": "12", "across": "4"}, "turned": {"along": "-6", "across": "6"}},
    "centring_mm": "0.4",
    "height": {"readings": ["1.562", "1.5628"]},
    "final_check_done": True,
}
Data = dict[str, Any]


def plain(ask: Any) -> Any:
    """An answer as plain data; a refusal as what it says."""
    try:
        found = ask()
        return found.plain() if hasattr(found, "plain") else found
    except Refused as error:
        return [(fault.path, fault.wanted) for fault in error.faults]


def checks(instrument: Data, work: Data) -> list[Any]:
    found: list[Any] = [
        [kind.name, kind.condition_for(Instrument(**instrument))] for kind in kinds_for(Instrument(**instrument))
    ]
    given = [json.loads(path.read_text())["document"] for path in EXAMPLES]
    for document in (*given, simulate("two-face", random.Random(1), {"c": 40.0, "i": 30.0, "noise": 0.0})):
        if instrument["kind"] not in KINDS[document["kind"]].applies_to:
            continue
        own = {**document.get("instrument", {}), **instrument}
        document["observations"].pop("sensitivity_arcsec_per_div", None)  # typed on the sheet it comes first
        asked = {**document, "instrument": own, "work": work}
        found.append(plain(lambda asked=asked: reduce(asked, None, AT)))
        kind = KINDS[document["kind"]]
        found.append(kind.methods_for(Instrument(**instrument)))
        if kind.adjust:
            found.append(plain(lambda kind=kind, asked=asked: kind.adjusting(document_of(asked), STORED)))
    return found


def set_ups(instrument: Data, options: Data, work: Data) -> list[Any]:
    found: list[Any] = [plain(lambda: fitting(Instrument(**instrument)))]
    if instrument["kind"] in ("level", "tribrach"):
        return found
    for method in (SET_UP_METHODS["plummet-first"], SET_UP_METHODS["shift-by-leg"]):
        document = {
            "kind": "set-up",
            "instrument": instrument,
            "work": work,
            "observations": {"method": method.name, **END, "options": options},
        }
        found.append(plain(lambda document=document: reduce(document, None, AT)))
        for step in steps_of(method, instrument.get("plummet")):
            saw = [{"step": step.name, "saw": SAW[step.name]}] if step.name in SAW else []
            at = {**document, "observations": {**document["observations"], "log": saw}}
            found.append(plain(lambda at=at, step=step: guide(document_of(at), step.name)))
    return found


@cache
def _orientation() -> Data:
    return creek(4, random.Random(3)).free()


def others(instrument: Data) -> list[Any]:
    """What an orientation and a job make of it."""
    stated = Instrument(**instrument)
    candidate = Candidate("XX-01", "", stated, standing=READY)
    fit = plain(lambda: fitness_of(candidate, NEEDS, Practice(None, None), length_words("m"), AT))
    return [fit, plain(lambda: reduce({**_orientation(), "instrument": instrument}, None, AT))]


def answers(instrument: Data, options: Data | None = None, work: Data | None = None) -> str:
    """Everything that is answered about an instrument, as one text."""
    options, work = options or {}, work or {}
    told = [*checks(instrument, work), *set_ups(instrument, options, work), *others(instrument)]
    for each in told:
        if isinstance(each, dict):
            each.pop("document", None)  # the question itself, which repeats what was stated
    return json.dumps(told, default=str, sort_keys=True)


FACTS: dict[str, tuple[Data, Any, Any]] = {
    # of which instrument, and two values that must not come to the same
    "reading": (LEVEL, "optical", "digital"),
    "magnification": (STATION, 20.0, 40.0),
    "levelling_accuracy_mm_per_km": (LEVEL, 0.5, 2.5),
    "display": (STATION, Display(), Display(along_positive="low-forward")),
    "angle_accuracy_arcsec": (STATION, 1.0, 7.0),
    "distance_accuracy_mm": (STATION, 1.0, 8.0),
    "distance_accuracy_ppm": (STATION, 1.0, 40.0),
    "compensator_range_arcmin": (THEODOLITE, None, 4.0),
    "plunges": (STATION, True, False),
    "plummet": (STATION, "laser", "none"),
    "plummet_place": (STATION, "turning", "tribrach"),
    "plummet_adjustable": (STATION, True, False),
    "plate_vial": (STATION, True, False),
    "plate_vial_arcsec_per_div": (THEODOLITE, 20.0, 60.0),
    "circular_vial_arcmin_per_2mm": (LEVEL, 5.0, 20.0),
    "circular_vial_on": (STATION, "rotating", "tribrach"),
    "electronic_level": (STATION, True, False),
    "electronic_level_step_arcsec": (STATION, 1.0, 10.0),
    "bubble_step_arcsec": (STATION, 1.0, 20.0),
    "tilt_limit_arcmin": (STATION, 3.0, 6.0),
    "tilt_delay_s": ({**STATION, "tilt_limit_arcmin": 4.0}, 1.0, 5.0),
    "plummet_tilted": (STATION, True, False),
    "stores": (STATION, "error", "correction"),
    "storable_arcsec": (STATION, 10.0, 300.0),
    "judged_raw": (STATION, True, False),
    "prior": (LEVEL, {"staff_reading_mm": 0.2}, {"staff_reading_mm": 2.0}),
    "foot_screw_count": (STATION, 3, 4),
    "foot_screws": (STATION, "clockwise-raises", "clockwise-lowers"),
}
KNOWN_OTHERWISE = {"kind": "decides what is asked at all", "noise": "learned from records, stated by nobody"}


def test_every_fact_is_tried() -> None:
    assert set(FACTS) | set(KNOWN_OTHERWISE) == set(Instrument.model_fields)


@pytest.mark.parametrize("fact", sorted(FACTS))
def test_a_stated_fact_changes_an_answer(fact: str) -> None:
    base, one, other = FACTS[fact]
    first, second = (
        {**base, fact: value.model_dump() if isinstance(value, Display) else value} if value is not None else base
        for value in (one, other)
    )
    assert answers(first) != answers(second)


OPTIONS = {
    "together": (True, False),
    "level_type": ("electronic", "two-plates"),
    "legs_may": ("lower", "either"),
    "stands": ("two-to-you", "third-along"),
    "strict": (True, False),
}


def test_every_habit_is_tried() -> None:
    assert set(OPTIONS) == set(Options.model_fields)


@pytest.mark.parametrize("option", sorted(OPTIONS))
def test_a_habit_changes_what_is_led_through(option: str) -> None:
    one, other = ({option: value} for value in OPTIONS[option])
    assert answers(STATION, one) != answers(STATION, other)


WORK: dict[str, tuple[Data, Any, Any]] = {
    "sight_m": (STATION, 20.0, 200.0),
    "sight_imbalance_m": (LEVEL, 2.0, 40.0),
    "balanced_sights": (LEVEL, True, False),
    "elevation_deg": (STATION, 5.0, 50.0),
    "both_faces": (STATION, True, False),
    "angle_wanted_arcsec": (STATION, 3.0, 60.0),
}


def test_every_setting_of_the_work_is_tried() -> None:
    # The class of work chooses a firm's own limits, which the server does: tests/server/test_settings.py.
    assert set(WORK) | {"class_of_work"} == set(Work.model_fields)


@pytest.mark.parametrize("setting", sorted(WORK))
def test_a_setting_of_the_work_changes_an_answer(setting: str) -> None:
    base, one, other = WORK[setting]
    assert answers(base, work={setting: one}) != answers(base, work={setting: other})
