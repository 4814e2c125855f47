"""Every kind of document this house reads: checks of an instrument, set-ups of one, and where it then stood."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import partial
from typing import Any, Literal

from .checks import KINDS
from .envelope import Envelope
from .orient import result as orient
from .orient import table
from .orient.model import Backsight, FreeStation
from .pre_survey import judge as pre_survey
from .pre_survey.model import PreSurvey
from .stand import judge
from .stand.reading import where
from .stand.set_up import SetUpDocument

Data = dict[str, Any]


@dataclass(frozen=True, slots=True)
class DocumentKind:
    """How one kind of document is read, previewed and reduced."""

    name: str
    title: str
    category: Literal["check", "set-up", "orientation", "round"]
    model: type[Envelope]
    preview: Callable[[Any], Data]
    reduce: Callable[[Any], Data]
    where: Callable[[str], str]
    read_csv: Callable[[str], Data] | None = None
    write_csv: Callable[[Any], str] | None = None


DOCUMENTS: dict[str, DocumentKind] = {
    **{
        one.name: DocumentKind(
            one.name, one.title, "check", one.model, one.preview, one.reduce, one.where, one.read_csv, one.write_csv
        )
        for one in KINDS.values()
    },
    "free-station": DocumentKind(
        "free-station",
        "Free station",
        "orientation",
        FreeStation,
        orient.preview_free,
        orient.reduce_free,
        orient.where,
        partial(table.read_shots, "free-station"),
        table.write_shots,
    ),
    "backsight": DocumentKind(
        "backsight",
        "Backsight",
        "orientation",
        Backsight,
        orient.preview_back,
        orient.reduce_back,
        orient.where,
        partial(table.read_shots, "backsight"),
        table.write_shots,
    ),
    "pre-survey": DocumentKind(
        "pre-survey",
        "Round before the work",
        "round",
        PreSurvey,
        pre_survey.preview,
        pre_survey.reduce,
        pre_survey.where,
    ),
    "set-up": DocumentKind("set-up", "Set-up", "set-up", SetUpDocument, judge.preview, judge.reduce, where),
}
