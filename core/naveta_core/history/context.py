"""What an instrument's history means for its next document: earlier results since the last event that bears on them,
values in force, and what repeats taught of the noise."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

from ..checks import KINDS
from ..documents.envelope import DueCheck, Earlier, Instrument, LimitSet, Noise
from ..documents.instrument_context import InstrumentContext
from ..engine.contradiction import BAD
from ..stats.estimate import Spread
from ..stats.noise import learned_noise
from .entries import HistoryEntry, PastCheck, PastControl, PastEvent, PastSetUp
from .facts import ADJUSTED, FALLS

MAX_EARLIER = 5
"""Earlier results of one kind that a document carries."""
CONTROL_LENGTH = 12
LEARNING_FROM = 12
ACCEPTED = ("use", "watch", "adjust")
CUTTING_EVENTS = ("knock", "drop", "topple", "held", "service-in", ADJUSTED)
"""What was found before these says nothing of the instrument after them. A service sets stored values back too."""
CHANGING_EVENTS = ("temperature-step",)
"""Events after which another result is expected although the earlier one was right."""
StoredValues = dict[str, float | str]


@dataclass(frozen=True, slots=True)
class StoredFrom:
    """What a kind of check gives the next set-up: what it is about, and each figure's name there and in its result."""

    about: str
    names: Mapping[str, str]


STORED_FROM = {
    "plate-vial": StoredFrom("reversal", {"reversal_div": "reversal_div"}),
    "dual-axis-level": StoredFrom(
        "index",
        {
            "index_along_arcsec": "index_along_arcsec",
            "index_across_arcsec": "index_across_arcsec",
            "sigma_index_arcsec": "sigma_index_along_arcsec",
        },
    ),
    "plummet": StoredFrom(
        "plummet",
        {"plummet_x_mm": "offset_x_mm", "plummet_y_mm": "offset_y_mm", "plummet_height_m": "at_height_m"},
    ),
}


def cuts(event: PastEvent, kind: str) -> bool:
    """Whether what was found before an event no longer holds: a knock for all, an adjustment for what was adjusted
    and for what was measured through it."""
    adjusted = event.kind or kind
    return event.event in CUTTING_EVENTS and (adjusted == kind or kind in KINDS[adjusted].invalidates)


def stored_values(history: Sequence[HistoryEntry]) -> StoredValues:
    """Rest positions and corrections in force since the last event or adjustment: a set-up's `stored`.

    Where the plate bubble rests (found by its own check, or by a set-up), the electronic level's index, the plummet's
    offset at heading 0. A check graded `repeat` found nothing.
    """
    found: dict[str, StoredValues] = {}
    for record in history:
        if isinstance(record, PastEvent):
            cut = {source.about for kind, source in STORED_FROM.items() if cuts(record, kind)}
            found = {about: values for about, values in found.items() if about not in cut}
        elif isinstance(record, PastSetUp):
            found["reversal"] = {"reversal_div": record.rest_div, "reversal_at": record.at}
        elif isinstance(record, PastCheck) and record.kind in STORED_FROM and record.grade != "repeat":
            source = STORED_FROM[record.kind]
            values = {name: record.result[theirs] for name, theirs in source.names.items()}
            figures: StoredValues = {name: value for name, value in values.items() if value is not None}
            found[source.about] = {**figures, f"{source.about}_at": record.at}
    return {name: value for values in found.values() for name, value in values.items()}


def earlier_control(history: Sequence[HistoryEntry]) -> list[Earlier]:
    """Earlier disagreements with control points since the last event or adjustment, newest first; what was graded
    `repeat` said nothing of the instrument."""
    held: list[PastControl] = []
    for entry in history:
        if isinstance(entry, PastEvent) and entry.event in CUTTING_EVENTS:
            held = []
        elif isinstance(entry, PastControl) and entry.grade != "repeat":
            held.append(entry)
    latest = reversed(held[-CONTROL_LENGTH:])
    return [Earlier(check=entry.kind, at=entry.at, grade=entry.grade, result=entry.result) for entry in latest]


@dataclass
class _KeptCheck:
    """A check that still says something of the instrument, and whether something changed what it found since."""

    check: PastCheck
    passed: bool
    changed_since: bool = False


def earlier_checks(history: Sequence[HistoryEntry]) -> list[Earlier]:
    """Return earlier results of every kind of check since the last event or adjustment that bears on it, newest first:
    a document's `before`."""
    kept: list[_KeptCheck] = []
    open_events: dict[str, list[PastEvent]] = {}
    for entry in history:
        if isinstance(entry, PastEvent):
            kept = [one for one in kept if not cuts(entry, one.check.kind) or _outlasts(entry, one.check)]
            if entry.event in CHANGING_EVENTS:
                kept = [replace(one, changed_since=True) for one in kept]
            for kind in KINDS:
                if cuts(entry, kind):
                    open_events.setdefault(kind, []).append(entry)
        elif isinstance(entry, PastCheck):
            if entry.stage == "as-left":
                kept = [one for one in kept if one.check.kind != entry.kind]
            passed = _answers(entry, open_events.get(entry.kind, []))
            if passed:
                open_events.pop(entry.kind, None)
            kept.append(_KeptCheck(entry, passed))
    newest: dict[str, int] = {}
    earlier = []
    for one in reversed(kept):
        newest[one.check.kind] = newest.get(one.check.kind, 0) + 1
        if newest[one.check.kind] <= MAX_EARLIER:
            earlier.append(_earlier(one))
    return earlier


def _outlasts(event: PastEvent, check: PastCheck) -> bool:
    """Return whether a result is kept through an event that cuts: a bad one through a hold, which rests on it."""
    return event.event == "held" and check.grade in BAD


def _answers(check: PastCheck, events: Sequence[PastEvent]) -> bool:
    """Whether a check passes for what happened since the last one that did: the yard says so by the same rule."""
    fell = any(event.event in FALLS for event in events)
    adjusted = any(event.event == ADJUSTED and event.kind == check.kind for event in events)
    passed = check.as_left_passed if adjusted else check.passed
    if passed is None:
        passed = check.grade in ("use", "watch")
    return passed and (check.looked or not fell)


def _earlier(kept: _KeptCheck) -> Earlier:
    check = kept.check
    stated = {
        "disputed": check.disputed,
        "looks": check.looks or None,
        "changed_since": kept.changed_since,
        "temperature_c": check.temperature_c,
    }
    known = {name: value for name, value in stated.items() if value is not None and value is not False}
    common = {"check": check.kind, "at": check.at, "grade": check.grade, "result": check.result, "passed": kept.passed}
    return Earlier.model_validate({**common, **known})


def noise_of(history: Sequence[HistoryEntry], kind: str) -> Noise | None:
    """What accepted tests of a kind with repeats teach about an instrument and those who read it: `instrument.noise`."""
    checks = [record for record in history if isinstance(record, PastCheck) and record.kind == kind][-LEARNING_FROM:]
    spreads = [
        Spread(check.repeats.squares, check.repeats.dof)
        for check in checks
        if check.grade in ACCEPTED and check.repeats.dof > 0
    ]
    learned = learned_noise(spreads)
    return Noise(factor=learned[0], dof=learned[1]) if learned else None


def instrument_context(
    stated: Instrument,
    limits: Mapping[str, LimitSet],
    history: Sequence[HistoryEntry],
    work_limits: Mapping[str, Mapping[str, LimitSet]] | None = None,
    due: Sequence[DueCheck] = (),
) -> InstrumentContext:
    """What is known of an instrument when the next document of it is completed."""
    kinds = sorted({record.kind for record in history if isinstance(record, PastCheck)})
    noise = {kind: learned for kind in kinds if (learned := noise_of(history, kind)) is not None}
    return InstrumentContext(
        instrument=stated,
        limits=dict(limits),
        work_limits=work_limits or {},
        noise=noise,
        before=tuple(earlier_checks(history)),
        control=tuple(earlier_control(history)),
        stored={"set-up": stored_values(history)},
        due=tuple(due),
    )
