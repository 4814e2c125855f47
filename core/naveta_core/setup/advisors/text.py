"""Words the advisors share: sizes by hand, where something stands for the person."""

from __future__ import annotations

import math

HAND: tuple[tuple[float, str], ...] = (
    (1.0, "hardly visible"),
    (3.0, "a coin's thickness"),
    (6.0, "a pencil's thickness"),
    (12.0, "half a finger's width"),
    (18.0, "a finger's width"),
    (30.0, "a thumb's width"),
    (60.0, "three fingers"),
    (110.0, "a hand's width"),
    (math.inf, "more than a hand's width"),
)
"""Legs have no scale: sizes as people have them at hand."""

EIGHTHS = (
    (0.07, "less than 1/20 turn"),
    (0.18, "an eighth of a turn"),
    (0.31, "a quarter turn"),
    (0.44, "three eighths of a turn"),
    (0.56, "half a turn"),
    (0.69, "five eighths of a turn"),
    (0.87, "three quarters of a turn"),
    (1.12, "one turn"),
)


def about_as_much(mm: float) -> str:
    """A length by hand: 'a finger's width'."""
    return next(text for most, text in HAND if mm <= most)


def turns_in_words(turns: float) -> str:
    """A turn as one makes it: 'a quarter turn', '1½ turns', 'two turns and a quarter'."""
    size = abs(turns)
    for most, text in EIGHTHS:
        if size < most:
            return text
    quarters = round(size * 4)
    whole, rest = divmod(quarters, 4)
    return f"{whole}{('', '¼', '½', '¾')[rest]} turns"


def across_from(leg: str, verb: str) -> str:
    """Why the bubble goes where it goes."""
    if verb == "lower":
        return f"The bubble is on the high side: {leg} is too long. Shorten it and the bubble moves the other way."
    return f"The bubble is on the high side, away from {leg}: lengthen {leg} and the bubble moves towards it."


SIDES = (
    "in front of you",
    "to the right in front",
    "to your right",
    "to the right beyond",
    "beyond",
    "to the left beyond",
    "to your left",
    "to the left in front",
)


def for_person(bearing_deg: float, stand_bearing_deg: float) -> str:
    """Where a bearing lies for somebody who stands at `stand_bearing_deg` and faces the instrument.

    'in front of you' is near the person; 'beyond' is on the far side.
    """
    # Clockwise from the person's own place, seen from above: their left hand is clockwise of them.
    turn = (bearing_deg - stand_bearing_deg) % 360.0
    eighth = round(turn / 45.0) % 8
    return SIDES[(8 - eighth) % 8]


AWAY = {
    "in front of you": "towards you",
    "beyond": "away from you",
    "to the right in front": "to the right and towards you",
    "to the left in front": "to the left and towards you",
    "to the right beyond": "to the right and away from you",
    "to the left beyond": "to the left and away from you",
}


def away(side: str) -> str:
    """Where something lies, as a way to move: 'beyond' is 'away from you'."""
    return AWAY.get(side, side)
