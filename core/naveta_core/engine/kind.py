"""What a kind of check states about itself, and how every check is previewed, reduced and adjusted: one engine for all.

A kind is five files: `document.py` (what is typed: the model, its table of fields, how it is read), `solve.py` (the
equations), `judge.py` (from figures to quantities and what to do), `text.py` (sentences and drawing) and `__init__.py` (this
statement). Everything else is shared.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import asdict, dataclass, field
from functools import cached_property
from typing import Any, Literal, get_args

from pydantic import BaseModel, ValidationError

from .. import __version__
from ..cautions import cautions
from ..documents.csv_io import Rows, TableFaults, read_rows
from ..documents.envelope import Envelope, Instrument, units_context
from ..documents.model_faults import faults_of
from ..results import (
    Adjusting,
    CodedText,
    Finding,
    Fix,
    NextReading,
    Note,
    Picture,
    Preview,
    Progress,
    Result,
    Verdict,
    reasons,
)
from ..stats.decision import Grade
from ..units.formatting import length_words
from .affected import Affects, not_recorded
from .at_best import NOT_KNOWN, Faultless, ahead
from .check_off import ITEMS
from .circumstance_fields import CIRCUMSTANCES
from .conditions import NOTHING_NEEDED, Circumstances, Needs, Prerequisites, circumstances
from .fields import FieldTable, Where, table_of
from .form import Group, Method
from .reader import Reader
from .table import TableFile, table_file
from .verdict import Judgement, grade_of, headline, next_of
from .verdict_parts import verdict_part

Data = dict[str, Any]
Adjust = Callable[[Any, Any, Judgement, Grade, list[Any]], Adjusting]


@dataclass
class SheetProgress:
    """What can be said before a check is complete, beside its circumstances."""

    messages: list[CodedText] = field(default_factory=list)
    outlier: CodedText | None = None
    """The path of a figure that is an outlier, and what is to be done about it."""
    fixes: list[Fix] = field(default_factory=list)
    """Slips of entry that one touch puts right."""
    notes: list[CodedText] = field(default_factory=list)
    """Beside the group of fields at a path."""
    looks: list[CodedText] = field(default_factory=list)
    """What a look found, before anything is read."""


def _any(_instrument: Instrument) -> bool:
    return True


def _nothing(_document: Any) -> Needs:
    return NOTHING_NEEDED


def _nothing_yet(_document: Any, _read: Any) -> SheetProgress:
    return SheetProgress()


@dataclass(frozen=True, slots=True)
class LimitedQuantity:
    """A quantity a check judges: what a limit can be set for. In the unit named."""

    name: str
    label: str
    unit: str


@dataclass(frozen=True)
class Kind:
    """One kind of check: its document, its functions, and what people are given before they start."""

    title: str
    document: type[Envelope]
    where: Where
    """Words for the paths of its document."""
    read: Callable[[Any, Reader], Any]
    judge: Callable[[Any, Any, Circumstances], Judgement]
    draw: Callable[[Any, Any, Judgement | None], Picture | None]
    applies_to: tuple[str, ...]
    minutes: int
    interval_days: int
    """Default rule: how long a pass holds."""
    bring: tuple[str, ...]
    before_you_start: tuple[str, ...]
    who_adjusts: tuple[str, ...]
    when_bad: tuple[tuple[str, str, str], ...]
    """(code, what to ask or do, why): a bad finding is led through in this order."""
    caution_codes: dict[str, tuple[str, ...]]
    """By moment: before, reading, adjusting; others where a kind has them."""
    watch_condition: str
    main_quantity: str
    quantity_label: str
    methods: tuple[Method, ...]
    general: tuple[Group, ...]
    """The form of a document that does not say by which method it was taken."""
    why: str
    """What it is for, in a sentence."""
    progress_of: Callable[[Any, Any], SheetProgress] = _nothing_yet
    needs: Callable[[Any], Needs] = _nothing
    """What a document of this kind needs of its circumstances."""
    adjust: Adjust | None = None
    """How what was found is turned, stored or repaired."""
    prerequisites: Prerequisites = ()
    """What should be fresh before this one: (kinds of which one will do, what to look at first)."""
    limited: tuple[LimitedQuantity, ...] = ()
    """What it judges, and a firm may set limits for."""
    conditions: tuple[str, ...] = ("temperature_c",)
    """Circumstances its sheet asks for, by their names."""
    check_off: tuple[str, ...] = ()
    """What its sheet offers to tick, by code."""
    unit: str = "arcsec"
    """Of the main quantity: arcsec, mm, div or ppm."""
    blocks_release: bool = True
    """Whether an instrument on which this was never done, or long ago, may not go out. A bad finding of any check holds it."""
    blocks_unchecked: bool = False
    """Whether it blocks until it passed once, and no more after that."""
    due_after: tuple[str, ...] = ()
    """Default rule: events after which it is due, beside those that bear on every check."""
    before_large_jobs: bool = False
    """Default rule: whether it is made before a large job."""
    temperature_step_c: float | None = None
    """Default rule: how far the temperature may lie from the one it was made at."""
    scheduled: bool = True
    """Whether it comes due: what is taken only when it is wanted is never overdue."""
    layout: str = ""
    """What is set out for it on site and serves the same check of other instruments too, in words; "" where nothing is."""
    layout_minutes: int = 0
    """Of `minutes`, those that setting it out takes."""
    set_up_minutes: int = 0
    """Of `minutes`, those that setting up the instrument takes: other checks in the same set-up save them."""
    order: int = 50
    """In which order the checks of an instrument make sense: what others depend on comes first."""
    quick: tuple[str, int] | None = None
    """Of a check that belongs into the pre-work check: the method it is taken by in there, and its minutes."""
    as_left_inputs: tuple[str, ...] = ()
    """Figures of the as-found that its as-left holds itself against: they go into `observations.found`."""
    carried: tuple[str, ...] = ()
    """Figures of the result that later work depends on: rest positions, offsets."""
    applies: Callable[[Instrument], bool] = _any
    """Whether an instrument of a fitting kind has what is checked, given as a document's `instrument`."""
    invalidates: tuple[str, ...] = ()
    """Other checks whose last results no longer hold once this was adjusted: they were measured through it."""
    allows_repeat: bool = True
    """Whether a run taken on another day may be joined to a record; where something moves between runs, a fresh check."""
    repeat_label: str = "Repeat it"
    repeat: Callable[[Data], Data] | None = None
    """The document with one repeat more, where that is not the method's rows once again."""
    affects: Affects = not_recorded
    """Effect of its error on work already done."""
    own_condition: Callable[[Instrument], str] | None = None
    """Condition of use after *watch*, where it depends on the instrument."""
    bad_looks: Mapping[str, str] = field(default_factory=dict)
    """What a look finds wrong, in a few words by its code: two looks of which one found it contradict each other."""
    faultless: Faultless = NOT_KNOWN
    """Readings of a faultless instrument, to say what a method reaches at best."""

    @cached_property
    def name(self) -> str:
        """The name documents go by."""
        (name,) = get_args(self.document.model_fields["kind"].annotation)
        return str(name)

    @cached_property
    def table(self) -> FieldTable:
        """The table of fields of its observations."""
        observations = self.document.model_fields["observations"].annotation
        assert isinstance(observations, type), f"{self.title} has no observations of its own"
        assert issubclass(observations, BaseModel), f"{self.title} has no observations of its own"
        return table_of(observations)

    @cached_property
    def file(self) -> TableFile:
        """How it is written as a table file and read from one."""
        return table_file(self.name, self.table)

    def condition_for(self, instrument: Instrument) -> str:
        """Return the condition of use after *watch* for an instrument, given as a document's `instrument`."""
        return self.own_condition(instrument) if self.own_condition else self.watch_condition

    def method(self, name: str | None) -> Method | None:
        """A method by its name."""
        return next((method for method in self.methods if method.name == name), None)

    def methods_for(self, instrument: Instrument) -> list[str]:
        """The methods by which an instrument, given as a document's `instrument`, can be taken, the usual one first."""
        return [method.name for method in self.methods if method.suits(instrument)]

    def groups(self, method: str | None) -> tuple[Group, ...]:
        """The form: of a method, or of a document that names none."""
        named = self.method(method)
        return named.groups if named else self.general

    # ---- the three questions

    def reduce(self, document: Any) -> Result:
        """A complete document to its result. Raises Refused with every fault and everything missing."""
        return self._result(document, *self.judged(document))

    def judged(self, document: Any) -> tuple[Any, Judgement, Grade]:
        """A complete document as read, judged and graded. Raises Refused with every fault and everything missing."""
        reader = Reader(document, self.where)
        read = self.read(document, reader)
        self._check_method(document, reader)
        reader.demand_complete()
        return read, *self._graded(document, read)

    def preview(self, document: Any) -> Preview:
        """What can be said already; faults only about what was typed, the whole result once it is complete."""
        reader = Reader(document, self.where)
        read = self.read(document, reader)
        self._check_method(document, reader)
        sheet_progress = self.progress_of(document, read)
        if reader.missing or reader.faults:
            return Preview(
                complete=False,
                missing=reader.missing,
                faults=reader.faults,
                progress=self._progress(document, reader, sheet_progress),
                picture=self.draw(document, read, None),
            )
        judgement, grade = self._graded(document, read)
        sheet_progress.outlier = judgement.outlier or sheet_progress.outlier
        result = self._result(document, read, judgement, grade)
        progress = self._progress(document, reader, sheet_progress)
        return Preview(complete=True, missing=[], faults=[], progress=progress, picture=result.picture, reduced=result)

    def adjusting(self, document: Any, reads_now: list[Any]) -> Adjusting:
        """Adjusting after a complete document; `adjust` must be there. Raises Refused."""
        assert self.adjust is not None, f"nothing is adjusted after {self.name}"
        return self.adjust(document, *self.judged(document), reads_now)

    def _check_method(self, document: Any, reader: Reader) -> None:
        if document.method is not None and self.method(document.method) is None:
            reader.fault(
                "method", "the method", document.method, "one of " + ", ".join(method.name for method in self.methods)
            )

    def _graded(self, document: Any, read: Any) -> tuple[Judgement, Grade]:
        found = circumstances(document, self.needs(document), self._prerequisites(document.instrument))
        judgement = self.judge(document, read, found)
        judgement.refused = [*found.blocked, *judgement.refused]
        judgement.reasons = [*found.weak, *judgement.reasons, *found.check_first]
        return judgement, grade_of(document, judgement, self.bad_looks)

    def _prerequisites(self, instrument: Instrument) -> Prerequisites:
        """The prerequisites an instrument can have at all; of one whose kind is not known, all of them."""
        if not self.prerequisites or instrument.kind is None:
            return self.prerequisites
        applying = {kind.name for kind in kinds_for(instrument)}
        return tuple((kinds, what) for kinds, what in self.prerequisites if applying.intersection(kinds))

    def _progress(self, document: Any, reader: Reader, sheet_progress: SheetProgress) -> Progress:
        method, outlier, messages = self.method(document.method), sheet_progress.outlier, sheet_progress.messages
        path = method.first_read(reader.missing) if method else next(iter(reader.missing), None)
        found = circumstances(document, self.needs(document), self._prerequisites(document.instrument))
        return Progress(
            unit=length_words(document.units.length).name,
            next=None if path is None else NextReading(path=path, where=self.where(path)),
            looks=reasons([*sheet_progress.looks, *found.blocked]),
            messages=reasons([*found.weak, *messages, *self._ahead(document, messages), *found.check_first]),
            outlier=None if outlier is None else Note(path=outlier[0], text=outlier[1]),
            fixes=sheet_progress.fixes,
            notes=[Note(path=note, text=text) for note, text in sheet_progress.notes],
        )

    def _ahead(self, document: Any, messages: list[CodedText]) -> list[CodedText]:
        """Return the warning of a method that is too weak, before the first reading."""

        def tried(other: Envelope) -> Judgement | None:
            reader = Reader(other, self.where)
            read = self.read(other, reader)
            whole = not (reader.missing or reader.faults)
            return self.judge(other, read, circumstances(other, self.needs(other), ())) if whole else None

        methods = [method for method in self.methods if method.suits(document.instrument)]
        return ahead(document, self.faultless, tried, methods, expected="expected" in dict(messages))

    def _result(self, document: Any, read: Any, judgement: Judgement, grade: Grade) -> Result:
        moment: Literal["adjusting", "reading"] = "adjusting" if grade == "adjust" else "reading"
        return Result(
            kind=self.name,
            result=judgement.figures,
            finding=Finding(text=headline(judgement.finding, grade, judgement.refused, judgement.reasons)),
            verdict=Verdict(
                grade=grade,
                reasons=reasons(judgement.reasons),
                next=reasons(next_of(judgement, grade)),
                parts=[verdict_part(quantity) for quantity in judgement.quantities],
                set_aside=judgement.set_aside,
            ),
            shown=judgement.shown,
            picture=self.draw(document, read, judgement),
            work=judgement.work,
            cautions=cautions(*self.caution_codes[moment]),
            worked=judgement.worked,
            core_version=__version__,
        )

    # ---- table files

    def read_csv(self, text: str) -> Data:
        """A table to a plain document; words it has no field for are refused here, where the file can still be fixed."""
        return self.read_rows(read_rows(text, self.file.columns, self.file.needed))

    def read_rows(self, rows: Rows) -> Data:
        """The rows of a table to a plain document. Raises TableFaults."""
        found = self.file.read_rows(rows)
        try:
            self.document.model_validate(found, context=units_context(found))
        except ValidationError as error:
            raise TableFaults(faults_of(error, self.where, units_context(found)["length"])) from None
        return found

    def write_csv(self, document: Any) -> str:
        """A document's readings as a table."""
        return self.file.write(document)

    def about(self) -> Data:
        """What the web shows before a check begins, and how it lays the form out."""
        before = self.caution_codes["before"]
        return {
            "kind": self.name,
            "title": self.title,
            "applies_to": list(self.applies_to),
            "minutes": self.minutes,
            "interval_days": self.interval_days,
            "bring": list(self.bring),
            "before_you_start": list(self.before_you_start),
            "who_adjusts": list(self.who_adjusts),
            "when_bad": [{"code": code, "title": title, "text": text} for code, title, text in self.when_bad],
            "cautions": {
                moment: [caution.plain() for caution in cautions(*codes)]
                for moment, codes in self.caution_codes.items()
            },
            "watch_condition": self.watch_condition,
            "main_quantity": self.main_quantity,
            "quantity_label": self.quantity_label,
            "csv_columns": list(self.file.columns),
            "why": self.why,
            "order": self.order,
            "unit": self.unit,
            "adjustable": self.adjust is not None,
            "allows_repeat": self.allows_repeat,
            "repeat_label": self.repeat_label,
            "quick": None if self.quick is None else {"method": self.quick[0], "minutes": self.quick[1]},
            "limited": [asdict(quantity) for quantity in self.limited],
            "check_off": [ITEMS[code].as_dict() for code in self.check_off],
            "conditions": [CIRCUMSTANCES[name].as_dict() for name in self.conditions],
            "methods": [method.as_dict(self.table, before) for method in self.methods],
            "groups": [entry.as_dict(self.table) for entry in self.general],
        }


KINDS: dict[str, Kind] = {}
"""Every kind there is, in the order in which the checks of an instrument make sense; filled by `checks`."""


def kinds_for(instrument: Instrument) -> list[Kind]:
    """The checks that apply to an instrument, given as a document's `instrument`, in the order in which they make sense."""
    return [kind for kind in KINDS.values() if instrument.kind in kind.applies_to and kind.applies(instrument)]
