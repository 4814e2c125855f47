"""The registry: every kind of check there is. Whoever adds one writes a module and one line here."""

from __future__ import annotations

from . import two_peg
from .kind import Kind

KINDS: dict[str, Kind] = {kind.name: kind for kind in (two_peg.KIND,)}


def kinds_for(instrument_kind: str) -> list[Kind]:
    """The checks that apply to an instrument of this kind, in the order in which they should be done."""
    return [kind for kind in KINDS.values() if instrument_kind in kind.applies_to]
