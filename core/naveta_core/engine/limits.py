"""The limits a quantity is held against: those of its document, else the default ones, raised to what a test can prove."""

from __future__ import annotations

from ..documents.envelope import Envelope
from ..stats.decision import Limits
from ..units.formatting import bound


def limits_from(document: Envelope, name: str, default: Limits) -> Limits:
    """The limits stated in the document for a quantity, else the default ones."""
    own = document.limits.get(name)
    if own is None:
        return default
    watch = own.watch if own.watch is not None else own.use
    adjust = own.adjust if own.adjust is not None else max(watch, default.adjust)
    return Limits(own.use, watch, adjust, own.source or "stated in the document", default.adjustable)


def raised(default: Limits, least: float, unit: str, what: str) -> Limits:
    """A default limit that lies below what such a test can prove at its best, raised to that, and said.

    Least in the unit of the limits.
    """
    if default.use >= least:
        return default
    why = f"{default.source}: {bound(default.use, unit)} cannot be shown, {what} shows no better than {bound(least, unit)}"
    share = default.watch / default.use
    return Limits(least, least * share, max(default.adjust, least * share), why, default.adjustable)
