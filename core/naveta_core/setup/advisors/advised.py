"""What every advisor gives back: its figures and its sentences."""

from __future__ import annotations

from dataclasses import dataclass

from ..results import AdviceResult


@dataclass(frozen=True, slots=True)
class Advised:
    """One piece of advice before it is answered; `text` is read from the top."""

    result: AdviceResult
    text: list[str]
