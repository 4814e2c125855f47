"""The words and the decimal mark a firm writes with. Sentences are written once, with *staff* and a point; what a person
reads is put into the firm's words last, so that records and figures are the same everywhere."""

from __future__ import annotations

import re
from dataclasses import dataclass
from typing import Literal

StaffWord = Literal["staff", "rod"]
DecimalMark = Literal[".", ","]
RODS = {"staffs": "rods", "staff": "rod", "Staffs": "Rods", "Staff": "Rod", "STAFF": "ROD"}
_STAFF = re.compile(r"\b(" + "|".join(RODS) + r")\b")
_POINT = re.compile(r"(?<=\d)\.(?=\d)")


@dataclass(frozen=True, slots=True)
class Wording:
    """How a firm writes: `staff` or `rod`, and the mark before decimals."""

    staff_word: StaffWord = "staff"
    decimal_mark: DecimalMark = "."

    def replacements(self) -> dict[str, str]:
        """Whole words and what stands for them; none where the firm writes as the core does."""
        return dict(RODS) if self.staff_word == "rod" else {}

    def written(self, text: str) -> str:
        """A sentence of the core as this firm writes it. What a person typed is not passed through here."""
        if self.staff_word == "rod":
            text = _STAFF.sub(lambda found: RODS[found.group()], text)
        return _POINT.sub(self.decimal_mark, text) if self.decimal_mark != "." else text
