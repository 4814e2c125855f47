"""Who may do what, as one table. A refusal says why in a sentence; the same sentence stands on the greyed act."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal, Protocol

Role = Literal["manager", "crew", "trainee"]
Act = Literal[
    "see",
    "note-event",
    "save-check",
    "take-out",
    "hand-in",
    "amend",
    "hold",
    "release",
    "adjust",
    "manage-fleet",
    "manage-people",
    "manage-points",
]
ROLES: tuple[Role, ...] = ("manager", "crew", "trainee")


class HasRole(Protocol):
    """A signed-in person, as far as rights are concerned."""

    role: str


@dataclass(frozen=True, slots=True)
class Answer:
    """Yes, or no with a code and a sentence."""

    allowed: bool
    code: str = ""
    text: str = ""


class Forbidden(Exception):
    """An act the table does not allow this person."""

    def __init__(self, answer: Answer) -> None:
        self.code, self.text = answer.code, answer.text
        super().__init__(answer.text)


YES = Answer(True)
CHIEF_SAVES = Answer(False, "trainee-does-not-save", "A crew chief saves it; the record names you both.")
ASK_CHIEF = Answer(False, "ask-the-chief", "Ask your crew chief to do this.")
MANAGER_ONLY = Answer(False, "manager-only", "Only the equipment manager may do this.")
OWN_SAME_DAY = Answer(False, "own-same-day", "You can amend your own records on the same day; later, ask the manager.")
OWN_CREW = Answer(False, "own-crew", "It belongs to another crew: they hand it over, or the manager does.")
NOBODY = Answer(False, "signed-out", "Sign in first.")

TABLE: dict[Act, dict[Role, Answer]] = {
    "see": {"manager": YES, "crew": YES, "trainee": YES},
    "note-event": {"manager": YES, "crew": YES, "trainee": YES},
    "save-check": {"manager": YES, "crew": YES, "trainee": CHIEF_SAVES},
    "take-out": {"manager": YES, "crew": YES, "trainee": ASK_CHIEF},
    "hand-in": {"manager": YES, "crew": YES, "trainee": ASK_CHIEF},
    "amend": {"manager": YES, "crew": YES, "trainee": ASK_CHIEF},
    "hold": {"manager": YES, "crew": YES, "trainee": ASK_CHIEF},
    "release": {"manager": YES, "crew": MANAGER_ONLY, "trainee": MANAGER_ONLY},
    "adjust": {"manager": YES, "crew": YES, "trainee": ASK_CHIEF},
    "manage-points": {"manager": YES, "crew": YES, "trainee": ASK_CHIEF},
    "manage-people": {"manager": YES, "crew": MANAGER_ONLY, "trainee": MANAGER_ONLY},
    "manage-fleet": {"manager": YES, "crew": MANAGER_ONLY, "trainee": MANAGER_ONLY},
}


def may(person: HasRole | None, act: Act) -> Answer:
    """Whether this person may do this. Nobody may do nothing."""
    role = getattr(person, "role", None)
    if role not in ROLES:
        return NOBODY
    return TABLE[act][role]


def require(person: HasRole | None, act: Act) -> None:
    """Raise Forbidden unless the table allows it."""
    refuse_unless(may(person, act))


def refuse_unless(answer: Answer) -> None:
    if not answer.allowed:
        raise Forbidden(answer)
