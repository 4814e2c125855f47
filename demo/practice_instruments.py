"""The same trainee at simulated instruments: out of focus and with the screws left alone at first, found and adjusted at the end."""

from __future__ import annotations

import copy
import math
import random
import re
import uuid
from collections.abc import Callable, Sequence
from datetime import datetime, time, timedelta
from typing import Any

from naveta_practice.dispatch import instrument_lessons
from naveta_practice.instruments.hidden import hidden_of
from naveta_practice.instruments.judging import InstrumentWork
from naveta_practice.instruments.looking import LookQuestion, Turned, look
from naveta_practice.instruments.way import NOT_A_PLACE, Do, InstrumentStep
from people.models import Person
from practice.services import save_run
from shared import clock

Data = dict[str, Any]
SPACE = uuid.UUID("6e617665-7461-4000-8000-000000000005")
EVENINGS = (
    (44, "half-and-whole"), (41, "half-and-whole"), (38, "half-and-whole"), (36, "plummet"), (34, "half-and-whole"),
    (30, "plummet"), (27, "two-peg"), (23, "plummet"), (20, "two-peg"), (17, "plummet"), (15, "round-bubble"),
    (11, "two-peg"), (8, "two-peg"), (6, "round-bubble"), (4, "two-faces"), (2, "two-faces"),
)  # fmt: skip
"""So many days ago, and what was practised."""
See = Callable[[Data], Any]
Note = Callable[..., None]
FOCUSES = [i / 40 for i in range(41)]


def write_instrument_runs(trainee: Person) -> None:
    """Written through the service, as the device would have sent it."""
    rng = random.Random("instruments of the demo")
    sheets = {lesson.name: lesson.document for lesson in instrument_lessons()}
    for number, (days, lesson) in enumerate(EVENINGS):
        skill = number / (len(EVENINGS) - 1)
        at = datetime.combine(clock.today() - timedelta(days=days), time(18, 45), clock.zone())
        seed = rng.randint(1, 9_999)
        work = _work(
            lesson, seed, sheets[lesson], hasty=rng.random() > skill + 0.3, seconds=rng.uniform(420, 600) - 200 * skill
        )
        steps = _timed(_unsure(work.steps, random.Random(seed), 0.4 - 0.3 * skill), work.seconds)
        work = work.model_copy(update={"steps": steps})
        with clock.frozen_now(at):
            save_run(
                actor=trainee,
                identity=uuid.uuid5(SPACE, at.isoformat()),
                lesson=lesson,
                seed=seed,
                at=at,
                seconds=work.seconds,
                advised=False,
                gestures=[],
                work=work,
                sent_digest="demo",
            )


def _work(lesson: str, seed: int, sheet: Data, *, hasty: bool, seconds: float) -> InstrumentWork:
    """Read, adjusted and tested again; in haste read as it comes, and left as found."""
    found, steps = _read(lesson, seed, sheet, {})
    if hasty:
        steps = _timed([each for each in steps if each.do != "focus"], seconds)
        return InstrumentWork(lesson=lesson, seed=seed, found=found, blurs=[2.5] * 8, steps=steps, seconds=seconds)
    hidden = hidden_of(lesson, seed)
    bad = [each for each in hidden.errors.values() if not each.good and each.spec.screw]
    turns: Turned = {each.spec.screw: [_turned(-each.value / each.per_turn, hidden.play)] for each in bad}
    left = None
    if turns:
        left, again = _read(lesson, seed, sheet, turns)
        last = steps[-1].aim
        turned = [InstrumentStep(seconds=0, do="turn", label=name, aim=last, turns=turns) for name in turns]
        steps = [*steps, *turned, *_back(last, again[0].aim, turns), *again]
    return InstrumentWork(
        lesson=lesson,
        seed=seed,
        found=found,
        turns=turns,
        left=left,
        blurs=[0.1] * 8,
        steps=_timed(steps, seconds),
        seconds=seconds,
    )


def _back(last: Data, first: Data, turns: Turned) -> list[InstrumentStep]:
    """Tested again, which begins with a look back at where the first reading was taken."""
    return [
        InstrumentStep(seconds=0, do="again", aim=last, turns=turns),
        InstrumentStep(seconds=0, do="look", aim=first, turns=turns),
    ]


def _unsure(steps: Sequence[InstrumentStep], rng: random.Random, chance: float) -> list[InstrumentStep]:
    """Now and then looked back at the place before and forth again, as somebody does who did not write it down."""
    taken: list[InstrumentStep] = []
    before: InstrumentStep | None = None
    for step in steps:
        if step.do == "look":
            before = taken[-1] if taken else None
        taken.append(step)
        if before is not None and step.do == "read" and rng.random() < chance:
            back = {"do": "look", "label": "", "typed": ""}
            taken += [before.model_copy(update=back), step.model_copy(update=back)]
    return taken


def _timed(steps: Sequence[InstrumentStep], seconds: float) -> list[InstrumentStep]:
    """Spread over the time it took."""
    every = seconds / (len(steps) + 1)
    return [step.model_copy(update={"seconds": round((i + 1) * every, 1)}) for i, step in enumerate(steps)]


def _turned(wanted: float, play: float) -> float:
    """A screw turned until it has moved what it moves by so much: its play is taken up first."""
    return round(wanted + math.copysign(play / 2, wanted), 3)


def _read(lesson: str, seed: int, sheet: Data, turns: Turned) -> tuple[Data, list[InstrumentStep]]:
    """The sheet, and each step on the way: looked, focused, typed."""
    document = copy.deepcopy(sheet)
    steps: list[InstrumentStep] = []

    def see(aim: Data) -> Any:
        return look(LookQuestion(lesson=lesson, seed=seed, aim=aim, turns=turns))

    def note(aim: Data, *cells: tuple[str, str]) -> None:
        before = steps[-1].aim if steps else {**aim, "focus": None}
        done: list[Do] = []
        if any(before.get(name) != value for name, value in aim.items() if name not in NOT_A_PLACE):
            done.append("look")
        if before.get("focus") != aim.get("focus"):
            done.append("focus")
        if "hz_arcsec" in aim:
            done.append("point")
        steps.extend(InstrumentStep(seconds=0, do=do, aim=aim, turns=turns) for do in done)
        for cell, text in cells:
            label = f"observations.{cell}"
            steps.append(InstrumentStep(seconds=0, do="read", label=label, typed=text, aim=aim, turns=turns))

    READERS[lesson](document["observations"], see, note)
    return document, steps


def _sharp(see: Callable[[Data], Any], aim: Data) -> Data:
    """The same aim with the focus at which the picture is sharpest."""
    return min(({**aim, "focus": focus} for focus in FOCUSES), key=lambda each: float(see(each).blur))


def _vial(observations: Data, see: See, note: Note) -> None:
    for i, row in enumerate(observations["readings"]):
        aim = {"heading_deg": float(row["heading_deg"])}
        row["bubble_div"] = f"{see(aim).bubble_div:.1f}"
        note(aim, (f"readings.{i}.bubble_div", row["bubble_div"]))


def _ring(observations: Data, see: See, note: Note) -> None:
    for i, row in enumerate(observations["readings"]):
        aim = {"heading_deg": float(row["heading_deg"])}
        _in_plan(row, see(aim), f"readings.{i}", aim, note)


def _paper(observations: Data, see: See, note: Note) -> None:
    for i, row in enumerate(observations["sets"][0]["marks"]):
        aim = _sharp(see, {"heading_deg": float(row["heading_deg"])})
        _in_plan(row, see(aim), f"sets.0.marks.{i}", aim, note)


def _in_plan(row: Data, seen: Any, path: str, aim: Data, note: Note) -> None:
    row["x_mm"], row["y_mm"] = f"{seen.x_mm:.1f}", f"{seen.y_mm:.1f}"
    note(aim, *((f"{path}.{axis}", row[axis]) for axis in ("x_mm", "y_mm")))


def _staffs(observations: Data, see: See, note: Note) -> None:
    for i, (setup, place) in enumerate(zip(observations["setups"], ("middle", "near-b"), strict=True)):
        for staff in ("a", "b"):
            aim = _sharp(see, {"place": place, "staff": staff})
            setup[staff]["readings"] = [f"{see(aim).middle_m:.4f}"] * 2
            note(aim, *((f"setups.{i}.{staff}.readings.{k}", text) for k, text in enumerate(setup[staff]["readings"])))


def _faces(observations: Data, see: See, note: Note) -> None:
    for face in ("left", "right"):
        aim = _sharp(see, {"face": face})
        for _ in range(4):
            seen = see(aim)
            up = seen.up_arcsec if face == "left" else -seen.up_arcsec
            aim |= {"hz_arcsec": seen.hz_arcsec + seen.right_arcsec, "v_arcsec": seen.v_arcsec - up}
        for i, row in enumerate(observations["targets"][0][face]):
            row["hz"], row["v"] = _packed(seen.hz_text), _packed(seen.v_text)
            note(dict(aim), *((f"targets.0.{face}.{i}.{circle}", row[circle]) for circle in ("hz", "v")))


def _packed(shown: str) -> str:
    """102°43′05″ as it is typed: 102.4305."""
    whole, minutes, seconds = (int(each) for each in re.findall(r"\d+", shown))
    return f"{whole}.{minutes:02d}{seconds:02d}"


READERS: dict[str, Callable[[Data, See, Note], None]] = {
    "half-and-whole": _vial,
    "round-bubble": _ring,
    "plummet": _paper,
    "two-peg": _staffs,
    "two-faces": _faces,
}
