"""Everything that can happen to an instrument: what it is called, how a sentence names it, what follows from it."""

from __future__ import annotations

from ..results import Answer


class EventKind(Answer):
    """One kind of event. `words` name it in a sentence where a check can be due after it; `hint` and `follows` are shown
    where it is entered."""

    name: str
    label: str
    words: str = ""
    hint: str = ""
    follows: str = ""
    reported: bool = False
    """Whether anybody reports it; the others are done by somebody."""
    kinds: list[str] = []
    """Kinds of instrument it can happen to; empty: all."""


HANDED_OVER = "handed-over"
"""Taken out by other people than those who had it last: follows from the takings out."""
ON_HOLD = "After a fall every value is uncertain: it is on hold until its checks pass."
CHECKS_DUE = "Its checks come due."


def _reported(name: str, label: str, words: str, hint: str, follows: str, *, kinds: tuple[str, ...] = ()) -> EventKind:
    return EventKind(name=name, label=label, words=words, hint=hint, follows=follows, reported=True, kinds=list(kinds))


def _done(name: str, label: str, follows: str = "", words: str = "") -> EventKind:
    return EventKind(name=name, label=label, follows=follows, words=words)


EVENT_KINDS = (
    _reported("knock", "Knock", "knocked", "Bumped, tipped in its case", "Its checks come due before it goes out."),
    _reported("drop", "Drop", "dropped", "Fell, in or out of its case", ON_HOLD),
    _reported("topple", "Fell over", "fell over", "The tripod fell over with it", ON_HOLD),
    _reported("transport", "Long transport", "long transport", "Rough road, freight, flight", CHECKS_DUE),
    _reported("soaked", "Soaked", "soaked", "Rain or spray got in", CHECKS_DUE),
    _reported(
        "temperature-step",
        "Temperature step",
        "a step in temperature",
        "Much colder or warmer than before",
        "Checks that depend on temperature come due.",
    ),
    _reported(
        "tracker-off",
        "Tracker off target",
        "tracker seen off target",
        "The cross is not on the prism",
        "Its tracker check comes due.",
        kinds=("robotic-total-station",),
    ),
    _reported(
        "control-jump",
        "Control points jumped",
        "a check on control points jumped",
        "They agreed better before",
        "The checks that could explain it come due.",
    ),
    _done("out", "Taken out", "Your reason stays on record."),
    _done("in", "Handed in"),
    _done("lent", "Lent", "It is away until it comes back. Then its checks are due."),
    _done("returned", "Back from a loan", words="back from a loan"),
    _done(
        "service-out",
        "Sent to service",
        "It is away until it comes back. Then every check is due, and what was stored in it counts as reset.",
    ),
    _done(
        "service-in",
        "Back from service",
        "A service resets stored values: every check is due now. A certificate does not replace them.",
        "back from service",
    ),
    _done(
        "held",
        "On hold",
        "It stays on hold until a check passes or the manager releases it. The reason is shown everywhere.",
        "put on hold",
    ),
    _done(
        "released",
        "Released",
        "It can then be used under its condition. Your name and reason are shown until a check passes.",
    ),
    _done(
        "skipped",
        "Check skipped",
        "It can go out without this check until that day. Your name and reason stay on record.",
    ),
    _done("adjusted", "Adjusted"),
    _done("impact-reviewed", "Affected work reviewed"),
)
BEARING_EVENTS = {event.name: event.words for event in EVENT_KINDS if event.words} | {
    HANDED_OVER: "handed over to another crew"
}
"""Every event after which a check can be due, as a sentence names it."""
