"""The form of a check: the methods it can be taken by, each with what it begins with and its groups of fields.

A group names a place of the table of fields; labels, units and options come from there. `[*]` in a path stands for every
entry of a list: such groups repeat, entry by entry, in the order in which they stand.
"""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import KW_ONLY, dataclass, field
from typing import Any

from ..cautions import cautions
from ..documents.envelope import Instrument
from .fields import SIGNS, Field, FieldTable, ListOf

Data = dict[str, Any]


@dataclass(frozen=True, slots=True)
class Group:
    """Fields that stand together. `path` names an object, or a list of which every entry is a row."""

    path: str
    title: str
    only: tuple[str, ...] = ()
    """These fields only, in this order; without any all of that place."""
    note: str = ""
    labels: dict[str, str] = field(default_factory=dict)
    """Labels of this form, where a field is called otherwise in it."""
    quantities: dict[str, str] = field(default_factory=dict)
    """What a device sends to fill a field, where that depends on the form."""
    row_titles: tuple[str, ...] = ()
    instead: str = ""
    """Another list of the same parent that may be filled instead of this one (three wires for single readings)."""
    instead_title: str = ""
    """What that other list is called: 'Three wires'."""
    struck: str = ""
    """The list that takes values which were struck: kept, and not used."""
    setting: bool = False
    """Given beside the form: how things are, not what is read."""
    before: bool = False
    """A look that comes before the first reading."""
    more: str = ""
    """What one more row is called here, where that is not what the table says."""
    page: str = ""
    """The page of a long sheet it stands on, by its title; without one, on the page before it."""

    def as_dict(self, table: FieldTable) -> Data:
        """What the web lays out."""
        of = self._of(table, self.path)
        parent = self.path.rpartition(".")[0]
        other = self._of(table, f"{parent}.{self.instead}") if self.instead else None
        of["instead"] = None if other is None else {**other, "title": self.instead_title}
        of["struck"] = f"{parent}.{self.struck}" if self.struck else ""
        each = self.path.rpartition("[*]")[0]
        of["each"] = self._each(table, each) if each else None
        return {
            **of,
            "title": self.title,
            "note": self.note,
            "setting": self.setting,
            "before": self.before,
            "page": self.page,
        }

    def _each(self, table: FieldTable, path: str) -> Data:
        listed = table.at(path.removeprefix("observations."))
        assert isinstance(listed, ListOf), path
        rows = listed.rows
        return {"path": path, "noun": rows.noun, "most": rows.most, "fewest": rows.fewest, "more": rows.more}

    def _of(self, table: FieldTable, path: str) -> Data:
        found = table if path == "observations" else table.at(path.removeprefix("observations."))
        outcome: Data = {
            "path": path,
            "rows": False,
            "row_titles": list(self.row_titles),
            "most": 1,
            "fewest": 0,
            "more": "",
        }
        if isinstance(found, FieldTable):
            return {**outcome, "repeats": False, "fields": self._fields(found)}
        rows = found.rows
        outcome |= {"rows": True, "most": rows.most, "fewest": rows.fewest, "more": self.more or rows.more}
        if found.entry is None:
            assert found.plain is not None, path
            return {**outcome, "repeats": False, "fields": [self._field("", found.plain)]}
        return {**outcome, "repeats": "repeat" in found.entry.fields, "fields": self._fields(found.entry)}

    def _fields(self, table: FieldTable) -> list[Data]:
        names = self.only or tuple(name for name, field in table.fields.items() if field.kind != "count")
        return [self._field(name, table.fields[name]) for name in names]

    def _field(self, name: str, entry: Field) -> Data:
        return {
            "name": name,
            "label": self.labels.get(name, entry.label),
            "unit": SIGNS.get(entry.unit, entry.unit),
            "kind": entry.kind,
            "options": [{"value": o.value, "label": o.label, "hint": o.hint} for o in entry.options],
            "prefilled": entry.prefilled,
            "optional": entry.optional,
            "ask_again": entry.ask_again,
            "quantity": self.quantities.get(name, entry.quantity),
        }


def _within(path: str, place: str) -> bool:
    pattern = re.escape(place).replace(r"\[\*\]", r"\[\d+\]")
    return re.match(rf"{pattern}(?=$|[.\[])", path) is not None


@dataclass(frozen=True, slots=True)
class Method:
    """A named way of carrying a check out: the observations it begins with, and its groups."""

    name: str
    title: str
    good_for: str
    _: KW_ONLY
    observations: Data
    groups: tuple[Group, ...]
    steps: tuple[str, ...] = ()
    """What is done, in order, with the hands."""
    caution: tuple[str, ...] = ()
    unit: str = ""
    """The length unit this method is typed in, where it is not the person's own."""
    in_feet: Data | None = None
    """What it begins with where lengths are typed in feet."""
    needs: tuple[tuple[str, tuple[str, ...]], ...] = ()
    """Facts of the instrument this method needs, where they are known: (name, what it may be)."""

    def first_read(self, paths: Sequence[str]) -> str | None:
        """Of some places, the one that is read first by this method; None of none. What it does not name comes last."""
        return min(paths, key=self._turn, default=None)

    def _turn(self, path: str) -> int:
        """Where the group of a place stands; groups repeated for a list are read entry by entry, so that they are one."""
        found = [(len(group.path), i) for i, group in enumerate(self.groups) if _within(path, group.path)]
        _, number = max(found, default=(0, len(self.groups)))
        repeated = [i for i, group in enumerate(self.groups) if "[*]" in group.path]
        return repeated[0] if number in repeated else number

    def suits(self, instrument: Instrument) -> bool:
        """Whether an instrument, given as a document's `instrument`, can be taken by this method."""
        return all(getattr(instrument, name) in (None, *allowed) for name, allowed in self.needs)

    def as_dict(self, table: FieldTable, before: tuple[str, ...]) -> Data:
        """What the web shows; `before` are the cautions every method of the kind begins with."""
        return {
            "name": self.name,
            "title": self.title,
            "good_for": self.good_for,
            "steps": list(self.steps),
            "caution": [caution.plain() for caution in cautions(*dict.fromkeys((*self.caution, *before)))],
            "unit": self.unit,
            "groups": [group.as_dict(table) for group in self.groups],
        }
