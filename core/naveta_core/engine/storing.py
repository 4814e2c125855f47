"""Values stored in the instrument: noted before, calculated again with the sign it needs, proved by a second round.

What is found is what is left over while the stored corrections are on; while they are off it is the whole. An instrument
that stores the error takes old + found, one that stores the correction old − found (or found, −found, when they were off).
Which of the two a model does is stated once, by its manager: `instrument.stores`. No sign is guessed.
"""

from __future__ import annotations

from dataclasses import dataclass, field
from math import hypot
from typing import Annotated, Any, Literal

from ..documents.envelope import Envelope, Part, Typed
from ..errors import Fault, Refused, quote
from ..results import Adjusting, AdjustingStep, CodedText
from ..stats.decision import Grade
from ..stats.estimate import Estimate
from ..units.formatting import arcsec, capital, joined
from ..units.formatting import signed as with_sign
from ..units.numbers import numeral
from .adjusting import adjusting_of, by_hand
from .fields import YES_NO, Choice, Field, Number
from .form import Group
from .reader import Reader
from .verdict import JudgedQuantity, Judgement

MAX_ARCSEC = 3600.0
REPORTS = 2.5
"""A finding must be so many of its own standard deviations before a second round can say what became of it."""
ACTIONS = {
    "stored-wrong-sign": "Restore the old value, store with the opposite sign, and check again.",
    "not-stored": "Check that the value was stored and corrections are on; then check again.",
}
SIGN_WORDS = {"error": "the error itself", "correction": "the correction (the error with opposite sign)"}


@dataclass(frozen=True, slots=True)
class StoredValue:
    """One stored value: its name in the result, the field it is noted in, what it is called."""

    name: str
    field: str
    label: str
    sense: int | None = None
    """Of an electronic level: 0 along, 1 across. It is stored, typed and read as the display counts."""

    def turned(self, document: Envelope, value: float) -> float:
        """A canonical value as the instrument shows it, or one it shows as a canonical one.

        Arcsec, or the unit of the value.
        """
        return value if self.sense is None else value * document.instrument.senses[self.sense]

    @property
    def path(self) -> str:
        """Where it stands in a document."""
        return f"observations.{self.field}"


class Stores(Part):
    """What a check of stored values also notes. `found`: what the as-found said, carried into the as-left."""

    corrections_on: Annotated[
        Literal["yes", "no"] | None,
        Choice(
            "Were corrections on while measuring?", *YES_NO, words="the stored corrections", optional=True, look=True
        ),
    ] = None
    found: dict[str, Typed | None] | None = None


def StoredField(label: str) -> Field:
    """The field in which a stored value is noted, in seconds."""
    words = f"stored before, {label}"
    return Number(label, "arcsec", -MAX_ARCSEC, MAX_ARCSEC, words, optional=True, ask_again=True)


@dataclass
class Before:
    """What was stored before the check, seconds, by result name; whether it was on while measuring.

    In arcsec, in the sense of the error.
    """

    old: dict[str, float] = field(default_factory=dict)
    on: bool = True
    most: float | None = None
    """The largest value the instrument stores, where that is known."""


def stored_group(values: tuple[StoredValue, ...]) -> Group:
    """The fields in which they are noted: first of all, since a new calibration writes over them."""
    note = "Note all of them now, before you store anything: a new calibration overwrites them."
    names = (*(stored.field for stored in values), "corrections_on")
    return Group("observations", "Values stored before", names, note)


FOUND_WORDS = (("found", "found before"),)


def read_before(document: Envelope, reader: Reader, values: tuple[StoredValue, ...]) -> Before:
    """Noted on the sheet, or else stated in the document's `stored`."""
    o, stated = document.observations, document.stored
    old = {}
    for stored in values:
        typed = getattr(o, stored.field)
        noted = typed not in (None, "")
        value = typed if noted else stated.get(stored.name)
        found = reader.value(StoredField(stored.label), stored.path, value)
        if found is not None:
            old[stored.name] = stored.turned(document, found.value) if noted else found.value
    on = o.corrections_on != "no" if o.corrections_on else stated.get("applied") is not False
    most = document.instrument.storable_arcsec or _plain(stated.get("range"))
    return Before(old, on, most)


def _plain(value: Any) -> float | None:
    return float(value) if isinstance(value, int | float) and value > 0 else None


def signed(value: float) -> str:
    """A value with its sign and a true minus; arcsec, or the unit of the label."""
    return f"{with_sign(value, 1)}″"


def new_value(document: Envelope, before: Before, name: str, found: float) -> float | None:
    """What is to be stored from now on, or None where the old value or the model's sign is not known.

    Found in arcsec, canonical sense.
    """
    stores = document.instrument.stores
    if stores is None:
        return None
    own = found if stores == "error" else -found
    if not before.on:
        return own
    old = before.old.get(name)
    return None if old is None else old + own


def report_before(judgement: Judgement, document: Envelope, before: Before, values: tuple[StoredValue, ...]) -> None:
    """What was noted; and what no longer fits into the instrument's store, which is then work for a service."""
    if before.old:
        noted = joined(
            [
                f"{stored.label} {signed(stored.turned(document, before.old[stored.name]))}"
                for stored in values
                if stored.name in before.old
            ]
        )
        off = "" if before.on else " Corrections were off while measuring: the value found is the total error."
        judgement.reasons.append(("noted-before", f"Stored before: {noted}. Storing overwrites them.{off}"))
    if before.most is None:
        return
    for stored in values:
        quantity = _quantity(judgement, stored.name)
        if quantity is None:
            continue
        new = new_value(document, before, stored.name, quantity.estimate.value)
        if new is not None and abs(new) - quantity.estimate.u95 > before.most:
            text = f"{capital(stored.label)} would have to be stored as {signed(stored.turned(document, new))}; the instrument can store {arcsec(before.most)} at most."
            judgement.service.append(("beyond-storing", text))


def report_proved(judgement: Judgement, document: Envelope, values: tuple[StoredValue, ...]) -> None:
    """A second round after storing, held against what was found before: taken, not taken, or with the wrong sign."""
    outcome = document.observations.found or {}
    for stored in values:
        quantity, was = _quantity(judgement, stored.name), _figure(outcome.get(stored.name))
        if quantity is None or was is None:
            continue
        sigma = hypot(quantity.estimate.sigma, _figure(outcome.get(f"sigma_{stored.name}")) or 0.0)
        if abs(was) <= REPORTS * sigma:
            continue
        became = _became(stored.label, was, quantity.estimate)
        judgement.leading_reasons.append(became)
        if became[0] in ACTIONS:
            judgement.first_actions = [(became[0], ACTIONS[became[0]])]


def _became(label: str, was: float, now: Estimate) -> CodedText:
    shown = f"{label}: {signed(was)} before, {signed(now.value)} ± {arcsec(now.u95, now.u95)} now"
    share = now.value / was
    if share > 1.5:
        return (
            "stored-wrong-sign",
            f"{shown}: doubled. It was stored with the wrong sign.",
        )
    if share > 0.5:
        return "not-stored", f"{shown}: unchanged. Was it stored, and are corrections on?"
    return "stored-and-proved", f"{shown}: stored correctly."


def _figure(value: Any) -> float | None:
    if isinstance(value, int | float):
        return float(value)
    try:
        return numeral(str(value)).value if value not in (None, "") else None
    except ValueError:
        return None


def _quantity(judgement: Judgement, name: str) -> JudgedQuantity | None:
    return next((quantity for quantity in judgement.quantities if quantity.name == name), None)


def storing(values: tuple[StoredValue, ...]) -> Any:
    """Storing: new values from old and found; what was not noted is asked for first, in one touch."""

    def adjust(document: Any, read: Any, judgement: Judgement, grade: Grade, reads_now: list[Any]) -> Adjusting:
        guide = by_hand(document, read, judgement, grade, [])
        if not guide.allowed:
            return by_hand(document, read, judgement, grade, reads_now)
        before: Before = read.before
        found = [stored for stored in values if _quantity(judgement, stored.name) is not None]
        wanted = [entry for entry in found if entry.name not in before.old] if before.on else []
        if not wanted:
            refuse = by_hand(document, read, judgement, grade, reads_now)
            return adjusting_of(f"{_new_values(document, before, judgement, found)} {refuse.text}", allowed=True)
        steps = [
            _noted(document, before, judgement, found=found, wanted=wanted, index=i, typed=typed)
            for i, typed in enumerate(reads_now)
        ]
        return adjusting_of(
            f"First note what is stored now: {joined([entry.label for entry in wanted])}. {guide.text}",
            allowed=True,
            inputs=tuple(entry.label for entry in wanted),
            prompt="Values stored now",
            unit="″",
            steps=steps,
        )

    return adjust


def _noted(
    document: Any,
    before: Before,
    judgement: Judgement,
    *,
    found: list[StoredValue],
    wanted: list[StoredValue],
    index: int,
    typed: Any,
) -> AdjustingStep:
    """One note of the old values, and what follows from it. Raises Refused."""
    parts = str(typed).replace(";", " ").split()
    try:
        if len(parts) != len(wanted):
            raise ValueError(f"{len(wanted)} values, in seconds: {', '.join(entry.label for entry in wanted)}")
        values = [numeral(part.removesuffix("″")).value for part in parts]
        if any(abs(value) > MAX_ARCSEC for value in values):
            raise ValueError(f"seconds from -{MAX_ARCSEC:g} to {MAX_ARCSEC:g}")
    except ValueError as error:
        raise Refused([Fault(f"reads_now[{index}]", "stored now", quote(typed), str(error))]) from None
    typed_old = {entry.name: entry.turned(document, value) for entry, value in zip(wanted, values, strict=True)}
    old = {**before.old, **typed_old}
    text = _new_values(document, Before(old, before.on, before.most), judgement, found)
    return AdjustingStep(given=str(typed), left=0.0, done=True, text=f"Noted. {text}")


def _new_values(document: Any, before: Before, judgement: Judgement, found: list[StoredValue]) -> str:
    """What each is to be from now on; for either sign where the model does not state one."""
    lines = []
    for entry in found:
        quantity = _quantity(judgement, entry.name)
        assert quantity is not None
        if quantity.grade == "use" or not quantity.may_turn():
            continue
        e, old = entry.turned(document, quantity.estimate.value), before.old.get(entry.name)
        new = new_value(document, before, entry.name, quantity.estimate.value)
        old = None if old is None else entry.turned(document, old)
        new = None if new is None else entry.turned(document, new)
        if new is not None:
            lines.append(
                f"{entry.label} from {signed(old)} to {signed(new)}"
                if old is not None
                else f"{entry.label} {signed(new)}"
            )
        elif old is not None or not before.on:
            base = old if before.on and old is not None else 0.0
            lines.append(
                f"{entry.label} to {signed(base + e)} if it stores the error, {signed(base - e)} if it stores the correction"
            )
    stores = document.instrument.stores
    why = (
        f" It stores {SIGN_WORDS[stores]}." if stores else " The model's manual says which; the manager enters it once."
    )
    return f"After the instrument's own routine it should be: {'; '.join(lines)}.{why}" if lines else ""
