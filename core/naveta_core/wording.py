"""The words, the decimal mark and the unit of length a firm writes with. Sentences are written once, with *staff* and a point; what a person
reads is put into the firm's words last, so that records and figures are the same everywhere."""

from __future__ import annotations

import re
from dataclasses import dataclass
from typing import Literal

from .units.lengths import METRES

StaffWord = Literal["staff", "rod"]
DecimalMark = Literal[".", ","]
RODS = {"staffs": "rods", "staff": "rod", "Staffs": "Rods", "Staff": "Rod", "STAFF": "ROD"}
_STAFF = re.compile(r"\b(" + "|".join(RODS) + r")\b")
_POINT = re.compile(r"(?<=\d)\.(?=\d)")
METRES_PATTERN = r"\b(\d+(?:\.\d+)?)(?:( to )(\d+(?:\.\d+)?))? m\b"
"""'40 to 50 m', '0.9 m': how far something is to be, in words that are the same for every document."""
_METRES = re.compile(METRES_PATTERN)
LengthUnit = Literal["m", "ft", "usft"]


@dataclass(frozen=True, slots=True)
class Wording:
    """How a firm writes: `staff` or `rod`, the mark before decimals, and the unit in which it thinks of distances."""

    staff_word: StaffWord = "staff"
    decimal_mark: DecimalMark = "."
    length_unit: LengthUnit = "m"

    def replacements(self) -> dict[str, str]:
        """Whole words and what stands for them; none where the firm writes as the core does."""
        return dict(RODS) if self.staff_word == "rod" else {}

    @property
    def per_metre(self) -> float:
        """How many of the firm's units a metre is."""
        return 1 / METRES[self.length_unit]

    def guided(self, text: str) -> str:
        """Directions of the core with distances in the firm's unit, to two figures: '40 to 50 m' is '130 to 160 ft'."""
        if self.length_unit == "m":
            return text
        return _METRES.sub(lambda found: f"{self._far(found[1])}{found[2] or ''}{self._far(found[3])} ft", text)

    def _far(self, metres: str | None) -> str:
        return f"{float(f'{float(metres) * self.per_metre:.2g}'):g}" if metres else ""

    def written(self, text: str) -> str:
        """A sentence of the core as this firm writes it. What a person typed is not passed through here."""
        if self.staff_word == "rod":
            text = _STAFF.sub(lambda found: RODS[found.group()], text)
        return _POINT.sub(self.decimal_mark, text) if self.decimal_mark != "." else text


_SENTENCES = (
    "headline finding text title short_title next_title method_title summary reason why what where wanted messages "
    "closing progress lines you meaning not_confirmed",
    "label hint unit row_titles more steps bring before_you_start good_for watch_condition cannot caution source about "
    "repeat_label quantity_label groups.note groups.page targets.name conditions.unknown",
    "along_label centre_label radius_label x_label y_label zero_label unit_label distance_text error_text view",
    "plus_minus limit_text total_text allowed_text worked.value understood",
    "do look wrong stop_when prompt inputs screw tool from_text target_text",
)
"""Of findings, of field sheets, of drawings, of figures, of steps."""
SENTENCES = frozenset(" ".join(_SENTENCES).split())
"""Members of an answer whose strings are sentences or figures in words: a name, or the member it stands in and a name."""

GUIDANCE = frozenset(["bring", "steps", "groups.title", "groups.page", "groups.note", "do", "look", "wrong"])
"""Members with directions that are the same for every document: their distances are put into the firm's unit."""

VERBATIM = frozenset(
    ["document", "observations", "edits", "stated", "limits", "history", "question", "history_entry", "usual"]
)
"""Members with what somebody typed, or data that is sent back as it was given."""


def is_sentence(name: str, within: str = "") -> bool:
    """Whether the strings of a member are put into the firm's words; `within` is the member its object stands in."""
    return name in SENTENCES or f"{within}.{name}" in SENTENCES
