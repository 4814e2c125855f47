"""The limits of collimation, index and trunnion axis: by the stated accuracy, the work and what the instrument can store."""

from __future__ import annotations

from ...documents.envelope import Envelope
from ...engine.limits import limits_from
from ...stats.decision import Limits
from ...units.formatting import capital
from .document import AXIS, COLLIMATION, accuracy


def limits_of(document: Envelope, name: str) -> Limits:
    """The limits of one of its errors that apply, and where they come from; of the document only what is known of the
    instrument and the work."""
    s = accuracy(document)
    optical = document.instrument.kind == "theodolite" and document.instrument.reading == "optical"
    both = document.work.both_faces
    if name == AXIS:
        use, most, share = max(10.0, 3 * s), 60.0, 2.0
        watch = share * use if both else use
    else:
        use, most = max(10.0 if optical else 5.0, 2 * s), 180.0
        watch = max(use, 4 * s) if both else use
    # What the instrument can store is what can be adjusted; where that is not stated, what they usually store.
    most = max(watch, document.instrument.storable_arcsec or most)
    work = "for work in both faces" if both else "for work in one face"
    why = f"default limit for angles of {s:g}″, {work}; stated accuracy is scatter, not a limit"
    limits = limits_from(document, name, Limits(use, watch, most, why))
    return _raw(limits, name) if document.instrument.judged_raw and name != AXIS else limits


def _raw(limits: Limits, name: str) -> Limits:
    """A firm that judges 2c and 2i: half of the figure is judged, so half of its limit."""
    twice = "2c" if name == COLLIMATION else "2i"
    why = f"your firm limits the raw {twice} to {limits.use:g}″, half of that for the error. {capital(limits.source)}"
    return Limits(limits.use / 2, limits.watch / 2, limits.adjust, why)
