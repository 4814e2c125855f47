"""Helpers for the judgement of a kind: report an outlier or scatter, give repeats, read its own figures."""

from __future__ import annotations

from typing import TypeVar

from ..results import Figures, Repeats
from ..stats.estimate import SCATTER_REFUSED, Spread, scatter_factor
from ..stats.row_fit import Solved
from .verdict import Judgement

F = TypeVar("F", bound=Figures)


def figures_of(judgement: Judgement | None, model: type[F]) -> F | None:
    """The figures of a judgement, of their kind's own model; None while there is none."""
    if judgement is None:
        return None
    assert isinstance(judgement.figures, model), f"figures of {model.__name__} wanted"
    return judgement.figures


def report_outlier(judgement: Judgement, path: str, text: str) -> None:
    """A figure that does not fit the others: named, marked, and nothing concluded."""
    judgement.refused.append(("outlier", text))
    judgement.outlier = (path, text)


def report_scatter(judgement: Judgement, solved: Solved, what: str) -> None:
    """Say that readings fit each other worse than they should; beyond all measure nothing is concluded from them."""
    factor = scatter_factor(solved.spread, solved.prior_dof)
    if factor is not None:
        text = f"The {what} agree {factor:.1f} times worse than expected: did something move?"
        (judgement.refused if factor > SCATTER_REFUSED else judgement.reasons).append(("scatter", text))


def repeats_of(spread: Spread) -> Repeats:
    """How a check's own repeats scattered: what later ones learn their noise from."""
    return Repeats(squares=spread.squares, dof=spread.dof)
