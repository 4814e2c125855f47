"""A kind of check of rows, put together from its recipe, its table and what it tells people."""

from __future__ import annotations

from typing import Any

from ...envelope import Envelope
from ..kind import Kind
from .answer import Recipe
from .table import Regrouped, Table


def kind_of_rows(recipe: Recipe, model: type[Envelope], table: Table | Regrouped, **told: Any) -> Kind:
    """`told`: everything a `Kind` states beyond what recipe, model and table say."""
    return Kind(
        name=recipe.name,
        model=model,
        preview=recipe.preview,
        reduce=recipe.reduce,
        where=recipe.where,
        caution_codes=recipe.caution_codes,
        csv_columns=table.columns,
        read_csv=table.read,
        write_csv=table.write,
        layouts=(),
        **{"adjusting": None, **told},
    )
