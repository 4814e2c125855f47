"""Every kind of document this server reads: checks of an instrument, set-ups of one, and where it then stood."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from functools import partial
from typing import Any, Literal

from pydantic import ValidationError

from .checks import KINDS
from .documents.envelope import Envelope, units_context
from .documents.json_io import read_json
from .documents.model_faults import faults_of
from .documents.table_shape import TableShape
from .engine import verbs
from .engine.kind import Kind
from .engine.table_fields import shape_of
from .errors import Fault, Refused, UnknownKind, quote
from .orientation import result as orientation_result
from .orientation import table
from .orientation import typed as orientation_typed
from .orientation.document import Backsight, FreeStation
from .readiness import judge as pre_survey
from .readiness.document import ReadinessCheck
from .results import Answer, Result
from .setup import judge, typed
from .setup.document import SetUpDocument
from .setup.reading import where

Data = dict[str, Any]


@dataclass(frozen=True, slots=True)
class DocumentKind:
    """How one kind of document is read, previewed and reduced."""

    name: str
    title: str
    category: Literal["check", "set-up", "orientation", "round"]
    model: type[Envelope]
    preview: Callable[[Any], Answer]
    reduce: Callable[[Any], Result]
    where: Callable[[str], str]
    from_file: Callable[[Data], Data]
    """A stored document as somebody would type it."""
    read_csv: Callable[[str], Data] | None = None
    write_csv: Callable[[Any], str] | None = None
    shape: TableShape | None = None
    """What a table made by others can be read as."""


def _check(kind: Kind) -> DocumentKind:
    return DocumentKind(
        name=kind.name,
        title=kind.title,
        category="check",
        model=kind.document,
        preview=kind.preview,
        reduce=kind.reduce,
        where=kind.where,
        from_file=partial(verbs.from_file, kind),
        read_csv=kind.read_csv,
        write_csv=kind.write_csv,
        shape=shape_of(kind.file, kind.read_rows),
    )


def _orientation(name: str, title: str, model: type[Envelope], preview: Any, reduce: Any) -> DocumentKind:
    return DocumentKind(
        name=name,
        title=title,
        category="orientation",
        model=model,
        preview=preview,
        reduce=reduce,
        where=orientation_result.where,
        from_file=orientation_typed.from_file,
        read_csv=partial(table.read_shots, name),
        write_csv=table.write_shots,
        shape=table.shot_shape(name),
    )


DOCUMENTS: dict[str, DocumentKind] = {
    **{kind.name: _check(kind) for kind in KINDS.values()},
    "free-station": _orientation(
        "free-station", "Free station", FreeStation, orientation_result.preview_free, orientation_result.reduce_free
    ),
    "backsight": _orientation(
        "backsight", "Backsight", Backsight, orientation_result.preview_back, orientation_result.reduce_back
    ),
    "pre-survey": DocumentKind(
        name="pre-survey",
        title="Pre-work check",
        category="round",
        model=ReadinessCheck,
        preview=pre_survey.preview,
        reduce=pre_survey.reduce,
        where=pre_survey.where,
        from_file=dict,
    ),
    "set-up": DocumentKind(
        name="set-up",
        title="Set-up",
        category="set-up",
        model=SetUpDocument,
        preview=judge.preview,
        reduce=judge.reduce,
        where=where,
        from_file=typed.from_file,
    ),
}


def register(kind: Kind) -> None:
    """Add a kind of check from outside this package to those that are read here."""
    KINDS[kind.name] = kind
    DOCUMENTS[kind.name] = _check(kind)


def parse(raw: bytes) -> Envelope:
    """The one parser: bytes to a checked document of its kind. Raises NotJson, UnknownKind or Refused."""
    return document_of(read_json(raw))


def document_of(data: Any, among: Sequence[str] = ()) -> Envelope:
    """Plain data to a checked document of its kind (`among` these, when given). Raises UnknownKind or Refused."""
    if not isinstance(data, dict):
        raise Refused([Fault("$", "the whole document", quote(data), "an object with kind and observations")])
    name = data.get("kind")
    names = among or DOCUMENTS
    if not isinstance(name, str) or name not in names or name not in DOCUMENTS:
        raise UnknownKind([Fault("kind", "the kind of document", quote(name), "one of " + ", ".join(sorted(names)))])
    kind = DOCUMENTS[name]
    try:
        document: Envelope = kind.model.model_validate(data, context=units_context(data))
    except ValidationError as error:
        raise Refused(faults_of(error, kind.where, units_context(data)["length"])) from None
    return document


def check_of(data: Any, name: str | None = None) -> Envelope:
    """The same, of a check only (of the kind `name`, when one is given). Raises UnknownKind for anything else."""
    return document_of(data, [name] if name else list(KINDS))


SHAPES: dict[str, TableShape] = {
    "control-points": table.POINT_SHAPE,
    **{kind.name: kind.shape for kind in DOCUMENTS.values() if kind.shape is not None},
}
"""Every table made by others that is read here, by kind of document, and control points."""
