"""What earlier checks mean for the next one: the segment since the last event, and what the repeats teach of the noise.

`made` is what was done with an instrument, oldest first, each a small dict: a check `{"what": "check", "kind", "at",
"stage", "grade", "result": {main, sigma}, "repeats": {"squares", "dof"}, "temperature_c"?}`, an event `{"what":
"event", "event", "at"}`, or a set-up that found where the plate bubble rests `{"what": "set-up", "at", "rest_div"}`. The house makes the list from its records; a device without signal adds what it made itself.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from datetime import datetime
from typing import Any

from ..checks import KINDS
from ..stats.estimate import Spread
from ..stats.noise import learned_noise
from .standing import ADJUSTED, BEARING_EVENTS, FALLS, NOT_LOOKED, Done, clears, done_of
from .summary import RecordSummary

Data = dict[str, Any]
SEGMENT_LENGTH = 5
CONTROL_LENGTH = 12
LEARNING_FROM = 12
ACCEPTED = ("use", "watch", "adjust")
CUTTING_EVENTS = (*BEARING_EVENTS, ADJUSTED)


def made_of(summary: RecordSummary, at: str, stage: str) -> Data | None:
    """What later documents depend on of anything finished: a check's figure, where a vial rests, how control points agreed."""
    if summary.kind in KINDS:
        return _made_check(summary, at, stage)
    if "rest_div" in summary.figures:
        return {"what": "set-up", "at": at, "rest_div": summary.figures["rest_div"]}
    if "disagreement_mm" in summary.figures:
        made = {"what": "control", "kind": summary.kind, "at": at, "grade": summary.grade}
        return {**made, "result": dict(summary.figures)}
    return None  # the checks of a check before the work are on record themselves


def _made_check(summary: RecordSummary, at: str, stage: str) -> Data:
    assert summary.repeats is not None, summary.kind
    made = {
        "what": "check",
        "kind": summary.kind,
        "at": at,
        "stage": stage,
        "grade": summary.grade,
        "result": dict(summary.figures),
        "repeats": summary.repeats.plain(),
        **_passing(done_of(summary, datetime.fromisoformat(at), stage)),
    }
    return made if summary.temperature_c is None else {**made, "temperature_c": summary.temperature_c}


def _passing(done: Done) -> Data:
    """Whether a check passes, answers what happened before it, and had its quick looks made: see schedule."""
    looked = not any(code in NOT_LOOKED for code in done.codes)
    return {"passed": clears(done), "as_left_passed": clears(replace(done, stage="as-left")), "looked": looked}


REST_FROM = {
    "plate-vial": ("reversal", {"reversal_div": "reversal_div"}),
    "dual-axis-level": (
        "index",
        {
            "index_along_arcsec": "index_along_arcsec",
            "index_across_arcsec": "index_across_arcsec",
            "sigma_index_arcsec": "sigma_index_along_arcsec",
        },
    ),
    "plummet": (
        "plummet",
        {"plummet_x_mm": "offset_x_mm", "plummet_y_mm": "offset_y_mm", "plummet_height_m": "told_at_m"},
    ),
}
"""What a check tells the next set-up, by kind: what it is about, and the names it goes by there."""


def cuts(event: Data, kind: str) -> bool:
    """Whether what was found before an event no longer holds: a knock for all, an adjustment for what was adjusted
    and for what was measured through it."""
    adjusted = event.get("kind", kind)
    return event["event"] in CUTTING_EVENTS and (adjusted == kind or kind in KINDS[adjusted].invalidates)


def rest_of(made: Sequence[Data]) -> Data | None:
    """Rest positions and corrections in force since the last event or adjustment: a set-up's `stored`.

    Where the plate bubble rests (found by its own check, or by a set-up), the electronic level's index, the plummet's
    offset at heading 0. A check graded `repeat` told nothing.
    """
    found: dict[str, Data] = {}
    for one in made:
        if one["what"] == "event":
            found = {
                about: told
                for about, told in found.items()
                if not any(cuts(one, kind) for kind, (other, _) in REST_FROM.items() if other == about)
            }
        elif one["what"] == "set-up":
            found["reversal"] = {"reversal_div": one["rest_div"], "reversal_at": one["at"]}
        elif one["what"] == "check" and one["kind"] in REST_FROM and one["grade"] != "repeat":
            about, names = REST_FROM[one["kind"]]
            told = {name: one["result"][theirs] for name, theirs in names.items()}
            found[about] = {**told, f"{about}_at": one["at"]}
    return {name: value for told in found.values() for name, value in told.items()} or None


def control_of(made: Sequence[Data]) -> list[Data]:
    """Earlier disagreements with control points since the last event or adjustment, newest first; what was graded
    `repeat` said nothing of the instrument."""
    kept: list[Data] = []
    for one in made:
        if one["what"] == "event":
            kept = [] if one["event"] in CUTTING_EVENTS else kept
        elif one["what"] == "control" and one["grade"] != "repeat":
            kept.append(one)
    return [_earlier(earlier) for earlier in reversed(kept[-CONTROL_LENGTH:])]


def before_of(made: Sequence[Data]) -> list[Data]:
    """Earlier results of every kind of check since the last event or adjustment that bears on it, newest first: a
    document's `before`."""
    kept: list[Data] = []
    open_events: dict[str, list[Data]] = {}
    for one in made:
        if one["what"] == "event":
            kept = [earlier for earlier in kept if not cuts(one, earlier["kind"])]
            for kind in KINDS:
                if cuts(one, kind):
                    open_events.setdefault(kind, []).append(one)
        elif one["what"] == "check":
            if one["stage"] == "as-left":
                kept = [earlier for earlier in kept if earlier["kind"] != one["kind"]]
            passed = _answers(one, open_events.get(one["kind"], []))
            if passed:
                open_events.pop(one["kind"], None)
            kept.append({**one, "passed": passed})
    newest: dict[str, int] = {}
    told = []
    for one in reversed(kept):
        newest[one["kind"]] = newest.get(one["kind"], 0) + 1
        if newest[one["kind"]] <= SEGMENT_LENGTH:
            told.append(_earlier(one))
    return told


def _answers(check: Data, events: Sequence[Data]) -> bool:
    """Whether a check passes for what happened since the last one that did: the yard says so by the same rule."""
    fell = any(event["event"] in FALLS for event in events)
    adjusted = any(event["event"] == ADJUSTED and event.get("kind") == check["kind"] for event in events)
    good = check["grade"] in ("use", "watch")
    passed = check.get("as_left_passed" if adjusted else "passed", good)
    return bool(passed and (check.get("looked", True) or not fell))


def _earlier(one: Data) -> Data:
    told = {"check": one["kind"], "at": one["at"], "grade": one["grade"], "result": one["result"]}
    if "passed" in one:
        told["passed"] = one["passed"]
    return {**told, "temperature_c": one["temperature_c"]} if "temperature_c" in one else told


def noise_of(made: Sequence[Data], kind: str) -> Data | None:
    """What accepted tests of a kind with repeats teach about an instrument and those who read it: `instrument.noise`."""
    checks = [one for one in made if one["what"] == "check" and one["kind"] == kind][-LEARNING_FROM:]
    spreads = [
        Spread(check["repeats"]["squares"], check["repeats"]["dof"])
        for check in checks
        if check["grade"] in ACCEPTED and check["repeats"]["dof"] > 0
    ]
    learned = learned_noise(spreads)
    return {"factor": learned[0], "dof": learned[1]} if learned else None


def known_with(stated: Data, limits: Data, made: Sequence[Data]) -> Data:
    """What is known of an instrument when the next check of it is completed; `noise` by kind of check."""
    kinds = {one["kind"] for one in made if one["what"] == "check"}
    noise = {kind: told for kind in sorted(kinds) if (told := noise_of(made, kind))}
    before = before_of(made)
    known: Data = {"instrument": stated}
    if noise:
        known["noise"] = noise
    if limits:
        known["limits"] = limits
    if before:
        known["before"] = before
    control = control_of(made)
    if control:
        known["control"] = control
    rest = rest_of(made)
    if rest:
        known["stored"] = {"set-up": rest}
    return known
