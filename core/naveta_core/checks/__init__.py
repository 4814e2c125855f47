"""Every kind of check there is: each package in here that states one. Whoever adds a kind adds its five files."""

from __future__ import annotations

from importlib import import_module
from pkgutil import iter_modules

from ..engine.kind import KINDS, Kind, kinds_for

__all__ = ["KINDS", "kinds_for"]


def _stated() -> list[Kind]:
    """The kinds stated by the packages in here, in the order in which the checks of an instrument make sense."""
    kinds: list[Kind] = [import_module(f"{__name__}.{found.name}").KIND for found in iter_modules(__path__)]
    return sorted(kinds, key=lambda kind: (kind.order, kind.name))


KINDS.update({field.name: field for field in _stated()})
