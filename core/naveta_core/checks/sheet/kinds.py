"""A kind of check of rows, put together from its recipe, its table and what it tells people."""

from __future__ import annotations

from typing import Any

from pydantic import ValidationError

from ...envelope import Envelope
from ...model_faults import faults_of
from ...tables import TableFaults
from ..kind import Kind
from .acts import Acting
from .answer import Recipe
from .table import Regrouped, Table

Data = dict[str, Any]


def kind_of_rows(
    recipe: Recipe, model: type[Envelope], table: Table | Regrouped, acting: Acting | None = None, **told: Any
) -> Kind:
    """`acting`: how what was found is turned, stored or mended. `told`: everything else a `Kind` states."""

    def adjusting(document: Any, reads_now: list[Any]) -> Data:
        assert acting is not None
        return acting(document, *recipe.judged(document), reads_now).as_dict()

    def read_csv(text: str) -> Data:
        """A table to a plain document; words it has no field for are refused here, where the file can still be mended."""
        found = table.read(text)
        try:
            model.model_validate(found)
        except ValidationError as error:
            raise TableFaults(faults_of(error, recipe.where)) from None
        return found

    return Kind(
        name=recipe.name,
        model=model,
        preview=recipe.preview,
        reduce=recipe.reduce,
        where=recipe.where,
        caution_codes=recipe.caution_codes,
        csv_columns=table.columns,
        read_csv=read_csv,
        write_csv=table.write,
        layouts=(),
        adjusting=adjusting if acting else None,
        **told,
    )
