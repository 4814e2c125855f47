"""Who may do what, as one table. A refusal says why in a sentence; the same sentence stands on the greyed control."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal, Protocol

Role = Literal["manager", "crew", "trainee"]
Right = Literal[
    "see",
    "note-event",
    "save-check",
    "save-set-up",
    "save-level-check",
    "take-out",
    "hand-in",
    "amend",
    "hold",
    "release",
    "adjust",
    "manage-fleet",
    "manage-people",
    "manage-points",
    "plan-jobs",
    "send-away",
    "skip-check",
    "sign-off",
]
ROLES: tuple[Role, ...] = ("manager", "crew", "trainee")


class HasRole(Protocol):
    """A signed-in person, as far as rights are concerned."""

    role: str


@dataclass(frozen=True, slots=True)
class Permission:
    """Yes, or no with a code and a sentence."""

    allowed: bool
    code: str = ""
    text: str = ""


class Forbidden(Exception):
    """A right the table does not allow this person."""

    def __init__(self, answer: Permission) -> None:
        self.code, self.text = answer.code, answer.text
        super().__init__(answer.text)


YES = Permission(allowed=True)
CHIEF_SAVES = Permission(
    allowed=False, code="trainee-does-not-save", text="A crew chief saves it; the record names you both."
)
ASK_CHIEF = Permission(allowed=False, code="ask-the-chief", text="Ask your crew chief to do this.")
MANAGER_ONLY = Permission(allowed=False, code="manager-only", text="Only the equipment manager may do this.")
OWN_SAME_DAY = Permission(
    allowed=False, code="own-same-day", text="You can amend your own records on the same day; later, ask the manager."
)
OWN_CREW = Permission(
    allowed=False, code="own-crew", text="It belongs to another crew: they hand it over, or the manager does."
)
NOBODY = Permission(allowed=False, code="signed-out", text="Sign in first.")

TABLE: dict[Right, dict[Role, Permission]] = {
    "see": {"manager": YES, "crew": YES, "trainee": YES},
    "note-event": {"manager": YES, "crew": YES, "trainee": YES},
    "save-check": {"manager": YES, "crew": YES, "trainee": CHIEF_SAVES},
    "save-set-up": {"manager": YES, "crew": YES, "trainee": CHIEF_SAVES},
    "save-level-check": {"manager": YES, "crew": YES, "trainee": CHIEF_SAVES},
    "take-out": {"manager": YES, "crew": YES, "trainee": ASK_CHIEF},
    "hand-in": {"manager": YES, "crew": YES, "trainee": ASK_CHIEF},
    "amend": {"manager": YES, "crew": YES, "trainee": ASK_CHIEF},
    "hold": {"manager": YES, "crew": YES, "trainee": ASK_CHIEF},
    "release": {"manager": YES, "crew": MANAGER_ONLY, "trainee": MANAGER_ONLY},
    "adjust": {"manager": YES, "crew": YES, "trainee": ASK_CHIEF},
    "plan-jobs": {"manager": YES, "crew": YES, "trainee": ASK_CHIEF},
    "send-away": {"manager": YES, "crew": MANAGER_ONLY, "trainee": MANAGER_ONLY},
    "skip-check": {"manager": YES, "crew": YES, "trainee": ASK_CHIEF},
    "sign-off": {"manager": YES, "crew": YES, "trainee": ASK_CHIEF},
    "manage-points": {"manager": YES, "crew": YES, "trainee": ASK_CHIEF},
    "manage-people": {"manager": YES, "crew": MANAGER_ONLY, "trainee": MANAGER_ONLY},
    "manage-fleet": {"manager": YES, "crew": MANAGER_ONLY, "trainee": MANAGER_ONLY},
}


SIGN_OFFS: dict[str, str] = {
    "set-up-alone": "May set up alone",
    "check-levels": "May check levels",
    "adjust": "May adjust",
}
"""What a chief can let a trainee do alone."""
BY_SIGN_OFF: dict[Right, str] = {
    "save-set-up": "set-up-alone",
    "save-level-check": "check-levels",
    "adjust": "adjust",
}


def may(person: HasRole | None, right: Right) -> Permission:
    """Whether this person may do this. Nobody may do nothing."""
    role = getattr(person, "role", None)
    if role not in ROLES:
        return NOBODY
    answer = TABLE[right][role]
    if answer.allowed or right not in BY_SIGN_OFF:
        return answer
    return YES if BY_SIGN_OFF[right] in getattr(person, "signed_off", ()) else answer


def require(person: HasRole | None, right: Right) -> None:
    """Raise Forbidden unless the table allows it."""
    refuse_unless(may(person, right))


def refuse_unless(answer: Permission) -> None:
    if not answer.allowed:
        raise Forbidden(answer)
