"""What the columns of a file probably hold, from their headings and from what stands in them. A person looks at it before
it counts."""

from __future__ import annotations

import re
from collections.abc import Sequence

from ..documents.table_shape import Given, TableField, TableShape
from ..units.angles import parse_angle
from ..units.numbers import numeral
from .cells import Line, heading_line_of, is_figure, separator_of, split
from .column_map import AngleUnit, ColumnMap, ColumnUse
from .words import ANGLE_WORDS, NAMES, UNIT_WORDS, WORDS

MIN_PACKED = 4
"""So many figures without one that could not be packed degrees, minutes and seconds: two decimal degrees in three could not."""


UNITS = {word for words in [*UNIT_WORDS.values(), *ANGLE_WORDS.values()] for word in words.split("|")}


def suggestion(lines: Sequence[tuple[int, str]], shape: TableShape) -> ColumnMap:
    """How a file is cut and what its columns hold, as far as its headings say."""
    separator = separator_of(list(lines))
    cut = split(list(lines), separator)
    heading = heading_line_of(cut)
    return columns_of(ColumnMap(separator=separator, heading_line=heading), cut, shape)


def columns_of(found: ColumnMap, lines: Sequence[Line], shape: TableShape) -> ColumnMap:
    """The same cut with its columns suggested again."""
    headings = next((line.cells for line in lines if line.number == found.heading_line), [])
    body = [line for line in lines if line.number > found.heading_line]
    uses: list[ColumnUse] = []
    for column, heading in enumerate(headings):
        use = _use(column, heading, shape, uses)
        if use is not None:
            entry = next(field for field in shape.fields if field.column == use.field)
            unit = _unit(heading, _filled(body, column)) if entry.kind == "length" else ""
            uses.append(use.model_copy(update={"unit": unit}))
    angles = {field.column for field in shape.fields if field.kind == "angle"}
    of_angles = [use for use in uses if use.field in angles]
    stated = [_angle_word(headings[use.column]) for use in of_angles]
    angle = next((unit for unit in stated if unit), "") or angle_of(
        [t for use in of_angles for t in _filled(body, use.column)]
    )
    return found.model_copy(update={"columns": uses, "angle": angle})


def _tokens(heading: str) -> str:
    """A heading in small letters, units in brackets and punctuation left out."""
    bare = re.sub(r"[\[(].*?[\])]|,.*$", " ", heading.lower())
    words = re.sub(r"[^a-z0-9]+", " ", bare).split()
    return " ".join(words[:-1] if len(words) > 1 and words[-1] in UNITS else words)


def _use(column: int, heading: str, shape: TableShape, taken: Sequence[ColumnUse]) -> ColumnUse | None:
    """The use whose name the heading gives: whole, or with a word that says which part it is of."""
    bare = _tokens(heading)
    options: list[tuple[TableField, Given]] = []
    for field in shape.fields:
        names = NAMES.get(field.column, "").split("|")
        label = _tokens(field.label)
        for given in ((), *field.given):
            rest = _without(bare, given)
            if rest is not None and (rest in names or rest == label):
                options.append((field, given))
    free = [
        (field, given)
        for field, given in options
        if not any(use.field == field.column and tuple(use.given.items()) == given for use in taken)
    ]
    if not free:
        return None
    field, given = max(free, key=lambda entry: (len(entry[1]), NAMES.get(entry[0].column, "").split("|")[0] == bare))
    return ColumnUse(column=column, field=field.column, given=dict(given), unit="")


def _without(bare: str, given: Given) -> str | None:
    """A heading without the words that say which part it is of; None where one of them is not in it."""
    words = bare.split()
    for name, value in given:
        known = {*WORDS.get(value, "").split("|"), value.lower()}
        place = next((i for i, word in enumerate(words) if word in known), None)
        if place is None:
            return None
        words = [word for i, word in enumerate(words) if i != place and word != name]
    return " ".join(words)


def _unit(heading: str, texts: Sequence[str]) -> str:
    """The unit of lengths a heading gives; else metres, or millimetres where every figure is whole and large."""
    for word in re.findall(r"[a-z]+", heading.lower())[::-1]:
        found = next((unit for unit, words in UNIT_WORDS.items() if word in words.split("|")), None)
        if found and (found != "in" or "(in" in heading.lower()):
            return found
    figures = [text for text in texts if is_figure(text)]
    whole = figures and all(re.fullmatch(r"[-−+]?\d{3,4}", text) for text in figures)
    return "mm" if whole else "m"


def _angle_word(heading: str) -> AngleUnit:
    bare = [*re.findall(r"[\[(,]\s*([a-z ]+)", heading.lower()), heading.lower().rpartition(" ")[2]]
    return next(
        (unit for unit, words in ANGLE_WORDS.items() if any(word.strip() in words.split("|") for word in bare)), ""
    )


def angle_of(texts: Sequence[str]) -> AngleUnit:
    """What angles are written in, where the figures leave no doubt; "" where a person has to say."""
    if any(re.search(r"\d\s*[°'′\"″-]\s*\d|\d\s+\d", text) for text in texts):
        return "dms"
    figures = [text for text in texts if is_figure(text)]
    if any(abs(numeral(text).value) > 360 for text in figures if _is_plain(text)):
        return "gon"
    packed = [_packs(text) for text in figures]
    if packed and all(packed) and len(packed) >= MIN_PACKED:
        return "dms"
    return ""


def _packs(text: str) -> bool:
    try:
        parse_angle(text, "dms")
    except ValueError:
        return False
    return True


def _is_plain(text: str) -> bool:
    try:
        numeral(text)
    except ValueError:
        return False
    return True


def _filled(lines: Sequence[Line], column: int) -> list[str]:
    return [line.cells[column] for line in lines if column < len(line.cells) and line.cells[column]]
