"""A judged quantity as a verdict shows it: value, uncertainty, limits, grade."""

from __future__ import annotations

from ..results import LimitFigures, VerdictPart
from ..units.formatting import bound
from .verdict import JudgedQuantity


def verdict_part(entry: JudgedQuantity) -> VerdictPart:
    """Return a judged quantity with its limits and grade, as the verdict shows it."""
    e, limits = entry.estimate, entry.limits
    conditional = (
        f", {bound(limits.watch, entry.unit)} {entry.under or 'conditionally'}" if limits.watch > limits.use else ""
    )
    return VerdictPart(
        quantity=entry.name,
        value=e.value,
        sigma=e.sigma,
        u95=e.u95,
        dof=e.dof,
        basis="pooled" if e.pooled else "a-priori",
        proved_to=e.proved_to if entry.confirmed is None else entry.confirmed.proved_to,
        limits=LimitFigures(use=limits.use, watch=limits.watch, adjust=limits.adjust),
        why=limits.source,
        limit_text=f"Limit {bound(limits.use, entry.unit)}{conditional}: {limits.source}",
        grade=entry.grade,
    )
