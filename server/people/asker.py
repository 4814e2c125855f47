"""Who asks: every operation that changes something is for people signed in."""

from __future__ import annotations

from typing import cast

from django.http import HttpRequest

from people.models import Person


def asker(request: HttpRequest) -> Person:
    """The person signed in; Ninja has let nobody else in."""
    return cast(Person, request.user)
