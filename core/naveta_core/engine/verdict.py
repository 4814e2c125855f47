"""From quantities to a verdict: one rule, one set of sentences, whatever the check.

A kind brings its quantities, what is at fault, and its own words for what to do; the rest is stated here.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import KW_ONLY, dataclass, field
from types import MappingProxyType
from typing import Any

from ..documents.envelope import Envelope, days_between
from ..results import CalculationLine, CodedText, Effect, Figures, Shown
from ..stats.decision import (
    STORING_SHARE,
    Decision,
    Evidence,
    Grade,
    Limits,
    confirmed_by_record,
    decide,
    may_turn_screws,
    worst,
)
from ..stats.estimate import PRIOR_DOF, Estimate, Spread, pooled, vector_bound
from ..stats.quantiles import t_quantile
from ..units.formatting import bound, capital, count, size
from .conditions import prior_dof
from .contradiction import CONTRADICTS, NOT_LOOKED, THIRD_RUN, JudgedNow, LookNow, contradiction, found_twice

MAX_MORE = 6
SEEN = 0.99
NO_LOOKS: Mapping[str, str] = MappingProxyType({})
LeftOut = tuple[str, Estimate | None]
"""The path of a reading, and the estimate without it; None where the rest says nothing."""


@dataclass(frozen=True, slots=True)
class Override:
    """A verdict by a test of its own instead of the decision rule: grade, why, and what to do now."""

    decision: Decision
    why: tuple[CodedText, ...]
    next: tuple[CodedText, ...] = ()


@dataclass
class JudgedQuantity:
    """One judged quantity, in the unit given: `name` is its key in the result, `noun` what a sentence calls it."""

    name: str
    noun: str
    unit: str
    _: KW_ONLY
    estimate: Estimate
    limits: Limits
    q_within: float = 0.0
    q_between: float = 0.0
    vector: bool = False
    condition: str = ""
    """What it may be used for between L and W."""
    turn: str = ""
    """What is adjusted, to which reading."""
    beyond: str = "what is adjusted in the field"
    condition_code: str = "condition"
    turn_code: str = "adjust"
    under: str = ""
    """Under what it may be used between L and W, in a few words."""
    sooner: str = "Usable. Check it again before precise work."
    """What is stated of it close to its limit."""
    decision: Decision = field(default_factory=lambda: Decision("use"))
    confirmed: Estimate | None = None
    own: Override | None = None
    without: Callable[[], Sequence[LeftOut]] = tuple
    """Asked for where it counts: the estimate with each single reading left out, by its path; None where the rest says nothing. Given where one
    mistyped figure could send a thing to service: it must not."""
    storing: bool = False
    """Whether it may be acted upon only by a test that proves half its limit: where one quick look gives two figures, noise
    passes for an error too often otherwise."""
    careful: bool = False
    """Whether, with U beyond half the limit, it is adjusted only when sure beyond the limit or found twice running."""
    dof: float = PRIOR_DOF
    """What the expected spread of its readings is trusted with: more where it was learned from earlier checks."""
    only_reading: str = ""
    """The path of the one reading a verdict would rest on."""

    @property
    def grade(self) -> Grade:
        """The grade of this quantity alone."""
        return self.decision.grade

    @property
    def at_best_u95(self) -> float:
        """Uncertainty of this design with the expected scatter alone; 0 if the design is unknown."""
        return pooled(0.0, self.q_within, self.q_between, Spread(), self.dof).u95 if self.q_within else 0.0

    @property
    def seen(self) -> bool:
        """Whether an error was found at all: more than chance gives once in a hundred."""
        e = self.estimate
        by_chance = vector_bound(e, SEEN) if self.vector else t_quantile((1 + SEEN) / 2, e.dof) * e.sigma
        return abs(e.value) > by_chance

    @property
    def fine(self) -> float:
        """The share of its limit a test has to prove before anything is turned or stored by it."""
        return STORING_SHARE if self.storing else 1.0

    def may_turn(self) -> bool:
        """Whether a screw may be turned, or the value stored, by this finding."""
        return may_turn_screws(self.estimate, self.limits, self.fine)

    def value_text(self) -> str:
        """The value with its unit, rounded by its ±."""
        return size(abs(self.estimate.value), self.estimate.u95, self.unit)


@dataclass
class Judgement:
    """A complete check: its quantities and everything else its verdict says."""

    quantities: list[JudgedQuantity]
    figures: Figures
    finding: str
    _: KW_ONLY
    shown: list[Shown]
    worked: list[CalculationLine]
    work: list[Effect]
    repeats: Spread = field(default_factory=Spread)
    reasons: list[CodedText] = field(default_factory=list)
    """What is to be said besides the grades of the quantities."""
    refused: list[CodedText] = field(default_factory=list)
    """Observations at fault: nothing is concluded from them."""
    service: list[CodedText] = field(default_factory=list)
    """What no screw fixes, whatever the figures."""
    to_fix: list[CodedText] = field(default_factory=list)
    """What a look found and a hand can fix: grade `adjust` whatever the figures; (code, what to do)."""
    set_aside: list[str] = field(default_factory=list)
    solved: Any = None
    """What was solved: for the kind's own drawing and adjusting."""
    outlier: CodedText | None = None
    """The path of a figure that is an outlier, and what fixes it: marked where it was typed."""
    more_readings: tuple[str, str] = ("reading", "readings")
    """What could be taken more often."""
    leading_reasons: list[CodedText] = field(default_factory=list)
    """What is stated before anything else: what became of what was done."""
    first_actions: list[CodedText] = field(default_factory=list)
    """What is done before anything else about it."""
    extra_actions: list[CodedText] = field(default_factory=list)
    """What else would be worth doing, whatever the grades."""
    taken: int = 1
    """How many of them were taken."""
    disputed: bool = False
    """Whether a good result contradicts a bad one on record, so that a third run decides."""
    least: Grade = "use"
    """What a look found makes it no better than this."""
    repeat_text: str = "Repeat the check before you turn anything. Both runs count together."
    repeat_code: str = "once-more"
    no_more: CodedText = (
        "more-will-not-do",
        "More readings alone will not help: check the conditions of the test.",
    )
    """What is stated where no more readings decide it."""
    service_text: str = "Send it to service with this result."


def grade_of(document: Envelope, judgement: Judgement, bad_looks: Mapping[str, str] = NO_LOOKS) -> Grade:
    """Decide every quantity and say why; returns the grade of the whole. bad_looks: what a look can find, in words by code."""
    own: list[CodedText] = []
    for entry in judgement.quantities:
        entry.dof = prior_dof(document)
        if entry.own is not None:
            entry.decision = entry.own.decision
            own += entry.own.why
            continue
        fine = STORING_SHARE if entry.careful else entry.fine
        entry.decision = _not_by_one(entry, decide(entry.estimate, entry.limits, vector=entry.vector, fine=fine))
        if entry.careful and entry.grade == "repeat" and found_twice(document, _now(entry)):
            entry.decision = Decision("adjust", ("found-twice",))
        if entry.grade == "repeat" and entry.at_best_u95 > entry.limits.use and not entry.seen:
            # Repeating a method this weak cannot end in *use*: grade it watch and ask for a finer one.
            entry.decision = Decision("watch", ("not-proved",))
        if entry.only_reading and judgement.outlier is None:
            judgement.outlier = (entry.only_reading, "The verdict depends on this reading alone: read it once more.")
        entry.confirmed = None if entry.vector else _evidence(document, entry)
        if entry.confirmed is not None:
            entry.decision = Decision("use", ("confirmed-by-record",))
        own += _why(entry, alone=len(judgement.quantities) == 1)
    grades: list[Grade] = [judgement.least, *(quantity.grade for quantity in judgement.quantities)]
    if judgement.service:
        grades.append("service")
    if judgement.to_fix:
        grades.append("adjust")
    if judgement.refused:
        grades.append("repeat")
    grade = worst(grades or ["use"])
    if judgement.refused and grade == "adjust":
        grade = "repeat"  # nothing is turned by readings that are at fault
    now = [_now(quantity) for quantity in judgement.quantities if quantity.own is None]
    against = contradiction(document, grade, [*_looks(judgement, bad_looks), *now])
    if against is not None and against[0] == CONTRADICTS:
        judgement.disputed, grade = True, "repeat"
    judgement.reasons = [
        *([against] if against else []),
        *judgement.service,
        *judgement.leading_reasons,
        *judgement.refused,
        *([] if judgement.refused else own),
        *judgement.reasons,
    ]
    return grade


def _looks(judgement: Judgement, bad_looks: Mapping[str, str]) -> list[LookNow]:
    codes = {code for code, _ in (*judgement.reasons, *judgement.service)}
    looked = not codes & set(NOT_LOOKED)
    return [LookNow(code, noun, code in codes, looked) for code, noun in bad_looks.items()]


def _now(quantity: JudgedQuantity) -> JudgedNow:
    return JudgedNow(quantity.name, quantity.noun, quantity.unit, quantity.estimate, quantity.limits)


QUIET = "no error found"


def headline(finding: str, grade: Grade, refused: Sequence[CodedText], reasons: Sequence[CodedText]) -> str:
    """The finding as it may stand over its grade: nothing is shown to be good, or to be wrong, by readings at fault."""
    if refused and grade == "repeat":
        return f"Not conclusive. {refused[0][1]}"
    if grade in ("repeat", "adjust", "service") and QUIET in finding.lower() and reasons:
        lead = {"repeat": "Not conclusive.", "adjust": "Needs repair."}.get(grade, "Take it out of use.")
        return f"{lead} {reasons[0][1]}"
    return finding


def _not_by_one(quantity: JudgedQuantity, decision: Decision) -> Decision:
    """A thing is not condemned by one figure: with that one left out the verdict must stand."""
    if decision.grade != "service":
        return decision
    deciding = [
        (path, e) for path, e in quantity.without() if e is None or decide(e, quantity.limits).grade != "service"
    ]
    if not deciding:
        return decision
    quantity.only_reading = min(deciding, key=lambda pair: 0.0 if pair[1] is None else abs(pair[1].value))[0]
    return Decision("repeat", ("rests-on-one",))


def _why(quantity: JudgedQuantity, *, alone: bool) -> list[CodedText]:
    """Why a quantity has its grade."""
    e, limits, unit = quantity.estimate, quantity.limits, quantity.unit
    what = capital(quantity.noun)
    limit, proved = bound(limits.use, unit), size(e.proved_to, e.u95, unit)
    lead = "" if alone else f"{what}: "
    if quantity.confirmed is not None:
        joined = size(quantity.confirmed.proved_to, e.u95, unit)
        text = f"within {proved} on its own, within {joined} together with the last good check (95 %); limit {limit}."
        return [("confirmed-by-record", _with_lead(lead, text))]
    if quantity.grade == "use":
        return [("proved", _with_lead(lead, f"within {proved} with 95 % confidence; limit {limit}."))]
    conditional = "conditional" in quantity.decision.codes
    texts = {
        "near-limit": f"within {proved} (95 %)."
        if conditional
        else f"close to the limit of {limit}: within {proved} (95 %).",
        "not-proved": f"shown only to be within {proved} (95 %); limit {limit}.",
        "conditional": f"{quantity.value_text()} is beyond the limit of {limit}, but within {_allowed(quantity)}.",
        "confirm": f"{quantity.value_text()} with ± {size(e.u95, e.u95, unit)} cannot be distinguished from scatter at a limit of {limit}.",
        "found-twice": f"{quantity.value_text()} is beyond the limit of {limit}, as it was at the last check.",
        "rests-on-one": f"{quantity.value_text()} is beyond the limit of {limit}, from a single reading: it may be one mistake.",
        "beyond-adjusting": f"{quantity.value_text()} is beyond the {bound(limits.adjust, unit)} that {quantity.beyond} can correct.",
    }
    rows = [(code, _with_lead(lead, texts[code])) for code in quantity.decision.codes]
    if quantity.grade in ("adjust", "service") and not {"beyond-adjusting", "found-twice"} & set(
        quantity.decision.codes
    ):
        text = f"{quantity.value_text()} is beyond the limit of {limit}, and more than scatter explains."
        rows.append(("beyond-limit", _with_lead(lead, text)))
    return rows


def _allowed(quantity: JudgedQuantity) -> str:
    most = bound(quantity.limits.watch, quantity.unit)
    return f"{most} {quantity.under}" if quantity.under else most


def _with_lead(lead: str, text: str) -> str:
    return lead + text if lead else capital(text)


def next_of(judgement: Judgement, grade: Grade) -> list[CodedText]:
    """What to do now."""
    if judgement.service or grade == "service":
        return [
            ("save-as-found", "Save as found."),
            ("out-of-use", "Set it aside and label it."),
            ("send-to-service", judgement.service_text),
        ]
    if judgement.disputed:
        return [("save-as-found", "Save as found."), THIRD_RUN]
    if judgement.refused:
        return _to_fix_the_reading({code for code, _ in judgement.refused})
    reasons: list[CodedText] = []
    for quantity in judgement.quantities:
        reasons += _next(judgement, quantity)
    if judgement.to_fix:
        reasons = [("save-as-found", "Save as found first."), *judgement.to_fix, *reasons]
    kept = [pair for i, pair in enumerate(reasons) if pair not in reasons[:i]]
    if any(code == "save-as-found" for code, _ in kept):
        kept.sort(key=lambda pair: pair[0] != "save-as-found")
    kept = [*judgement.first_actions, *kept, *judgement.extra_actions]
    useful = [pair for pair in kept if pair[0] != "carry-on"]
    return useful or [("carry-on", "Fit for use.")]


MOVED = {"moved", "moved-between", "scatter", "face-scatters", "stand-not-steady", "both-faces-alike"}
TOO_WEAK = {"no-level-target"}


def _to_fix_the_reading(codes: set[str]) -> list[CodedText]:
    """A failure kept separate: something moved, the geometry is too weak, or single readings are wrong."""
    reasons: list[CodedText] = []
    if codes & MOVED:
        text = "Something moved or shimmered: no result for the instrument yet. Press the feet in, check level and focus, and repeat what is named."
        reasons.append(("stand-firm-again", text))
    if codes & TOO_WEAK:
        text = "These targets cannot show it, however often you point: choose others first. This is no fault of the instrument."
        reasons.append(("other-marks", text))
    if codes - MOVED - TOO_WEAK or not reasons:
        reasons.append(("read-again", "Read again what is named here; keep the rest."))
    return reasons


def _next(judgement: Judgement, quantity: JudgedQuantity) -> list[CodedText]:
    codes = quantity.decision.codes
    if quantity.own is not None and quantity.own.next:
        return list(quantity.own.next)
    if quantity.grade == "use":
        return [("carry-on", "Fit for use.")]
    ready = bool(quantity.turn) and quantity.may_turn()
    if quantity.grade == "adjust" and ready:
        return [("save-as-found", "Save as found first."), (quantity.turn_code, quantity.turn)]
    if quantity.grade in ("adjust", "repeat"):
        return [(judgement.repeat_code, judgement.repeat_text), *_to_conclude(judgement, quantity)]
    conclusive = _to_conclude(judgement, quantity) if "not-proved" in codes else []
    if "conditional" in codes:
        if quantity.condition:
            conclusive.append((quantity.condition_code, quantity.condition))
        if offers_adjusting(quantity):
            conclusive.append(("adjust-if-wanted", f"Or save as found and adjust. {quantity.turn}"))
    elif "near-limit" in codes:
        conclusive.append(("check-sooner", quantity.sooner))
    return conclusive


def offers_adjusting(quantity: JudgedQuantity) -> bool:
    """Whether a quantity that may be used under its condition may be adjusted instead."""
    return (
        quantity.own is None
        and "conditional" in quantity.decision.codes
        and bool(quantity.turn)
        and quantity.may_turn()
    )


def _to_conclude(judgement: Judgement, quantity: JudgedQuantity) -> list[CodedText]:
    """How many more would decide it, when a handful can."""
    limits, value, taken = quantity.limits, abs(quantity.estimate.value), judgement.taken
    for more in range(1, MAX_MORE + 1):
        b = pooled(
            0.0, quantity.q_within * taken / (taken + more), quantity.q_between, judgement.repeats, quantity.dof
        ).b95
        if b <= limits.use / 2 or value + b <= limits.use:
            text = count(more, f"more {judgement.more_readings[0]}", f"more {judgement.more_readings[1]}")
            return [("more-readings", f"{capital(text)} would probably give a clear result.")]
    return [judgement.no_more]


def _evidence(document: Envelope, quantity: JudgedQuantity) -> Estimate | None:
    """Today's not-proved figure carried by the last good check, as far as the rule allows."""
    if "not-proved" not in quantity.decision.codes or document.before_at is None:
        return None
    good = next((x for x in document.before if x.check == document.kind and x.grade == "use"), None)
    if good is None:
        return None
    days = days_between(good.at, document.before_at)
    value, sigma = good.figure(quantity.name), good.figure(f"sigma_{quantity.name}")
    if value is None or not sigma:
        return None
    here, there = document.conditions.temperature_c, good.temperature_c
    kelvin = abs(here - there) if here is not None and there is not None else None
    return confirmed_by_record(quantity.estimate, quantity.limits, Evidence(value, sigma, days, kelvin))
