"""What a password may not be, beyond too short and too common."""

from __future__ import annotations

from typing import Any

from django.core.exceptions import ValidationError

MIN_DIFFERENT = 4


def _bare(text: str) -> str:
    return "".join(text.lower().split())


class NotTheName:
    """Not the sign-in name or the name, however it is spaced."""

    def validate(self, password: str, user: Any = None) -> None:
        names = {_bare(getattr(user, field, "") or "") for field in ("username", "name")} - {""}
        if _bare(password) in names or any(
            len(name) >= 3 and _bare(password).strip("0123456789.!") == name for name in names
        ):
            raise ValidationError("A password that is not your name.")

    def get_help_text(self) -> str:
        return "It is not your name."


class NotOneCharacter:
    """Not blanks, and not the same few characters over and over."""

    def validate(self, password: str, user: Any = None) -> None:
        if len(set(_bare(password))) < MIN_DIFFERENT:
            raise ValidationError(f"A password with {MIN_DIFFERENT} different characters or more; blanks do not count.")

    def get_help_text(self) -> str:
        return f"It has {MIN_DIFFERENT} different characters or more."
