"""What people write over the columns of their tables, and in them: the trade's usual words, and nothing of any program."""

from __future__ import annotations

from collections.abc import Sequence

from ..documents.table_shape import TableField
from ..units.lengths import METRES
from .column_map import AngleUnit

NAMES: dict[str, str] = {
    "hz": "hz|horizontal|horizontal circle|horizontal angle|horizontal direction|direction|h angle|ha|hor",
    "v": "v|vertical|vertical circle|vertical angle|zenith|zenith angle|zenith distance|va|vz",
    "slope_distance": "slope distance|slope dist|slope|sd",
    "horizontal_distance": "horizontal distance|horizontal dist|hd",
    "target_height": "target height|height of target|prism height|th",
    "point": "point|point name|point number|point id|pt|target|sighted|to|name|id|no|number",
    "target": "target|point|point name|to|pt|sighted|name|number|no",
    "name": "name|point|point name|point number|point id|pt|id|no|number|target",
    "set": "set|round|run|line|series",
    "setup": "setup|set up|station|stand|no",
    "series": "series",
    "face": "face|position|circle position",
    "staff": "staff|rod|point|peg",
    "a": "a|staff a|rod a|reading a|back|backsight|bs",
    "b": "b|staff b|rod b|reading b|fore|foresight|fs",
    "reading": "reading|read|staff reading|rod reading|middle",
    "upper": "upper|upper wire|top wire",
    "middle": "middle|middle wire|centre wire",
    "lower": "lower|lower wire|bottom wire",
    "distance": "distance|dist|sight|length",
    "distance_m": "distance|dist",
    "heading_deg": "heading|turned to|position|direction",
    "x_mm": "x|right",
    "y_mm": "y|away|up",
    "along_arcsec": "along|l",
    "across_arcsec": "across|t",
    "e": "e|east|easting|x",
    "n": "n|north|northing|y",
    "h": "h|height|elevation|z",
    "description": "description|remark|note|code",
    "known": "known|nominal|mark",
    "reads": "reads|tape|measured|reading",
    "graduation": "graduation|mark|nominal",
    "tape": "tape|measured",
}
"""What people write over a column, by ours: small letters, single blanks."""
WORDS: dict[str, str] = {
    "left": "left|l|1|i|f1|fl|direct",
    "right": "right|r|2|ii|f2|fr|reverse",
    "A": "a|back|backsight|bs",
    "B": "b|fore|foresight|fs",
}
"""What people write for an answer, in a column or in a heading."""
UNIT_WORDS: dict[str, str] = {
    "m": "m|metre|metres",
    "mm": "mm",
    "cm": "cm",
    "ft": "ft|feet",
    "usft": "usft",
    "in": "in|inch",
}
ANGLE_WORDS: dict[AngleUnit, str] = {"gon": "gon|grad|g", "dms": "dms", "deg": "deg|degrees|decimal degrees"}
assert set(UNIT_WORDS) == set(METRES)


def known_words(texts: Sequence[str], field: TableField) -> dict[str, str]:
    """What a file writes for our answers, as far as it is what people write."""
    found: dict[str, str] = {}
    for text in dict.fromkeys(texts):
        for value, label in field.options:
            if text.lower() in {*WORDS.get(value, "").split("|"), value.lower(), label.lower()} - {""}:
                found.setdefault(text, value)
    return found
